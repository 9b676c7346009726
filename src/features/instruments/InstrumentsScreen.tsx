'use client';

import Link from 'next/link';
import { useState } from 'react';
import {
  customInstrument,
  type CustomInstrument,
  FAMILIES,
  type Instrument,
  INSTRUMENTS,
} from '../../core/instruments';
import { printPitch } from '../../core/pitch';
import { HelpSheet } from '../../ui/HelpSheet';
import { FAMILY_NAMES } from '../../ui/InstrumentSelect';
import { Rail } from '../../ui/Rail';
import { transpositionText } from './transpositionText';

/** Everything the engines know of instruments, one line each; the page of one has its fingerings. */
export function InstrumentsScreen({ custom }: { readonly custom: readonly CustomInstrument[] }) {
  const [help, setHelp] = useState(false);
  const made = custom.flatMap((one) => customInstrument(one) ?? []);
  return (
    <div className="app-frame flex h-dvh">
      <Rail here="instruments" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="flex items-center justify-between gap-4 border-b border-line bg-panel px-6 py-3.5">
          <div>
            <h1 className="font-serif text-[22px] leading-7 font-semibold">Instruments</h1>
            <p className="text-[13px] text-ink-soft">
              {INSTRUMENTS.length} in the catalogue. Ranges are written pitches; open one for its fingerings, or to make
              a custom one from it.
            </p>
          </div>
          <Link
            href="/instruments/keys"
            className="inline-flex min-h-9 items-center rounded border border-edge bg-paper px-3 font-medium hover:bg-cane-pale"
          >
            Everybody&apos;s written key
          </Link>
        </header>
        <main
          className="relative min-h-0 flex-1 overflow-auto bg-paper px-4 pb-6 md:px-6"
          tabIndex={0}
          aria-label="All instruments"
        >
          {made.length > 0 && <Family name="Custom" instruments={made} />}
          {FAMILIES.map((family) => (
            <Family
              key={family}
              name={FAMILY_NAMES[family]}
              instruments={INSTRUMENTS.filter((one) => one.family === family)}
            />
          ))}
        </main>
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

function Family({ name, instruments }: { readonly name: string; readonly instruments: readonly Instrument[] }) {
  const range = ({ low, high }: Instrument['range']['full']) => `${printPitch(low)}–${printPitch(high)}`;
  return (
    <table className="mt-4 w-full table-fixed border-collapse text-left">
      <caption className="py-1 text-left font-serif text-base font-semibold">{name}</caption>
      <thead className="text-[12.5px] text-ink-soft">
        <tr className="border-b border-line">
          <th scope="col" className="w-[24%] py-1 font-medium">
            Instrument
          </th>
          <th scope="col" className="w-[26%] font-medium">
            Reads
          </th>
          <th scope="col" className="font-medium">
            Beginner
          </th>
          <th scope="col" className="font-medium">
            Intermediate
          </th>
          <th scope="col" className="font-medium">
            Advanced
          </th>
          <th scope="col" className="font-medium">
            Full
          </th>
        </tr>
      </thead>
      <tbody>
        {instruments.map((one) => (
          <tr key={one.id} className="border-b border-line">
            <th scope="row" className="py-1 font-semibold">
              <Link
                href={`/instruments/${one.id}`}
                className="inline-flex min-h-7 items-center text-cane underline underline-offset-2"
              >
                {one.name}
              </Link>
            </th>
            <td className="text-ink-soft">{transpositionText(one.transposition.chromatic)}</td>
            {(['beginner', 'intermediate', 'advanced', 'full'] as const).map((level) => (
              <td key={level} className="tabular-nums">
                {range(one.range[level])}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
