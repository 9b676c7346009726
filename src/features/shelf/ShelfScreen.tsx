'use client';

import { PencilLine, Plus, Search, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, useTransition } from 'react';
import { z } from 'zod';
import { storedWork } from '../../core/work/stored';
import { LEVELS } from '../../core/instruments';
import { newTune } from '../../core/score/edit';
import { Button } from '../../ui/Button';
import { DrawnPicture } from '../../ui/DrawnPicture';
import { HelpSheet } from '../../ui/HelpSheet';
import { LEVEL_NAMES, LevelSign, LevelSymbols } from '../../ui/LevelSign';
import { Rail } from '../../ui/Rail';
import { useToast } from '../../ui/Toast';
import { nothing, send } from '../work/send';
import { plainKey, useKeys } from '../work/useKeys';
import { BringInSheet } from './BringInSheet';
import { MoreTunes } from './MoreTunes';
import { NewProgressionSheet, NewTuneSheet } from './NewTuneSheet';
import { NewDrillSheet } from './NewDrillSheet';
import { useShelfPages, type ShelfKind, type ShelfPage, type ShelfTune } from './shelfPages';

/** Where the tunes are: each with its opening, by which musicians know it. */
export function ShelfScreen({
  studio,
  first,
  search,
  kind,
}: {
  readonly studio: string;
  /** The first page; the others come as they are scrolled to. */
  readonly first: ShelfPage;
  readonly search: string;
  /** Both kinds where none is asked for. */
  readonly kind: ShelfKind | undefined;
}) {
  const { tunes, hasMore, loadMore, isLoading, trouble, forget } = useShelfPages(first, search, kind);
  const router = useRouter();
  const tell = useToast();
  const [isSearching, startSearch] = useTransition();
  const [words, setWords] = useState(search);
  const [sheet, setSheet] = useState<'bring in' | 'tune' | 'progression' | 'drill'>();
  const closeSheet = () => setSheet(undefined);
  const [help, setHelp] = useState(false);
  const searchRef = useRef<HTMLInputElement>(null);

  useKeys((event) => {
    const key = plainKey(event);
    if (key === '?') setHelp(true);
    else if (key === '/') searchRef.current?.focus();
    return key === '/';
  });

  useEffect(() => {
    if (words === search) return undefined;
    const timer = setTimeout(() => startSearch(() => router.replace(shelfAddress(words, kind))), 200);
    return () => clearTimeout(timer);
  }, [words, search, kind, router]);

  const newLick = async () => {
    const made = await send('/api/tunes/new', z.object({ id: z.string() }), {
      method: 'POST',
      json: storedWork({ tune: { ...newTune(EMPTY_LICK), lick: {} }, recipes: {} }),
    });
    if (made.ok) router.push(`/tunes/${made.value.id}/tune`);
    else tell(`${made.problem.message} Nothing was saved; please try again.`);
  };

  const restore = async (tune: ShelfTune) => {
    const restored = await send(`/api/tunes/${tune.id}/restore`, nothing, { method: 'POST' });
    if (restored.ok) router.refresh();
    else tell(`${restored.problem.message} “${tune.title || 'Untitled'}” was not restored.`);
  };
  const remove = async (tune: ShelfTune) => {
    const name = tune.title || 'Untitled';
    const removed = await send(`/api/tunes/${tune.id}`, nothing, { method: 'DELETE' });
    if (!removed.ok) return tell(`${removed.problem.message} “${name}” was not removed.`);
    forget(tune.id);
    router.refresh();
    tell(`“${name}” was removed.`, { label: 'Restore', run: () => void restore(tune) });
  };

  return (
    <div className="app-frame flex h-dvh">
      <Rail here="shelf" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 border-b border-line bg-panel px-4 py-3.5 md:px-6">
          <div className="min-w-0">
            <h1 className="font-serif text-[22px] leading-7 font-semibold">Shelf</h1>
            <p className="truncate text-[13px] text-ink-soft">{studio}</p>
          </div>
          <nav aria-label="What is shown" className="flex gap-1">
            {KINDS.map(({ of, name }) => (
              <Link
                key={name}
                prefetch={false}
                href={shelfAddress(words, of)}
                aria-current={of === kind ? 'page' : undefined}
                className="min-h-8 rounded px-2.5 leading-8 hover:bg-cane-pale aria-[current=page]:bg-paper aria-[current=page]:font-semibold aria-[current=page]:outline aria-[current=page]:outline-edge"
              >
                {name}
              </Link>
            ))}
          </nav>
          <div className="flex flex-wrap items-center gap-2.5">
            <label className="flex min-h-9 w-60 max-md:w-full items-center gap-2 rounded border border-edge bg-paper px-2.5 focus-within:outline-2 focus-within:outline-cane">
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
            <Button className="min-h-9 px-3" onClick={() => setSheet('tune')}>
              <PencilLine size={15} aria-hidden="true" />
              New tune
            </Button>
            <Button className="min-h-9 px-3" onClick={() => setSheet('progression')}>
              <PencilLine size={15} aria-hidden="true" />
              New progression
            </Button>
            <Button className="min-h-9 px-3" onClick={() => setSheet('drill')}>
              <PencilLine size={15} aria-hidden="true" />
              New drill
            </Button>
            {kind === 'lick' && (
              <Button className="min-h-9 px-3" onClick={() => void newLick()}>
                <PencilLine size={15} aria-hidden="true" />
                New lick
              </Button>
            )}
            <Button kind="main" className="min-h-9 px-4" onClick={() => setSheet('bring in')}>
              <Plus size={16} aria-hidden="true" />
              Bring in a tune
            </Button>
          </div>
        </header>
        <main className="relative min-h-0 flex-1 overflow-y-auto bg-paper" aria-busy={isSearching}>
          <LevelSymbols />
          {tunes.length === 0 ? (
            <EmptyShelf search={search} onBring={() => setSheet('bring in')} />
          ) : (
            <ul aria-label="Tunes" className="relative">
              {tunes.map((tune) => (
                <li
                  key={tune.id}
                  className="group relative flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-line py-3 pr-4 pl-4 md:flex-nowrap md:pl-6 focus-within:bg-cane-pale/50 hover:bg-cane-pale/50"
                >
                  <div className="w-full shrink-0 md:w-44 lg:w-60">
                    <Link
                      href={`/tunes/${tune.id}/${FIRST_STEP[tune.kind]}`}
                      className="font-serif text-[17px] leading-6 font-semibold after:absolute after:inset-0"
                    >
                      {tune.title || 'Untitled'}
                    </Link>
                    <p className="truncate text-[13px] text-ink-soft">{tune.composer || KIND_TEXT[tune.kind]}</p>
                  </div>
                  <DrawnPicture
                    src={`/api/tunes/${tune.id}/files/opening.svg?of=${encodeURIComponent(tune.updatedAt)}`}
                    alt={`Opening of ${tune.title || 'the tune'}`}
                    loading="lazy"
                    width={560}
                    height={64}
                    className="h-16 min-w-0 object-contain object-left max-md:w-full md:flex-1"
                  />
                  <p className="shrink-0 text-[13px] max-md:flex-1 md:w-28 lg:w-36 leading-5 text-ink-soft">
                    {tune.kind === 'drill' ? 'drill' : tune.keyName}
                    <br />
                    {tune.kind === 'drill'
                      ? 'laid out by level'
                      : `${tune.meter} · ${tune.bars === 1 ? '1 bar' : `${tune.bars} bars`}`}
                  </p>
                  <p className="flex w-20 shrink-0 items-center gap-2" title={madeText(tune.levels)}>
                    <span className="sr-only">{madeText(tune.levels)}</span>
                    {LEVELS.map((level) => (
                      <LevelSign key={level} level={level} faint={!tune.levels.includes(level)} size={22} shared />
                    ))}
                  </p>
                  <button
                    type="button"
                    aria-label={`Remove ${tune.title || 'Untitled'}`}
                    title="Remove from the shelf"
                    onClick={() => void remove(tune)}
                    className="relative flex size-8 items-center justify-center rounded text-ink-soft hover:bg-warn-pale hover:text-warn"
                  >
                    <Trash2 size={16} aria-hidden="true" />
                  </button>
                </li>
              ))}
            </ul>
          )}
          {hasMore && <MoreTunes isLoading={isLoading} trouble={trouble} onMore={loadMore} />}
        </main>
      </div>
      {sheet === 'bring in' && (
        <BringInSheet
          onClose={closeSheet}
          onSaved={(id) => router.push(`/tunes/${id}/tune`)}
          onBroughtBack={() => router.refresh()}
        />
      )}
      {sheet === 'tune' && (
        <NewTuneSheet onClose={closeSheet} onMade={(id) => router.push(`/tunes/${id}/tune#write`)} />
      )}
      {sheet === 'progression' && (
        <NewProgressionSheet onClose={closeSheet} onMade={(id) => router.push(`/tunes/${id}/improvise`)} />
      )}
      {sheet === 'drill' && <NewDrillSheet onClose={closeSheet} onMade={(id) => router.push(`/tunes/${id}/drills`)} />}
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

/** Two empty bars to write a lick into. */
const EMPTY_LICK: Parameters<typeof newTune>[0] = {
  title: 'New lick',
  key: { tonic: { step: 'C', alter: 0 }, mode: 'major' },
  meter: { count: 4, unit: 4 },
  pickup: 0,
  bars: 2,
};

/** Where a document opens. */
const FIRST_STEP: Readonly<Record<ShelfKind, string>> = { tune: 'levels', drill: 'drills', lick: 'lick' };
const KIND_TEXT: Readonly<Record<ShelfKind, string>> = { tune: 'no composer given', drill: 'a drill', lick: 'a lick' };

const KINDS: readonly { readonly of: ShelfKind | undefined; readonly name: string }[] = [
  { of: undefined, name: 'All' },
  { of: 'tune', name: 'Tunes' },
  { of: 'drill', name: 'Drills' },
  { of: 'lick', name: 'Licks' },
];

function shelfAddress(words: string, kind: ShelfKind | undefined): string {
  const query = new URLSearchParams({ ...(words.trim() && { search: words }), ...(kind && { kind }) }).toString();
  return query ? `/?${query}` : '/';
}

function madeText(levels: ShelfTune['levels']): string {
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
