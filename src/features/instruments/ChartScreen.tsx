'use client';

import { Printer } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import {
  customInstrument,
  type CustomInstrument,
  customInstrumentProblems,
  type HoleChart,
  type Instrument,
  instrumentById,
  type Level,
  LEVELS,
  type WrittenRange,
} from '../../core/instruments';
import { parseNotes, parsePitch, type Pitch, printNotes, printPitch } from '../../core/pitch';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { HelpSheet } from '../../ui/HelpSheet';
import { Rail } from '../../ui/Rail';
import { Sheet } from '../../ui/Sheet';
import { useToast } from '../../ui/Toast';
import { nothing, send } from '../work/send';
import { transpositionText } from './transpositionText';

/** A note of the chart, drawn on the server. */
export interface ChartNote {
  readonly name: string;
  readonly level: Level | 'beyond';
  readonly ways: readonly { readonly svg: string; readonly words: string; readonly when?: string }[];
}

const LEVEL_TEXT: Readonly<Record<Level | 'beyond', string>> = {
  beginner: 'First notes',
  intermediate: 'Then',
  advanced: 'Later',
  beyond: 'Beyond',
};

/** One instrument: its facts, and how every note of it is played, to read and to print. */
export function ChartScreen({
  id,
  custom,
  notes,
  systems,
  system,
}: {
  readonly id: string;
  readonly custom: CustomInstrument | undefined;
  readonly notes: readonly ChartNote[];
  readonly systems: readonly { readonly id: HoleChart; readonly name: string }[];
  readonly system: HoleChart | undefined;
}) {
  const [help, setHelp] = useState(false);
  const [making, setMaking] = useState(false);
  const instrument = custom ? customInstrument(custom) : instrumentById(id);
  const router = useRouter();
  const tell = useToast();
  if (!instrument) return null;
  const remove = async (gone: CustomInstrument) => {
    const removed = await send(`/api/instruments/${id}`, nothing, { method: 'DELETE' });
    if (!removed.ok) return tell(`${removed.problem.message} “${gone.name}” was not removed.`);
    const restore = async () => {
      const restored = await send(`/api/instruments/${id}`, nothing, { method: 'PUT', json: gone });
      if (restored.ok) router.refresh();
      else tell(`${restored.problem.message} “${gone.name}” was not restored.`);
    };
    tell(`“${gone.name}” was removed. Players and levels that use it keep it.`, {
      label: 'Restore',
      run: () => void restore(),
    });
    router.push('/instruments');
    router.refresh();
  };
  const levels = ([...LEVELS, 'beyond'] as const).filter((level) => notes.some((note) => note.level === level));
  return (
    <div className="app-frame flex h-dvh print:block print:h-auto">
      <Rail here="instruments" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="flex items-center justify-between gap-4 border-b border-line bg-panel px-6 py-3 print:border-0 print:bg-white print:px-0">
          <div>
            <p className="no-print text-[13px]">
              <Link href="/instruments" className="text-cane underline underline-offset-2">
                Instruments
              </Link>
            </p>
            <h1 className="font-serif text-[22px] leading-7 font-semibold">{instrument.name}</h1>
            <p className="text-[13px] text-ink-soft">
              Reads {transpositionText(instrument.transposition.chromatic)} · first keys{' '}
              {instrument.homeKeys.join(', ').replaceAll('b', '♭')}
              {instrument.breaks.length > 0 ? ` · the break lies at ${breakText(instrument)}` : ''}
            </p>
          </div>
          <div className="no-print flex gap-2">
            {custom && (
              <Button className="min-h-9" onClick={() => void remove(custom)}>
                Remove
              </Button>
            )}
            <Button className="min-h-9" onClick={() => setMaking(true)}>
              {custom ? 'Change this one' : 'Make a custom one from it'}
            </Button>
            <Button kind="main" className="min-h-9 px-4" onClick={() => window.print()}>
              <Printer size={15} aria-hidden="true" />
              Print
            </Button>
          </div>
        </header>
        <main
          className="print-plain relative min-h-0 flex-1 overflow-auto bg-paper px-4 py-4 md:px-6"
          tabIndex={0}
          aria-label="Fingerings"
        >
          {systems.length > 1 && (
            <p className="mb-3">
              {systems.map((one) => (
                <Link
                  key={one.id}
                  href={`/instruments/${id}?system=${one.id}`}
                  aria-current={one.id === system ? 'true' : undefined}
                  className={`mr-3 inline-flex min-h-7 items-center ${one.id === system ? 'font-semibold' : 'no-print text-cane underline underline-offset-2'}`}
                >
                  {one.name[0]?.toUpperCase()}
                  {one.name.slice(1)}
                </Link>
              ))}
            </p>
          )}
          {notes.length === 0 && <p>There are no fingerings to show for this one.</p>}
          {levels.map((level) => (
            <section key={level} aria-label={LEVEL_TEXT[level]} className="mb-5">
              <h2 className="mb-2 font-serif text-base font-semibold">
                {LEVEL_TEXT[level]}
                {level !== 'beyond' && (
                  <span className="ml-2 font-sans text-[13px] font-normal text-ink-soft">
                    {rangeText(instrument.range[level])}
                  </span>
                )}
              </h2>
              <ul className="flex flex-wrap gap-x-4 gap-y-4">
                {notes
                  .filter((note) => note.level === level)
                  .map((note) => (
                    <li key={note.name} className="break-inside-avoid border-l border-line pl-2.5">
                      <p className="mb-1 font-semibold">{note.name}</p>
                      <div className="flex gap-2.5">
                        {note.ways.length === 0 && (
                          <p className="w-20 text-[12px] text-ink-soft">charts differ: ask the teacher</p>
                        )}
                        {note.ways.map((way, index) => (
                          <figure key={index} className={index > 0 ? 'max-w-26 opacity-90' : ''}>
                            <div className="finger-diagram" dangerouslySetInnerHTML={{ __html: way.svg }} />
                            {way.when && (
                              <figcaption className="mt-0.5 text-[11.5px] leading-3.5 text-ink-soft">
                                {way.when}
                              </figcaption>
                            )}
                          </figure>
                        ))}
                      </div>
                    </li>
                  ))}
              </ul>
            </section>
          ))}
          <p className="max-w-prose text-[12.5px] text-ink-soft">
            {instrument.source} Ranges differ by author and by player: a group&apos;s table takes a player&apos;s own.
          </p>
        </main>
      </div>
      {making && (
        <OwnSheet
          instrument={instrument}
          custom={custom}
          systems={systems}
          system={system}
          onClose={() => setMaking(false)}
        />
      )}
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

function rangeText({ low, high }: WrittenRange): string {
  return `${printPitch(low)} to ${printPitch(high)}`;
}

function breakText({ breaks }: Instrument): string {
  const [first] = breaks;
  return first ? `${printPitch(first[0])} to ${printPitch(first[1])}` : '';
}

const ALL = [...LEVELS, 'full'] as const;

/** Another name, transposition, tuning or range for a copy of an instrument. */
function OwnSheet({
  instrument,
  custom,
  systems,
  system,
  onClose,
}: {
  readonly instrument: Instrument;
  readonly custom: CustomInstrument | undefined;
  readonly systems: readonly { readonly id: HoleChart; readonly name: string }[];
  readonly system: HoleChart | undefined;
  readonly onClose: () => void;
}) {
  const [chart, setChart] = useState(system);
  const router = useRouter();
  const tell = useToast();
  const { mechanism } = instrument;
  const hasStrings = mechanism.kind === 'bowed' || mechanism.kind === 'fretted';
  const [name, setName] = useState(custom ? custom.name : `${instrument.name}, custom`);
  const [steps, setSteps] = useState(String(instrument.transposition.chromatic));
  const [strings, setStrings] = useState(hasStrings ? printNotes(mechanism.strings) : '');
  const [ranges, setRanges] = useState(
    () =>
      Object.fromEntries(
        ALL.map((level) => [
          level,
          `${printPitch(instrument.range[level].low)} ${printPitch(instrument.range[level].high)}`,
        ]),
      ) as Record<(typeof ALL)[number], string>,
  );
  const [problems, setProblems] = useState<readonly string[]>([]);

  const save = async () => {
    const found: string[] = [];
    const chromatic = Number(steps);
    if (!/^[+-]?\d{1,2}$/.test(steps.trim()) || Math.abs(chromatic) > 48)
      found.push(`"${steps}" is no number of half steps from -48 to 48`);
    const tuning: Pitch[] = [];
    if (hasStrings) {
      for (const word of strings.trim().split(/[\s,]+/)) {
        const pitch = parsePitch(word);
        if (pitch.ok) tuning.push(pitch.value);
        else found.push(`the string "${word}" cannot be read; write letter, sign and octave, like E2`);
      }
    }
    const range = Object.fromEntries(
      ALL.flatMap((level) => {
        const both = parseNotes(ranges[level]);
        const [low, high] = both.ok ? both.value : [];
        if (low && high && both.ok && both.value.length === 2) return [[level, { low, high }]];
        found.push(`${level}: write the lowest and the highest note, like G3 D5`);
        return [];
      }),
    );
    const made = {
      id: custom?.id ?? `own-${crypto.randomUUID().replaceAll('-', '').slice(0, 12)}`,
      name: name.trim(),
      base: custom?.base ?? instrument.id,
      transposition: { chromatic, diatonic: lettersOf(chromatic) },
      ...(hasStrings && { strings: tuning }),
      ...(systems.length > 1 && chart && { chart }),
      range,
    } as CustomInstrument;
    if (found.length === 0) found.push(...customInstrumentProblems(made));
    setProblems(found);
    if (found.length > 0) return;
    const saved = await send(`/api/instruments/${made.id}`, nothing, { method: 'PUT', json: made });
    if (!saved.ok) return setProblems([saved.problem.message, 'Nothing was saved yet.']);
    tell(`“${made.name}” is saved; it can be chosen wherever instruments are.`);
    onClose();
    router.push(`/instruments/${made.id}`);
    router.refresh();
  };
  const input = 'min-h-8 w-full rounded border border-edge bg-paper px-2';
  return (
    <Sheet
      open
      onClose={onClose}
      title={custom ? custom.name : `From the ${instrument.name.toLowerCase()}`}
      description="Another name, transposition, tuning or range; everything else stays."
    >
      <div className="overflow-auto">
        <Field label="Name">
          {(id) => (
            <input
              id={id}
              className={input}
              maxLength={80}
              value={name}
              onChange={({ target }) => setName(target.value)}
            />
          )}
        </Field>
        <div className="grid grid-cols-2 gap-3">
          <Field label="Reads so many half steps above what sounds">
            {(id) => (
              <input
                id={id}
                className={input}
                maxLength={4}
                value={steps}
                onChange={({ target }) => setSteps(target.value)}
              />
            )}
          </Field>
          {hasStrings && (
            <Field label="Open strings as written, lowest first">
              {(id) => (
                <input
                  id={id}
                  className={input}
                  maxLength={60}
                  value={strings}
                  onChange={({ target }) => setStrings(target.value)}
                />
              )}
            </Field>
          )}
        </div>
        {systems.length > 1 && (
          <Field label="Fingered by">
            {(id) => (
              <select
                id={id}
                className={input}
                value={chart}
                onChange={({ target }) => setChart(systems.find((one) => one.id === target.value)?.id)}
              >
                {systems.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </select>
            )}
          </Field>
        )}
        <div className="grid grid-cols-4 gap-3">
          {ALL.map((level) => (
            <Field key={level} label={level === 'full' ? 'Full range' : `${level[0]?.toUpperCase()}${level.slice(1)}`}>
              {(id) => (
                <input
                  id={id}
                  className={input}
                  maxLength={12}
                  value={ranges[level]}
                  onChange={({ target }) => setRanges({ ...ranges, [level]: target.value })}
                />
              )}
            </Field>
          ))}
        </div>
        {problems.length > 0 && (
          <ul role="alert" className="mb-3 list-disc pl-5 text-warn">
            {problems.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        )}
        <div className="flex justify-end gap-2 border-t border-line pt-3">
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="main" onClick={() => void save()}>
            Save instrument
          </Button>
        </div>
      </div>
    </Sheet>
  );
}

/** The letters that an interval of so many half steps usually spans. */
function lettersOf(chromatic: number): number {
  const size = Math.abs(chromatic);
  const letters = Math.floor(size / 12) * 7 + ([0, 1, 1, 2, 2, 3, 3, 4, 5, 5, 6, 6][size % 12] ?? 0);
  return chromatic < 0 ? 0 - letters : letters;
}
