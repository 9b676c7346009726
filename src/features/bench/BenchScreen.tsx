'use client';

import { Redo2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { Tabs } from 'radix-ui';
import {
  useCallback,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type MouseEvent,
} from 'react';
import { useStore } from 'zustand';
import { analyseTune } from '../../core/analysis/tuneAnalysis';
import { recipesOf, withRecipe, type Work } from '../../core/levels/recipe/work';
import { LEVELS, type Level } from '../../core/instruments/instrument';
import { withLimits } from '../../core/instruments/limits';
import type { CustomInstrument } from '../../core/instruments/customInstrument';
import type { SavedRecipe } from '../../core/levels/recipe/savedRecipe';
import { keyPlayers, type Group } from '../../core/keys/group';
import type { KeyPlayer } from '../../core/keys/player';
import { rankKeys } from '../../core/keys/rankKeys';
import { instrumentOf, levelTempo } from '../../core/levels/recipe/recipe';
import { nameKey, type Key } from '../../core/pitch/key';
import { semitones } from '../../core/pitch/pitch';
import { countedBars, hasPickup, hasSecondPart, type Tune } from '../../core/score/tune';
import { printMeter } from '../../core/time/meter';
import type { FirstPaint } from '../../engrave/benchEngraver';
import type { EngravedRow } from '../../engrave/engraver';
import type { LaneId } from '../../engrave/lanes';
import { HelpSheet, type HelpGroup } from '../../ui/HelpSheet';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { Rail } from '../../ui/Rail';
import { useReady } from '../../ui/useReady';
import { KeysDrawer, sharedKey, type KeyScope } from '../keys/KeysDrawer';
import { KeysGrid, type KeyOrder } from '../keys/KeysGrid';
import { LevelsDrawer } from '../levels/LevelsDrawer';
import { AnalysisPanel } from '../tune/AnalysisPanel';
import { PhraseLayer } from '../tune/PhraseLayer';
import { Transport } from '../transport/Transport';
import { TuneDrawer } from '../tune/TuneDrawer';
import { CaretFields } from '../write/CaretFields';
import { ChordStrip } from '../write/ChordStrip';
import { press, WRITING_COMMANDS } from '../write/commands';
import { WritingBar } from '../write/WritingBar';
import { caretText, WritingLayer } from '../write/WritingLayer';
import { Writing } from '../write/writingStore';
import { Autosave, backupOf, backupState } from './autosave';
import { createBenchStore, type SaveState, type Selection } from './benchStore';
import { ConflictSheet } from './ConflictSheet';
import { LABEL_WIDTH, LaneRow, RIGHT_MARGIN } from './LaneRow';
import { STEPS, STEP_NAMES, type BenchStep } from './steps';
import { useChosenGroup } from './useChosenGroup';
import { useEngraving } from './useEngraving';

/** The editor is fetched when the text is looked at, not before. */
const TextView = dynamic(() => import('../write/TextView').then((module) => module.TextView), {
  ssr: false,
  loading: () => <p className="text-ink-soft">Opening the text …</p>,
});

const WRITING_HELP: readonly HelpGroup[] = WRITING_COMMANDS.map(({ name, commands }) => ({
  name: `Writing: ${name.toLowerCase()}`,
  keys: commands.filter(({ keys }) => keys !== '').map(({ keys, name: meaning }) => [keys, meaning] as const),
}));

const TUNE_TABS = ['details', 'made', 'text'] as const;
type TuneTab = (typeof TUNE_TABS)[number];
const TUNE_TAB_NAMES: Readonly<Record<TuneTab, string>> = { details: 'Details', made: 'Made of', text: 'As text' };

interface Props {
  readonly id: string;
  readonly version: number;
  readonly work: Work;
  readonly step: BenchStep;
  readonly paint: FirstPaint;
  readonly staffSpace: number;
  readonly groups: readonly { readonly id: string; readonly group: Group }[];
  readonly custom: readonly CustomInstrument[];
  readonly saved: readonly SavedRecipe[];
}

const LANE_NAMES: Readonly<Record<LaneId, string>> = {
  tune: 'the tune',
  second: 'the second part',
  beginner: 'beginner',
  intermediate: 'intermediate',
  advanced: 'advanced',
};

/** The screen where one tune is worked on. The music stays in place from step to step; the drawer belongs to the step. */
export function BenchScreen({
  id,
  version,
  work: firstWork,
  step: firstStep,
  paint,
  staffSpace,
  groups,
  custom,
  saved: firstSaved,
}: Props) {
  const [saved, setSaved] = useState(firstSaved);
  const [store] = useState(() => createBenchStore(firstWork, paint.view));
  const state = useStore(store);
  const router = useRouter();
  const [step, setStep] = useState(firstStep);
  const [help, setHelp] = useState(false);
  const isReady = useReady();
  const [autosave, setAutosave] = useState<Autosave>();
  const { work, view, selection, save } = state;
  const lanesRef = useRef<HTMLDivElement>(null);
  const width = useMusicWidth(lanesRef, paint.width);
  const initial = useMemo(
    () => ({
      infos: paint.infos,
      lines: paint.lines,
      numbers: paint.numbers,
      rows: new Map(paint.rows.map((row, index) => [index, row])),
    }),
    [paint],
  );
  const [writing] = useState(() => new Writing(store));
  const isOn = useStore(writing.store, (one) => one.on);
  const chordRow = useStore(writing.store, (one) => one.chordRow);
  const isWriting = isOn && step === 'tune';
  const surface = useRef<HTMLDivElement>(null);
  const [tuneTab, setTuneTab] = useState<TuneTab>('details');
  const [reader, setReader] = useState('concert');
  const engraving = useEngraving(initial, store, { view, width, staffSpace, lanes: isWriting ? 'tune' : 'all' }, () =>
    isWriting ? writing.caret.bar : nearBar(store.getState().selection, lanesRef.current),
  );
  // The drawer may lag behind the music by a moment, the music behind the keys may not.
  const quietWork = useDeferredValue(work);
  const quietInfos = useDeferredValue(engraving.infos);
  const quietNumbers = useDeferredValue(engraving.numbers);
  const quietTune = quietWork.tune;
  const isMadeOf = step === 'tune' && tuneTab === 'made';
  const analysis = useMemo(() => (isMadeOf ? analyseTune(quietTune) : undefined), [isMadeOf, quietTune]);

  useEffect(() => {
    const saver = new Autosave(id, { version, work: firstWork }, store);
    setAutosave(saver);
    const backup = backupOf(id);
    const found = backup && backupState(backup, { version, work: firstWork });
    if (backup && found === 'newer') store.getState().change('Work kept from last time', backup.work);
    else if (backup && found === 'conflict') {
      saver.adopt(version, firstWork);
      store.getState().change('Work kept from last time', backup.work);
      store.getState().setSave({ kind: 'conflict', version, theirs: firstWork });
    }
    return () => saver.stop();
  }, [id, version, store, firstWork]);

  const onFile = useCallback(
    (name: string, download: boolean) =>
      void (async () => {
        if (!(await autosave?.flush())) return;
        const address = `/api/tunes/${id}/files/${name}`;
        if (!download) {
          window.open(address, '_blank', 'noopener');
          return;
        }
        const link = document.createElement('a');
        link.href = `${address}${name.includes('?') ? '&' : '?'}save`;
        link.click();
      })(),
    [autosave, id],
  );

  const onGo = useCallback(
    (page: string) =>
      void (async () => {
        if (await autosave?.flush()) router.push(`/tunes/${id}/${page}`);
      })(),
    [autosave, id, router],
  );

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

  const [groupId, setGroupId] = useChosenGroup(id, groups);
  const group = groups.find((one) => one.id === groupId)?.group;
  const [scope, setScope] = useState<KeyScope>('all');
  const [order, setOrder] = useState<KeyOrder>('fifths');
  const isKeys = step === 'keys';
  const ranking = useMemo(
    () =>
      isKeys
        ? rankKeys(
            quietTune,
            playersFor(quietWork, group, scope),
            quietTune.recordingKey ? { recording: quietTune.recordingKey } : {},
          )
        : [],
    [isKeys, quietTune, quietWork, group, scope],
  );
  const chosenKey = useMemo(() => sharedKey(work, scope), [work, scope]);
  const onKeyChosen = useCallback(
    (key: Key) => {
      const current = store.getState();
      const levels: readonly Level[] = scope === 'all' ? LEVELS : [scope];
      current.change(
        `${scope === 'all' ? 'All levels' : LEVEL_NAMES[scope]}: ${nameKey(key)}`,
        levels.reduce<Work>((after, level) => withRecipe(after, level, { setting: { key } }), current.work),
      );
    },
    [store, scope],
  );
  const names = useMemo(() => namesByLevel(group), [group]);
  const onSelect = useCallback((next: Selection) => store.getState().select(next), [store]);
  const onBarKey = useCallback(
    (event: KeyboardEvent, at: Selection) => {
      const target = neighbour(
        event.key,
        at,
        engraving.infos.map((info) => info.id),
        engraving.numbers.length,
        engraving.lines,
      );
      if (!target) return;
      event.preventDefault();
      onSelect(target);
      focusBar(lanesRef.current, target);
    },
    [engraving, onSelect],
  );

  const focusSurface = useCallback(
    () => requestAnimationFrame(() => surface.current?.focus({ preventScroll: true })),
    [],
  );
  const startWriting = useCallback(
    (bar: number) => {
      writing.start({ bar, at: 0 });
      focusSurface();
    },
    [writing, focusSurface],
  );
  const onSurfaceKey = (event: KeyboardEvent<HTMLDivElement>) => {
    if (
      !isWriting ||
      (event.target instanceof HTMLElement && event.target.matches('input, textarea, select, [contenteditable]'))
    )
      return;
    const { key, ctrlKey, metaKey, altKey, shiftKey } = event;
    if ((ctrlKey || metaKey) && ['z', 'y'].includes(key.toLowerCase())) return;
    if (!press(writing, { key, ctrlKey, metaKey, altKey, shiftKey, isAltGraph: event.getModifierState('AltGraph') }))
      return;
    event.preventDefault();
    event.stopPropagation();
  };
  const onText = useCallback(
    (next: Tune, session: string) => {
      const current = store.getState();
      current.change('Text', { ...current.work, tune: next }, session);
    },
    [store],
  );
  const caretNow = useCallback(() => (isWriting ? writing.caret : undefined), [isWriting, writing]);
  const { tune } = work;
  const tempoOf = (lane: LaneId) =>
    quietInfos.find((info) => info.id === lane)?.tempo ??
    levelTempo(tune, LEVELS.find((level) => level === lane) ?? 'advanced', undefined);
  const goToBar = useCallback(
    (bar: number) => {
      store.getState().select({ lane: 'tune', bar });
      lanesRef.current?.querySelector(`[data-lane="tune"][data-bar="${bar}"]`)?.scrollIntoView({ block: 'nearest' });
    },
    [store],
  );
  const hasSecond = hasSecondPart(work.tune);
  const overRow = useCallback(
    (row: EngravedRow) => (
      <WritingLayer writing={writing} bench={store} row={row} hasSecond={hasSecond} onTouch={focusSurface} />
    ),
    [writing, store, hasSecond, focusSurface],
  );
  const aboveRow = useCallback(
    (row: EngravedRow) => <ChordStrip writing={writing} bench={store} row={row} labelWidth={LABEL_WIDTH} />,
    [writing, store],
  );
  const underRow = useCallback(
    (row: EngravedRow) => analysis && <PhraseLayer tune={quietTune} analysis={analysis} row={row} />,
    [analysis, quietTune],
  );
  /** After a click the keys write on; who came by the keyboard stays on the button, to press it again. */
  const stepBack = (act: () => void) => (event: MouseEvent) => {
    act();
    if (isWriting && event.detail > 0) focusSurface();
  };
  const openStep = (next: BenchStep) => {
    if (next !== 'tune') writing.stop();
    setStep(next);
    window.history.replaceState(null, '', `/tunes/${id}/${next}`);
  };
  const tabStop: Selection = selection ?? { lane: 'tune', bar: 0 };
  return (
    <div className="print-plain flex h-dvh">
      <Rail here="bench" onHelp={() => setHelp(true)} />
      <div className="print-plain flex min-w-0 flex-1 flex-col">
        <header className="flex items-end justify-between gap-4 border-b border-line bg-panel px-4 pt-2">
          <div className="min-w-0">
            <h1 className="truncate font-serif text-[21px] leading-7 font-semibold">{tune.title || 'Untitled'}</h1>
            <p className="truncate text-[13px] text-ink-soft">
              {[
                tune.composer,
                `${countedBars(tune)} bars${hasPickup(tune) ? ' and a pickup' : ''}`,
                printMeter(tune.meter),
                nameKey(tune.key),
              ]
                .filter(Boolean)
                .join(' · ')}
            </p>
            <nav aria-label="Steps" className="no-print mt-1 flex gap-5">
              {STEPS.map((one) => (
                <Link
                  key={one}
                  prefetch={false}
                  href={`/tunes/${id}/${one}`}
                  aria-current={one === step ? 'step' : undefined}
                  onClick={(event) => {
                    if (!event.ctrlKey && !event.metaKey && !event.shiftKey) {
                      event.preventDefault();
                      openStep(one);
                    }
                  }}
                  className={`border-b-[3px] pb-1 ${one === step ? 'border-cane font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`}
                >
                  {STEP_NAMES[one]}
                </Link>
              ))}
            </nav>
          </div>
          <div className="no-print flex items-center gap-3 pb-2">
            <div className="flex">
              <HistoryButton
                label={state.past.at(-1) ? `Undo: ${state.past.at(-1)?.name}` : 'Nothing to undo'}
                disabled={state.past.length === 0}
                onClick={stepBack(state.undo)}
              >
                <Undo2 size={17} aria-hidden="true" />
              </HistoryButton>
              <HistoryButton
                label={state.future[0] ? `Redo: ${state.future[0].name}` : 'Nothing to redo'}
                disabled={state.future.length === 0}
                onClick={stepBack(state.redo)}
              >
                <Redo2 size={17} aria-hidden="true" />
              </HistoryButton>
            </div>
            <div
              role="group"
              aria-label="Whose pitch is on screen"
              className="flex overflow-hidden rounded border border-reed"
            >
              {(['written', 'sounding'] as const).map((one) => (
                <button
                  key={one}
                  type="button"
                  aria-pressed={view === one}
                  onClick={() => state.setView(one)}
                  className={`min-h-8 px-3 ${view === one ? 'bg-reed font-semibold text-white' : 'bg-paper hover:bg-cane-pale'}`}
                >
                  {one === 'written' ? 'Written' : 'Concert'}
                </button>
              ))}
            </div>
          </div>
        </header>
        <div className="print-plain flex min-h-0 flex-1">
          <main ref={lanesRef} aria-label="Lanes" className="print-plain min-w-0 flex-1 overflow-y-auto bg-paper">
            {isKeys && (
              <div className="no-print sticky top-0 z-20 border-b border-line bg-panel">
                <KeysGrid ranking={ranking} order={order} chosen={chosenKey} onChoose={onKeyChosen} />
              </div>
            )}
            {step === 'tune' && <WritingBar writing={writing} tune={tune} onFocus={focusSurface} />}
            <div
              ref={surface}
              onKeyDown={onSurfaceKey}
              {...(isWriting && {
                role: 'application',
                'aria-label': 'The tune, being written',
                'aria-describedby': 'writing-place',
                tabIndex: 0,
              })}
              className="print-plain outline-none focus-visible:shadow-[inset_3px_0_0_var(--color-cane)]"
            >
              {engraving.lines.map((line, index) => {
                const row = engraving.rows.get(index);
                return (
                  <LaneRow
                    key={line.from}
                    line={line}
                    row={row}
                    width={width}
                    infos={engraving.infos}
                    players={names}
                    numbers={engraving.numbers}
                    onSelect={onSelect}
                    onKey={onBarKey}
                    onOpen={step === 'tune' ? startWriting : undefined}
                    selection={
                      selection && selection.bar >= line.from && selection.bar < line.to ? selection : undefined
                    }
                    tabStop={tabStop.bar >= line.from && tabStop.bar < line.to ? tabStop : undefined}
                    {...(isWriting && { over: overRow })}
                    {...(isWriting && chordRow && { above: aboveRow })}
                    {...(analysis && { under: underRow })}
                  />
                );
              })}
            </div>
            {isWriting && <CaretFields writing={writing} tune={tune} onFocus={focusSurface} />}
            {isWriting && <CaretFollower writing={writing} tune={tune} />}
          </main>
          <aside
            inert={!isReady}
            aria-label={`${STEP_NAMES[step]} drawer`}
            className={`no-print shrink-0 overflow-y-auto border-l border-line bg-panel p-3.5 ${step === 'tune' && tuneTab === 'text' ? 'w-[400px]' : step === 'tune' && tuneTab === 'made' ? 'w-[316px]' : 'w-[292px]'}`}
          >
            {step === 'tune' ? (
              <Tabs.Root
                value={tuneTab}
                onValueChange={(value) => {
                  const tab = TUNE_TABS.find((known) => known === value);
                  if (tab) setTuneTab(tab);
                }}
              >
                <Tabs.List aria-label="About the tune" className="mb-3 flex gap-1">
                  {TUNE_TABS.map((tab) => (
                    <Tabs.Trigger
                      key={tab}
                      value={tab}
                      className="min-h-8 flex-1 rounded px-2 text-[13px] hover:bg-cane-pale data-[state=active]:bg-paper data-[state=active]:font-semibold data-[state=active]:outline data-[state=active]:outline-[#8f8d7c]"
                    >
                      {TUNE_TAB_NAMES[tab]}
                    </Tabs.Trigger>
                  ))}
                </Tabs.List>
                <Tabs.Content value="details">
                  <TuneDrawer
                    work={quietWork}
                    info={quietInfos[0]}
                    numbers={quietNumbers}
                    selection={selection}
                    onChange={state.change}
                    onFile={onFile}
                  />
                </Tabs.Content>
                <Tabs.Content value="made">
                  {analysis && (
                    <AnalysisPanel
                      id={id}
                      work={quietWork}
                      analysis={analysis}
                      reader={reader}
                      onReader={setReader}
                      onChange={state.change}
                      onFile={onFile}
                      onBar={goToBar}
                    />
                  )}
                </Tabs.Content>
                <Tabs.Content value="text">
                  <TextView tune={tune} onTune={onText} />
                </Tabs.Content>
              </Tabs.Root>
            ) : isKeys ? (
              <KeysDrawer
                work={quietWork}
                infos={quietInfos}
                groups={groups}
                groupId={groupId}
                onGroup={setGroupId}
                scope={scope}
                onScope={setScope}
                order={order}
                onOrder={setOrder}
                best={ranking[0]}
                onKey={onKeyChosen}
                onChange={state.change}
                onSelect={onSelect}
              />
            ) : (
              <LevelsDrawer
                work={quietWork}
                infos={quietInfos}
                numbers={quietNumbers}
                selection={selection}
                group={group}
                groupId={groupId}
                custom={custom}
                saved={saved}
                onSaved={setSaved}
                draws={engraving.draws}
                onChange={state.change}
                onSelect={onSelect}
                onFile={onFile}
                onGo={onGo}
              />
            )}
          </aside>
        </div>
        <footer className="on-dark no-print flex min-h-9 flex-wrap items-center justify-end gap-x-4 bg-reed pr-4 pl-2 text-[13px] text-reed-pale">
          <Transport work={work} selection={selection} caret={caretNow} numbers={engraving.numbers} tempoOf={tempoOf} />
          <span className="flex-1" />
          {isWriting ? (
            <WritingStatus writing={writing} tune={tune} />
          ) : (
            <span className="truncate">
              {selection
                ? `bar ${engraving.numbers[selection.bar] ?? ''}, ${LANE_NAMES[selection.lane]}`
                : 'no bar picked'}{' '}
              · {view === 'written' ? 'as read' : 'as it sounds'}
            </span>
          )}
          <SaveStatus save={save} onRetry={() => void autosave?.flush()} />
        </footer>
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} more={WRITING_HELP} />
      {save.kind === 'conflict' && autosave && (
        <ConflictSheet
          mine={work}
          theirs={save.theirs}
          onTheirs={() => autosave.adopt(save.version, save.theirs)}
          onMine={() => autosave.overwrite(save.version)}
        />
      )}
    </div>
  );
}

/** Keeps the caret in view as it moves. */
function CaretFollower({ writing, tune }: { readonly writing: Writing; readonly tune: Tune }) {
  const caret = useStore(writing.store, (one) => one.caret);
  useEffect(() => {
    const timer = requestAnimationFrame(() =>
      document.querySelector('[data-caret]')?.scrollIntoView({ block: 'nearest' }),
    );
    return () => cancelAnimationFrame(timer);
  }, [caret, tune]);
  return null;
}

/** Where the caret stands, what comes next, and what could not be done. */
function WritingStatus({ writing, tune }: { readonly writing: Writing; readonly tune: Tune }) {
  const { said } = useStore(writing.store);
  return (
    <span className="flex min-w-0 gap-3">
      <span id="writing-place" aria-live="polite" className="truncate">
        {tune.bars.length > 0 && caretText(writing)}
      </span>
      {said && (
        <span role="alert" className="truncate font-semibold text-[#ffd9a0]">
          {said}
        </span>
      )}
    </span>
  );
}

function HistoryButton({
  label,
  ...rest
}: {
  readonly label: string;
  readonly disabled: boolean;
  readonly onClick: (event: MouseEvent) => void;
  readonly children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className="flex size-8 items-center justify-center rounded hover:bg-cane-pale disabled:text-[#a9a896] disabled:hover:bg-transparent"
      {...rest}
    />
  );
}

function SaveStatus({ save, onRetry }: { readonly save: SaveState; readonly onRetry: () => void }) {
  const isTrouble = save.kind === 'waiting' || save.kind === 'refused';
  return (
    <span role="status" className={`flex items-center gap-2 ${isTrouble ? 'font-semibold text-[#ffd9a0]' : ''}`}>
      {saveText(save)}
      {isTrouble && (
        <button
          type="button"
          onClick={onRetry}
          className="min-h-7 rounded px-1.5 text-white underline underline-offset-2"
        >
          Try now
        </button>
      )}
    </span>
  );
}

function saveText(save: SaveState): string {
  switch (save.kind) {
    case 'saved':
      return 'saved';
    case 'unsaved':
    case 'saving':
      return 'saving …';
    case 'waiting':
      return `Not saved yet: ${save.message} Your work is kept here and tried again.`;
    case 'refused':
      return `Not saved: ${save.message}`;
    case 'conflict':
      return 'Not saved: two versions';
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

function neighbour(
  key: string,
  at: Selection,
  lanes: readonly LaneId[],
  bars: number,
  lines: readonly { readonly from: number; readonly to: number }[],
): Selection | undefined {
  const lane = lanes.indexOf(at.lane);
  const line = lines.findIndex(({ from, to }) => at.bar >= from && at.bar < to);
  const inLine = at.bar - (lines[line]?.from ?? 0);
  const toRow = (step: -1 | 1): Selection | undefined => {
    const next = lines[line + step];
    const nextLane = step > 0 ? lanes[0] : lanes.at(-1);
    return next && nextLane ? { lane: nextLane, bar: Math.min(next.to - 1, next.from + inLine) } : undefined;
  };
  const inLane = (index: number) => {
    const found = lanes[index];
    return found ? { ...at, lane: found } : undefined;
  };
  switch (key) {
    case 'ArrowLeft':
      return at.bar > 0 ? { ...at, bar: at.bar - 1 } : undefined;
    case 'ArrowRight':
      return at.bar < bars - 1 ? { ...at, bar: at.bar + 1 } : undefined;
    case 'ArrowUp':
      return lane > 0 ? inLane(lane - 1) : toRow(-1);
    case 'ArrowDown':
      return lane < lanes.length - 1 ? inLane(lane + 1) : toRow(1);
    case 'Home':
      return { ...at, bar: 0 };
    case 'End':
      return { ...at, bar: bars - 1 };
    default:
      return undefined;
  }
}

/** The button may be drawn only after the selection has moved there. */
function focusBar(lanes: HTMLElement | null, { lane, bar }: Selection): void {
  requestAnimationFrame(() =>
    lanes?.querySelector<HTMLElement>(`[data-lane="${lane}"][data-bar="${bar}"]`)?.focus({ preventScroll: false }),
  );
}

/** Whom the keys are weighed for: the group's players, or the lanes' instruments where no group is chosen. */
function playersFor(work: Work, group: Group | undefined, scope: KeyScope): readonly KeyPlayer[] {
  const players: readonly KeyPlayer[] = group
    ? keyPlayers(group)
    : LEVELS.map((level) => {
        const recipe = recipesOf(work)[level];
        return {
          instrument: withLimits(instrumentOf(recipe), level, recipe.limits?.range ?? {}),
          level,
          ...(recipe.limits?.known && { known: new Set(recipe.limits.known.map(semitones)) }),
        };
      });
  return scope === 'all' ? players : players.filter(({ level }) => level === scope);
}

function namesByLevel(group: Group | undefined): Readonly<Partial<Record<Level, string>>> {
  return Object.fromEntries(
    LEVELS.map((level) => [
      level,
      group?.players
        .filter((player) => player.level === level)
        .map(({ name }) => name)
        .filter((name) => name !== '')
        .join(', ') ?? '',
    ]),
  );
}
