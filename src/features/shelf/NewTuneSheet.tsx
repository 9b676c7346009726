'use client';

import { withStartKey } from '../../core/keys';
import { useState, type FormEvent, type ReactNode } from 'react';
import { z } from 'zod';
import { storedWork } from '../../core/work/stored';
import { parseProgressionForm, progressionChords, progressionProblemText, readForm } from '../../core/harmony';
import { type Mode, MODES, parseKey, printPitchClass } from '../../core/pitch';
import { MAX_NEW_BARS, newTune, tuneOfProgression } from '../../core/score/edit';
import type { Tune } from '../../core/score';
import { barTicks, type Meter, parseMeter, type Ticks, TICKS_PER_QUARTER } from '../../core/time';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { Field } from '../../ui/Field';
import { Sheet } from '../../ui/Sheet';
import { keyOptions } from '../work/keyOptions';
import { send } from '../work/send';

const METERS = ['4/4', '3/4', '2/4', '2/2', '6/8', '9/8', '12/8', '3/8', '5/4', '7/8'];
const PICKUPS: readonly { readonly value: string; readonly label: string; readonly ticks: Ticks }[] = [
  { value: 'none', label: 'none', ticks: 0 },
  { value: 'eighth', label: 'an eighth', ticks: TICKS_PER_QUARTER / 2 },
  { value: 'quarter', label: 'a quarter', ticks: TICKS_PER_QUARTER },
  { value: 'quarter.', label: 'a dotted quarter', ticks: TICKS_PER_QUARTER * 1.5 },
  { value: 'half', label: 'a half', ticks: TICKS_PER_QUARTER * 2 },
  { value: 'half.', label: 'a dotted half', ticks: TICKS_PER_QUARTER * 3 },
];
const USUAL_BARS = '16';
const MAX_PROGRESSION = 8_000;
const INPUT = 'min-h-9 w-full rounded border border-edge bg-paper px-2';

interface Props {
  readonly onClose: () => void;
  /** The id of the tune that was made. */
  readonly onMade: (id: string) => void;
}

interface Head {
  readonly title: string;
  readonly key: string;
  readonly mode: Mode;
  readonly meter: string;
}

const FIRST_HEAD: Head = { title: '', key: 'C', mode: 'major', meter: '4/4' };

/** A tune from nothing: bars of rest under a key and a meter, to be written. */
export function NewTuneSheet({ onClose, onMade }: Props) {
  const [head, setHead] = useState(FIRST_HEAD);
  const [pickup, setPickup] = useState('none');
  const [bars, setBars] = useState(USUAL_BARS);
  const meter = parseMeter(head.meter);
  const pickups = PICKUPS.filter(({ ticks }) => meter && ticks < barTicks(meter));
  const count = Number(bars);
  const isCount = /^\d+$/.test(bars.trim()) && count >= 1 && count <= MAX_NEW_BARS;
  const make = () => {
    const facts = factsOf(head);
    const ticks = pickups.find(({ value }) => value === pickup)?.ticks ?? 0;
    return facts && isCount ? newTune({ ...facts, bars: count, pickup: ticks }) : undefined;
  };
  return (
    <NewSheet
      title="New tune"
      description="Empty bars that you write into. All of this can be changed later."
      make={make}
      isReady={isCount}
      onClose={onClose}
      onMade={onMade}
    >
      <HeadFields head={head} onHead={setHead} />
      <div className="grid grid-cols-2 gap-3">
        <Field label="Pickup">
          {() => (
            <Select
              label="Pickup"
              value={pickups.some(({ value }) => value === pickup) ? pickup : 'none'}
              options={pickups}
              onChange={setPickup}
            />
          )}
        </Field>
        <Field label="Bars" {...(!isCount && { problem: `Write a number from 1 to ${MAX_NEW_BARS}.` })}>
          {(id, describedBy) => (
            <input
              id={id}
              aria-describedby={describedBy}
              inputMode="numeric"
              maxLength={3}
              value={bars}
              onChange={({ target }) => setBars(target.value)}
              className={INPUT}
            />
          )}
        </Field>
      </div>
    </NewSheet>
  );
}

/** A chord progression typed as text, as a form without a melody. */
export function NewProgressionSheet({ onClose, onMade }: Props) {
  const [head, setHead] = useState(FIRST_HEAD);
  const [isKeyChosen, setKeyChosen] = useState(false);
  const [text, setText] = useState('');
  const read = parseProgressionForm(text);
  const type = (next: string) => {
    setText(next);
    // Until somebody says otherwise, the key is the one that the chords speak for.
    const key = isKeyChosen ? undefined : keyOfChords(next, head.meter);
    if (key) setHead((before) => ({ ...before, ...key }));
  };
  const problems = text.trim() === '' || read.ok ? [] : read.problem;
  const make = () => {
    const facts = factsOf(head);
    return facts && read.ok ? tuneOfProgression(facts, read.value.bars, read.value.marks) : undefined;
  };
  return (
    <NewSheet
      title="New progression"
      description="A form without a melody: chords over empty bars."
      make={make}
      isReady={read.ok}
      onClose={onClose}
      onMade={onMade}
    >
      <HeadFields
        head={head}
        onHead={(next) => {
          if (next.key !== head.key || next.mode !== head.mode) setKeyChosen(true);
          setHead(next);
        }}
      />
      <Field
        label="Chords"
        {...(problems.length > 0 && { problem: problems.slice(0, 4).map(progressionProblemText).join('; ') })}
        help={
          read.ok
            ? `${read.value.bars.length} ${read.value.bars.length === 1 ? 'bar' : 'bars'}`
            : 'A barline | between bars, a space between chords in one bar, % for the same as the bar before, |: and :| for a repeat, [A] for a section.'
        }
      >
        {(id, describedBy) => (
          <textarea
            id={id}
            aria-describedby={describedBy}
            spellCheck={false}
            rows={5}
            maxLength={MAX_PROGRESSION}
            value={text}
            onChange={({ target }) => type(target.value)}
            placeholder="Fm7 | Bb7 | Ebmaj7 | %"
            className={`${INPUT} py-1.5 font-mono text-[13px] leading-5`}
          />
        )}
      </Field>
    </NewSheet>
  );
}

function HeadFields({ head, onHead }: { readonly head: Head; readonly onHead: (head: Head) => void }) {
  return (
    <>
      <Field label="Title">
        {(id) => (
          <input
            id={id}
            maxLength={200}
            value={head.title}
            onChange={({ target }) => onHead({ ...head, title: target.value })}
            className={INPUT}
          />
        )}
      </Field>
      <div className="grid grid-cols-3 gap-3">
        <Field label="Key">
          {() => (
            <Select
              label="Key"
              value={head.key}
              options={keyOptions(head.mode).map(({ value, label, ...rest }) => ({
                value: tonicOf(value),
                label: label.replace(/ .*/, ''),
                ...rest,
              }))}
              onChange={(key) => onHead({ ...head, key })}
            />
          )}
        </Field>
        <Field label="Mode">
          {() => (
            <Select<Mode>
              label="Mode"
              value={head.mode}
              options={MODES.map((mode) => ({ value: mode, label: mode }))}
              onChange={(mode) => onHead(withMode(head, mode))}
            />
          )}
        </Field>
        <Field label="Meter">
          {() => (
            <Select
              label="Meter"
              value={head.meter}
              options={METERS.map((value) => ({ value, label: value }))}
              onChange={(meter) => onHead({ ...head, meter })}
            />
          )}
        </Field>
      </div>
    </>
  );
}

/** The key that typed chords speak for; none while they cannot be read. */
function keyOfChords(text: string, meterText: string): Pick<Head, 'key' | 'mode'> | undefined {
  const read = parseProgressionForm(text);
  const meter = parseMeter(meterText);
  if (!read.ok || !meter) return undefined;
  const { bars } = read.value;
  const { home } = readForm(progressionChords(bars, meter), { bars: bars.length });
  return { key: printPitchClass(home.tonic), mode: home.mode };
}

/** `Am` and `A dorian` have the tonic `A`. */
function tonicOf(key: string): string {
  return key.replace(/m$| .*/, '');
}

/** Another mode over the same tonic where that key is in use, else over the first that is. */
function withMode(head: Head, mode: Mode): Head {
  const tonics = keyOptions(mode).map(({ value }) => tonicOf(value));
  return { ...head, mode, key: tonics.includes(head.key) ? head.key : (tonics[6] ?? head.key) };
}

function factsOf({ title, key, mode, meter }: Head): Pick<Tune, 'title' | 'key' | 'meter'> | undefined {
  const [parsedKey, parsedMeter] = [parseKey(`${key} ${mode}`), parseMeter(meter) satisfies Meter | undefined];
  return parsedKey.ok && parsedMeter ? { title: title.trim(), key: parsedKey.value, meter: parsedMeter } : undefined;
}

/** The frame of both sheets: makes the tune, puts it on the shelf, and says what went wrong. */
function NewSheet({
  title,
  description,
  make,
  isReady,
  children,
  onClose,
  onMade,
}: Props & {
  readonly title: string;
  readonly description: string;
  readonly make: () => Tune | undefined;
  readonly isReady: boolean;
  readonly children: ReactNode;
}) {
  const [problem, setProblem] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const tune = make();
    if (!tune) return;
    setBusy(true);
    const made = await send('/api/tunes/new', z.object({ id: z.string() }), {
      method: 'POST',
      json: storedWork(withStartKey({ tune, recipes: {} })),
    });
    setBusy(false);
    if (made.ok) onMade(made.value.id);
    else setProblem(`${made.problem.message} Nothing was saved yet; please try again.`);
  };
  return (
    <Sheet open onClose={onClose} title={title} description={description} width="max-w-xl">
      <form onSubmit={(event) => void submit(event)} className="min-h-0 overflow-y-auto p-0.5">
        {children}
        {problem && (
          <p role="alert" className="mb-2 text-warn">
            {problem}
          </p>
        )}
        <div className="flex justify-end gap-2 border-t border-line pt-3">
          <Button kind="quiet" type="button" onClick={onClose}>
            Cancel
          </Button>
          <Button kind="main" type="submit" disabled={!isReady || isBusy}>
            Save to the shelf
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
