'use client';

import type { ReactNode } from 'react';
import type { GuessSource } from '../../core/formats';
import { keyWithSignature, MODES, nameKey, printKey } from '../../core/pitch';
import { Select, type Option } from '../../ui/Select';
import { TextInput } from '../../ui/Field';
import type { FileChoices, FileGuesses } from './importPreview';

const METERS = ['4/4', '3/4', '2/4', '6/8', '2/2', '5/4', '3/8', '9/8', '12/8', '7/8'];
const SOURCES: Readonly<Record<GuessSource, string>> = { file: 'from the file', guess: 'a guess', set: 'set by you' };

/** Which tune, which line and, for MIDI, what was guessed: each can be changed before the tune is saved. */
export function ImportChoices({
  choices,
  guesses,
  onChoose,
}: {
  readonly choices: FileChoices;
  readonly guesses?: FileGuesses;
  readonly onChoose: (name: string, value: string) => void;
}) {
  const { tunes, tune, lines, line, second } = choices;
  const lineOptions = lines.map(({ number, name, notes, range }): Option<string> => ({
    value: String(number),
    label: name,
    hint: notes > 0 ? `${notes} notes${range ? `, ${range}` : ''}` : 'rests',
  }));
  if (tunes.length < 2 && lines.length < 2 && !guesses) return null;
  return (
    <section
      aria-label="What to take"
      className="my-2 space-y-1 rounded border border-line bg-panel px-3 py-2 text-[13.5px]"
    >
      {tunes.length > 1 && (
        <Row label={`One of ${tunes.length} tunes`}>
          <Select
            label="Tune of the book"
            value={String(tune)}
            options={tunes.map((title, index) => ({ value: String(index + 1), label: title || `Number ${index + 1}` }))}
            look="word"
            onChange={(value) => onChoose('tune', value)}
          />
        </Row>
      )}
      {lines.length > 1 && (
        <>
          <Row label="Melody">
            <Select
              label="Melody"
              value={String(line)}
              options={lineOptions}
              look="word"
              onChange={(value) => onChoose('line', value)}
            />
          </Row>
          <Row label="Second part">
            <Select
              label="Second part"
              value={String(second ?? 0)}
              options={[{ value: '0', label: 'none' }, ...lineOptions.filter(({ value }) => value !== String(line))]}
              look="word"
              onChange={(value) => onChoose('second', value)}
            />
          </Row>
        </>
      )}
      {guesses && <Guesses guesses={guesses} onChoose={onChoose} />}
    </section>
  );
}

function Row({
  label,
  source,
  children,
}: {
  readonly label: string;
  readonly source?: GuessSource;
  readonly children: ReactNode;
}) {
  return (
    <p className="flex items-baseline gap-2">
      <span className="w-24 shrink-0 text-ink-soft">{label}</span>
      {children}
      {source && (
        <span className={`text-[12.5px] ${source === 'guess' ? 'font-semibold text-cane' : 'text-ink-soft'}`}>
          {SOURCES[source]}
        </span>
      )}
    </p>
  );
}

function Guesses({
  guesses,
  onChoose,
}: {
  readonly guesses: FileGuesses;
  readonly onChoose: (name: string, value: string) => void;
}) {
  const { meter, key, tempo, swing, pickup, exact } = guesses;
  const keys: Option<string>[] = MODES.slice(0, 2)
    .flatMap((mode) => Array.from({ length: 13 }, (_, k) => keyWithSignature(k - 6, mode)))
    .map((one) => ({ value: printKey(one), label: nameKey(one) }));
  const likely = key.others
    .filter(({ value }) => value !== key.value)
    .map(({ value, name }): Option<string> => ({ value, label: name, hint: 'likely' }));
  const keyOptions = [
    { value: key.value, label: key.name },
    ...likely,
    ...keys.filter(({ value }) => value !== key.value && !likely.some((other) => other.value === value)),
  ];
  const pickups = [0, 0.5, 1, 1.5, 2, 2.5, 3];
  const pickupOptions = [...new Set([...pickups, pickup.value])]
    .toSorted((a, b) => a - b)
    .map((value): Option<string> => ({
      value: String(value),
      label: value === 0 ? 'none' : `${Math.round(value * 100) / 100} quarter${value === 1 ? '' : 's'}`,
    }));
  return (
    <>
      <Row label="Meter" source={meter.source}>
        <Select
          label="Meter"
          value={meter.value}
          options={[...new Set([meter.value, ...METERS])].map((value) => ({ value, label: value }))}
          look="word"
          onChange={(value) => onChoose('meter', value)}
        />
      </Row>
      <Row label="Key" source={key.source}>
        <Select
          label="Key"
          value={key.value}
          options={keyOptions}
          look="word"
          onChange={(value) => onChoose('key', value)}
        />
      </Row>
      <Row label="Tempo" source={tempo.source}>
        <TextInput
          label="Quarters a minute"
          value={String(Math.round(tempo.value))}
          maxLength={3}
          className="w-12 border-b-2 border-cane bg-transparent px-0.5 font-semibold"
          onCommit={(value) => onChoose('tempo', value)}
        />{' '}
        quarters a minute
      </Row>
      <Row label="Eighths" source={swing.source}>
        <Select
          label="Eighths"
          value={swing.value ? 'yes' : 'no'}
          options={[
            { value: 'no', label: 'as played' },
            { value: 'yes', label: 'swung, written straight' },
          ]}
          look="word"
          onChange={(value) => onChoose('swing', value)}
        />
      </Row>
      <Row label="Pickup" source={pickup.source}>
        <Select
          label="Pickup"
          value={String(pickup.value)}
          options={pickupOptions}
          look="word"
          onChange={(value) => onChoose('pickup', value)}
        />
      </Row>
      <p className="text-[12.5px] text-ink-soft">
        {exact
          ? 'Every note was exactly in time.'
          : 'It was played by hand: each note was moved to the nearest likely place.'}
      </p>
    </>
  );
}
