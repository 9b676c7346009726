'use client';

import { ArrowLeft, Printer } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { INSTRUMENTS } from '../../core/instruments';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import type { ByEarSheet } from '../../engrave/byEarSheet';
import { ContourLine } from './ContourLine';

/**
 * A sheet to learn the tune by ear from: home note, starting note, phrases and their shapes; the notes are hidden until
 * asked for, on paper too.
 */
export function ByEarScreen({ id, sheet }: { readonly id: string; readonly sheet: ByEarSheet }) {
  const router = useRouter();
  const [shown, setShown] = useState<ReadonlySet<number>>(new Set());
  const toggle = (index: number) =>
    setShown((before) =>
      before.has(index) ? new Set([...before].filter((one) => one !== index)) : new Set([...before, index]),
    );
  const isAll = shown.size === sheet.phrases.length;
  const count = sheet.phrases.length;
  return (
    <div className="print-plain h-dvh overflow-y-auto bg-surround">
      <div className="no-print sticky top-0 z-10 flex items-center gap-3 border-b border-line bg-panel px-5 py-2">
        <Link
          href={`/tunes/${id}/tune`}
          prefetch={false}
          className="inline-flex min-h-7 items-center gap-1 rounded px-1.5 hover:bg-cane-pale"
        >
          <ArrowLeft size={15} aria-hidden="true" />
          Back to the bench
        </Link>
        <span className="ml-2">
          For{' '}
          <Select
            label="Reader"
            value={sheet.readerId || 'concert'}
            options={[
              { value: 'concert', label: 'concert pitch' },
              ...INSTRUMENTS.map(({ id: value, name }) => ({ value, label: name })),
            ]}
            look="word"
            onChange={(value) => router.push(`/tunes/${id}/by-ear${value === 'concert' ? '' : `?for=${value}`}`)}
          />
        </span>
        <span className="ml-auto flex gap-2">
          <Button onClick={() => setShown(isAll ? new Set() : new Set(sheet.phrases.keys()))}>
            {isAll ? 'Hide all notes' : 'Show all notes'}
          </Button>
          <Button kind="main" onClick={() => window.print()}>
            <Printer size={14} aria-hidden="true" />
            Print as shown
          </Button>
        </span>
      </div>
      <main className="print-plain mx-auto my-5 max-w-[820px] rounded bg-paper px-4 py-6 md:px-10 md:py-8">
        <h1 className="font-serif text-[27px] leading-8 font-semibold">{sheet.title}</h1>
        <p className="text-ink-soft">
          {['By ear', sheet.composer, sheet.reader, sheet.meter].filter(Boolean).join(' · ')}
        </p>
        <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1 text-[15px]">
          <dt className="text-ink-soft">Home note</dt>
          <dd>
            <b>{sheet.home}</b> (
            {sheet.readerId && sheet.concertKey !== sheet.keyName
              ? `for you: ${sheet.keyName} · sounding: ${sheet.concertKey}`
              : sheet.keyName}
            )
          </dd>
          <dt className="text-ink-soft">It starts on</dt>
          <dd>
            <b>{sheet.start}</b>, the {sheet.startDegree}
          </dd>
          <dt className="text-ink-soft">Phrases</dt>
          <dd>
            <b>{count}</b>, in the order <b className="font-serif tracking-wide">{sheet.form}</b>
            {sheet.playedForm !== sheet.form && (
              <>
                , heard as <b className="font-serif tracking-wide">{sheet.playedForm}</b>
              </>
            )}
          </dd>
        </dl>
        <p className="mt-3 text-ink-soft">
          Sing the home note and find it. Listen to one phrase at a time, sing it, then play it; look at the notes last.
        </p>
        <ol className="mt-5 space-y-4">
          {sheet.phrases.map(({ label, bars, words, pitches, picture }, index) => (
            <li key={index} className="music-row border-t border-line pt-3">
              <div className="flex items-start gap-5">
                <div className="w-9 shrink-0 pt-0.5 font-serif text-xl font-semibold">{label}</div>
                <div className="min-w-0 flex-1">
                  <p className="font-medium">
                    Phrase {index + 1}{' '}
                    <span className="font-normal text-ink-soft">
                      · {bars} · {pitches.length} notes
                    </span>
                  </p>
                  {words.kin && (
                    <p>
                      <b>
                        {words.kin[0]?.toUpperCase()}
                        {words.kin.slice(1)}.
                      </b>
                    </p>
                  )}
                  <p>
                    It {words.contour}: from the {words.startsOn}, {words.shape}; it ends on the {words.endsOn}.
                  </p>
                </div>
                <ContourLine pitches={pitches} width={200} height={56} />
              </div>
              <div className="no-print mt-1 ml-14">
                <button
                  type="button"
                  aria-expanded={shown.has(index)}
                  onClick={() => toggle(index)}
                  className="min-h-7 text-cane underline underline-offset-2"
                >
                  {shown.has(index) ? 'Hide the notes' : 'Show the notes'}
                </button>
              </div>
              {shown.has(index) && (
                <div
                  className="music mt-1 ml-14"
                  role="img"
                  aria-label={`Notes of phrase ${index + 1}`}
                  dangerouslySetInnerHTML={{ __html: picture }}
                />
              )}
            </li>
          ))}
        </ol>
        <p className="mt-6 border-t border-line pt-3 text-[12.5px] text-ink-soft">
          Stop when something hurts, tingles or makes you dizzy, and rest often; a teacher or a clinician decides, not
          the software.
        </p>
      </main>
    </div>
  );
}
