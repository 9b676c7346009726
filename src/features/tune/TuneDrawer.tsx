'use client';

import { memo, useState } from 'react';
import type { TuneDetails, Work } from '../../core/work';
import { type Mode, MODES, parseKey, printKey } from '../../core/pitch';
import { type Rights, RIGHTS, type Swing, type Tempo, TEMPO_LIMITS } from '../../core/score';
import { parseMeter, printMeter } from '../../core/time';
import type { LaneInfo } from '../../engrave/lanes';
import { Select } from '../../ui/Select';
import { Field, TextInput } from '../../ui/Field';
import type { Dispatch, Selection } from '../work/workStore';
import { keyOf, keyOptions } from '../work/keyOptions';

interface Props {
  readonly work: Work;
  readonly info: LaneInfo | undefined;
  readonly numbers: readonly number[];
  readonly selection: Selection | undefined;
  readonly onDispatch: Dispatch;
  readonly onFile: (name: string, download: boolean) => void;
}

const RIGHTS_TEXT: Readonly<Record<Rights, string>> = {
  own: 'Our own',
  'public-domain': 'Public domain',
  cleared: 'Cleared with the owner',
  unknown: 'Rights not checked',
  'not-cleared': 'Not cleared with the owner',
};

const METERS = ['2/4', '3/4', '4/4', 'C', '2/2', 'C|', '5/4', '3/8', '6/8', '9/8', '12/8', '7/8', '5/8', '3/2'];

const BEATS: readonly { readonly value: string; readonly label: string; readonly beat: Tempo['beat'] }[] = [
  { value: 'eighth', label: 'eighth', beat: { type: 'eighth', dots: 0 } },
  { value: 'quarter', label: 'quarter', beat: { type: 'quarter', dots: 0 } },
  { value: 'quarter.', label: 'dotted quarter', beat: { type: 'quarter', dots: 1 } },
  { value: 'half', label: 'half', beat: { type: 'half', dots: 0 } },
  { value: 'half.', label: 'dotted half', beat: { type: 'half', dots: 1 } },
];

/** The drawer of the Tune step: what stands at its head, where it came from, and whose it is. */
export const TuneDrawer = memo(function TuneDrawer({ work, info, numbers, selection, onDispatch, onFile }: Props) {
  const { tune } = work;
  const [meterProblem, setMeterProblem] = useState<string>();
  const [tempoProblem, setTempoProblem] = useState<string>();
  const set = (words: string, details: TuneDetails | ((present: Work['tune']) => TuneDetails)) =>
    onDispatch((present) => ({
      kind: 'details',
      words,
      details: typeof details === 'function' ? details(present.tune) : details,
    }));
  const meterText = tune.meter.sign ? (tune.meter.sign === 'cut' ? 'C|' : 'C') : printMeter(tune.meter);
  const setMeter = (text: string) => {
    const meter = parseMeter(text);
    if (!meter) return;
    setMeterProblem(onDispatch({ kind: 'meter', meter }));
  };
  const setMode = (mode: Mode) => {
    onDispatch(({ tune: { key } }) => {
      const now = parseKey(`${printKey(key).replace(/m$| .*/, '')} ${mode}`);
      return now.ok ? { kind: 'key', key: now.value } : undefined;
    });
  };
  const beat = `${tune.tempo.beat.type}${'.'.repeat(tune.tempo.beat.dots)}`;
  const setTempo = (text: string) => {
    const perMinute = Number(text);
    const isTempo = /^\d+$/.test(text.trim()) && perMinute >= TEMPO_LIMITS.slowest && perMinute <= TEMPO_LIMITS.fastest;
    setTempoProblem(
      isTempo
        ? undefined
        : `"${text}" is no tempo: beats a minute go from ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest}.`,
    );
    if (isTempo) set(`Tempo ${perMinute}`, (present) => ({ tempo: { ...present.tempo, perMinute } }));
  };
  return (
    <div>
      <h2 className="mb-3 font-serif text-lg font-semibold">The tune</h2>
      <Field label="Title">
        {(id) => <TextInput id={id} value={tune.title} onCommit={(title) => set('Title', { title })} />}
      </Field>
      <Field label="Composer">
        {(id) => (
          <TextInput id={id} value={tune.composer ?? ''} onCommit={(composer) => set('Composer', { composer })} />
        )}
      </Field>
      <Field label="Where it came from">
        {(id) => <TextInput id={id} value={tune.source ?? ''} onCommit={(source) => set('Source note', { source })} />}
      </Field>
      <Field
        label="Rights"
        {...(tune.rights === 'unknown' || tune.rights === 'not-cleared'
          ? { help: 'Arranging what others own may need permission where you live.' }
          : {})}
      >
        {() => (
          <Select
            label="Rights"
            value={tune.rights}
            options={RIGHTS.map((value) => ({ value, label: RIGHTS_TEXT[value] }))}
            onChange={(rights) => set('Rights', { rights })}
          />
        )}
      </Field>
      <div className="grid grid-cols-2 gap-x-2">
        <Field label="Key">
          {() => (
            <Select
              label="Key"
              value={printKey(tune.key)}
              options={keyOptions(tune.key.mode, [tune.key])}
              onChange={(value) => {
                const key = keyOf(value);
                if (key) onDispatch({ kind: 'key', key });
              }}
            />
          )}
        </Field>
        <Field label="Mode">
          {() => <Select label="Mode" value={tune.key.mode} options={modeOptions(work)} onChange={setMode} />}
        </Field>
      </div>
      <p className="-mt-2 mb-3 text-[12.5px] text-ink-soft">
        The notes stay as they sound; only the signature changes. To move the tune, give a level its own key.
      </p>
      <div className="grid grid-cols-[4.25rem_1fr_4rem] gap-x-2">
        <Field label="Meter">
          {() => (
            <Select
              label="Meter"
              value={meterText}
              options={[...new Set([...METERS, meterText])].map((value) => ({ value, label: value }))}
              onChange={setMeter}
            />
          )}
        </Field>
        <Field label="Counted in">
          {() => (
            <Select
              label="Counted note"
              value={beat}
              options={[
                ...BEATS,
                ...(BEATS.some(({ value }) => value === beat)
                  ? []
                  : [{ value: beat, label: beat, beat: tune.tempo.beat }]),
              ]}
              onChange={(value) => {
                const found = BEATS.find((one) => one.value === value);
                if (found) set('Counted note', (present) => ({ tempo: { ...present.tempo, beat: found.beat } }));
              }}
            />
          )}
        </Field>
        <Field label="a minute">
          {(id) => <TextInput id={id} value={String(tune.tempo.perMinute)} maxLength={4} onCommit={setTempo} />}
        </Field>
      </div>
      <Field label="Eighths">
        {() => (
          <Select
            label="Eighths"
            value={swingText(tune.swing)}
            options={SWINGS.map(({ value, label }) => ({ value, label }))}
            onChange={(value) =>
              set(value === 'straight' ? 'Straight eighths' : 'Swung eighths', {
                swing: SWINGS.find((one) => one.value === value)?.swing,
              })
            }
          />
        )}
      </Field>
      {meterProblem && (
        <p role="alert" className="-mt-2 mb-3 text-[12.5px] text-warn">
          {meterProblem}
        </p>
      )}
      {tempoProblem && (
        <p role="alert" className="-mt-2 mb-3 text-[12.5px] text-warn">
          {tempoProblem}
        </p>
      )}
      {info && selection?.lane === 'tune' && (
        <section aria-label="Bar" className="border-t border-line pt-3">
          <h3 className="font-semibold">Bar {numbers[selection.bar]}</h3>
          <p className="mt-1 text-ink-soft">{info.barTexts[selection.bar]}</p>
        </section>
      )}
      <section aria-label="Download" className="mt-2 border-t border-line pt-3">
        <h3 className="mb-1 font-semibold">The tune as a file</h3>
        <div className="flex flex-wrap gap-x-3">
          <button
            type="button"
            className="min-h-7 text-cane underline underline-offset-2"
            onClick={() => onFile('tune.musicxml', true)}
          >
            MusicXML
          </button>
          {(['mxl', 'abc', 'mid'] as const).map((ending) => (
            <button
              key={ending}
              type="button"
              className="min-h-7 text-cane underline underline-offset-2"
              onClick={() => onFile(`tune.${ending}`, true)}
            >
              {{ mxl: 'compressed', abc: 'ABC', mid: 'MIDI' }[ending]}
            </button>
          ))}
          <button
            type="button"
            className="min-h-7 text-cane underline underline-offset-2"
            onClick={() => onFile('tune.reed.json', true)}
          >
            Reed Hook document
          </button>
        </div>
      </section>
    </div>
  );
});

const SWINGS: readonly { readonly value: string; readonly label: string; readonly swing?: Swing }[] = [
  { value: 'straight', label: 'straight' },
  { value: 'eighth 1.5', label: 'lightly swung (3 to 2)', swing: { unit: 'eighth', ratio: 1.5 } },
  { value: 'eighth 2', label: 'swung (2 to 1)', swing: { unit: 'eighth', ratio: 2 } },
  { value: '16th 2', label: 'sixteenths swung (2 to 1)', swing: { unit: '16th', ratio: 2 } },
];

/** The nearest of the offered ways. */
function swingText(swing: Swing | undefined): string {
  if (!swing) return 'straight';
  return SWINGS.find((one) => one.swing?.unit === swing.unit && one.swing.ratio === swing.ratio)?.value ?? 'eighth 2';
}

/** Modes that the tonic has within seven accidentals. */
function modeOptions({ tune }: Work) {
  const tonic = printKey(tune.key).replace(/m$| .*/, '');
  return MODES.filter((mode) => parseKey(`${tonic} ${mode}`).ok).map((mode) => ({ value: mode, label: mode }));
}
