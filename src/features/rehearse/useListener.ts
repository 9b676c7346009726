'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Part } from '../../core/levels';
import { GOOD_SHARE, judgeTake, takeReport, type TakeReport } from '../../core/rehearsal';
import { isNote } from '../../core/score';
import { wantedNotes, type WantedTake } from '../../sound/wantedNotes';
import type { Player, PlayerState } from '../work/sound/player';
import { HearingError, Microphone } from './microphone';
import type { Practice } from './usePractice';

/** With what plays, or in the player's own time. */
export type Pace = 'in-time' | 'free';

type Listening =
  | { readonly kind: 'off' | 'asking' | 'on' }
  /** A take in the player's own time is going on. */
  | { readonly kind: 'taking' }
  | { readonly kind: 'failed'; readonly message: string };

/** Sound that belongs to a round comes so long before it (early) and after it (through the machine), seconds. */
const AROUND = { before: 0.35, after: 0.5 } as const;
/** A round that was broken off is told from so many notes on. */
const LEAST_NOTES = 3;

/**
 * Hears the player through the microphone, holds what was played against the part, round by round, and says what became
 * of it.
 */
export function useListener({
  player,
  state,
  practice,
  part,
}: {
  readonly player: Player;
  readonly state: PlayerState;
  readonly practice: Practice;
  readonly part: Part | undefined;
}) {
  const [listening, setListening] = useState<Listening>({ kind: 'off' });
  const [pace, setPace] = useState<Pace>('in-time');
  const [counts, setCounts] = useState(false);
  const [report, setReport] = useState<TakeReport>();
  const microphone = useRef<Microphone>(undefined);
  const free = useRef<{ readonly take: WantedTake; readonly from: number }>(undefined);
  const written = useMemo(
    () =>
      new Map(
        (part?.bars ?? []).flatMap(({ events }) =>
          events.flatMap((event) => (isNote(event) ? [[event.id, event.pitch] as const] : [])),
        ),
      ),
    [part],
  );
  const isGone = useRef(false);
  useEffect(() => {
    isGone.current = false;
    return () => {
      isGone.current = true;
      microphone.current?.close();
    };
  }, []);

  const close = useCallback(() => {
    microphone.current?.close();
    microphone.current = undefined;
    free.current = undefined;
    setListening({ kind: 'off' });
  }, []);
  const open = useCallback(async () => {
    setListening({ kind: 'asking' });
    try {
      const opened = await Microphone.open(player.output());
      // Who has left the stand while the browser asked is not listened to.
      if (isGone.current) {
        opened.close();
        return;
      }
      microphone.current = opened;
      setListening({ kind: 'on' });
    } catch (error) {
      setListening({
        kind: 'failed',
        message:
          error instanceof HearingError ? error.message : 'Listening did not begin. Everything else works without.',
      });
    }
  }, [player]);

  const tell = useCallback(
    async (take: WantedTake, begins: number, until: number, isFree: boolean): Promise<TakeReport | undefined> => {
      const ear = microphone.current;
      if (!ear || !part) return undefined;
      const heard = await ear.heard(begins - AROUND.before, until + AROUND.after);
      const first = isFree ? (heard[0]?.start ?? begins) : begins;
      const wanted = isFree ? take.notes : take.notes.filter(({ start }) => begins + start < until - 0.1);
      if (wanted.length < LEAST_NOTES && wanted.length < take.notes.length) return undefined;
      const placed = heard.map((note) => ({ ...note, start: note.start - first, end: note.end - first }));
      const made = takeReport(wanted, judgeTake(wanted, placed, { beat: take.beat, isFree }), written, part.writtenKey);
      setReport(made);
      return made;
    },
    [part, written],
  );

  // In time: each round is judged when it is over, the last one as far as it went.
  const plan = state.kind === 'playing' ? state.plan : undefined;
  const latest = useRef({ practice, counts });
  useEffect(() => {
    latest.current = { practice, counts };
  });
  const isHearing = listening.kind === 'on' && pace === 'in-time';
  useEffect(() => {
    const ear = microphone.current;
    const asked = plan && isHearing ? latest.current.practice.wishes() : undefined;
    if (!ear || !asked) return undefined;
    const take = wantedNotes(asked.work, asked.wishes);
    ear.begin(take.notes.map(({ key }) => key));
    const clock = player.output();
    let round = 0;
    let begins = player.begins() ?? clock.currentTime;
    const timer = setInterval(() => {
      begins = player.begins() ?? begins;
      const end = begins + (round + 1) * take.seconds;
      if (clock.currentTime < end + AROUND.after + 0.1) return;
      const from = begins + round * take.seconds;
      round += 1;
      void tell(take, from, end, false).then((made) => {
        if (!made || made.isSilent || !latest.current.counts) return;
        latest.current.practice.heard(made.right / made.notes.length >= GOOD_SHARE ? 'good' : 'again');
      });
    }, 200);
    return () => {
      clearInterval(timer);
      const from = begins + round * take.seconds;
      void tell(take, from, Math.min(clock.currentTime, from + take.seconds), false);
    };
  }, [plan, isHearing, player, tell]);

  const toggleTake = useCallback(async () => {
    const ear = microphone.current;
    const clock = player.output();
    if (!ear) return;
    if (free.current) {
      const { take, from } = free.current;
      free.current = undefined;
      setListening({ kind: 'on' });
      await tell(take, from, clock.currentTime, true);
      return;
    }
    const asked = practice.wishes();
    if (!asked) return;
    player.stop();
    const take = wantedNotes(asked.work, { ...asked.wishes, hasAnswers: false });
    ear.begin(take.notes.map(({ key }) => key));
    free.current = { take, from: clock.currentTime };
    setReport(undefined);
    setListening({ kind: 'taking' });
  }, [player, practice, tell]);

  return {
    listening,
    toggle: () => (listening.kind === 'on' || listening.kind === 'taking' ? close() : void open()),
    pace,
    setPace,
    counts,
    setCounts,
    toggleTake: () => void toggleTake(),
    report,
    forget: () => setReport(undefined),
  };
}

export type Listener = ReturnType<typeof useListener>;
