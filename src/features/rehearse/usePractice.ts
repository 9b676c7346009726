'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Level } from '../../core/instruments';
import { type BarRun, type OnStand, type Part, soloOfLevel } from '../../core/levels';
import type { Work } from '../../core/work';
import { chain, type Chunk, chunksFrom, type Round } from '../../core/rehearsal';
import type { GroupWishes, Mixed, PlayWishes } from '../../sound/playPlan';
import { voiceOf } from '../../sound/voices';
import type { Player } from '../work/sound/player';
import { keepPractice, keptPractice } from './keptPractice';
import { useLadder } from './useLadder';
import { useSoundChoices } from './useSoundChoices';

/**
 * What is practised: the whole part as it stands, or as its form goes; one chunk, a spot of some bars, or chunks joined
 * one after the other.
 */
export type Practised = 'whole' | 'form' | 'chunk' | 'spot' | 'forward' | 'backward';

/** Everything that is decided on the stand about how a part is practised, and the playing of it. */
export function usePractice({
  name,
  work,
  level,
  what,
  part,
  chunks: proposed,
  player,
  behind,
}: {
  /** Under which it is kept where somebody stopped. */
  readonly name: string;
  readonly work: Work;
  readonly level: Level;
  readonly what: OnStand;
  readonly part: Part | undefined;
  readonly chunks: readonly Chunk[];
  readonly player: Player;
  /** The others of a group, who can play along. */
  readonly behind?: GroupWishes | undefined;
}) {
  const ladder = useLadder(part?.tempo.perMinute ?? 80);
  const sound = useSoundChoices(work.tune, what, behind !== undefined);
  const { plan, place, begin } = ladder;
  const { choices, volumes } = sound;
  const { example, band, groupPlays } = choices;
  const [moved, setMoved] = useState<readonly number[]>();
  const starts = moved ?? proposed.map(({ from }) => from);
  const end = part?.bars.length ?? 0;
  const chunks = useMemo(
    (): readonly Chunk[] => (moved === undefined || !part ? proposed : chunksFrom(part, moved, proposed)),
    [moved, proposed, part],
  );
  const [practised, setPractised] = useState<Practised>('whole');
  const [picked, setPicked] = useState(0);
  const [spot, setSpot] = useState<BarRun>();
  const [round, setRound] = useState(0);
  const rounds = useMemo(
    (): readonly Round[] =>
      practised === 'forward' || practised === 'backward' ? chain(chunks.length, practised) : [],
    [practised, chunks.length],
  );
  // Where somebody stopped the last time they go on.
  const [isRead, setRead] = useState(false);
  const { goOn } = ladder;
  useEffect(() => {
    const kept = keptPractice(name);
    if (kept) {
      goOn(kept);
      setPractised(kept.practised);
      setPicked(kept.picked);
      setRound(kept.round);
    }
    setRead(true);
  }, [name, goOn]);
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
        ...sound.wishes,
        ...(made ? {} : { band }),
        ...(behind && groupPlays && !made && { group: behind }),
        volumes: volumes(),
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
    sound.wishes,
    band,
    volumes,
    place.perMinute,
    example,
    behind,
    groupPlays,
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
  }, [isOn, practised, place.perMinute, rangeFrom, rangeTo, sound.wishes, band, example, groupPlays]);

  const { played } = ladder;
  const heard = useCallback(
    (how: 'good' | 'again') => {
      // Joined chunks go on once the tempo is mastered; each new round begins slowly again.
      if (!played(how) || rounds.length === 0 || round >= rounds.length - 1) return;
      setRound(round + 1);
      begin();
    },
    [played, begin, rounds.length, round],
  );
  const pickBar = useCallback(
    (bar: number) => {
      const found = chunks.findIndex(({ from, to }) => bar >= from && bar < to);
      if (found < 0) return;
      setPicked(found);
      setPractised('chunk');
      begin();
    },
    [chunks, begin],
  );
  return {
    chunks,
    practised,
    picked,
    plan,
    place,
    rounds,
    round,
    ...choices,
    band: made ? undefined : band,
    hasGroup: behind !== undefined,
    range,
    toggle,
    heard,
    pickBar,
    wishes,
    /** Some bars, not one of the chunks. */
    pickSpot: (bars: BarRun) => {
      setSpot(bars);
      setPractised('spot');
      begin();
    },
    spot,
    pick: (index: number) => {
      setPicked(index);
      setPractised('chunk');
      begin();
    },
    setPractised: (next: Practised) => {
      setPractised(next);
      setRound(0);
      begin();
    },
    setRound: (next: number) => {
      setRound(Math.max(0, Math.min(rounds.length - 1, next)));
      begin();
    },
    setPlan: ladder.replan,
    setVolume,
    /** How loud one of those who play is, 0 to 1. */
    setShare: (who: Mixed, share: number) => {
      sound.setVolume(who, share);
      player.setShare(who, share);
    },
    tap: ladder.tap,
    /** Moves where a chunk begins by a bar. */
    moveStart: (index: number, by: number) => {
      const before = starts[index - 1] ?? -1;
      const after = starts[index + 1] ?? end;
      const next = (starts[index] ?? 0) + by;
      if (index > 0 && next > before && next < after)
        setMoved(starts.map((start_, k) => (k === index ? next : start_)));
    },
    /** Cuts a chunk in its middle; one of a single bar stays. */
    cutInTwo: (index: number) => {
      const chunk = chunks[index];
      if (!chunk || chunk.to - chunk.from < 2) return;
      const middle = chunk.from + Math.ceil((chunk.to - chunk.from) / 2);
      setMoved([...starts.slice(0, index + 1), middle, ...starts.slice(index + 1)]);
    },
    /** Joins a chunk with the one after it. */
    joinNext: (index: number) => {
      if (index >= starts.length - 1) return;
      setMoved(starts.filter((_, k) => k !== index + 1));
      setPicked(Math.min(picked, starts.length - 2));
    },
    back: moved === undefined ? undefined : () => setMoved(undefined),
  };
}

export type Practice = ReturnType<typeof usePractice>;
