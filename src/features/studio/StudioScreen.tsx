'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { z } from 'zod';
import { Button } from '../../ui/Button';
import { HelpSheet } from '../../ui/HelpSheet';
import { Rail } from '../../ui/Rail';
import { useToast } from '../../ui/Toast';
import { useWhoAsks } from '../../ui/WhoAsks';
import { nothing, send } from '../work/send';
import { plainKey, useKeys } from '../work/useKeys';
import { archiveText, bringBackArchive, exportText, leftOutOf } from '../work/archive';
import { downloadArchive } from '../work/downloadArchive';
import { binKindWord, daysLeft, type BinItem } from './studioWords';

/** What belongs to the whole studio: everything as one archive, the bin, and a pupil's name. */
export function StudioScreen({
  studio,
  parts,
  bin,
  more,
  room = [],
  now,
}: {
  readonly studio: string;
  /** Archives that an export of all of it takes. */
  readonly parts: number;
  readonly bin: readonly BinItem[];
  /** Things in the bin beyond those. */
  readonly more: number;
  /** How much of its room the studio has used. */
  readonly room?: readonly RoomUsed[];
  /** When the page was made, ISO 8601, so that server and browser count the same days. */
  readonly now: string;
}) {
  const [help, setHelp] = useState(false);
  const who = useWhoAsks();
  const isOwners = who === undefined || who.role === 'owner';
  useKeys((event) => {
    if (plainKey(event) === '?') setHelp(true);
    return false;
  });
  return (
    <div className="app-frame flex h-dvh">
      <Rail here="studio" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="border-b border-line bg-panel px-4 py-3.5 md:px-6">
          <h1 className="font-serif text-[22px] leading-7 font-semibold">Studio</h1>
          <p className="truncate text-[13px] text-ink-soft">{studio}</p>
        </header>
        <main className="min-h-0 flex-1 overflow-y-auto bg-paper px-4 py-4 md:px-6">
          <div className="grid max-w-5xl gap-6 md:grid-cols-2">
            {isOwners && <ArchivePart parts={parts} />}
            <NamePart />
            {room.length > 0 && <RoomPart room={room} />}
          </div>
          <BinPart bin={bin} more={more} now={now} />
        </main>
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

function Part({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <section aria-label={title} className="rounded border border-line bg-panel p-4">
      <h2 className="font-serif text-lg font-semibold">{title}</h2>
      {children}
    </section>
  );
}

interface RoomUsed {
  readonly kind: string;
  readonly present: number;
  readonly most: number;
}

/** From here on it is said that there will soon be no room. */
const NEARLY_FULL = 0.9;

function RoomPart({ room }: { readonly room: readonly RoomUsed[] }) {
  return (
    <Part title="Room">
      <ul className="mt-1">
        {room.map(({ kind, present, most }) => (
          <li key={kind} className={present >= NEARLY_FULL * most ? 'font-semibold text-warn' : ''}>
            {present.toLocaleString('en')} of {most.toLocaleString('en')} {kind}
            {present >= most ? ': no more can be added' : present >= NEARLY_FULL * most ? ': nearly full' : ''}
          </li>
        ))}
      </ul>
    </Part>
  );
}

type Exporting = { readonly part: number; readonly done: number; readonly of: number } | undefined;

function ArchivePart({ parts }: { readonly parts: number }) {
  const router = useRouter();
  const picker = useRef<HTMLInputElement>(null);
  const [words, setWords] = useState<readonly string[]>([]);
  const [isReading, setReading] = useState(false);
  const [exporting, setExporting] = useState<Exporting>();
  const end = useRef<AbortController>(undefined);
  useEffect(() => () => end.current?.abort(), []);
  const exportPart = async (part: number) => {
    const own = new AbortController();
    end.current = own;
    setWords([]);
    setExporting({ part, done: 0, of: 0 });
    const address = `/api/archive?part=${part}`;
    const ended = await downloadArchive(address, 'reed-hook-studio.zip', own.signal, (done, of) =>
      setExporting({ part, done, of }),
    );
    setExporting(undefined);
    if (ended.kind === 'failed') setWords([ended.message]);
    if (ended.kind === 'saved') setWords(exportText(leftOutOf(ended.pieces)));
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    setReading(true);
    const read = await bringBackArchive(file);
    setReading(false);
    setWords(read.ok ? archiveText(read.value) : [read.problem.message, 'Nothing was changed.']);
    router.refresh();
  };
  return (
    <Part title="Everything in one archive">
      <p className="mt-1 mb-3">
        All tunes with their levels, groups, pupils with their logs, saved recipes and custom instruments, as files that
        other programs open too. The archive can be brought back here: what is there already stays as it is.
        {parts > 1 && ` This studio is exported in ${parts} archives; each can be brought back by itself.`}
      </p>
      <div className="flex flex-wrap gap-2">
        {exporting ? (
          <span role="status" className="inline-flex min-h-7 items-center gap-2">
            {exporting.of > 0 ? `${Math.min(exporting.done, exporting.of)} of ${exporting.of} files` : 'Exporting …'}
            <progress
              aria-label="Files exported"
              max={Math.max(1, exporting.of)}
              value={exporting.done}
              className="w-24"
            />
            <Button onClick={() => end.current?.abort()}>Stop</Button>
          </span>
        ) : (
          Array.from({ length: parts }, (_, index) => (
            <Button key={index} kind="main" onClick={() => void exportPart(index + 1)}>
              {parts === 1 ? 'Export everything' : `Export part ${index + 1} of ${parts}`}
            </Button>
          ))
        )}
        <input
          ref={picker}
          type="file"
          accept=".zip"
          aria-label="An archive to bring back"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            void take(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
        <Button disabled={isReading} onClick={() => picker.current?.click()}>
          {isReading ? 'Reading the archive …' : 'Bring back an archive …'}
        </Button>
      </div>
      <ul aria-live="polite" className="mt-2 text-[13px]">
        {words.map((word) => (
          <li key={word} className="break-words">
            {word}
          </li>
        ))}
      </ul>
    </Part>
  );
}

function NamePart() {
  const router = useRouter();
  const [name, setName] = useState('');
  const [words, setWords] = useState('');
  const forget = async () => {
    const done = await send('/api/names', z.object({ players: z.int() }), { method: 'DELETE', json: { name } });
    setWords(
      done.ok
        ? `The name was taken from ${done.value.players === 1 ? 'one player' : `${done.value.players} players`}. Backups and files that were made before still hold it.`
        : done.problem.message,
    );
    if (done.ok) {
      setName('');
      router.refresh();
    }
  };
  return (
    <Part title="A pupil’s name">
      <p className="mt-1 mb-3">
        Deletes a name from every group at once, also from groups in the bin, and the pupil of that name with the whole
        practice log. Players stay, without a name; this cannot be undone.
      </p>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void forget();
        }}
      >
        <input
          aria-label="The name to delete"
          value={name}
          onChange={(event) => setName(event.target.value)}
          maxLength={200}
          className="min-h-8 min-w-0 flex-1 rounded border border-edge bg-paper px-2"
        />
        <Button type="submit" disabled={name.trim() === ''}>
          Delete everywhere
        </Button>
      </form>
      <p aria-live="polite" className="mt-2 text-[13px]">
        {words}
      </p>
    </Part>
  );
}

function BinPart({
  bin,
  more,
  now,
}: {
  readonly bin: readonly BinItem[];
  readonly more: number;
  readonly now: string;
}) {
  const router = useRouter();
  const tell = useToast();
  const [asked, setAsked] = useState<string>();
  const act = async ({ kind, id, name }: BinItem, method: 'POST' | 'DELETE') => {
    const done = await send(`/api/bin/${kind}/${id}`, nothing, { method });
    const title = name || 'Untitled';
    setAsked(undefined);
    tell(
      done.ok
        ? `“${title}” was ${method === 'POST' ? 'restored' : 'deleted'}.`
        : `${done.problem.message} (“${title}”)`,
    );
    router.refresh();
  };
  return (
    <section aria-label="Bin" className="mt-6 max-w-5xl">
      <h2 className="font-serif text-lg font-semibold">Bin</h2>
      <p className="mb-2 text-ink-soft">What was removed can be restored for 30 days; then it is deleted for good.</p>
      {bin.length === 0 ? (
        <p className="rounded border border-line bg-panel p-4">The bin is empty.</p>
      ) : (
        <ul className="rounded border border-line bg-panel">
          {bin.map((item) => {
            const key = `${item.kind}/${item.id}`;
            return (
              <li
                key={key}
                className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2 last:border-0"
              >
                <span className="w-24 text-[13px] text-ink-soft">{binKindWord(item.kind)}</span>
                <span className="min-w-0 flex-1 truncate font-medium">{item.name || 'Untitled'}</span>
                <span className="text-[13px] text-ink-soft">{daysLeft(item.until, now)}</span>
                {asked === key ? (
                  <span className="flex items-center gap-2">
                    <span className="text-[13px]">For good?</span>
                    <Button onClick={() => void act(item, 'DELETE')}>Delete</Button>
                    <Button kind="quiet" onClick={() => setAsked(undefined)}>
                      Keep
                    </Button>
                  </span>
                ) : (
                  <span className="flex gap-2">
                    <Button aria-label={`Restore ${item.name || 'Untitled'}`} onClick={() => void act(item, 'POST')}>
                      Restore
                    </Button>
                    <Button kind="quiet" aria-label={`Delete ${item.name || 'Untitled'}`} onClick={() => setAsked(key)}>
                      Delete
                    </Button>
                  </span>
                )}
              </li>
            );
          })}
        </ul>
      )}
      {more > 0 && (
        <p className="mt-2 text-[13px]">
          {more === 1 ? 'One more thing is' : `${more} more things are`} in the bin. They are listed here once some of
          these are restored or deleted.
        </p>
      )}
    </section>
  );
}
