'use client';

import { FileArchive, FileText, Link2, X } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import {
  PACK_LIMITS,
  PACK_SHEET_NAMES,
  type PackChoice,
  type PackFile,
  type PackSheet as PackPages,
} from '../../../core/keys';
import { Button } from '../../../ui/Button';
import { Sheet } from '../../../ui/Sheet';
import { HandoutLinks } from './HandoutLinks';
import { type PackFor, packAddress } from './packAddress';
import { PackContents } from './PackContents';
import { useMaking, type Making } from './useMaking';

const FILE_WORDS: Readonly<Record<PackFile, string>> = {
  bars: 'This week’s bars, three times',
  slow: 'Slowly',
  tempo: 'At tempo',
  musicxml: 'MusicXML, for music programs',
};

/** What a lesson gives to take home: chosen once, made on paper, as files, or as a link. */
export function PackSheet({
  to,
  given,
  isAsBefore,
  today,
  sheets,
  files,
  tunes,
  onKeep,
  onClose,
}: {
  readonly to: PackFor;
  readonly given: PackChoice;
  /** It was chosen for an earlier lesson. */
  readonly isAsBefore: boolean;
  readonly today: string;
  /** What can be in it. */
  readonly sheets: readonly PackPages[];
  readonly files: readonly PackFile[];
  /** Where its tunes are chosen. */
  readonly tunes: (choice: PackChoice, change: (part: Partial<PackChoice>) => void) => ReactNode;
  /** The choice is used: it is kept for the next lesson. */
  readonly onKeep: (choice: PackChoice) => Promise<void>;
  readonly onClose: () => void;
}) {
  const [choice, setChoice] = useState(given);
  const [date, setDate] = useState(today);
  const work = useMaking();
  const change = (part: Partial<PackChoice>) => {
    setChoice((now) => ({ ...now, ...part }));
    work.stop();
    work.reset();
  };
  const wanted: PackChoice = { ...choice, ...(choice.note !== undefined && { note: choice.note.trim() }) };
  const isBusy = work.making.kind === 'making';
  const pages = packAddress(to, 'pack.pdf', wanted, date);
  return (
    <Sheet
      open
      onClose={onClose}
      title={`To take home: ${to.name}`}
      description={
        isAsBefore
          ? 'Chosen as last time; what is set now goes into it.'
          : 'Choose what goes into it. The choice is kept for the next lesson.'
      }
      width="max-w-3xl"
    >
      <div className="grid min-h-0 gap-x-8 overflow-auto px-1 md:grid-cols-2">
        <div>
          <Boxes
            legend="On paper"
            options={sheets.map((value) => ({ value, words: PACK_SHEET_NAMES[value] }))}
            chosen={choice.sheets}
            onChange={(next) => change({ sheets: sheets.filter((one) => next.includes(one)) })}
          />
          <Boxes
            legend="With it"
            options={files.map((value) => ({ value, words: FILE_WORDS[value] }))}
            chosen={choice.files}
            onChange={(next) => change({ files: files.filter((one) => next.includes(one)) })}
          />
          {tunes(choice, change)}
          <label className="mb-3 block">
            <span className="text-[13px] font-medium text-ink-soft">A line for the cover</span>
            <input
              value={choice.note ?? ''}
              maxLength={PACK_LIMITS.note}
              onChange={({ target }) => change({ note: target.value })}
              className="block min-h-9 w-full rounded border border-edge bg-white px-2"
            />
          </label>
          <span className="mb-3 flex flex-wrap gap-4">
            <label>
              <span className="block text-[13px] font-medium text-ink-soft">For the week from</span>
              <input
                type="date"
                required
                value={date}
                onChange={({ target }) => {
                  if (target.value === '') return;
                  setDate(target.value);
                  work.reset();
                }}
                className="min-h-9 rounded border border-edge bg-white px-2"
              />
            </label>
            <fieldset>
              <legend className="text-[13px] font-medium text-ink-soft">Paper</legend>
              <span className="flex gap-4">
                {(['a4', 'letter'] as const).map((paper) => (
                  <label key={paper} className="flex min-h-9 items-center gap-1.5">
                    <input
                      type="radio"
                      name="pack-paper"
                      checked={choice.paper === paper}
                      onChange={() => change({ paper })}
                    />
                    {paper === 'a4' ? 'A4' : 'Letter'}
                  </label>
                ))}
              </span>
            </fieldset>
          </span>
        </div>
        <PackContents to={to} choice={wanted} date={date} />
      </div>
      <div className="mt-3 border-t border-line pt-3">
        <span className="flex flex-wrap items-center gap-2">
          <Button
            kind="main"
            className="min-h-9"
            disabled={isBusy || choice.sheets.length === 0}
            onClick={() => {
              void onKeep(wanted).then(() => work.pages(packAddress(to, 'making', wanted, date)));
            }}
          >
            <FileText size={15} aria-hidden="true" />
            Make the pages
          </Button>
          <Button
            className="min-h-9"
            disabled={isBusy}
            onClick={() => {
              void onKeep(wanted).then(() => work.archive(packAddress(to, 'pack.zip', wanted, date), 'pack.zip'));
            }}
          >
            <FileArchive size={15} aria-hidden="true" />
            Save everything as a zip
          </Button>
          <Progress making={work.making} pages={pages} onStop={work.stop} />
        </span>
        <HandoutLinks to={to} choice={wanted} date={date} onMade={() => void onKeep(wanted)}>
          <Link2 size={15} aria-hidden="true" />
          Make a link …
        </HandoutLinks>
      </div>
    </Sheet>
  );
}

function Boxes<Value extends string>({
  legend,
  options,
  chosen,
  onChange,
}: {
  readonly legend: string;
  readonly options: readonly { readonly value: Value; readonly words: string }[];
  readonly chosen: readonly Value[];
  readonly onChange: (chosen: readonly Value[]) => void;
}) {
  return (
    <fieldset className="mb-3">
      <legend className="text-[13px] font-medium text-ink-soft">{legend}</legend>
      {options.map(({ value, words }) => (
        <label key={value} className="flex min-h-7 items-center gap-2">
          <input
            type="checkbox"
            checked={chosen.includes(value)}
            onChange={({ target }) =>
              onChange(target.checked ? [...chosen, value] : chosen.filter((one) => one !== value))
            }
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}

/** How far it has come, and what can be done with it once it is there. */
function Progress({
  making,
  pages,
  onStop,
}: {
  readonly making: Making;
  readonly pages: string;
  readonly onStop: () => void;
}) {
  if (making.kind === 'failed')
    return (
      <span role="alert" className="text-[13px] text-warn">
        {making.message}
      </span>
    );
  return (
    <span role="status" aria-busy={making.kind === 'making'} className="inline-flex min-h-9 items-center gap-2">
      {making.kind === 'making' && (
        <>
          <span className="text-[13.5px] tabular-nums">
            {making.of > 0 ? `${making.done} of ${making.of}` : 'Beginning …'}
          </span>
          <progress
            aria-label={making.what === 'pages' ? 'Pages made' : 'Files made'}
            max={Math.max(1, making.of)}
            value={making.done}
            className="w-24"
          />
          <Button aria-label="Stop" title="Stop" onClick={onStop}>
            <X size={15} aria-hidden="true" />
          </Button>
        </>
      )}
      {making.kind === 'ready' && making.what === 'files' && 'Saved by the browser.'}
      {making.kind === 'ready' && making.what === 'pages' && (
        <a
          href={pages}
          target="_blank"
          rel="noreferrer"
          ref={(link) => link?.focus()}
          className="font-medium text-cane underline underline-offset-2"
        >
          Open the pages
        </a>
      )}
    </span>
  );
}
