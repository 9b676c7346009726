'use client';

import { useCallback, useEffect, useState } from 'react';
import { useStore } from 'zustand';
import type { Work } from '../../core/work';
import { Button } from '../../ui/Button';
import { TextInput } from '../../ui/Field';
import { useToast } from '../../ui/Toast';
import type { Bench } from '../work/step';
import { CompareSheet, LookSheet } from './HistorySheets';
import { byDay, listRevisions, nameRevision, openRevision, revisionText, timeText, type Revision } from './revisions';

type Opened = { readonly kind: 'look' | 'compare'; readonly revision: Revision; readonly work: Work };

/** The versions of the tune: what each changed, and the way back to it. */
export function HistoryDrawer({
  bench,
  onClose,
  flush,
}: {
  readonly bench: Bench;
  readonly onClose: () => void;
  /** Saves what is not saved yet; true when all of it is. */
  readonly flush: () => Promise<boolean>;
}) {
  const tell = useToast();
  const saved = useStore(bench.store, ({ save }) => save.kind === 'saved');
  const [revisions, setRevisions] = useState<readonly Revision[]>();
  const [trouble, setTrouble] = useState('');
  const [picked, setPicked] = useState<number>();
  const [opened, setOpened] = useState<Opened>();

  const load = useCallback(async () => {
    const list = await listRevisions(bench.id);
    setTrouble(list.ok ? '' : list.problem.message);
    if (list.ok) setRevisions(list.value.revisions);
  }, [bench.id]);
  useEffect(() => {
    if (saved) void load();
  }, [saved, load]);

  const withWork = async (revision: Revision, show: (work: Work) => void) => {
    const found = await openRevision(bench.id, revision.revision);
    if (found.ok) show(found.value.work);
    else tell(found.problem.message);
  };
  const open = (kind: Opened['kind'], revision: Revision) =>
    void (async () => {
      // What is compared is what is on the page, so that goes to the server first.
      if (kind === 'compare' && !(await flush()))
        return tell('The tune could not be saved, so there is nothing to compare with.');
      await load();
      await withWork(revision, (work) => setOpened({ kind, revision, work }));
    })();
  const restore = (revision: Revision) =>
    void withWork(revision, (work) => {
      bench.store.getState().change(`version ${revision.version} restored`, work);
      tell(`Version ${revision.version} is here again. Undo takes you back.`);
    });
  const rename = (revision: Revision, name: string) =>
    void (async () => {
      const named = await nameRevision(bench.id, revision.revision, name.trim());
      if (!named.ok) tell(`${named.problem.message} The version has no other name now.`);
      await load();
    })();

  const newest = revisions?.find(({ kind }) => kind === 'saved');
  return (
    <section aria-label="History" className="flex h-full flex-col">
      <div className="mb-2 flex items-center justify-between gap-2">
        <h2 className="font-serif text-lg font-semibold">History</h2>
        <Button kind="quiet" onClick={onClose}>
          Close
        </Button>
      </div>
      <p className="mb-3 text-[13px] text-ink-soft">
        The newest 20 versions, one every five minutes of today, one an hour of this week, one a day before that. The
        first version stays, and so do those with a name.
      </p>
      {trouble && (
        <p role="alert" className="mb-2 text-warn">
          {trouble}
        </p>
      )}
      {!revisions && !trouble && <p className="text-ink-soft">Looking …</p>}
      {revisions && (
        <div className="min-h-0 flex-1">
          {byDay(revisions).map(({ day, revisions: ofDay }) => (
            <section key={day} aria-label={day}>
              <h3 className="mt-2 mb-1 text-[13px] font-semibold text-ink-soft">{day}</h3>
              <ul>
                {ofDay.map((revision) => (
                  <RevisionLine
                    key={revision.revision}
                    revision={revision}
                    isNow={revision === newest}
                    isPicked={picked === revision.revision}
                    onPick={() => setPicked(picked === revision.revision ? undefined : revision.revision)}
                    onLook={() => open('look', revision)}
                    onCompare={() => open('compare', revision)}
                    onRestore={() => restore(revision)}
                    onName={(name) => rename(revision, name)}
                  />
                ))}
              </ul>
            </section>
          ))}
        </div>
      )}
      {opened?.kind === 'look' && (
        <LookSheet
          id={bench.id}
          {...opened}
          onClose={() => setOpened(undefined)}
          onRestore={() => restore(opened.revision)}
        />
      )}
      {opened?.kind === 'compare' && newest && (
        <CompareSheet
          id={bench.id}
          {...opened}
          now={{ revision: newest, work: bench.store.getState().document }}
          onClose={() => setOpened(undefined)}
          onRestore={() => restore(opened.revision)}
        />
      )}
    </section>
  );
}

function RevisionLine({
  revision,
  isNow,
  isPicked,
  onPick,
  onLook,
  onCompare,
  onRestore,
  onName,
}: {
  readonly revision: Revision;
  readonly isNow: boolean;
  readonly isPicked: boolean;
  readonly onPick: () => void;
  readonly onLook: () => void;
  readonly onCompare: () => void;
  readonly onRestore: () => void;
  readonly onName: (name: string) => void;
}) {
  const time = timeText(revision.savedAt);
  return (
    <li className={`border-b border-line ${isPicked ? 'bg-cane-pale/60' : ''}`}>
      <button
        type="button"
        aria-expanded={isPicked}
        onClick={onPick}
        className="flex w-full gap-2 px-1 py-1.5 text-left"
      >
        <span className="w-12 shrink-0 text-[13px] text-ink-soft tabular-nums">{time}</span>
        <span className="min-w-0 flex-1">
          {revision.name && <span className="block font-semibold">{revision.name}</span>}
          <span
            className={`block break-words text-[13px] ${isPicked ? '' : 'line-clamp-3'} ${revision.kind === 'refused' ? 'text-warn' : ''}`}
          >
            {revisionText(revision)}
          </span>
        </span>
        <span className="shrink-0 text-[13px] text-ink-soft">{isNow ? 'now' : `version ${revision.version}`}</span>
      </button>
      {isPicked && (
        <div className="px-1 pb-2">
          <div className="mb-2 flex flex-wrap gap-1.5">
            <Button onClick={onLook}>Look</Button>
            {!isNow && <Button onClick={onCompare}>Compare with now</Button>}
            {!isNow && <Button onClick={onRestore}>Restore</Button>}
          </div>
          <label className="block text-[13px] text-ink-soft">
            Name, to keep it
            <TextInput value={revision.name} onCommit={onName} maxLength={200} placeholder="spring concert" />
          </label>
        </div>
      )}
    </li>
  );
}
