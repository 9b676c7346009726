'use client';

import { becoming, type Work } from '../../core/work';
import { useState } from 'react';
import { LEVELS } from '../../core/instruments';
import {
  allTogether,
  apartBecause,
  costsText,
  eachItsOwn,
  type KeyPlayer,
  movedText,
  playTogether,
  recordingText,
  withOwnKey,
} from '../../core/keys';
import { nameKey } from '../../core/pitch';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { LevelSetting } from './levelSettings';
import type { Dispatch } from '../work/workStore';

const ACT = 'min-h-7 rounded border border-cane bg-paper px-2 font-medium text-cane hover:bg-cane-pale';

/** Who can play at the same time, what keeps the others apart, and one press that puts all of them together. */
export function TogetherWords({
  work,
  settings,
  players,
  onDispatch,
}: {
  readonly work: Work;
  readonly settings: readonly LevelSetting[];
  /** Whom the keys are weighed for. */
  readonly players: readonly KeyPlayer[];
  readonly onDispatch: Dispatch;
}) {
  const { tune } = work;
  const sets = playTogether(settings);
  const [cost, setCost] = useState<string>();
  const playAtOnce = () => {
    const together = allTogether(work, players);
    setCost(costsText(together));
    onDispatch((present) => becoming('Play together', present, allTogether(present, players).work));
  };
  return (
    <section aria-label="Together" className="mt-4 border-t border-line pt-3">
      <h3 className="mb-1 font-semibold">Who can play at the same time</h3>
      {sets.length === 1 ? (
        <p>
          All three levels, in {nameKey(settings[0]?.key ?? tune.key)} at {settings[0]?.tempo.perMinute}.
        </p>
      ) : (
        <ul>
          {sets.map((set) => (
            <li key={set[0]?.level} className="py-0.5">
              {set.map(({ level }) => LEVEL_NAMES[level]).join(' and ')}
              {set.length === 1 ? ' alone' : ' together'}: {nameKey(set[0]?.key ?? tune.key)}, {set[0]?.tempo.perMinute}{' '}
              a minute.
            </li>
          ))}
        </ul>
      )}
      {sets.length > 1 && sets[0]?.[0] && sets[1]?.[0] && (
        <p className="mt-1 text-[13px] text-ink-soft">Apart by {apartBecause(sets[0][0], sets[1][0])}.</p>
      )}
      <p className="mt-1.5 flex flex-wrap gap-1.5">
        <button type="button" className={ACT} onClick={playAtOnce}>
          Play together
        </button>
        <button
          type="button"
          className={ACT}
          onClick={() =>
            onDispatch((present) => becoming('Each level its own key, tempo and form', present, eachItsOwn(present)))
          }
        >
          Each level its own
        </button>
      </p>
      {cost !== undefined && (
        <p role="status" className="mt-1 text-[13px]">
          {cost === '' ? 'All levels play together as they are.' : cost}
        </p>
      )}
      {LEVELS.map((level) => {
        const text = movedText(work, level);
        return (
          text && (
            <p key={level} className="mt-1.5 flex gap-1 text-[13px]">
              <LevelSign level={level} size={15} />
              <span>
                {text}{' '}
                <button
                  type="button"
                  className="min-h-7 text-cane underline underline-offset-2"
                  onClick={() =>
                    onDispatch((present) =>
                      becoming(`${LEVEL_NAMES[level]}: the tune's own key`, present, withOwnKey(present, level)),
                    )
                  }
                >
                  Back to {nameKey(tune.key)}
                </button>
              </span>
            </p>
          )
        );
      })}
      {tune.recordingKey && (
        <ul className="mt-1 text-[13px] text-ink-soft">
          {settings.map(({ level, key }) => (
            <li key={level}>
              {LEVEL_NAMES[level]}: {tune.recordingKey && recordingText(key, tune.recordingKey)}.
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
