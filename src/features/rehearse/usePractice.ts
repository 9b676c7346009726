'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Level } from '../../core/instruments/instrument';
import { soloOfLevel } from '../../core/levels/levelPart';
import type { Part } from '../../core/levels/part';
import type { Work } from '../../core/levels/recipe/work';
import { chain, type Round } from '../../core/rehearsal/chain';
import type { Chunk } from '../../core/rehearsal/chunks';
import type { ClickPattern } from '../../core/rehearsal/clicks';
import { afterRound, beginLadder, type LadderPlan } from '../../core/rehearsal/ladder';
import { tappedTempo } from '../../core/rehearsal/tapTempo';
import { TEMPO_LIMITS } from '../../core/score/usualTempo';
import type { OnStand } from '../../core/levels/standPart';
import type { BarRun } from '../../core/levels/bars/leaveOut';
import { usualFeel, type Feel } from '../../sound/backing';
import type { Mixed, PlayWishes, Volumes } from '../../sound/playPlan';
import { voiceOf } from '../../sound/voices';
import type { Player } from '../work/sound/player';
import { keepPractice, keptPractice } from './keptPractice';

/** What is practised: the whole part as it stands, or as its form goes; one chunk, a spot of some bars, or chunks joined one after the other. */
export type Practised = 'whole' | 'form' | 'chunk' | 'spot' | 'forward' | 'backward';

/** What sounds of the line: the example, nothing, or the example and then as long a silence. */
export type Example = 'heard' | 'silent' | 'call';

/** Learning begins at so much of the tempo, and goes up in such steps. */
const USUAL_LADDER = { share: 0.6, step: 4, rounds: 3 } as const;

/** Two thirds and one third, as swing is usually taught. */
const SWUNG = { unit: 'eighth', ratio: 2 } as const;

/** Everything that is decided on the stand about how a part is practised, and the playing of it. */
export function usePractice({
  name,
  work,
  level,
  what,
  part,
  chunks: proposed,
  player,
}: {
  /** Under which it is kept where somebody stopped. */
  readonly name: string;
  readonly work: Work;
  readonly level: Level;
  readonly what: OnStand;
  readonly part: Part | undefined;
  readonly chunks: readonly Chunk[];
  readonly player: Player;
}) {
  const goal = part?.tempo.perMinute ?? 80;
  const [moved, setMoved] = useState<readonly number[]>();
  const starts = moved ?? proposed.map(({ from }) => from);
  const end = part?.bars.length ?? 0;
  const chunks = useMemo(
    (): readonly Chunk[] =>
      moved === undefined
        ? proposed
        : moved.map((from, k) => ({
            from,
            to: moved[k + 1] ?? end,
            isHard: proposed.some((one) => one.isHard && one.from === from),
          })),
    [moved, proposed, end],
  );
  const [practised, setPractised] = useState<Practised>('whole');
  const [picked, setPicked] = useState(0);
  const [spot, setSpot] = useState<BarRun>();
  const [plan, setPlan] = useState<LadderPlan>({
    start: Math.round(goal * USUAL_LADDER.share),
    step: USUAL_LADDER.step,
    goal,
    rounds: USUAL_LADDER.rounds,
  });
  const [place, setPlace] = useState(() => beginLadder(plan));
  const [round, setRound] = useState(0);
  const [example, setExample] = useState<Example>(what === 'pool' ? 'silent' : 'heard');
  const [backing, setBacking] = useState<Feel | 'none'>(
    work.tune.drill && !work.tune.drill.over ? 'drone' : usualFeel(work.tune),
  );
  const [click, setClick] = useState<ClickPattern | 'none'>('all');
  const [parts, setParts] = useState<1 | 2 | 3>(1);
  const [groups, setGroups] = useState<readonly number[]>();
  const [swing, setSwing] = useState<'written' | 'even' | 'swung'>('written');
  const [band, setBand] = useState<readonly Level[]>([]);
  // What is louder or softer is heard at once, without beginning again.
  const volumes = useRef<Volumes>({});
  const taps = useRef<readonly number[]>([]);
  const rounds = useMemo(
    (): readonly Round[] =>
      practised === 'forward' || practised === 'backward' ? chain(chunks.length, practised) : [],
    [practised, chunks.length],
  );
  // Where somebody stopped the last time they go on.
  const [isRead, setRead] = useState(false);
  useEffect(() => {
    const kept = keptPractice(name);
    if (kept) {
      setPlan(kept.plan);
      setPlace(kept.place);
      setPractised(kept.practised);
      setPicked(kept.picked);
      setRound(kept.round);
    }
    setRead(true);
  }, [name]);
  useEffect(() => {
    if (isRead && practised !== 'spot') keepPractice(name, { plan, place, practised, picked, round });
  }, [isRead, name, plan, place, practised, picked, round]);
  const joined = rounds[Math.min(round, rounds.length - 1)];
  const rangeOf = (): { readonly from: number; readonly to: number } | undefined => {
    if (practised === 'whole' || practised === 'form') return undefined;
    if (practised === 'spot') return spot;
    const [first, last] =
      practised === 'chunk'
        ? [chunks[picked], chunks[picked]]
        : [chunks[joined?.from ?? 0], chunks[(joined?.to ?? 1) - 1]];
    return first && last && { from: first.from, to: last.to };
  };
  const range = rangeOf();

  const made = useMemo(
    () => (what === 'part' ? undefined : soloOfLevel(work.tune, level, work.recipes)),
    [what, work, level],
  );
  /** What would be played now, and how. */
  const wishes = useCallback((): { readonly work: Work; readonly wishes: PlayWishes } | undefined => {
    if (!part) return undefined;
    const bars = range ?? { from: 0, to: part.bars.length };
    return {
      work: made ? { tune: made.tune, recipes: {} } : work,
      wishes: {
        heard: made ? 'tune' : level,
        ...(made && { tuneProgram: voiceOf(made.part.instrument) }),
        backing,
        click: click !== 'none',
        ...(click !== 'none' && { clickPattern: click }),
        clickParts: parts,
        ...(groups && { clickGroups: groups }),
        ...(swing !== 'written' && { swing: swing === 'even' ? ('even' as const) : SWUNG }),
        ...(made ? {} : { band }),
        volumes: volumes.current,
        clickSeed: Math.floor(performance.now()),
        countIn: true,
        perMinute: place.perMinute,
        from: bars.from,
        ...(practised !== 'form' && { loopTo: bars.to - 1 }),
        isSilent: example === 'silent' || what === 'pool',
        hasAnswers: example === 'call' && practised !== 'form',
        // The whole part is called and answered phrase by phrase.
        ...(practised === 'whole' && { callStarts: chunks.map(({ from }) => from) }),
      },
    };
  }, [
    part,
    range,
    practised,
    chunks,
    made,
    what,
    work,
    level,
    backing,
    click,
    parts,
    groups,
    swing,
    band,
    place.perMinute,
    example,
  ]);
  const start = useCallback(() => {
    const now = wishes();
    if (now) void player.play(now.work, now.wishes);
  }, [wishes, player]);
  const setVolume = useCallback((volume: number) => player.setVolume(volume), [player]);
  const isOn = useCallback(() => ['playing', 'waking'].includes(player.store.getState().kind), [player]);
  const toggle = useCallback(() => (isOn() ? player.stop() : start()), [isOn, player, start]);
  // What is changed while it plays is heard at once.
  const latest = useRef(start);
  useEffect(() => {
    latest.current = start;
  });
  const [rangeFrom, rangeTo] = [range?.from, range?.to];
  useEffect(() => {
    if (isOn()) latest.current();
  }, [isOn, practised, place.perMinute, rangeFrom, rangeTo, backing, click, parts, groups, swing, band, example]);

  const heard = useCallback(
    (how: 'good' | 'again') => {
      const next = afterRound(place, how, plan);
      // Joined chunks go on once the tempo is mastered; each new round begins slowly again.
      if (next.isDone && rounds.length > 0 && round < rounds.length - 1) {
        setRound(round + 1);
        setPlace(beginLadder(plan));
      } else setPlace(next);
    },
    [place, plan, rounds.length, round],
  );
  const pickBar = useCallback(
    (bar: number) => {
      const found = chunks.findIndex(({ from, to }) => bar >= from && bar < to);
      if (found < 0) return;
      setPicked(found);
      setPractised('chunk');
      setPlace(beginLadder(plan));
    },
    [chunks, plan],
  );
  return {
    chunks,
    practised,
    picked,
    plan,
    place,
    rounds,
    round,
    example,
    backing,
    click,
    parts,
    groups,
    swing,
    band: made ? undefined : band,
    range,
    toggle,
    heard,
    pickBar,
    wishes,
    /** Some bars, not one of the chunks. */
    pickSpot: (bars: BarRun) => {
      setSpot(bars);
      setPractised('spot');
      setPlace(beginLadder(plan));
    },
    spot,
    pick: (index: number) => {
      setPicked(index);
      setPractised('chunk');
      setPlace(beginLadder(plan));
    },
    setPractised: (next: Practised) => {
      setPractised(next);
      setRound(0);
      setPlace(beginLadder(plan));
    },
    setRound: (next: number) => {
      setRound(Math.max(0, Math.min(rounds.length - 1, next)));
      setPlace(beginLadder(plan));
    },
    setPlan: (next: LadderPlan) => {
      setPlan(next);
      setPlace(beginLadder(next));
    },
    setVolume,
    /** How loud one of those who play is, 0 to 1. */
    setShare: (who: Mixed, share: number) => {
      volumes.current = { ...volumes.current, [who]: share };
      player.setShare(who, share);
    },
    setGroups,
    setSwing,
    setBand,
    /** A beat is tapped: from the third on the ladder begins at that tempo. */
    tap: () => {
      taps.current = [...taps.current.slice(-8), performance.now() / 1000];
      const tempo = tappedTempo(taps.current);
      if (tempo === undefined || tempo < TEMPO_LIMITS.slowest || tempo > TEMPO_LIMITS.fastest) return;
      const next = { ...plan, start: tempo, goal: Math.max(plan.goal, tempo) };
      setPlan(next);
      setPlace(beginLadder(next));
    },
    setExample,
    setBacking,
    setClick,
    setParts,
    /** Moves where a chunk begins by a bar. */
    moveStart: (index: number, by: number) => {
      const before = starts[index - 1] ?? -1;
      const after = starts[index + 1] ?? end;
      const next = (starts[index] ?? 0) + by;
      if (index > 0 && next > before && next < after)
        setMoved(starts.map((start_, k) => (k === index ? next : start_)));
    },
    back: moved === undefined ? undefined : () => setMoved(undefined),
  };
}

export type Practice = ReturnType<typeof usePractice>;
