'use client';

import { useCallback, useRef, useState } from 'react';
import { afterRound, beginLadder, type LadderPlace, type LadderPlan, tappedTempo } from '../../core/rehearsal';
import { TEMPO_LIMITS } from '../../core/score';

/** Learning begins at so much of the tempo, and goes up in such steps. */
const USUAL_LADDER = { share: 0.6, step: 4, rounds: 3 } as const;

/** Taps that are looked at; an older one says nothing of the tempo now. */
const TAPS = 8;

/** The ladder of tempos, and where the player stands on it. @param goal beats a minute of the part */
export function useLadder(goal: number) {
  const [plan, setPlan] = useState<LadderPlan>({
    start: Math.round(goal * USUAL_LADDER.share),
    step: USUAL_LADDER.step,
    goal,
    rounds: USUAL_LADDER.rounds,
  });
  const [place, setPlace] = useState(() => beginLadder(plan));
  const taps = useRef<readonly number[]>([]);
  /** Another plan is begun at its start. */
  const replan = useCallback((next: LadderPlan) => {
    setPlan(next);
    setPlace(beginLadder(next));
  }, []);
  return {
    plan,
    place,
    replan,
    begin: useCallback(() => setPlace(beginLadder(plan)), [plan]),
    /** Goes on where somebody stopped. */
    goOn: useCallback((kept: { readonly plan: LadderPlan; readonly place: LadderPlace }) => {
      setPlan(kept.plan);
      setPlace(kept.place);
    }, []),
    /** A round was played; true where the goal is reached and was played well as often as asked. */
    played: useCallback(
      (how: 'good' | 'again') => {
        const next = afterRound(place, how, plan);
        setPlace(next);
        return next.isDone;
      },
      [place, plan],
    ),
    /** A beat is tapped: from the third on the ladder begins at that tempo. */
    tap: () => {
      taps.current = [...taps.current.slice(-TAPS), performance.now() / 1000];
      const tempo = tappedTempo(taps.current);
      if (tempo === undefined || tempo < TEMPO_LIMITS.slowest || tempo > TEMPO_LIMITS.fastest) return;
      replan({ ...plan, start: tempo, goal: Math.max(plan.goal, tempo) });
    },
  };
}
