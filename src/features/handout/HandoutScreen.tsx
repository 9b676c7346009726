'use client';

import { Download, FileText, Play } from 'lucide-react';
import type { PackFile } from '../../core/keys';
import type { Level } from '../../core/instruments';
import { dateWords, knownDay } from '../../core/planning';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { useReady } from '../../ui/useReady';
import { Sounds } from '../work/Sounds';
import { useStandKept } from '../work/useStandKept';

interface HandedTune {
  readonly id: string;
  readonly title: string;
  readonly files: readonly PackFile[];
}

interface HandedTo {
  readonly id: string;
  readonly name: string;
  readonly level: Level;
  readonly instrument: string;
  readonly goals: readonly string[];
  readonly caution: string;
  /** Kinds of pages. */
  readonly sheets: readonly string[];
  readonly tunes: readonly HandedTune[];
}

const tuneQuery = (to: HandedTo, tune: HandedTune) => new URLSearchParams({ for: to.id, tune: tune.id }).toString();

/** A pack at home: the pages, the sounds to play along with, and the stand. A group's has everybody's, one to be opened at a time. */
export function HandoutScreen({
  token,
  title,
  date,
  note,
  recipients,
}: {
  readonly token: string;
  readonly title: string;
  readonly date: string;
  readonly note: string | undefined;
  readonly recipients: readonly HandedTo[];
}) {
  useReady();
  const { isKept } = useStandKept();
  const [only] = recipients;
  const cautions = [...new Set(recipients.map(({ caution }) => caution))];
  return (
    <div className="h-dvh overflow-y-auto bg-paper">
      <header className="bg-reed px-5 pt-5 pb-4 text-white">
        <h1 className="font-serif text-2xl font-semibold">{title}</h1>
        <p className="text-reed-pale">
          {recipients.length === 1 && only ? `${only.instrument}, ${LEVEL_NAMES[only.level].toLowerCase()}, ` : ''}
          from {dateWords(knownDay(date))}
        </p>
      </header>
      <main className="mx-auto max-w-2xl px-5 py-4">
        {note && <p className="mb-4 border-l-[3px] border-cane pl-3 font-serif text-lg">{note}</p>}
        {recipients.length === 0 && <p>There is nothing in this pack any more. Ask your teacher for a new one.</p>}
        {recipients.length === 1 && only ? (
          <Contents token={token} to={only} />
        ) : (
          <>
            {recipients.length > 0 && <p className="mb-2 text-ink-soft">Open your own part.</p>}
            {recipients.map((one, k) => (
              <details key={one.id} name="whose" className="mb-2 rounded border border-edge bg-white">
                <summary className="flex min-h-12 cursor-pointer items-center gap-2 px-3">
                  <LevelSign level={one.level} size={18} />
                  <span className="font-semibold">{one.name || `Player ${k + 1}`}</span>
                  <span className="text-ink-soft">{one.instrument}</span>
                </summary>
                <div className="border-t border-line px-3 py-3">
                  <Contents token={token} to={one} />
                </div>
              </details>
            ))}
          </>
        )}
        <p className="mt-6 text-[13px] text-ink-soft">
          {isKept ? 'Saved for offline use; sounds need the network. ' : ''}
          {cautions.length === 1 ? cautions[0] : 'Rest often, and stop when something hurts: tell your teacher.'} Keep
          the volume of headphones low.
        </p>
      </main>
    </div>
  );
}

function Contents({ token, to }: { readonly token: string; readonly to: HandedTo }) {
  const files = `/h/${token}/files`;
  const whose = new URLSearchParams({ for: to.id }).toString();
  const hasFiles = to.tunes.some((tune) => tune.files.length > 0);
  return (
    <>
      {to.goals.length > 0 && (
        <section aria-label="This week" className="mb-4">
          <h2 className="font-serif text-lg font-semibold">This week</h2>
          <ul className="list-disc pl-5">
            {to.goals.map((goal) => (
              <li key={goal}>{goal}</li>
            ))}
          </ul>
        </section>
      )}
      <p className="mb-4 flex flex-wrap gap-2">
        {to.sheets.length > 0 && (
          <FileLink href={`${files}/pages.pdf?${whose}`} isMain>
            <FileText size={16} aria-hidden="true" />
            The pages (PDF)
          </FileLink>
        )}
        {hasFiles && (
          <FileLink href={`${files}/everything.zip?${whose}`}>
            <Download size={16} aria-hidden="true" />
            Everything (zip)
          </FileLink>
        )}
      </p>
      {to.sheets.length > 0 && <p className="mb-3 text-[13px] text-ink-soft">{to.sheets.join(' · ')}</p>}
      {to.tunes.map((tune) => (
        <section key={tune.id} aria-label={tune.title} className="border-t border-line py-3">
          <h3 className="flex flex-wrap items-center justify-between gap-2 font-serif text-base font-semibold">
            {tune.title}
            <a
              href={`/h/${token}/stand?${tuneQuery(to, tune)}`}
              aria-label={`${tune.title} on the stand`}
              className="inline-flex min-h-11 items-center gap-1.5 rounded border border-edge bg-paper px-3 font-sans text-[14px] font-medium hover:bg-cane-pale"
            >
              <Play size={15} aria-hidden="true" />
              On the stand
            </a>
          </h3>
          <Sounds
            title={tune.title}
            sounds={tune.files}
            addressOf={(what) => `${files}/${what}.mp3?${tuneQuery(to, tune)}`}
          />
          {tune.files.includes('musicxml') && (
            <a
              href={`${files}/part.musicxml?${tuneQuery(to, tune)}`}
              download
              className="inline-flex min-h-9 items-center text-cane underline underline-offset-2"
            >
              The part as MusicXML, for music programs
            </a>
          )}
        </section>
      ))}
    </>
  );
}

function FileLink({
  href,
  isMain = false,
  children,
}: {
  readonly href: string;
  readonly isMain?: boolean;
  readonly children: React.ReactNode;
}) {
  return (
    <a
      href={href}
      target="_blank"
      rel="noreferrer"
      className={`inline-flex min-h-11 items-center gap-1.5 rounded px-4 font-medium ${isMain ? 'bg-cane text-white hover:bg-[#6f430f]' : 'border border-edge bg-paper hover:bg-cane-pale'}`}
    >
      {children}
    </a>
  );
}
