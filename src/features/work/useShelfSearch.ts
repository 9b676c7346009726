'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { send } from './send';

const pageSchema = z.object({ tunes: z.array(z.object({ id: z.string(), title: z.string() })) });
export type ShelfTune = z.infer<typeof pageSchema>['tunes'][number];

/** So long after the last key the shelf is asked. Milliseconds. */
const PAUSE = 200;

/** The first tunes of the shelf that words find, while they are written; a sentence where it could not be asked. */
export function useShelfSearch(words: string): { readonly tunes: readonly ShelfTune[]; readonly problem?: string } {
  const [found, setFound] = useState<{ readonly tunes: readonly ShelfTune[]; readonly problem?: string }>({
    tunes: [],
  });
  useEffect(() => {
    let isNewest = true;
    const timer = setTimeout(() => {
      void send(`/api/tunes?search=${encodeURIComponent(words)}`, pageSchema, { method: 'GET' }).then((answer) => {
        if (!isNewest) return;
        setFound(({ tunes }) =>
          answer.ok ? { tunes: answer.value.tunes } : { tunes, problem: answer.problem.message },
        );
      });
    }, PAUSE);
    return () => {
      isNewest = false;
      clearTimeout(timer);
    };
  }, [words]);
  return found;
}
