import { z } from 'zod';
import { playersThere } from '../core/ensemble';
import { fileSlug } from '../core/formats';
import type { Group } from '../core/keys';
import type { StoredTexts } from '../db/tuneRepository';
import type { Paper } from '../engrave/sheet';
import { artifactCache } from './artifactCache';
import type { CachedFile } from './http';
import { patiently, runOnPool, runPatiently } from './pool/pool';
import { JobError } from './pool/workerPool';
import { buildId, contentKey } from './storedWork';
import type { TogetherWish } from './togetherMaking';

const PLAYER = '([A-Za-z0-9._-]{1,60}?)';
const NAMES: readonly (readonly [RegExp, (match: RegExpExecArray) => TogetherWish])[] = [
  [
    /^(concert-)?score\.(pdf|musicxml)$/,
    ([, concert, format]) => ({
      kind: 'score',
      pitch: concert ? 'concert' : 'written',
      format: format === 'pdf' ? 'pdf' : 'musicxml',
    }),
  ],
  [/^all\.pdf$/, () => ({ kind: 'parts' })],
  [/^all\.mp3$/, () => ({ kind: 'sound', how: 'all' })],
  [
    new RegExp(`^${PLAYER}\\.(without|slow)\\.mp3$`),
    ([, player = '', how]) => ({ kind: 'sound', player, how: how === 'slow' ? 'slow' : 'without' }),
  ],
  [
    new RegExp(`^${PLAYER}\\.(pdf|musicxml)$`),
    ([, player = '', format]) => ({ kind: 'part', player, format: format === 'pdf' ? 'pdf' : 'musicxml' }),
  ],
];

/** What a file name asks for; `undefined` where there is no such file. */
export function togetherWish(name: string): TogetherWish | undefined {
  for (const [pattern, wish] of NAMES) {
    const match = pattern.exec(name);
    if (match) return wish(match);
  }
  return undefined;
}

export const togetherQuery = z.object({ paper: z.enum(['a4', 'letter']).default('a4') });

type Making = Pick<CachedFile, 'key' | 'make'>;

/** The same, made on a worker and kept by its content. */
export function togetherFileOnPool(stored: StoredTexts, group: Group, wish: TogetherWish, paper: Paper): Making {
  return {
    key: contentKey(buildId(), 'togetherFile', stored, group, wish, paper),
    make: (signal) => runOnPool('togetherFile', { stored, group, wish, paper }, signal),
  };
}

/** Everybody's part and the score in one archive, made part by part: each is kept, and it stops between two. */
export function togetherArchive(stored: StoredTexts, group: Group, format: 'pdf' | 'musicxml', paper: Paper): Making {
  return {
    key: contentKey(buildId(), 'togetherArchive', stored, group, format, paper),
    make: async (signal) => runPatiently('zip', await togetherFiles(stored, group, format, paper, signal), signal),
  };
}

/** Everybody's part and the score by their names in an archive. */
export async function togetherFiles(
  stored: StoredTexts,
  group: Group,
  format: 'pdf' | 'musicxml',
  paper: Paper,
  signal: AbortSignal,
): Promise<Readonly<Record<string, Uint8Array>>> {
  const files: Record<string, Uint8Array> = {};
  const wishes: readonly (readonly [string, TogetherWish])[] = [
    [`00-score.${format}`, { kind: 'score', pitch: 'written', format }],
    ...playersThere(group).map(
      ({ id, name, instrument }, index) =>
        [
          `${String(index + 1).padStart(2, '0')}-${fileSlug(name || 'player')}-${fileSlug(instrument)}.${format}`,
          { kind: 'part', player: id, format },
        ] as const,
    ),
  ];
  for (const [name, wish] of wishes) {
    if (signal.aborted) throw new JobError('togetherFile', 'cancelled');
    const { key, make } = togetherFileOnPool(stored, group, wish, paper);
    const data = await patiently(() => artifactCache().get(key, make, signal));
    if (data) files[name] = data;
  }
  return files;
}
