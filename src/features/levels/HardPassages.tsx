'use client';

import { judgementText, passagesThatStandOut } from '../../core/analysis';
import { LEVELS } from '../../core/instruments';
import type { BarChoices } from '../../core/work';
import type { LaneInfo } from '../../engrave/lanes';

/** How hard the hardest bar of a passage is, for a player of the lane's level. */
function hardness({ id, difficulty }: LaneInfo, run: readonly number[]): string {
  const total = Math.max(...run.map((bar) => difficulty[bar]?.total ?? 0));
  const level = LEVELS.find((one) => one === id);
  return level ? judgementText(total, level) : `${total.toFixed(1)} of 10`;
}

/** Names passages much harder than the rest and lets them be bracketed as ones that may be left out. */
export function HardPassages({
  info,
  bars,
  chosen,
  numbers,
  onSelect,
  onLeaveOut,
}: {
  readonly info: LaneInfo;
  readonly bars: readonly string[];
  readonly chosen: BarChoices;
  readonly numbers: readonly number[];
  readonly onSelect: (bar: number) => void;
  /** Sets some bars beside those that are chosen already. */
  readonly onLeaveOut: (what: string, bars: BarChoices) => void;
}) {
  const passages = passagesThatStandOut(info.difficulty).filter((run) =>
    run.some((bar) => chosen[bars[bar] ?? ''] === undefined),
  );
  if (passages.length === 0) return null;
  return (
    <ul className="mt-1 text-[13px]">
      {passages.slice(0, 3).map((run) => {
        const [first = 0] = run;
        const last = run.at(-1) ?? first;
        const name =
          first === last ? `Bar ${numbers[first] ?? ''}` : `Bars ${numbers[first] ?? ''} to ${numbers[last] ?? ''}`;
        const leave = () =>
          onLeaveOut(
            `${name.toLowerCase()} optional`,
            Object.fromEntries(run.map((bar) => [bars[bar] ?? '', { kind: 'optional' as const }])),
          );
        return (
          <li key={first}>
            <button
              type="button"
              onClick={() => onSelect(first)}
              className="min-h-7 font-semibold text-cane underline underline-offset-2"
            >
              {name}
            </button>{' '}
            {first === last ? 'is' : 'are'} much harder than the rest: {hardness(info, run)}.{' '}
            <button type="button" onClick={leave} className="min-h-7 text-cane underline underline-offset-2">
              Mark as optional
            </button>
          </li>
        );
      })}
    </ul>
  );
}
