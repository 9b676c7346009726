'use client';

import { becoming, type Work } from '../../core/work';
import { Ear, Flame } from 'lucide-react';
import Link from 'next/link';
import { memo } from 'react';
import { KEY_METHOD, kinWords, ownScale, type PhraseFinding, scaleText, type TuneAnalysis } from '../../core/analysis';
import { INSTRUMENTS } from '../../core/instruments';
import { nameKey, namePitchClass, type Pitch, sameKey, semitones, staffPosition } from '../../core/pitch';
import { setPhraseMark } from '../../core/score/edit';
import { soundingNotes } from '../../core/score';
import { Select } from '../../ui/Select';
import { ContourLine } from './ContourLine';
import { PHRASE_TINTS, tintOf } from './phraseTints';
import type { Dispatch } from '../work/workStore';

interface Props {
  readonly id: string;
  readonly work: Work;
  readonly analysis: TuneAnalysis;
  readonly reader: string;
  readonly onReader: (instrument: string) => void;
  readonly onDispatch: Dispatch;
  readonly onFile: (name: string, download: boolean) => void;
  readonly onBar: (bar: number) => void;
}

const INTERVALS = ['unison', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'octave'];
const nameOf = (pitch: Pitch) => `${namePitchClass(pitch)}${pitch.octave}`;
const sureness = (confidence: number) =>
  confidence >= 0.85 ? 'clearly' : confidence >= 0.65 ? 'most likely' : 'perhaps';

/**
 * What the tune is made of: its key and sets, its range, leaps and rhythms, and its phrases with their form. All in
 * concert pitch.
 */
export const AnalysisPanel = memo(function AnalysisPanel({
  id,
  work,
  analysis,
  reader,
  onReader,
  onDispatch,
  onFile,
  onBar,
}: Props) {
  const { key, scales, outside, range, leaps, rhythms, phrases, form, playedForm } = analysis;
  const { tune } = work;
  const fitting = scales.slice(0, 6);
  const leapCounts = new Map<string, number>();
  for (const { from, to } of leaps) {
    const size = Math.abs(staffPosition(to) - staffPosition(from));
    const name = INTERVALS[size] ?? `${size + 1} notes`;
    leapCounts.set(name, (leapCounts.get(name) ?? 0) + 1);
  }
  if (phrases.length === 0)
    return <p className="text-ink-soft">There are no notes yet. Write some, or bring the tune in again.</p>;
  return (
    <div className="text-[13.5px]">
      <Part name="Key">
        <p>
          It is {sureness(key.confidence)} in <b>{nameKey(key.key)}</b> ({Math.round(key.confidence * 100)} %); the home
          note is <b>{namePitchClass(key.key.tonic)}</b>.
          {key.runnersUp[0] && key.runnersUp[0].confidence >= 0.1 ? ` Next: ${nameKey(key.runnersUp[0].key)}.` : ''}
        </p>
        {!sameKey(key.key, tune.key) && (
          <p className="mt-1">
            The tune says {nameKey(tune.key)}.{' '}
            <button
              type="button"
              className="min-h-7 text-cane underline underline-offset-2"
              onClick={() => onDispatch({ kind: 'key', key: key.key })}
            >
              Write it in {nameKey(key.key)}
            </button>
          </p>
        )}
        <p className="mt-1 text-[12px] text-ink-soft">Judged by {KEY_METHOD}.</p>
      </Part>
      <Part name="Made of">
        <ul className="space-y-0.5">
          {fitting.map((scale) => (
            <li key={`${scale.tonic.step}${scale.tonic.alter}${scale.name}`}>{scaleText(scale)}</li>
          ))}
        </ul>
        {fitting.length === 0 && <p>No named set holds every note.</p>}
        {scales.length > fitting.length && (
          <p className="text-ink-soft">and {scales.length - fitting.length} more that hold all of it</p>
        )}
        {outside.length > 0 && (
          <p className="mt-1">
            Outside {nameKey(key.key)}:{' '}
            {outside
              .slice(0, 8)
              .map(({ bar, pitch }) => `${namePitchClass(pitch)} (bar ${bar})`)
              .join(', ')}
            {outside.length > 8 ? ` and ${outside.length - 8} more` : ''}.
          </p>
        )}
        {range && (
          <p className="mt-1">
            From {nameOf(range.lowest)} to {nameOf(range.highest)}, {semitones(range.highest) - semitones(range.lowest)}{' '}
            half steps.{' '}
            {leaps.length === 0
              ? 'No leap is wider than a third.'
              : `Leaps: ${[...leapCounts].map(([name, count]) => `${name} ×${count}`).join(', ')}.`}
          </p>
        )}
        <p className="mt-1">
          Rhythms:{' '}
          {rhythms
            .slice(0, 5)
            .map(({ word, count }) => `${word} ×${count}`)
            .join(' · ')}
          {rhythms.length > 5 ? ` · ${rhythms.length - 5} more` : ''}
        </p>
      </Part>
      <Part name="Phrases">
        <p>
          Form: <b className="font-serif text-[15px] tracking-wide">{form}</b>
          {playedForm !== form && <> · played {playedForm}</>}
        </p>
        <ol className="mt-1 space-y-1.5">
          {phrases.map((phrase, index) => (
            <PhraseItem key={phrase.notes.from} phrase={phrase} index={index} onDispatch={onDispatch} onBar={onBar} />
          ))}
        </ol>
      </Part>
      <Part name="Before playing">
        <p className="mb-1.5">
          For{' '}
          <Select
            label="Reader"
            value={reader}
            options={[
              { value: 'concert', label: 'concert pitch' },
              ...INSTRUMENTS.map(({ id: value, name }) => ({ value, label: name })),
            ]}
            look="word"
            onChange={onReader}
          />
        </p>
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          <Link
            prefetch={false}
            href={`/tunes/${id}/by-ear${reader === 'concert' ? '' : `?for=${reader}`}`}
            className="inline-flex min-h-7 items-center gap-1 text-cane underline underline-offset-2"
          >
            <Ear size={14} aria-hidden="true" />
            By-ear sheet
          </Link>
          <button
            type="button"
            className="inline-flex min-h-7 items-center gap-1 text-cane underline underline-offset-2"
            onClick={() => onFile(`warm-up.pdf${reader === 'concert' ? '' : `?for=${reader}`}`, false)}
          >
            <Flame size={14} aria-hidden="true" />
            Warm-up: {scaleText(ownScale(analysis)).split(':')[0]}
          </button>
        </div>
      </Part>
    </div>
  );
});

function Part({ name, children }: { readonly name: string; readonly children: React.ReactNode }) {
  return (
    <section aria-label={name} className="mb-3 border-b border-line pb-3 last:border-0">
      <h3 className="mb-1 font-semibold">{name}</h3>
      {children}
    </section>
  );
}

function PhraseItem({
  phrase,
  index,
  onDispatch,
  onBar,
}: {
  readonly phrase: PhraseFinding;
  readonly index: number;
  readonly onDispatch: Props['onDispatch'];
  readonly onBar: Props['onBar'];
}) {
  const { label, fromBar, toBar, pitches, kin } = phrase;
  const move = (by: 1 | -1) => {
    // The boundary is found anew in the tune as it is now; where it has gone, nothing is moved.
    onDispatch((present) => {
      const after = movedBoundary(present, phrase, by);
      return after && becoming(`Phrase ${index + 1} begins ${by > 0 ? 'later' : 'earlier'}`, present, after);
    });
  };
  const button = 'size-7 rounded text-ink-soft hover:bg-cane-pale';
  return (
    <li
      className="rounded border-l-[5px] bg-paper/70 py-1 pr-1 pl-2"
      style={{ borderColor: PHRASE_TINTS[tintOf(label)]?.line }}
    >
      <div className="flex items-center gap-2">
        <b className="w-7 font-serif text-[15px]">{label}</b>
        <button
          type="button"
          className="min-h-7 text-left underline decoration-line underline-offset-2"
          onClick={() => onBar(phrase.fromBarIndex)}
        >
          {fromBar === toBar ? `bar ${fromBar}` : `bars ${fromBar}–${toBar}`}
          {phrase.endings && ` with ${COUNTS[phrase.endings.length] ?? phrase.endings.length} endings`}
        </button>
        <span className="ml-auto">
          <ContourLine pitches={pitches} width={84} height={24} />
        </span>
        {index > 0 && (
          <span className="flex">
            <button
              type="button"
              aria-label={`Phrase ${index + 1} begins a note earlier`}
              title="begins a note earlier"
              className={button}
              onClick={() => move(-1)}
            >
              ‹
            </button>
            <button
              type="button"
              aria-label={`Phrase ${index + 1} begins a note later`}
              title="begins a note later"
              className={button}
              onClick={() => move(1)}
            >
              ›
            </button>
          </span>
        )}
      </div>
      {kin && <p className="text-[12.5px] text-ink-soft">{kinWords(kin.relation, kin.of + 1, phrase)}</p>}
    </li>
  );
}

/** The boundary before a phrase a note earlier or later: the old place goes on now, the new one begins. */
const COUNTS: Readonly<Record<number, string>> = { 2: 'two', 3: 'three', 4: 'four' };

function movedBoundary(work: Work, phrase: PhraseFinding, by: 1 | -1): Work | undefined {
  const notes = soundingNotes(work.tune);
  const [old, next] = [notes[phrase.notes.from]?.first, notes[phrase.notes.from + by]?.first];
  if (!old || !next || phrase.notes.from + by <= 0 || phrase.notes.from + by >= phrase.notes.to) return undefined;
  const caret = { bar: 0, at: 0 };
  const off = setPhraseMark(work.tune, old.id, 'goes-on', caret);
  const on = off.ok ? setPhraseMark(off.value.tune, next.id, 'begins', caret) : off;
  return on.ok ? { ...work, tune: on.value.tune } : undefined;
}
