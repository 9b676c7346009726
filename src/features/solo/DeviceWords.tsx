'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import type { Level } from '../../core/instruments';
import {
  type Amount,
  SOLO_LIMITS,
  SOLO_TOOLS,
  type SoloTarget,
  type SoloTool,
  type SoloWishes,
  TARGET_DEGREES,
  USUAL,
} from '../../core/solos';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import type { SetSolo } from './soloChange';

const TOOL_NAMES: Readonly<Record<SoloTool, string>> = {
  space: 'Air inside phrases',
  early: 'Notes an eighth early',
  'off-beat': 'Notes off the beat',
  triplets: 'Triplets',
  fours: 'Triplets in groups of four',
  'double-time': 'Sixteenths',
  'ways-in': 'Half steps into chord tones',
};
/** What a level can have more or less of; the rest is not for it yet. */
const TOOLS_OF: Readonly<Record<Level, readonly SoloTool[]>> = {
  beginner: ['space'],
  intermediate: ['space', 'early', 'off-beat'],
  advanced: SOLO_TOOLS,
};
const AMOUNT_NAMES: Readonly<Record<Amount, string>> = { 0: 'none', 1: 'few', 2: 'as usual', 3: 'many' };
const DEGREE_NAMES: Readonly<Record<SoloTarget['degree'], string>> = {
  1: 'root',
  3: 'third',
  5: 'fifth',
  7: 'seventh',
  9: 'ninth',
};

/** How much of each device there is, and on which notes the line lands. */
export function DeviceWords({
  level,
  wishes,
  bars,
  missed,
  onWishes,
}: {
  readonly level: Level;
  readonly wishes: SoloWishes;
  readonly bars: number;
  readonly missed: readonly SoloTarget[];
  readonly onWishes: SetSolo;
}) {
  const [bar, setBar] = useState('1');
  const [degree, setDegree] = useState<'1' | '3' | '5' | '7' | '9'>('3');
  const { tools = {}, targets = [] } = wishes;
  const number = Number(bar);
  const isBar = /^\d+$/.test(bar) && number >= 1 && number <= bars;
  return (
    <div className="space-y-3">
      <section aria-label="Devices">
        <h3 className="font-semibold">How much of each</h3>
        <ul className="leading-8">
          {TOOLS_OF[level].map((tool) => (
            <li key={tool} className="flex items-center justify-between text-[13.5px]">
              {TOOL_NAMES[tool]}
              <Select
                look="word"
                label={TOOL_NAMES[tool]}
                value={String(tools[tool] ?? USUAL)}
                options={([0, 1, 2, 3] as const).map((amount) => ({
                  value: String(amount),
                  label: AMOUNT_NAMES[amount],
                }))}
                onChange={(value) => {
                  const amount = Number(value) as Amount;
                  onWishes(`${TOOL_NAMES[tool]}: ${AMOUNT_NAMES[amount]}`, (present) => {
                    const { [tool]: _, ...rest } = present.tools ?? {};
                    return { tools: amount === USUAL ? rest : { ...rest, [tool]: amount } };
                  });
                }}
              />
            </li>
          ))}
        </ul>
        {TOOLS_OF[level].length < SOLO_TOOLS.length && (
          <p className="text-[12.5px] text-ink-soft">The other devices come with the next level.</p>
        )}
      </section>
      <section aria-label="Targets" className="border-t border-line pt-2">
        <h3 className="font-semibold">Where it lands</h3>
        <p className="text-[13.5px] leading-8">
          Land in bar{' '}
          <input
            aria-label="Bar of the target"
            value={bar}
            maxLength={4}
            inputMode="numeric"
            onChange={({ target }) => setBar(target.value)}
            className="min-h-7 w-10 rounded-t border-b-2 border-cane bg-transparent px-0.5 font-semibold tabular-nums"
          />{' '}
          on the{' '}
          <Select
            look="word"
            label="Degree of the target"
            value={degree}
            options={TARGET_DEGREES.map((one) => ({ value: String(one) as '1', label: DEGREE_NAMES[one] }))}
            onChange={setDegree}
          />{' '}
          <Button
            className="min-h-8 px-2"
            disabled={!isBar || targets.length >= SOLO_LIMITS.targets}
            onClick={() => {
              const target = { bar: number, degree: Number(degree) as SoloTarget['degree'] };
              onWishes(`Bar ${number}: the ${DEGREE_NAMES[target.degree]}`, ({ targets: now = [] }) => ({
                targets: [...now.filter((one) => one.bar !== number), target].toSorted((a, b) => a.bar - b.bar),
              }));
            }}
          >
            Set
          </Button>
        </p>
        {!isBar && (
          <p role="alert" className="text-[12.5px] text-warn">
            The solo has bars 1 to {bars}.
          </p>
        )}
        <ul className="text-[13px]">
          {targets.map((target) => {
            const isMissed = missed.some((one) => one.bar === target.bar);
            return (
              <li key={target.bar} className="flex items-center gap-1">
                <span className="flex-1">
                  bar {target.bar}: the {DEGREE_NAMES[target.degree]}
                  {isMissed && (
                    <span className="text-warn">
                      {' '}
                      is not reached: the level has no such note there, or a kept phrase or a rest lies over it
                    </span>
                  )}
                </span>
                <button
                  type="button"
                  aria-label={`No target in bar ${target.bar}`}
                  className="flex size-7 items-center justify-center rounded hover:bg-cane-pale"
                  onClick={() =>
                    onWishes(`Bar ${target.bar}: no target`, (present) => ({
                      targets: others(present.targets ?? [], target.bar),
                    }))
                  }
                >
                  <X size={14} aria-hidden="true" />
                </button>
              </li>
            );
          })}
        </ul>
      </section>
    </div>
  );
}

function others(targets: readonly SoloTarget[], bar: number): readonly SoloTarget[] | undefined {
  const left = targets.filter((one) => one.bar !== bar);
  return left.length > 0 ? left : undefined;
}
