'use client';

import { useEffect, useRef } from 'react';
import type { Practice } from './usePractice';
import type { Assignment } from './usePracticeLog';

/**
 * Puts the bars and the tempo of an assignment before the player, once: what is changed on the stand afterwards stays.
 * @param numbers of the bars, as the page has them
 */
export function useAssignment(
  assignment: Assignment | undefined,
  practice: Practice,
  numbers: readonly (number | undefined)[],
): void {
  const isSet = useRef(false);
  const latest = useRef(practice);
  useEffect(() => {
    latest.current = practice;
  });
  useEffect(() => {
    if (!assignment || isSet.current || numbers.length === 0) return;
    isSet.current = true;
    const { tempo, from, to } = assignment;
    const { plan, setPlan, pickSpot } = latest.current;
    if (from !== undefined && to !== undefined) {
      const first = numbers.indexOf(from);
      const last = numbers.lastIndexOf(to);
      if (first >= 0 && last >= first && last - first + 1 < numbers.length) pickSpot({ from: first, to: last + 1 });
    }
    if (tempo !== undefined) setPlan({ ...plan, start: tempo, goal: Math.max(plan.goal, tempo) });
  }, [assignment, numbers]);
}
