'use client';

import { dateAt } from '../../core/planning';
import { useCallback, useEffect, useRef, useState } from 'react';
import { logEntry, type LogPlace, sendAllWaiting, type Sent } from '../work/practiceLog';

/** For whom the stand keeps a log, and of what. */
export interface Assignment {
  readonly log: LogPlace;
  readonly name: string;
  readonly work: string;
  readonly step: string;
  readonly tempo?: number;
  /** Bars as the page numbers them. */
  readonly from?: number;
  readonly to?: number;
}

/** What was played since the last entry, at one tempo. */
interface Run {
  tempo: number;
  seconds: number;
  good: number;
  again: number;
  /** Notes that the listener found right, of so many. */
  right: number;
  notes: number;
  isListener: boolean;
}

const newRun = (tempo: number): Run => ({
  tempo,
  seconds: 0,
  good: 0,
  again: 0,
  right: 0,
  notes: 0,
  isListener: false,
});

/** Less than this, without a round, was trying the sound. */
const LEAST_SECONDS = 30;
/** After so long without playing or a round an entry is written, milliseconds. */
const QUIET = 90_000;

/**
 * Keeps a pupil's log while they play: minutes that really sounded, rounds that went well and others, at their tempo. An
 * entry is written when the tempo changes, after a while of silence, and when the page is left; offline it
 * waits in the browser.
 */
export function usePracticeLog(assignment: Assignment | undefined, tempo: number, isPlaying: boolean) {
  const run = useRef<Run>(newRun(tempo));
  const [status, setStatus] = useState<{ readonly minutes: number; readonly sent?: Sent['kind'] }>({ minutes: 0 });
  const total = useRef(0);

  const write = useCallback(() => {
    const { seconds, good, again, right, notes, isListener, tempo: played } = run.current;
    if (!assignment || (good + again === 0 && seconds < LEAST_SECONDS)) return;
    run.current = newRun(played);
    void logEntry(assignment.log, {
      date: dateAt(new Date()),
      work: assignment.work,
      step: assignment.step,
      minutes: Math.round(seconds / 60),
      tempo: played,
      good,
      again,
      by: isListener ? 'listener' : 'stand',
      note: notes > 0 ? `${right} of ${notes} notes` : '',
    }).then(({ kind }) => setStatus((before) => ({ ...before, sent: kind })));
  }, [assignment]);

  // Another tempo is another entry.
  useEffect(() => {
    if (run.current.tempo === tempo) return;
    write();
    run.current = { ...newRun(tempo), seconds: run.current.good + run.current.again === 0 ? run.current.seconds : 0 };
  }, [tempo, write]);

  useEffect(() => {
    if (!isPlaying || !assignment) return undefined;
    const timer = setInterval(() => {
      run.current.seconds += 1;
      total.current += 1;
      if (total.current % 60 === 0) setStatus((before) => ({ ...before, minutes: total.current / 60 }));
    }, 1_000);
    return () => clearInterval(timer);
  }, [isPlaying, assignment]);
  useEffect(() => {
    if (isPlaying || !assignment) return undefined;
    const timer = setTimeout(write, QUIET);
    return () => clearTimeout(timer);
  }, [isPlaying, assignment, write]);

  useEffect(() => {
    if (!assignment) return undefined;
    sendAllWaiting();
    const leave = () => {
      if (document.visibilityState === 'hidden') write();
    };
    window.addEventListener('online', sendAllWaiting);
    document.addEventListener('visibilitychange', leave);
    window.addEventListener('pagehide', write);
    return () => {
      window.removeEventListener('online', sendAllWaiting);
      document.removeEventListener('visibilitychange', leave);
      window.removeEventListener('pagehide', write);
      write();
    };
  }, [assignment, write]);

  /** A round was played, as the player or the listener says. */
  const round = useCallback((how: 'good' | 'again', by: 'stand' | 'listener') => {
    run.current[how] += 1;
    if (by === 'listener') run.current.isListener = true;
  }, []);
  const notes = useCallback((right: number, all: number) => {
    run.current.right += right;
    run.current.notes += all;
  }, []);
  return { round, notes, write, status };
}
