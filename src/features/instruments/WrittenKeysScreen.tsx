'use client';

import { Printer } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { customInstrument, type CustomInstrument, FAMILIES, INSTRUMENTS } from '../../core/instruments';
import { signatureText, writtenKeyOf } from '../../core/keys';
import { type Key, type Mode, MODES, nameKey, parseKey, printKey, signatureOf } from '../../core/pitch';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { HelpSheet } from '../../ui/HelpSheet';
import { FAMILY_NAMES } from '../../ui/InstrumentSelect';
import { Rail } from '../../ui/Rail';
import { keyOf, keyOptions } from '../work/keyOptions';

const B_FLAT: Key = { tonic: { step: 'B', alter: -1 }, mode: 'major' };

/** What every instrument reads when a concert key sounds: one page for the wall. */
export function WrittenKeysScreen({
  custom,
  asked,
}: {
  readonly custom: readonly CustomInstrument[];
  readonly asked: string;
}) {
  const [help, setHelp] = useState(false);
  const parsed = parseKey(asked);
  const [key, setKey] = useState<Key>(parsed.ok ? parsed.value : B_FLAT);
  const setMode = (mode: Mode) => {
    const next = parseKey(`${printKey({ ...key, mode: 'major' })} ${mode}`);
    if (next.ok) setKey(next.value);
  };
  const families = [
    ...FAMILIES.map((family) => ({
      name: FAMILY_NAMES[family],
      instruments: INSTRUMENTS.filter((one) => one.family === family),
    })),
    { name: 'Custom', instruments: custom.flatMap((one) => customInstrument(one) ?? []) },
  ];
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
            <h1 className="font-serif text-[22px] leading-8 font-semibold">When {nameKey(key)} sounds</h1>
            <p className="no-print text-[13px] text-ink-soft">
              Concert key{' '}
              <Select
                look="word"
                label="Concert key"
                value={printKey(key)}
                options={keyOptions(key.mode, [key])}
                onChange={(value) => setKey(keyOf(value) ?? key)}
              />{' '}
              mode{' '}
              <Select
                look="word"
                label="Mode"
                value={key.mode}
                options={MODES.filter((mode) => parseKey(`${printKey({ ...key, mode: 'major' })} ${mode}`).ok).map(
                  (mode) => ({ value: mode, label: mode }),
                )}
                onChange={setMode}
              />
            </p>
          </div>
          <Button kind="main" className="no-print min-h-9 px-4" onClick={() => window.print()}>
            <Printer size={15} aria-hidden="true" />
            Print
          </Button>
        </header>
        <main
          className="print-plain relative min-h-0 flex-1 overflow-auto bg-paper px-4 py-3 md:px-6"
          tabIndex={0}
          aria-label="Written keys"
        >
          <div className="gap-8 sm:columns-2 lg:columns-3 print:columns-3">
            {families
              .filter(({ instruments }) => instruments.length > 0)
              .map(({ name, instruments }) => (
                <table key={name} className="mb-4 w-full break-inside-avoid border-collapse text-left">
                  <caption className="py-1 text-left font-serif text-base font-semibold">{name}</caption>
                  <thead className="sr-only">
                    <tr>
                      <th scope="col">Instrument</th>
                      <th scope="col">Written key</th>
                      <th scope="col">Signature</th>
                    </tr>
                  </thead>
                  <tbody>
                    {instruments.map((one) => {
                      const written = writtenKeyOf(one, key);
                      return (
                        <tr key={one.id} className="border-t border-line">
                          <th scope="row" className="py-0.5 font-normal">
                            {one.name}
                          </th>
                          <td className="font-semibold">{nameKey(written)}</td>
                          <td className="text-right text-[12.5px] text-ink-soft">
                            {signatureText(signatureOf(written))}
                          </td>
                        </tr>
                      );
                    })}
                  </tbody>
                </table>
              ))}
          </div>
        </main>
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}
