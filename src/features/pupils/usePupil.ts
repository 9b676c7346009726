'use client';

import { useCallback, useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import type { SentEntry } from '../../core/formats';
import { type LogEntry, type Plan, planOf, type Pupil, requestFor } from '../../core/planning';
import { useToast } from '../../ui/Toast';
import { logEntry, sendAllWaiting, sendWaiting, waitingEntries } from '../work/practiceLog';
import { openPupil, type OpenPupil, type VersionedPupil } from './openPupil';

export interface PupilOnScreen {
  readonly open: OpenPupil;
  readonly pupil: Pupil;
  readonly log: readonly LogEntry[];
  readonly plan: Plan | undefined;
  readonly today: string;
  /** Changes the pupil as they are now, as a step that can be undone. */
  readonly update: (name: string, change: (pupil: Pupil) => Pupil) => void;
  /** Adds an entry to the log. */
  readonly addEntry: (entry: Omit<SentEntry, 'id'>) => void;
}

/** A pupil, their log and their plan on a screen: what is changed is planned anew at once. */
export function usePupil(given: VersionedPupil, stored: readonly LogEntry[], today: string): PupilOnScreen {
  const tell = useToast();
  const [open] = useState(() => openPupil(given));
  const pupil = useStore(open.store, ({ document }) => document);
  const [added, setAdded] = useState<readonly LogEntry[]>([]);
  const log = useMemo(() => [...stored, ...added], [stored, added]);
  const plan = useMemo(() => {
    const request = requestFor(pupil, log, today);
    return request && planOf(request);
  }, [pupil, log, today]);
  useEffect(() => {
    open.saver.recover('Changes from last time');
    void sendWaiting(open.id);
    window.addEventListener('online', sendAllWaiting);
    return () => {
      open.saver.stop();
      window.removeEventListener('online', sendAllWaiting);
    };
  }, [open]);
  // What waits in this browser is part of the log already, for who looks at it here; the rest is in what was read.
  useEffect(() => setAdded(waitingEntries(open.id)), [open, stored]);
  const update = useCallback(
    (name: string, change: (pupil: Pupil) => Pupil) => {
      const { document, change: record } = open.store.getState();
      record(name, change(document));
    },
    [open],
  );
  const add = useCallback(
    (entry: Omit<SentEntry, 'id'>) => {
      setAdded((before) => [...before, entry]);
      void logEntry(open.id, entry).then((sent) => {
        if (sent.kind === 'waiting') tell('Logged in this browser; it is sent when there is a network.');
        if (sent.kind === 'refused') tell(`${sent.message} This entry was not logged.`);
      });
    },
    [open, tell],
  );
  return { open, pupil, log, plan, today, update, addEntry: add };
}
