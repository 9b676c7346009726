'use client';

import { useState, type ReactNode } from 'react';
import { printKey } from '../../../core/pitch';
import {
  type Caret,
  type EditResult,
  isLanding,
  markBar,
  setEnding,
  setKeyFrom,
  setMeterFrom,
  setTempoFrom,
  toggleJump,
  toggleRepeat,
} from '../../../core/score/edit';
import { barNumbers, type Jump, JUMPS, keysOf, TEMPO_LIMITS, type Tune } from '../../../core/score';
import { parseMeter, printMeter } from '../../../core/time';
import { keyOf, keyOptions } from '../keyOptions';
import { barsMeant } from './commands';
import type { Writing } from './writingStore';

const JUMP_NAMES: Readonly<Record<Jump, string>> = {
  segno: 'Segno',
  coda: 'Coda',
  fine: 'Fine',
  'to-coda': 'To Coda',
  dc: 'D.C.',
  'dc-al-fine': 'D.C. al Fine',
  'dc-al-coda': 'D.C. al Coda',
  ds: 'D.S.',
  'ds-al-fine': 'D.S. al Fine',
  'ds-al-coda': 'D.S. al Coda',
};
const ENDINGS: readonly (readonly [string, readonly number[]])[] = [
  ['1.', [1]],
  ['2.', [2]],
  ['3.', [3]],
  ['1. 2.', [1, 2]],
];
const METERS = ['2/4', '3/4', '4/4', '2/2', '5/4', '3/8', '5/8', '6/8', '7/8', '9/8', '12/8'];
const BUTTON =
  'min-h-7 rounded border px-1.5 text-[13px] hover:bg-cane-pale aria-pressed:border-reed aria-pressed:bg-reed aria-pressed:text-white';
const SELECT = 'min-h-8 w-full rounded border border-edge bg-paper px-1';

/**
 * Where the music goes at this bar (repeats, endings, jumps, its line), and what changes from it on (key, meter,
 * tempo).
 */
export function BarField({ writing, tune }: { readonly writing: Writing; readonly tune: Tune }) {
  const [from, to] = barsMeant(writing);
  const numbers = barNumbers(tune);
  const [first, last] = [tune.bars[from], tune.bars[to]];
  const keys = keysOf(tune);
  const here = tune.bars[writing.caret.bar];
  const run = (make: (line: Tune, caret: Caret) => EditResult) => writing.run(make, { keepSelection: true });
  if (!first || !last) return <p>Put the caret into a bar.</p>;
  const isRepeated = last.repeatEnd !== undefined && (first.repeatStart === true || from === 0);
  const tempo = first.tempos?.find(({ at }) => at === 0)?.tempo;
  const press = (label: string, isOn: boolean, act: () => void) => (
    <button key={label} type="button" aria-pressed={isOn} className={`${BUTTON} border-line bg-paper`} onClick={act}>
      {label}
    </button>
  );
  const jumps = (isAtStart: boolean) =>
    JUMPS.filter((jump) => isLanding(jump) === isAtStart).map((jump) =>
      press(JUMP_NAMES[jump], (isAtStart ? first : last).jumps?.includes(jump) === true, () =>
        run((line, at) => toggleJump(line, isAtStart ? from : to, jump, at)),
      ),
    );
  return (
    <div>
      <p className="mb-2 font-semibold">
        {from === to ? `Bar ${numbers[from]}` : `Bars ${numbers[from]}–${numbers[to]}`}
      </p>
      <Group name="Repeat and ending">
        {press('repeat', isRepeated, () => run((line, at) => toggleRepeat(line, from, to, at)))}
        {ENDINGS.map(([label, times]) =>
          press(label, first.ending?.join() === times.join(), () =>
            run((line, at) => setEnding(line, from, to, first.ending?.join() === times.join() ? undefined : times, at)),
          ),
        )}
      </Group>
      <Group name="Its line">
        {press('plain', last.barline === undefined, () =>
          run((line, at) => markBar(line, to, { barline: undefined }, at, 'Plain barline')),
        )}
        {press('double', last.barline === 'double', () =>
          run((line, at) => markBar(line, to, { barline: 'double' }, at, 'Double barline')),
        )}
        {press('final', last.barline === 'final', () =>
          run((line, at) => markBar(line, to, { barline: 'final' }, at, 'Final barline')),
        )}
      </Group>
      <Group name="At its beginning">{jumps(true)}</Group>
      <Group name="At its end">{jumps(false)}</Group>
      {from === 0 ? (
        <p className="text-[12.5px] text-ink-soft">
          Key, meter and tempo of the first bar are the tune&apos;s own: see Details.
        </p>
      ) : (
        <div role="group" aria-label="From here on" className="grid grid-cols-[1fr_1fr_4.5rem] gap-2">
          <Labelled name="Key">
            <select
              aria-label="Key from here"
              className={SELECT}
              value={first.key ? printKey(first.key) : ''}
              onChange={({ target }) => run((line, at) => setKeyFrom(line, from, keyOf(target.value), at))}
            >
              <option value="">as before</option>
              {keyOptions((first.key ?? keys[from - 1] ?? tune.key).mode, first.key ? [first.key] : []).map(
                ({ value, label }) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ),
              )}
            </select>
          </Labelled>
          <Labelled name="Meter">
            <select
              aria-label="Meter from here"
              className={SELECT}
              value={first.meter ? printMeter(first.meter) : ''}
              onChange={({ target }) => run((line, at) => setMeterFrom(line, from, parseMeter(target.value), at))}
            >
              <option value="">as before</option>
              {[...new Set([...METERS, ...(first.meter ? [printMeter(first.meter)] : [])])].map((value) => (
                <option key={value} value={value}>
                  {value}
                </option>
              ))}
            </select>
          </Labelled>
          <TempoField
            key={`${here?.id}/${tempo?.perMinute}`}
            value={tempo?.perMinute}
            onSet={(perMinute) =>
              run((line, at) =>
                setTempoFrom(
                  line,
                  from,
                  perMinute === undefined
                    ? undefined
                    : { beat: tempo?.beat ?? tune.tempo.beat, perMinute, ...(tempo?.words && { words: tempo.words }) },
                  at,
                ),
              )
            }
          />
        </div>
      )}
    </div>
  );
}

function Group({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <div role="group" aria-label={name} className="mb-2">
      <div className="mb-1 text-[13px] font-medium text-ink-soft">{name}</div>
      <div className="flex flex-wrap gap-1">{children}</div>
    </div>
  );
}

function Labelled({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <div>
      <div className="mb-1 text-[13px] font-medium text-ink-soft">{name}</div>
      {children}
    </div>
  );
}

function TempoField({
  value,
  onSet,
}: {
  readonly value: number | undefined;
  readonly onSet: (perMinute: number | undefined) => void;
}) {
  const [typed, setTyped] = useState(value === undefined ? '' : String(value));
  const [problem, setProblem] = useState('');
  const commit = () => {
    const text = typed.trim();
    if (text === (value === undefined ? '' : String(value))) return;
    const number = Number(text);
    const isTempo = /^\d+$/.test(text) && number >= TEMPO_LIMITS.slowest && number <= TEMPO_LIMITS.fastest;
    setProblem(text === '' || isTempo ? '' : `From ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest} beats a minute.`);
    if (text === '') onSet(undefined);
    else if (isTempo) onSet(number);
  };
  return (
    <Labelled name="Tempo">
      <input
        aria-label="Tempo from here"
        inputMode="numeric"
        maxLength={4}
        placeholder="as before"
        value={typed}
        className={SELECT}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === 'Enter') {
            event.preventDefault();
            commit();
          }
        }}
      />
      {problem && (
        <p role="alert" className="mt-1 text-[12.5px] text-warn">
          {problem}
        </p>
      )}
    </Labelled>
  );
}
