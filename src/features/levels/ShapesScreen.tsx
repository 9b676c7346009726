'use client';

import { ArrowLeft, Printer } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { inFourths, movableShape, type MovableShape, shapeName, shapeSteps } from '../../core/fingering';
import { SCALE_OF_MODE, scaleOn } from '../../core/harmony';
import type { Instrument } from '../../core/instruments';
import { writtenKeyOf } from '../../core/keys';
import { chroma, type Key, nameKey, namePitchClass, printKey } from '../../core/pitch';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';

type Order = 'frets' | 'fourths';

/** One shape of the tune's scale moved along the neck: the fingers stay, the names change and are said aloud. */
export function ShapesScreen({
  id,
  title,
  concertKey,
  instrument,
}: {
  readonly id: string;
  readonly title: string;
  readonly concertKey: Key;
  readonly instrument: Instrument;
}) {
  const [order, setOrder] = useState<Order>('frets');
  const [octaves, setOctaves] = useState<1 | 2>(1);
  const { mechanism } = instrument;
  const key = writtenKeyOf(instrument, concertKey);
  const scale = scaleOn(key.tonic, SCALE_OF_MODE[key.mode]);
  const shapeOf = (count: 1 | 2) => (mechanism.kind === 'fretted' ? movableShape(mechanism, scale, count) : undefined);
  const hasTwo = shapeOf(2) !== undefined;
  const shape = shapeOf(hasTwo ? octaves : 1);
  const steps = shape && mechanism.kind === 'fretted' ? shapeSteps(shape, mechanism, key) : [];
  const shown = order === 'frets' ? steps : inFourths(steps);
  return (
    <div className="print-plain h-dvh overflow-y-auto">
      <header className="no-print sticky top-0 flex items-center gap-4 border-b border-line bg-panel px-4 py-1.5">
        <Link
          href={`/tunes/${id}/levels`}
          className="inline-flex min-h-8 items-center gap-1.5 rounded px-2 hover:bg-cane-pale"
        >
          <ArrowLeft size={15} aria-hidden="true" />
          Back to the bench
        </Link>
        <span>
          Order{' '}
          <Select<Order>
            look="word"
            label="Order of the keys"
            value={order}
            options={[
              { value: 'frets', label: 'next fret' },
              { value: 'fourths', label: 'next key, round the fourths' },
            ]}
            onChange={setOrder}
          />
        </span>
        {hasTwo && (
          <span>
            Over{' '}
            <Select
              look="word"
              label="Octaves of the shape"
              value={String(octaves)}
              options={[
                { value: '1', label: 'one octave' },
                { value: '2', label: 'two octaves' },
              ]}
              onChange={(value) => setOctaves(value === '2' ? 2 : 1)}
            />
          </span>
        )}
        <Button kind="main" className="ml-auto min-h-8 px-3" onClick={() => window.print()}>
          <Printer size={15} aria-hidden="true" />
          Print
        </Button>
      </header>
      <main className="mx-auto my-5 max-w-3xl rounded bg-paper px-4 py-5 md:px-9 md:py-7 print:my-0 print:p-0">
        <h1 className="font-serif text-2xl font-semibold">Same shape, next {order === 'frets' ? 'fret' : 'key'}</h1>
        <p className="text-ink-soft">
          {title || 'Untitled'} · {instrument.name} · {nameKey(key)}
          {printKey(key) === printKey(concertKey) ? '' : ` (sounding ${nameKey(concertKey)})`}
        </p>
        {!shape ? (
          <p className="mt-5">
            The strings of this instrument lie too far apart for one shape of a whole octave; play the scale by its
            fingering instead.
          </p>
        ) : (
          <>
            <div className="mt-5 flex items-start gap-7">
              <Shape shape={shape} strings={mechanism.kind === 'fretted' ? mechanism.strings.length : 6} />
              <div className="max-w-sm">
                <p className="font-semibold">
                  {shapeName(shape)[0]?.toUpperCase()}
                  {shapeName(shape).slice(1)}
                </p>
                <p className="mt-1.5">
                  Play it up and down once. Move the whole hand to the next place in the list; the fingers stay as they
                  are. Say each name aloud before you play it, then play without looking at the names.
                </p>
                <p className="mt-1.5 text-[13px] text-ink-soft">
                  Rest the hand between keys; stop when it hurts or tingles.
                </p>
              </div>
            </div>
            <table className="mt-6 w-full border-collapse text-left">
              <thead className="text-[12.5px] text-ink-soft">
                <tr className="border-b border-line">
                  <th scope="col" className="w-24 py-1 font-medium">
                    First finger
                  </th>
                  <th scope="col" className="w-36 font-medium">
                    Key
                  </th>
                  <th scope="col" className="font-medium">
                    Say
                  </th>
                </tr>
              </thead>
              <tbody>
                {shown.map((step) => (
                  <tr key={step.hand} className="border-b border-line">
                    <td className="py-1.5 tabular-nums">fret {step.hand}</td>
                    <th scope="row" className="font-semibold">
                      {nameKey(step.key)}
                    </th>
                    <td className="font-serif text-[15px] tracking-wide">
                      {step.notes.map((pitch) => namePitchClass(pitch)).join('  ')}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </main>
    </div>
  );
}

/** The neck lying as a player sees it in a chart: strings down the page, the lowest at the left; the root is ringed. */
function Shape({ shape, strings }: { readonly shape: MovableShape; readonly strings: number }) {
  const [gap, row] = [26, 30];
  const x = (string: number) => 20 + (strings - string) * gap;
  const y = (fret: number) => 26 + (fret - shape.hand + 0.5) * row;
  const rows = Math.max(4, ...shape.places.map(({ fret }) => fret - shape.hand + 1));
  const root = shape.places[0];
  return (
    <svg
      role="img"
      aria-label={`The shape: ${shape.places.map(({ string, fret, finger }) => `string ${string} fret ${fret} finger ${finger}`).join(', ')}`}
      width={x(1) + 40}
      height={26 + rows * row + 8}
      className="shrink-0 text-ink"
    >
      {Array.from({ length: strings }, (_, k) => (
        <path key={k} d={`M${x(k + 1)} 26V${26 + rows * row}`} stroke="currentColor" strokeWidth={0.9 + 0.3 * k} />
      ))}
      {Array.from({ length: rows + 1 }, (_, k) => (
        <path key={k} d={`M${x(strings)} ${26 + k * row}H${x(1)}`} stroke="currentColor" strokeOpacity="0.45" />
      ))}
      <text x={x(1) + 12} y={y(shape.hand) + 5} fontSize="13" fill="currentColor">
        {shape.hand}
      </text>
      {shape.places.map(({ string, fret, finger, pitch }) => {
        const isRoot = root && chroma(pitch) === chroma(root.pitch);
        return (
          <g key={`${string}/${fret}`}>
            {isRoot && (
              <circle cx={x(string)} cy={y(fret)} r="13" fill="none" stroke="currentColor" strokeWidth="1.5" />
            )}
            <circle cx={x(string)} cy={y(fret)} r="10" fill="currentColor" />
            <text x={x(string)} y={y(fret) + 4.5} fontSize="12.5" fontWeight="600" textAnchor="middle" fill="white">
              {finger}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
