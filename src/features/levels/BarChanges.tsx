'use client';

import { useState } from 'react';
import type { Level } from '../../core/instruments';
import type { LaneInfo } from '../../engrave/lanes';
import type { Selection } from '../work/workStore';

/** What the level changed: at the picked bar, or all of it by bar. */
export function BarChanges({
  info,
  level,
  selection,
  numbers,
  onSelect,
}: {
  readonly info: LaneInfo;
  readonly level: Level;
  readonly selection: Selection | undefined;
  readonly numbers: readonly number[];
  readonly onSelect: (selection: Selection) => void;
}) {
  const [showAll, setShowAll] = useState(false);
  const bar = selection?.lane === level ? selection.bar : undefined;
  const isAtBar = bar !== undefined && !showAll;
  const shown = isAtBar ? info.changes.filter(({ barIndex }) => barIndex === bar) : info.changes;
  const outside = isAtBar ? info.outside.filter(({ barIndex }) => barIndex === bar) : info.outside;
  return (
    <section className="mt-4" aria-label="Changes">
      <div className="flex items-baseline justify-between">
        <h3 className="font-semibold">{isAtBar ? `Bar ${numbers[bar] ?? ''}` : 'Changes'}</h3>
        {bar !== undefined && (
          <button
            type="button"
            onClick={() => setShowAll(!showAll)}
            className="min-h-7 text-[13px] text-cane underline underline-offset-2"
          >
            {showAll ? `bar ${numbers[bar] ?? ''} only` : 'all bars'}
          </button>
        )}
      </div>
      {isAtBar && <p className="mt-1 text-[13px] text-ink-soft">{info.barTexts[bar]}</p>}
      {shown.length === 0 && outside.length === 0 && (
        <p className="mt-1 text-ink-soft">
          {isAtBar ? 'This bar is as in the tune.' : 'Nothing: every bar is as in the tune.'}
        </p>
      )}
      <ul className="mt-1">
        {isAtBar &&
          shown.map((change, index) => (
            <li key={index} className="py-1">
              {change.what} <span className="text-ink-soft">({change.why})</span>
            </li>
          ))}
        {!isAtBar &&
          reasonsOf(shown).map(({ why, changes }) => (
            <li key={why} className="mt-2">
              <p className="text-[13px] text-ink-soft">
                {why[0]?.toUpperCase()}
                {why.slice(1)}:
              </p>
              <ul>
                {changes.map((change, index) => (
                  <li key={index} className="border-t border-line py-1 first:border-t-0">
                    <button
                      type="button"
                      onClick={() => {
                        setShowAll(false);
                        onSelect({ lane: level, bar: change.barIndex });
                      }}
                      className="mr-1.5 min-h-7 font-semibold text-cane underline underline-offset-2"
                    >
                      Bar {change.bar}
                    </button>
                    {change.what}
                  </li>
                ))}
              </ul>
            </li>
          ))}
        {outside.map((note, index) => (
          <li key={`outside-${index}`} className="border-t border-line py-1.5 text-warn">
            {isAtBar ? '' : `Bar ${note.bar}: `}
            {note.pitch} lies outside what this level usually plays.
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Changes under their reasons: a reason is said once, however many bars it has. */
function reasonsOf(
  changes: LaneInfo['changes'],
): readonly { readonly why: string; readonly changes: LaneInfo['changes'] }[] {
  return [...new Set(changes.map(({ why }) => why))].map((why) => ({
    why,
    changes: changes.filter((change) => change.why === why),
  }));
}
