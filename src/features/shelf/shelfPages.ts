'use client';

import { useState } from 'react';
import { z } from 'zod';
import { LEVELS } from '../../core/instruments';
import { send } from '../work/send';

const placeSchema = z.object({ title: z.string(), id: z.string() });
const tuneSchema = z.object({
  id: z.string(),
  kind: z.enum(['tune', 'drill', 'lick']),
  title: z.string(),
  composer: z.string(),
  keyName: z.string(),
  meter: z.string(),
  bars: z.number(),
  levels: z.array(z.enum(LEVELS)).readonly(),
  updatedAt: z.string(),
});
const pageSchema = z.object({ tunes: z.array(tuneSchema).readonly(), next: placeSchema.optional() });

/** A tune as it stands on the shelf. */
export type ShelfTune = Readonly<z.infer<typeof tuneSchema>>;
/** Some tunes of the shelf, and where the next ones begin. */
export interface ShelfPage {
  readonly tunes: readonly ShelfTune[];
  readonly next?: { readonly title: string; readonly id: string } | undefined;
}

export type ShelfKind = ShelfTune['kind'];

/** The pages after the first, of one search. */
interface Further extends ShelfPage {
  readonly search: string;
  readonly kind: ShelfKind | undefined;
}

/** The tunes that are loaded so far: the first page as the server last sent it, and what was scrolled to. */
export function useShelfPages(first: ShelfPage, search: string, kind: ShelfKind | undefined) {
  const [further, setFurther] = useState<Further>();
  const [isLoading, setLoading] = useState(false);
  const [trouble, setTrouble] = useState('');
  const rest = further?.search === search && further.kind === kind ? further : undefined;
  const next = rest ? rest.next : first.next;
  const loadMore = async () => {
    if (!next || isLoading) return;
    setLoading(true);
    const query = new URLSearchParams({ search, ...(kind && { kind }), afterTitle: next.title, afterId: next.id });
    const page = await send(`/api/tunes?${query.toString()}`, pageSchema, { method: 'GET' });
    setLoading(false);
    setTrouble(page.ok ? '' : page.problem.message);
    if (page.ok)
      setFurther({ search, kind, tunes: [...(rest?.tunes ?? []), ...page.value.tunes], next: page.value.next });
  };
  return {
    tunes: shownOnce([...first.tunes, ...(rest?.tunes ?? [])]),
    hasMore: next !== undefined,
    loadMore: () => void loadMore(),
    isLoading,
    trouble,
    /** Takes a removed tune out of what was scrolled to; the first page comes anew from the server. */
    forget: (id: string) => setFurther((now) => now && { ...now, tunes: now.tunes.filter((tune) => tune.id !== id) }),
  };
}

/** A tune that moved between two pages meanwhile stands in both. */
export function shownOnce(tunes: readonly ShelfTune[]): readonly ShelfTune[] {
  const seen = new Set<string>();
  return tunes.filter(({ id }) => !seen.has(id) && seen.add(id));
}
