import { fileSlug } from '../core/formats';
import type { PackChapter } from '../engrave/packPdf';
import { artifactCache } from './artifactCache';
import type { CachedFile } from './http';
import { type Pack, type PackRecipient, underWords } from './packs';
import { patiently, runPatiently } from './pool/pool';
import { JobError } from './pool/workerPool';
import { buildId, contentKey } from './storedWork';
import type { ArchiveFile } from './zipStream';

type Making = Pick<CachedFile, 'key' | 'make'>;

/** Where a pack is found with its sounds, for the cover. */
interface PackLink {
  readonly address: string;
  readonly square: string;
}

/** What is made once and kept. @throws JobError once nobody waits */
export function kept({ key, make }: Making, signal: AbortSignal): Promise<Uint8Array | undefined> {
  if (signal.aborted) throw new JobError('pack', 'cancelled');
  return patiently(() => artifactCache().get(key, make, signal));
}

/** One recipient's cover and pages; `undefined` where there is not a page. A link is a secret: with it nothing is kept. */
async function booklet(
  pack: Pack,
  recipient: PackRecipient,
  signal: AbortSignal,
  link?: PackLink,
): Promise<Uint8Array | undefined> {
  const chapters: PackChapter[] = [];
  for (const { title, words, making } of recipient.sheets) {
    const pdf = await kept(making, signal);
    if (pdf) chapters.push({ title, words, pdf });
  }
  if (chapters.length === 0) return undefined;
  const { player, goals, caution } = recipient;
  const { paper, note } = pack.choice;
  const cover = {
    name: player.name,
    under: underWords(recipient, pack.date),
    level: player.level,
    goals,
    caution,
    paper,
    ...(note && { note }),
  };
  const keys = recipient.sheets.map(({ making }) => making.key);
  if (link) return runPatiently('packPdf', { cover: { ...cover, link }, chapters }, signal);
  return kept(
    {
      key: contentKey(buildId(), 'packPdf', cover, keys),
      make: (end) => runPatiently('packPdf', { cover, chapters }, end),
    },
    signal,
  );
}

/** The pack on paper: one recipient's pages, or everybody's one after another. `undefined` where there is not a page. */
export async function packPaper(pack: Pack, signal: AbortSignal, link?: PackLink): Promise<Uint8Array | undefined> {
  const booklets: Uint8Array[] = [];
  for (const recipient of pack.recipients) {
    const made = await booklet(pack, recipient, signal, link);
    if (made) booklets.push(made);
  }
  const [only] = booklets;
  return booklets.length < 2 ? only : runPatiently('packsPdf', { title: pack.title, packs: booklets }, signal);
}

/** How many files the pack's archive has, where each can be made. */
export function countPackFiles({ recipients }: Pack): number {
  return recipients.reduce((sum, { sheets, files }) => sum + (sheets.length > 0 ? 1 : 0) + files.length, 0);
}

/** Pages and what goes with them, a folder a recipient where there are several, made one after another as they are sent. */
export async function* packFiles(pack: Pack, signal: AbortSignal): AsyncGenerator<ArchiveFile, void> {
  for (const [k, recipient] of pack.recipients.entries()) {
    const { player, files } = recipient;
    const folder =
      pack.recipients.length === 1
        ? ''
        : `${String(k + 1).padStart(2, '0')}-${fileSlug(player.name || 'player')}-${fileSlug(recipient.instrument)}/`;
    const pages = await booklet(pack, recipient, signal);
    if (pages) yield { name: `${folder}pages.pdf`, data: pages, isPacked: true };
    for (const { name, what, making } of files) {
      const data = await kept(making, signal);
      if (data) yield { name: `${folder}${name}`, data, ...(what !== 'musicxml' && { isPacked: true }) };
    }
  }
}

/** Makes the pages of a pack and tells after each how many are there. What is made is kept, so that the paper is there at once. */
export async function* makePages(
  pack: Pack,
  signal: AbortSignal,
): AsyncGenerator<{ readonly done: number; readonly of: number }, void> {
  const sheets = pack.recipients.flatMap((recipient) => recipient.sheets);
  const of = sheets.length + 1;
  yield { done: 0, of };
  for (const [k, { making }] of sheets.entries()) {
    await kept(making, signal);
    yield { done: k + 1, of };
  }
  await packPaper(pack, signal);
  yield { done: of, of };
}
