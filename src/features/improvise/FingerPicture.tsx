'use client';

import { useMemo } from 'react';
import { fingeringsFor, isFingered } from '../../core/fingering';
import { type Instrument, outsideBy } from '../../core/instruments';
import type { PlayerPools } from '../../core/levels';
import {
  chroma,
  namePitchClass,
  opposite,
  type Pitch,
  printPitch,
  semitones,
  transpose,
  withoutDoubleAccidental,
} from '../../core/pitch';
import type { ChordPool, Role } from '../../core/pools';
import { fingerDiagram } from '../../engrave/fingerDiagram';
import { poolPitches } from '../../engrave/poolSheet';

/** A pool on the player's instrument: the fingerboard with all its places, or a fingering for each note. */
export function FingerPicture({ pool, made }: { readonly pool: ChordPool; readonly made: PlayerPools }) {
  const { instrument, level, shift } = made;
  const { mechanism } = instrument;
  if (mechanism.kind === 'bowed' || mechanism.kind === 'fretted')
    return (
      <Fingerboard
        pool={pool}
        instrument={instrument}
        strings={mechanism.strings}
        reach={mechanism.kind === 'fretted' ? FRETS : HALF_STEPS}
        made={made}
      />
    );
  if (!isFingered(instrument)) return null;
  // Charts are in written pitch.
  const written = poolPitches(pool, instrument, level, shift).map((pitch) => transpose(pitch, opposite(shift)));
  return (
    <ul aria-label={`Fingerings of ${pool.name}`} className="flex gap-1.5 overflow-x-auto rounded bg-paper p-1.5">
      {written.map((pitch) => {
        const way = fingeringsFor(instrument, withoutDoubleAccidental(pitch)).toSorted((a, b) => a.cost - b.cost)[0];
        if (!way) return null;
        return (
          <li key={printPitch(pitch)} className="shrink-0 text-center text-[11px]">
            <span dangerouslySetInnerHTML={{ __html: fingerDiagram(way.fingering, instrument).svg }} />
            {namePitchClass(pitch)}
          </li>
        );
      })}
    </ul>
  );
}

/** What is drawn: a first position and a little more. */
const FRETS = 5;
const HALF_STEPS = 7;

const LEFT = 22;
const STEP = 33;
const GAP = 19;

/** Strings as lines, half steps as columns, and a head at every place of the pool within the level's range. */
function Fingerboard({
  pool,
  instrument,
  strings,
  reach,
  made,
}: {
  readonly pool: ChordPool;
  readonly instrument: Instrument;
  readonly strings: readonly Pitch[];
  readonly reach: number;
  readonly made: PlayerPools;
}) {
  const { level, shift } = made;
  const places = useMemo(
    () =>
      strings.flatMap((open, string) =>
        Array.from({ length: reach + 1 }, (_, step) => ({ string, step })).flatMap(({ step }) => {
          const height = semitones(open) + step;
          const found = pool.notes.find(({ note }) => {
            // Strings are in written pitch; a pool as it sounds is moved there to be found.
            const written = transpose({ ...note, octave: 4 }, opposite(shift));
            return chroma(written) === height % 12;
          });
          if (!found) return [];
          const written = transpose({ ...found.note, octave: Math.floor(height / 12) }, opposite(shift));
          const octave = written.octave + Math.round((height - semitones(written)) / 12);
          const isIn = outsideBy({ ...written, octave }, instrument.range[level]) === 0;
          return isIn ? [{ string, step, role: found.role, name: namePitchClass(found.note) }] : [];
        }),
      ),
    [strings, reach, pool, shift, instrument, level],
  );
  const width = LEFT + (reach + 1) * STEP;
  const height = strings.length * GAP + 16;
  const y = (string: number) => 10 + (strings.length - 1 - string) * GAP;
  const x = (step: number) => LEFT + step * STEP + (step === 0 ? -4 : 0);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${pool.name} on the ${instrument.shortName}: ${places.map(({ string, step, name }) => `${name} on string ${strings.length - string}, ${step === 0 ? 'open' : `${step} half steps up`}`).join('; ')}`}
      className="w-full rounded bg-paper text-ink"
    >
      {strings.map((open, string) => (
        <g key={printPitch(open)}>
          <line x1={LEFT} x2={width - 6} y1={y(string)} y2={y(string)} stroke="#8b8d82" />
          <text x={3} y={y(string) + 4} fontSize={10} fill="currentColor">
            {namePitchClass(open)}
          </text>
        </g>
      ))}
      {Array.from({ length: reach + 1 }, (_, step) => (
        <line
          key={step}
          x1={LEFT + 10 + step * STEP}
          x2={LEFT + 10 + step * STEP}
          y1={y(strings.length - 1)}
          y2={y(0)}
          stroke="#c9c6b4"
          strokeWidth={step === 0 ? 3 : 1}
        />
      ))}
      {places.map(({ string, step, role, name }) => (
        <g key={`${string}/${step}`} transform={`translate(${x(step)} ${y(string)})`}>
          <Dot role={role} />
          <text
            y={3.4}
            textAnchor="middle"
            fontSize={role === 'rub' ? 7.5 : 9}
            fontWeight={role === 'home' ? 700 : 400}
            fill={role === 'home' ? '#fbf8ef' : 'currentColor'}
          >
            {name}
          </text>
        </g>
      ))}
    </svg>
  );
}

function Dot({ role }: { readonly role: Role }) {
  const radius = role === 'rub' ? 6 : 8.2;
  return (
    <circle
      r={radius}
      fill={role === 'home' ? '#1d211f' : '#fbf8ef'}
      stroke="currentColor"
      strokeWidth={role === 'colour' ? 1.6 : 0.8}
      strokeDasharray={role === 'rub' ? '2 1.6' : undefined}
    />
  );
}
