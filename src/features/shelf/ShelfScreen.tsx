'use client';

import { Plus, Search, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, useTransition } from 'react';
import { LEVELS, type Level } from '../../core/instruments/instrument';
import { Button } from '../../ui/Button';
import { HelpSheet } from '../../ui/HelpSheet';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { Rail } from '../../ui/Rail';
import { useTell } from '../../ui/Toast';
import { BringInSheet } from './BringInSheet';

/** A tune as it stands on the shelf. */
export interface ShelfTune {
  readonly id: string;
  readonly title: string;
  readonly composer: string;
  readonly keyName: string;
  readonly meter: string;
  readonly bars: number;
  readonly levels: readonly Level[];
  readonly updatedAt: string;
}

/** Where the tunes are kept: each with its opening, by which musicians know it. */
export function ShelfScreen({
  studio,
  tunes,
  search,
}: {
  readonly studio: string;
  readonly tunes: readonly ShelfTune[];
  readonly search: string;
}) {
  const router = useRouter();
  const tell = useTell();
  const [isSearching, startSearch] = useTransition();
  const [words, setWords] = useState(search);
  const [bringing, setBringing] = useState(false);
  const [help, setHelp] = useState(false);
  const searchRef = useRef<HTMLInputElement>(null);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLElement && event.target.matches('input, textarea')) return;
      if (event.key === '?') setHelp(true);
      if (event.key === '/') {
        event.preventDefault();
        searchRef.current?.focus();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  useEffect(() => {
    if (words === search) return undefined;
    const timer = setTimeout(
      () => startSearch(() => router.replace(words.trim() ? `/?search=${encodeURIComponent(words)}` : '/')),
      200,
    );
    return () => clearTimeout(timer);
  }, [words, search, router]);

  const call = async (address: string, method: string): Promise<boolean> => {
    try {
      const response = await fetch(address, { method });
      if (response.ok) return true;
      const { messages } = (await response.json().catch(() => ({}))) as { messages?: readonly string[] };
      tell(messages?.join(' ') ?? 'That did not work; nothing was changed.');
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
      tell('The program does not answer; nothing was changed.');
    }
    return false;
  };
  const putBack = async (tune: ShelfTune) => {
    if (await call(`/api/tunes/${tune.id}/restore`, 'POST')) router.refresh();
  };
  const remove = async (tune: ShelfTune) => {
    if (!(await call(`/api/tunes/${tune.id}`, 'DELETE'))) return;
    router.refresh();
    tell(`“${tune.title || 'Untitled'}” was taken off the shelf.`, {
      label: 'Put it back',
      run: () => void putBack(tune),
    });
  };

  return (
    <div className="flex h-dvh">
      <Rail here="shelf" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="flex items-center justify-between gap-4 border-b border-line bg-panel px-6 py-3.5">
          <div className="min-w-0">
            <h1 className="font-serif text-[22px] leading-7 font-semibold">Shelf</h1>
            <p className="truncate text-[13px] text-ink-soft">{studio}</p>
          </div>
          <div className="flex items-center gap-3">
            <label className="flex min-h-9 w-64 items-center gap-2 rounded border border-[#8f8d7c] bg-paper px-2.5 focus-within:outline-2 focus-within:outline-cane">
              <Search size={15} aria-hidden="true" className="shrink-0 text-ink-soft" />
              <input
                ref={searchRef}
                value={words}
                onChange={(event) => setWords(event.target.value)}
                aria-label="Search title, composer or key"
                placeholder="title, composer or key"
                maxLength={100}
                className="w-full bg-transparent outline-none"
              />
            </label>
            <Button kind="main" className="min-h-9 px-4" onClick={() => setBringing(true)}>
              <Plus size={16} aria-hidden="true" />
              Bring in a tune
            </Button>
          </div>
        </header>
        <main className="min-h-0 flex-1 overflow-y-auto bg-paper" aria-busy={isSearching}>
          {tunes.length === 0 ? (
            <EmptyShelf search={search} onBring={() => setBringing(true)} />
          ) : (
            <ul aria-label="Tunes">
              {tunes.map((tune) => (
                <li
                  key={tune.id}
                  className="group relative flex items-center gap-6 border-b border-line py-3 pr-4 pl-6 focus-within:bg-cane-pale/50 hover:bg-cane-pale/50"
                >
                  <div className="w-60 shrink-0">
                    <Link
                      href={`/tunes/${tune.id}/levels`}
                      className="font-serif text-[17px] leading-6 font-semibold after:absolute after:inset-0"
                    >
                      {tune.title || 'Untitled'}
                    </Link>
                    <p className="truncate text-[13px] text-ink-soft">{tune.composer || 'no composer given'}</p>
                  </div>
                  {/* The picture comes from our own server as a finished drawing; there is nothing for an image optimiser to do. */}
                  {/* eslint-disable-next-line @next/next/no-img-element */}
                  <img
                    src={`/api/tunes/${tune.id}/files/opening.svg?of=${encodeURIComponent(tune.updatedAt)}`}
                    alt={`Opening of ${tune.title || 'the tune'}`}
                    loading="lazy"
                    width={560}
                    height={64}
                    className="h-16 min-w-0 flex-1 object-contain object-left"
                  />
                  <p className="w-36 shrink-0 text-[13px] leading-5 text-ink-soft">
                    {tune.keyName}
                    <br />
                    {tune.meter} · {tune.bars} bars
                  </p>
                  <p className="flex w-20 shrink-0 items-center gap-2" title={madeText(tune.levels)}>
                    <span className="sr-only">{madeText(tune.levels)}</span>
                    {LEVELS.map((level) => (
                      <LevelSign key={level} level={level} faint={!tune.levels.includes(level)} size={22} />
                    ))}
                  </p>
                  <button
                    type="button"
                    aria-label={`Take ${tune.title || 'Untitled'} off the shelf`}
                    title="Take off the shelf"
                    onClick={() => void remove(tune)}
                    className="relative flex size-8 items-center justify-center rounded text-ink-soft hover:bg-warn-pale hover:text-warn"
                  >
                    <Trash2 size={16} aria-hidden="true" />
                  </button>
                </li>
              ))}
            </ul>
          )}
        </main>
      </div>
      <BringInSheet
        open={bringing}
        onClose={() => setBringing(false)}
        onSaved={(id) => router.push(`/tunes/${id}/tune`)}
      />
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

function madeText(levels: readonly Level[]): string {
  return levels.length === 0
    ? 'No level made yet'
    : `Made: ${levels.map((level) => LEVEL_NAMES[level].toLowerCase()).join(', ')}`;
}

function EmptyShelf({ search, onBring }: { readonly search: string; readonly onBring: () => void }) {
  return (
    <div className="flex h-full flex-col items-center justify-center gap-3">
      <p className="font-serif text-lg">
        {search ? `Nothing on the shelf is called “${search}”.` : 'The shelf is empty.'}
      </p>
      <Button onClick={onBring}>Bring in a tune</Button>
    </div>
  );
}
