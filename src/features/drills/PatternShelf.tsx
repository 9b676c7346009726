'use client';

import { useEffect, useState } from 'react';
import { PATTERN_GROUPS, PATTERNS } from '../../core/drills';
import type { ScaleName } from '../../core/harmony';
import type { Draws } from '../work/useEngraving';

/** Pictures that are asked for together, and how long they wait for the drill, in milliseconds. */
const AT_ONCE = 3;
const WAIT = 700;

/** Every pattern with a picture of its first bars over the drill's set. */
export function PatternShelf({
  set,
  chosen,
  hasForm,
  draws,
  onPick,
}: {
  readonly set: ScaleName;
  readonly chosen: string;
  readonly hasForm: boolean;
  readonly draws: Draws;
  readonly onPick: (id: string, name: string) => void;
}) {
  const [pictures, setPictures] = useState<ReadonlyMap<string, string>>(new Map());
  useEffect(() => {
    let isNewest = true;
    const draw = async () => {
      // A few at a time: the drill itself is drawn by the same worker, and comes first.
      for (let from = 0; isNewest && from < PATTERNS.length; from += AT_ONCE) {
        const made = await draws.patterns(
          set,
          PATTERNS.slice(from, from + AT_ONCE).map(({ id }) => id),
        );
        if (isNewest) setPictures((before) => new Map([...before, ...made.map(({ id, svg }) => [id, svg] as const)]));
      }
    };
    const timer = setTimeout(() => void draw(), WAIT);
    return () => {
      isNewest = false;
      clearTimeout(timer);
    };
  }, [draws, set]);
  return (
    <div>
      {PATTERN_GROUPS.map((group) => {
        const entries = PATTERNS.filter((entry) => entry.group === group);
        if (group === 'Over a tune' && !hasForm) return null;
        return (
          <section key={group} aria-label={group} className="mb-3">
            <h3 className="mb-1 text-[13px] font-semibold text-ink-soft">{group}</h3>
            <ul>
              {entries.map(({ id, name }) => {
                const picture = pictures.get(id);
                return (
                  <li key={id}>
                    <button
                      type="button"
                      aria-pressed={id === chosen}
                      onClick={() => onPick(id, name)}
                      className="mb-1 block w-full rounded border border-line bg-paper px-2 py-1 text-left hover:bg-cane-pale aria-pressed:border-cane aria-pressed:outline aria-pressed:outline-cane"
                    >
                      <span className="block text-[13px] font-medium first-letter:uppercase">{name}</span>
                      {picture && (
                        <span
                          aria-hidden="true"
                          className="music block"
                          dangerouslySetInnerHTML={{ __html: picture }}
                        />
                      )}
                    </button>
                  </li>
                );
              })}
            </ul>
          </section>
        );
      })}
    </div>
  );
}
