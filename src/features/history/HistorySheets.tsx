'use client';

import { capitalised } from '../../core/plainText';
import { useEffect, useState } from 'react';
import type { Work } from '../../core/work';
import { Button } from '../../ui/Button';
import { Sheet } from '../../ui/Sheet';
import { barsPicture, compare, momentText, type Revision } from './revisions';

interface Version {
  readonly revision: Revision;
  readonly work: Work;
}

/** Bars on one line of a picture. */
const BARS_A_LINE = 4;

/** The lines in which some bars are shown. */
function linesOf(from: number, to: number): readonly { readonly from: number; readonly to: number }[] {
  const lines: { from: number; to: number }[] = [];
  for (let at = from; at < to; at += BARS_A_LINE) lines.push({ from: at, to: Math.min(to, at + BARS_A_LINE) });
  return lines;
}

function Bars({
  id,
  revision,
  from,
  to,
  label,
  width,
}: {
  readonly id: string;
  readonly revision: Revision;
  readonly from: number;
  readonly to: number;
  readonly label: string;
  /** CSS pixels. */
  readonly width: number;
}) {
  return (
    <>
      {linesOf(from, to).map((line) => (
        <BarLine key={line.from} id={id} revision={revision.revision} line={line} width={width} label={label} />
      ))}
    </>
  );
}

/** A line of a version, drawn by the server when it is shown. */
function BarLine({
  id,
  revision,
  line: { from, to },
  width,
  label,
}: {
  readonly id: string;
  readonly revision: number;
  readonly line: { readonly from: number; readonly to: number };
  readonly width: number;
  readonly label: string;
}) {
  const [drawn, setDrawn] = useState<{ readonly svg: string } | { readonly trouble: string }>();
  useEffect(() => {
    let isShown = true;
    void barsPicture(id, revision, { from, to }, width).then((picture) => {
      if (isShown) setDrawn(picture.ok ? picture.value : { trouble: picture.problem.message });
    });
    return () => {
      isShown = false;
    };
  }, [id, revision, from, to, width]);
  if (drawn && 'trouble' in drawn) return <p role="alert">{drawn.trouble}</p>;
  const name = `${label}: ${from + 1 === to ? `bar ${to}` : `bars ${from + 1} to ${to}`} of the page`;
  return drawn ? (
    <div role="img" aria-label={name} className="music" dangerouslySetInnerHTML={{ __html: drawn.svg }} />
  ) : (
    <p aria-busy="true" className="flex h-20 items-center text-ink-soft">
      Drawing …
    </p>
  );
}

interface SheetProps extends Version {
  readonly id: string;
  readonly onClose: () => void;
  readonly onRestore: () => void;
}

function RestoreLine({ revision, onClose, onRestore }: Pick<SheetProps, 'revision' | 'onClose' | 'onRestore'>) {
  return (
    <div className="mt-3 flex items-center justify-end gap-2 border-t border-line pt-3">
      <p className="mr-auto text-[13px] text-ink-soft">Restoring makes a new version; nothing is lost by it.</p>
      <Button kind="quiet" onClick={onClose}>
        Close
      </Button>
      <Button
        kind="main"
        onClick={() => {
          onRestore();
          onClose();
        }}
      >
        Restore version {revision.version}
      </Button>
    </div>
  );
}

/** A version as it was, to read. */
export function LookSheet({ id, revision, work, onClose, onRestore }: SheetProps) {
  return (
    <Sheet
      open
      onClose={onClose}
      width="max-w-4xl"
      title={`${work.tune.title || 'Untitled'}, version ${revision.version}`}
      description={`${momentText(revision.savedAt)}${revision.name ? ` · ${revision.name}` : ''}`}
    >
      <div
        tabIndex={0}
        role="region"
        aria-label="The tune as it was"
        className="min-h-0 flex-1 overflow-y-auto rounded bg-paper p-3"
      >
        <Bars
          id={id}
          revision={revision}
          from={0}
          to={work.tune.bars.length}
          label={`Version ${revision.version}`}
          width={740}
        />
      </div>
      <RestoreLine revision={revision} onClose={onClose} onRestore={onRestore} />
    </Sheet>
  );
}

/** Two versions bar by bar: where they differ, and how each has it. */
export function CompareSheet({ id, revision, work, now, onClose, onRestore }: SheetProps & { readonly now: Version }) {
  const { words, bars } = compare(work, now.work);
  return (
    <Sheet
      open
      onClose={onClose}
      width="max-w-5xl"
      title={`Version ${revision.version} and now`}
      description={`${momentText(revision.savedAt)}${revision.name ? ` · ${revision.name}` : ''}`}
    >
      <div tabIndex={0} role="region" aria-label="Differences" className="min-h-0 flex-1 overflow-y-auto">
        {words.length === 0 && bars.length === 0 && (
          <p className="p-3">Both are the same, bar by bar and level by level.</p>
        )}
        {words.length > 0 && (
          <ul className="mb-3 list-disc rounded bg-paper p-3 pl-8">
            {words.map((word) => (
              <li key={word} className="break-words">
                {word}
              </li>
            ))}
          </ul>
        )}
        {bars.map(({ text, before, after }) => (
          <section key={`${before.from}/${after.from}`} className="mb-3 rounded bg-paper p-3">
            <h3 className="font-semibold">{capitalised(text)}</h3>
            <div className="grid gap-4 md:grid-cols-2">
              <div>
                <p className="text-[13px] text-ink-soft">then</p>
                {before.to > before.from ? (
                  <Bars id={id} revision={revision} {...before} label="Then" width={410} />
                ) : (
                  <p className="text-ink-soft">not there</p>
                )}
              </div>
              <div>
                <p className="text-[13px] text-ink-soft">now</p>
                {after.to > after.from ? (
                  <Bars id={id} revision={now.revision} {...after} label="Now" width={410} />
                ) : (
                  <p className="text-ink-soft">not there</p>
                )}
              </div>
            </div>
          </section>
        ))}
      </div>
      <RestoreLine revision={revision} onClose={onClose} onRestore={onRestore} />
    </Sheet>
  );
}
