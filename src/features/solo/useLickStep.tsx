'use client';

import { becoming } from '../../core/work';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import { lickFacts, readSolo } from '../../core/solos';
import { type LickNotes, MAX_LICK_PUPILS } from '../../core/score';
import type { Bench, ViewContent } from '../work/step';
import { SoloFacts } from './SoloFacts';

/** The Lick step: what a lick fits, who has it, and what its notes do. */
export function useLickStep(bench: Bench, isOpen: boolean): ViewContent {
  const { store, studio } = bench;
  const tune = useStore(store, ({ document }) => document.tune);
  const facts = useMemo(() => (isOpen ? lickFacts(tune) : undefined), [isOpen, tune]);
  const read = useMemo(() => (isOpen ? readSolo(tune) : undefined), [isOpen, tune]);
  const { lick } = tune;
  if (!isOpen || !lick) return { drawer: () => null };
  const pupils = lick.pupils ?? [];
  const names = [
    ...new Set([...studio.groups.flatMap(({ group }) => group.players.map(({ name }) => name ?? '')), ...pupils]),
  ].filter(Boolean);
  const setPupils = (what: string, change: (present: readonly string[]) => readonly string[]) =>
    store.getState().dispatch((present) => {
      const next = change(present.tune.lick?.pupils ?? []);
      const notes: LickNotes = next.length > 0 ? { pupils: next.slice(0, MAX_LICK_PUPILS) } : {};
      return becoming(what, present, { ...present, tune: { ...present.tune, lick: notes } });
    });
  return {
    drawer: () => (
      <div className="space-y-3">
        <section aria-label="What it fits">
          <h3 className="font-semibold">What it fits</h3>
          {facts ? (
            <p className="text-[13.5px]">
              {facts.bars === 1 ? 'One bar' : `${facts.bars} bars`} {facts.fits}:{' '}
              <span className="font-serif">{facts.numerals}</span>
            </p>
          ) : (
            <p className="text-[13.5px] text-ink-soft">
              Write chords over it on the Tune step: a lick is found by them.
            </p>
          )}
        </section>
        <fieldset className="border-t border-line pt-2">
          <legend className="float-left w-full font-semibold">Who has it</legend>
          {names.length === 0 && <p className="text-[13px] text-ink-soft">No group has players yet.</p>}
          <ul className="clear-both columns-2 text-[13.5px]">
            {names.map((name) => (
              <li key={name}>
                <label className="flex min-h-8 items-center gap-1.5">
                  <input
                    type="checkbox"
                    className="size-5 accent-cane"
                    checked={pupils.includes(name)}
                    onChange={({ target }) =>
                      target.checked
                        ? setPupils(`${name} has it`, (now) => [...now.filter((one) => one !== name), name])
                        : setPupils(`${name} has it no more`, (now) => now.filter((one) => one !== name))
                    }
                  />
                  {name}
                </label>
              </li>
            ))}
          </ul>
        </fieldset>
        {read && <SoloFacts solo={read} />}
      </div>
    ),
  };
}
