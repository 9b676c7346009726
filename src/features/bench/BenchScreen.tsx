'use client';

import { Redo2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import type { Work } from '../../core/levels/work';
import { nameKey } from '../../core/pitch/key';
import { countedBars, hasPickup } from '../../core/score/tune';
import { printMeter } from '../../core/time/meter';
import type { FirstPaint } from '../../engrave/benchEngraver';
import type { LaneId } from '../../engrave/lanes';
import { HelpSheet } from '../../ui/HelpSheet';
import { Rail } from '../../ui/Rail';
import { LevelsDrawer } from '../levels/LevelsDrawer';
import { TuneDrawer } from '../tune/TuneDrawer';
import { Autosave, backupOf } from './autosave';
import { createBenchStore, type SaveState, type Selection } from './benchStore';
import { ConflictSheet } from './ConflictSheet';
import { LABEL_WIDTH, LaneRow, RIGHT_MARGIN } from './LaneRow';
import { STEPS, STEP_NAMES, type BenchStep } from './steps';
import { useEngraving } from './useEngraving';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly work: Work;
  readonly step: BenchStep;
  readonly paint: FirstPaint;
  readonly staffSpace: number;
}

const LANE_NAMES: Readonly<Record<LaneId, string>> = { tune: 'the tune', beginner: 'beginner', intermediate: 'intermediate', advanced: 'advanced' };

/** The screen where one tune is worked on. The music stays in place from step to step; the drawer belongs to the step. */
export function BenchScreen({ id, version, work: firstWork, step: firstStep, paint, staffSpace }: Props) {
  const [store] = useState(() => createBenchStore(firstWork, paint.view));
  const state = useStore(store);
  const [step, setStep] = useState(firstStep);
  const [help, setHelp] = useState(false);
  const [autosave, setAutosave] = useState<Autosave>();
  const { work, view, selection, save } = state;
  const lanesRef = useRef<HTMLDivElement>(null);
  const width = useMusicWidth(lanesRef, paint.width);
  const initial = useMemo(() => ({ infos: paint.infos, lines: paint.lines, numbers: paint.numbers, rows: new Map(paint.rows.map((row, index) => [index, row])) }), [paint]);
  const engraving = useEngraving(initial, { work, view, width, staffSpace }, () => nearBar(store.getState().selection, lanesRef.current));

  useEffect(() => {
    const saver = new Autosave(id, version, store);
    setAutosave(saver);
    const backup = backupOf(id);
    if (backup && backup.version === version) store.getState().change('Work kept from last time', backup.work);
    else if (backup) {
      saver.adopt(version, firstWork);
      store.getState().change('Work kept from last time', backup.work);
      store.getState().setSave({ kind: 'conflict', version, theirs: firstWork });
    }
    return () => saver.stop();
  }, [id, version, store, firstWork]);

  const onFile = useCallback(async (name: string, download: boolean) => {
    if (!(await autosave?.flush())) return;
    const address = `/api/tunes/${id}/files/${name}`;
    if (!download) {
      window.open(address, '_blank', 'noopener');
      return;
    }
    const link = document.createElement('a');
    link.href = `${address}${name.includes('?') ? '&' : '?'}save`;
    link.click();
  }, [autosave, id]);

  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      const inText = event.target instanceof HTMLElement && event.target.matches('input, textarea, [contenteditable]');
      const command = event.ctrlKey || event.metaKey;
      if (command && event.key.toLowerCase() === 'z' && !inText) {
        event.preventDefault();
        if (event.shiftKey) store.getState().redo();
        else store.getState().undo();
      } else if (command && event.key.toLowerCase() === 'y' && !inText) {
        event.preventDefault();
        store.getState().redo();
      } else if (!command && !event.altKey && !inText && event.key.toLowerCase() === 'p') {
        store.getState().setView(store.getState().view === 'written' ? 'sounding' : 'written');
      } else if (!command && !inText && event.key === '?') setHelp(true);
      else if (event.key === 'Escape' && !inText) store.getState().select(undefined);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [store]);

  const onSelect = useCallback((next: Selection) => store.getState().select(next), [store]);
  const onBarKey = useCallback((event: KeyboardEvent, at: Selection) => {
    const target = neighbour(event.key, at, engraving.infos.map((info) => info.id), engraving.numbers.length, engraving.lines);
    if (!target) return;
    event.preventDefault();
    onSelect(target);
    focusBar(lanesRef.current, target);
  }, [engraving, onSelect]);

  const openStep = (next: BenchStep) => {
    setStep(next);
    window.history.replaceState(null, '', `/tunes/${id}/${next}`);
  };
  const { tune } = work;
  const tabStop: Selection = selection ?? { lane: 'tune', bar: 0 };
  return (
    <div className="print-plain flex h-dvh">
      <Rail here="bench" onHelp={() => setHelp(true)} />
      <div className="print-plain flex min-w-0 flex-1 flex-col">
        <header className="flex items-end justify-between gap-4 border-b border-line bg-panel px-4 pt-2">
          <div className="min-w-0">
            <h1 className="truncate font-serif text-[21px] leading-7 font-semibold">{tune.title || 'Untitled'}</h1>
            <p className="truncate text-[13px] text-ink-soft">{[tune.composer, `${countedBars(tune)} bars${hasPickup(tune) ? ' and a pickup' : ''}`, printMeter(tune.meter), nameKey(tune.key)].filter(Boolean).join(' · ')}</p>
            <nav aria-label="Steps" className="no-print mt-1 flex gap-5">
              {STEPS.map((one) => (
                <Link key={one} prefetch={false} href={`/tunes/${id}/${one}`} aria-current={one === step ? 'step' : undefined}
                  onClick={(event) => { if (!event.ctrlKey && !event.metaKey && !event.shiftKey) { event.preventDefault(); openStep(one); } }}
                  className={`border-b-[3px] pb-1 ${one === step ? 'border-cane font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`}>{STEP_NAMES[one]}</Link>
              ))}
            </nav>
          </div>
          <div className="no-print flex items-center gap-3 pb-2">
            <div className="flex">
              <HistoryButton label={state.past.at(-1) ? `Undo: ${state.past.at(-1)?.name}` : 'Nothing to undo'} disabled={state.past.length === 0} onClick={state.undo}><Undo2 size={17} aria-hidden="true" /></HistoryButton>
              <HistoryButton label={state.future[0] ? `Redo: ${state.future[0].name}` : 'Nothing to redo'} disabled={state.future.length === 0} onClick={state.redo}><Redo2 size={17} aria-hidden="true" /></HistoryButton>
            </div>
            <div role="group" aria-label="Whose pitch is on screen" className="flex overflow-hidden rounded border border-reed">
              {(['written', 'sounding'] as const).map((one) => (
                <button key={one} type="button" aria-pressed={view === one} onClick={() => state.setView(one)} className={`min-h-8 px-3 ${view === one ? 'bg-reed font-semibold text-white' : 'bg-paper hover:bg-cane-pale'}`}>
                  {one === 'written' ? 'Written' : 'Concert'}
                </button>
              ))}
            </div>
          </div>
        </header>
        <div className="print-plain flex min-h-0 flex-1">
          <main ref={lanesRef} aria-label="Lanes" className="print-plain min-w-0 flex-1 overflow-y-auto bg-paper">
            {engraving.lines.map((line, index) => (
              <LaneRow
                key={line.from} line={line} row={engraving.rows.get(index)} width={width} infos={engraving.infos} numbers={engraving.numbers} onSelect={onSelect} onKey={onBarKey}
                selection={selection && selection.bar >= line.from && selection.bar < line.to ? selection : undefined}
                tabStop={tabStop.bar >= line.from && tabStop.bar < line.to ? tabStop : undefined}
              />
            ))}
          </main>
          <aside aria-label={`${STEP_NAMES[step]} drawer`} className="no-print w-[292px] shrink-0 overflow-y-auto border-l border-line bg-panel p-3.5">
            {step === 'tune'
              ? <TuneDrawer work={work} info={engraving.infos[0]} numbers={engraving.numbers} selection={selection} onChange={state.change} onFile={(name, download) => void onFile(name, download)} />
              : <LevelsDrawer work={work} infos={engraving.infos} numbers={engraving.numbers} selection={selection} onChange={state.change} onSelect={onSelect} onFile={(name, download) => void onFile(name, download)} />}
          </aside>
        </div>
        <footer className="on-dark no-print flex min-h-8 items-center justify-between gap-4 bg-reed px-4 text-[13px] text-reed-pale">
          <span className="truncate">{selection ? `bar ${engraving.numbers[selection.bar] ?? ''}, ${LANE_NAMES[selection.lane]}` : 'no bar picked'} · {view === 'written' ? 'each lane as its player reads it' : 'all lanes as they sound'}</span>
          <SaveStatus save={save} onRetry={() => void autosave?.flush()} />
        </footer>
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} />
      {save.kind === 'conflict' && autosave && <ConflictSheet mine={work} theirs={save.theirs} onTheirs={() => autosave.adopt(save.version, save.theirs)} onMine={() => autosave.overwrite(save.version)} />}
    </div>
  );
}

function HistoryButton({ label, ...rest }: { readonly label: string; readonly disabled: boolean; readonly onClick: () => void; readonly children: React.ReactNode }) {
  return <button type="button" aria-label={label} title={label} className="flex size-8 items-center justify-center rounded hover:bg-cane-pale disabled:text-[#a9a896] disabled:hover:bg-transparent" {...rest} />;
}

function SaveStatus({ save, onRetry }: { readonly save: SaveState; readonly onRetry: () => void }) {
  const isTrouble = save.kind === 'waiting' || save.kind === 'refused';
  return (
    <span role="status" className={`flex items-center gap-2 ${isTrouble ? 'font-semibold text-[#ffd9a0]' : ''}`}>
      {saveText(save)}
      {isTrouble && <button type="button" onClick={onRetry} className="min-h-6 rounded px-1.5 text-white underline underline-offset-2">Try now</button>}
    </span>
  );
}

function saveText(save: SaveState): string {
  switch (save.kind) {
    case 'saved': return 'saved';
    case 'unsaved': case 'saving': return 'saving …';
    case 'waiting': return `Not saved yet: ${save.message} Your work is kept here and tried again.`;
    case 'refused': return `Not saved: ${save.message}`;
    case 'conflict': return 'Not saved: two versions';
  }
}

/** The width that music may take, followed as the window changes; the server is told for the next first paint. */
function useMusicWidth(lanes: React.RefObject<HTMLDivElement | null>, first: number): number {
  const [width, setWidth] = useState(first);
  useEffect(() => {
    const element = lanes.current;
    if (!element) return undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const measure = () => {
      const next = Math.max(240, Math.round(element.clientWidth - LABEL_WIDTH - RIGHT_MARGIN));
      document.cookie = `music-width=${next}; path=/; max-age=31536000; samesite=lax`;
      setWidth((before) => (Math.abs(before - next) < 12 ? before : next));
    };
    const observer = new ResizeObserver(() => {
      clearTimeout(timer);
      timer = setTimeout(measure, 120);
    });
    observer.observe(element);
    measure();
    return () => {
      clearTimeout(timer);
      observer.disconnect();
    };
  }, [lanes]);
  return width;
}

/** The bar whose row is drawn first: the picked one, else the first row in view. */
function nearBar(selection: Selection | undefined, lanes: HTMLElement | null): number {
  if (selection) return selection.bar;
  const top = lanes?.getBoundingClientRect().top ?? 0;
  const rows = [...(lanes?.querySelectorAll<HTMLElement>('[data-row]') ?? [])];
  return Number(rows.find((row) => row.getBoundingClientRect().bottom > top)?.dataset['row'] ?? 0);
}

function neighbour(key: string, at: Selection, lanes: readonly LaneId[], bars: number, lines: readonly { readonly from: number; readonly to: number }[]): Selection | undefined {
  const lane = lanes.indexOf(at.lane);
  const line = lines.findIndex(({ from, to }) => at.bar >= from && at.bar < to);
  const inLine = at.bar - (lines[line]?.from ?? 0);
  const toRow = (step: -1 | 1): Selection | undefined => {
    const next = lines[line + step];
    const nextLane = step > 0 ? lanes[0] : lanes.at(-1);
    return next && nextLane ? { lane: nextLane, bar: Math.min(next.to - 1, next.from + inLine) } : undefined;
  };
  const inLane = (index: number) => { const found = lanes[index]; return found ? { ...at, lane: found } : undefined; };
  switch (key) {
    case 'ArrowLeft': return at.bar > 0 ? { ...at, bar: at.bar - 1 } : undefined;
    case 'ArrowRight': return at.bar < bars - 1 ? { ...at, bar: at.bar + 1 } : undefined;
    case 'ArrowUp': return lane > 0 ? inLane(lane - 1) : toRow(-1);
    case 'ArrowDown': return lane < lanes.length - 1 ? inLane(lane + 1) : toRow(1);
    case 'Home': return { ...at, bar: 0 };
    case 'End': return { ...at, bar: bars - 1 };
    default: return undefined;
  }
}

/** The button may be drawn only after the selection has moved there. */
function focusBar(lanes: HTMLElement | null, { lane, bar }: Selection): void {
  requestAnimationFrame(() => lanes?.querySelector<HTMLElement>(`[data-lane="${lane}"][data-bar="${bar}"]`)?.focus({ preventScroll: false }));
}

