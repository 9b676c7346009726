'use client';

import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { Level } from '../../core/instruments';
import { type BarRun, type OnStand, type StandAids, standPart, withStandAids } from '../../core/levels';
import type { Work } from '../../core/work';
import { barNumbers } from '../../core/score';
import { proposeChunks } from '../../core/rehearsal';
import type { PitchView } from '../../engrave/lanes';
import type { GroupWishes } from '../../sound/playPlan';
import { Player } from '../work/sound/player';
import { plainKey, useKeys } from '../work/useKeys';
import { BeatLight } from './BeatLight';
import { BeforePlaying } from './BeforePlaying';
import { ByEar } from './ByEar';
import { HeardMarks } from './HeardMarks';
import { Microphone } from './microphone';
import { pageAt, pagesOf, ROW_GAP } from './pages';
import { PracticePanel } from './PracticePanel';
import { STAND_SIZES, StandHeader, type StandHome } from './StandHeader';
import { StandRow, type Hidden } from './StandRow';
import { useStandKept } from '../work/useStandKept';
import { useAssignment } from './useAssignment';
import { useListener } from './useListener';
import { usePractice } from './usePractice';
import { type Assignment, usePracticeLog } from './usePracticeLog';
import { useSize } from './useSize';
import { useStandRows } from './useStandRows';
import { useWakeLock } from './useWakeLock';

interface Props {
  readonly id: string;
  readonly work: Work;
  readonly level: Level;
  readonly what: OnStand;
  /** Whose practice is logged here. */
  readonly assignment?: Assignment;
  /** The others of a group, where it is the player's part in it. */
  readonly behind?: GroupWishes;
  /** A page that was opened by a link, where the stand is reached from there alone. */
  readonly home?: StandHome;
}

/** One part on the stand: as large as is wanted, turned by tap, pedal or by itself, beside what it is learned with. */
export function StandScreen({ id, work, level, what, assignment, behind, home }: Props) {
  const { tune } = work;
  const part = useMemo(() => standPart(work, level, what), [work, level, what]);
  const chunks = useMemo(() => (part ? proposeChunks(part) : []), [part]);
  const numbers = useMemo(() => (part ? barNumbers(part) : []), [part]);
  const [view, setView] = useState<PitchView>('written');
  const [size, setSize] = useState(1);
  const [hidden, setHidden] = useState<Hidden>('nothing');
  const [shown, setShown] = useState<BarRun | 'all'>();
  const [isPanelOpen, setPanelOpen] = useState(true);
  const [turned, setTurned] = useState(0);
  const sheet = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(sheet);
  const { isReady, isKept } = useStandKept();
  const [isBefore, setBefore] = useState(false);
  const [aids, setAids] = useState<StandAids>('page');
  const drawn = useMemo(() => withStandAids(work, level, aids), [work, level, aids]);
  const rows = useStandRows(
    drawn,
    { level, what, staffSpace: STAND_SIZES[size] ?? STAND_SIZES[1], hasChords: tune.drill === undefined },
    view,
    Math.max(0, width - 52),
    isReady,
  );
  const pages = useMemo(() => pagesOf(rows ?? [], height), [rows, height]);
  const [player] = useState(() => new Player());
  const state = useStore(player.store);
  useEffect(() => () => player.close(), [player]);
  // The workers that play and listen are fetched while there is a network.
  useEffect(() => {
    if (!isReady) return undefined;
    player.wake();
    return Microphone.fetch();
  }, [isReady, player]);
  const isPlaying = state.kind === 'playing' || state.kind === 'waking';
  useWakeLock(true);
  const name = `${id}/${level}/${what}${behind ? `/together/${behind.without ?? 0}` : ''}${assignment ? `/${assignment.log}/${assignment.step}` : ''}`;
  const practice = usePractice({ name, work, level, what, part, chunks, player, behind });
  const log = usePracticeLog(assignment, practice.place.perMinute, isPlaying);
  const heard = (how: 'good' | 'again', by: 'stand' | 'listener') => {
    log.round(how, by);
    practice.heard(how);
  };
  const logged = { ...practice, heard: (how: 'good' | 'again') => heard(how, 'stand') };
  const listener = useListener({
    player,
    state,
    practice: { ...practice, heard: (how) => heard(how, 'listener') },
    part,
  });
  useAssignment(assignment, practice, numbers);
  const { report } = listener;
  const { notes: logNotes } = log;
  useEffect(() => {
    if (report && !report.isSilent) logNotes(report.right, report.notes.length);
  }, [report, logNotes]);
  const page = Math.min(turned, Math.max(0, pages.length - 1));
  const turn = useCallback(
    (by: number) => setTurned((now) => Math.max(0, Math.min(pages.length - 1, Math.min(now, pages.length - 1) + by))),
    [pages.length],
  );
  // While it plays the page follows the music, and the bar that sounds is lit.
  const [bar, setBar] = useState<number>();
  useEffect(() => {
    if (state.kind !== 'playing' || !rows) return undefined;
    const timer = setInterval(() => {
      const now = player.moment();
      setBar(now?.bar);
      if (now?.bar !== undefined) setTurned(pageAt(pages, rows, now.bar, now.share));
    }, 80);
    return () => {
      clearInterval(timer);
      setBar(undefined);
    };
  }, [state.kind, player, rows, pages]);
  // Choosing a chunk brings its page.
  const firstBar = practice.range?.from;
  useEffect(() => {
    if (firstBar !== undefined && rows) setTurned(pageAt(pages, rows, firstBar, 0));
  }, [firstBar, rows, pages]);

  useKeys((event) => {
    const key = plainKey(event);
    if (event.key === 'PageDown' || event.key === 'ArrowRight') turn(1);
    else if (event.key === 'PageUp' || event.key === 'ArrowLeft') turn(-1);
    else if (key === 'l') practice.toggle();
    else if (event.key === ' ' && !isButton(event.target)) heard('good', 'stand');
    else if (key === 'a') heard('again', 'stand');
    else if (key === 't') practice.tap();
    else return false;
    return true;
  });

  return (
    <div className="flex h-dvh flex-col bg-paper">
      <StandHeader
        id={id}
        tune={tune}
        part={part}
        level={level}
        what={what}
        isTogether={behind !== undefined}
        home={home}
        look={{ hidden, aids, view, size, isPanelOpen }}
        onLook={(next) => {
          if (next.hidden !== undefined) setHidden(next.hidden);
          if (next.aids !== undefined) setAids(next.aids);
          if (next.view !== undefined) setView(next.view);
          if (next.size !== undefined) setSize(next.size);
          if (next.isPanelOpen !== undefined) setPanelOpen(next.isPanelOpen);
        }}
      />
      <div className="flex min-h-0 flex-1 max-lg:flex-col">
        <main className="relative flex min-h-0 min-w-0 flex-1 flex-col">
          {assignment && <LogLine assignment={assignment} status={log.status} onWrite={log.write} />}
          {isBefore && (
            <BeforePlaying
              onAids={setAids}
              onClose={() => {
                setBefore(false);
                setAids('page');
              }}
            />
          )}
          {hidden === 'ear' && part && (
            <ByEar part={part} practice={practice} player={player} isPlaying={isPlaying} onShown={setShown} />
          )}
          <div ref={sheet} className="relative min-h-0 flex-1 overflow-hidden pt-2 pr-4 pl-9">
            {!part && (
              <p className="py-10 text-ink-soft">
                There is nothing to play over at this level: no line comes home over these chords.
              </p>
            )}
            {part && !rows && <p className="py-10 text-ink-soft">Putting the part on the stand …</p>}
            {what === 'pool' && page === 0 && part?.lead && (
              <p className="mb-2 max-w-[70ch] text-[15px]">{part.lead.join(' ')}</p>
            )}
            <div aria-live="off" style={{ display: 'grid', gap: ROW_GAP }}>
              {(pages[page] ?? []).map((index) => {
                const row = rows?.[index];
                return (
                  row && (
                    <StandRow
                      key={index}
                      numbers={numbers}
                      row={row}
                      hidden={what === 'pool' ? 'notes' : hidden}
                      words={part?.words}
                      shown={shown}
                      bar={bar}
                      range={practice.range}
                      onBar={practice.pickBar}
                    />
                  )
                );
              })}
            </div>
            <HeardMarks report={listener.report} level={level} sheet={sheet} shown={pages[page]} />
          </div>
          <div className="flex items-center justify-between px-2 pb-1 text-[13px]">
            <button
              type="button"
              disabled={page === 0}
              onClick={() => turn(-1)}
              className="flex min-h-11 items-center gap-1 rounded px-3 hover:bg-cane-pale disabled:text-[#a9a896]"
            >
              <ChevronLeft size={18} aria-hidden="true" />
              Page back
            </button>
            <BeatLight player={player} isOn={state.kind === 'playing'} />
            <span className="text-ink-soft tabular-nums">
              {pages.length > 0 && `${page + 1} of ${pages.length}`}
              {isKept && <span className="ml-2">Saved for offline use</span>}
            </span>
            <button
              type="button"
              disabled={page >= pages.length - 1}
              onClick={() => turn(1)}
              className="flex min-h-11 items-center gap-1 rounded px-3 hover:bg-cane-pale disabled:text-[#a9a896]"
            >
              Next page
              <ChevronRight size={18} aria-hidden="true" />
            </button>
          </div>
        </main>
        {isPanelOpen && part && (
          <PracticePanel
            practice={logged}
            listener={listener}
            part={part}
            isPlaying={isPlaying}
            state={state}
            onBefore={what === 'part' ? () => setBefore(true) : undefined}
          />
        )}
      </div>
    </div>
  );
}

function isButton(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest('button, [role="combobox"], a') !== null;
}

/** Whose practice is logged, and what became of the last entry. */
function LogLine({
  assignment,
  status,
  onWrite,
}: {
  readonly assignment: Assignment;
  readonly status: { readonly minutes: number; readonly sent?: 'sent' | 'waiting' | 'refused' };
  readonly onWrite: () => void;
}) {
  const { name, tempo, from, to, log } = assignment;
  const place = log.startsWith('p/') ? `/${log}` : `/pupils/${log}`;
  const bars = from === undefined || to === undefined ? '' : from === to ? `, bar ${from}` : `, bars ${from} to ${to}`;
  return (
    <p className="flex flex-wrap items-center gap-x-3 border-b border-line bg-panel px-3 py-1 text-[13px]">
      <span>
        Logged for {name}
        {bars}
        {tempo !== undefined && ` at ${tempo}`}: {status.minutes} min so far
      </span>
      <span role="status" className={status.sent === 'refused' ? 'text-warn' : 'text-ink-soft'}>
        {status.sent === 'sent' && 'Entry saved.'}
        {status.sent === 'waiting' && 'Saved on this device until there is a network.'}
        {status.sent === 'refused' && 'The last entry was not taken: the pupil may have been removed.'}
      </span>
      <button type="button" onClick={onWrite} className="min-h-7 rounded px-2 underline underline-offset-2">
        Log it now
      </button>
      <a href={place} className="min-h-7 rounded px-2 leading-7 underline underline-offset-2">
        Back to the week
      </a>
    </p>
  );
}
