import { fromBufferPromise, type Entry, type ZipFile } from 'yauzl';
import type { z } from 'zod';
import { groupSchema, parseJson, type PupilFile, pupilFileSchema } from '../../core/formats';
import { customInstrumentSchema, savedRecipeSchema } from '../../core/work/stored';
import type { CustomInstrument } from '../../core/instruments';
import type { Group } from '../../core/keys';
import type { SavedRecipe } from '../../core/work';
import type { WorkDocuments } from '../../db/tuneRepository';
import { checkWorkFile } from '../workSchema';
import { ARCHIVE_LIMITS, STUDIO_FILES } from './archiveFiles';

/** What was found in an archive, one thing after another. `refused`: none of it may be used. */
export type ArchiveItem =
  | { readonly kind: 'work'; readonly work: WorkDocuments }
  | { readonly kind: 'group'; readonly group: Group }
  | { readonly kind: 'pupil'; readonly pupil: PupilFile }
  | { readonly kind: 'recipe'; readonly recipe: SavedRecipe }
  | { readonly kind: 'instrument'; readonly custom: CustomInstrument }
  | { readonly kind: 'problem'; readonly text: string }
  | { readonly kind: 'refused'; readonly messages: readonly string[] };

/** What reads an entry of each list. */
const LISTS: ReadonlyMap<string, (data: unknown) => ArchiveItem> = new Map([
  [STUDIO_FILES.groups, (data: unknown) => read(groupSchema, data, (group) => ({ kind: 'group', group }))],
  [STUDIO_FILES.recipes, (data: unknown) => read(savedRecipeSchema, data, (recipe) => ({ kind: 'recipe', recipe }))],
  [
    STUDIO_FILES.instruments,
    (data: unknown) => read(customInstrumentSchema, data, (custom) => ({ kind: 'instrument', custom })),
  ],
]);
const PUPIL = /^pupils\/[^/]+\.json$/;
const TUNE = /^tunes\/[^/]+\.reed\.json$/;

/**
 * Reads an archive that was exported here, file by file; each is inflated and counted as a stream, so that nothing
 * depends on the sizes that the archive declares. Nothing is written to disk.
 */
export async function* readArchive(bytes: Uint8Array): AsyncGenerator<ArchiveItem, void> {
  let zip: ZipFile;
  try {
    zip = await fromBufferPromise(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), { lazyEntries: true });
  } catch (error) {
    yield refused(`This archive cannot be opened: ${messageOf(error)}.`);
    return;
  }
  let [files, total, found] = [0, 0, 0];
  try {
    for await (const entry of zip.eachEntry()) {
      const { fileName: name } = entry;
      if (!TUNE.test(name) && !PUPIL.test(name) && !LISTS.has(name)) continue;
      files += 1;
      const text = await inflated(zip, entry, ARCHIVE_LIMITS.whole - total);
      total += text.bytes;
      if (files > ARCHIVE_LIMITS.files || total > ARCHIVE_LIMITS.whole) {
        yield refused(
          `The archive is too large: at most ${ARCHIVE_LIMITS.files.toLocaleString('en')} files and ${ARCHIVE_LIMITS.whole / 1_048_576} MB are read.`,
        );
        return;
      }
      if (text.problem !== undefined) {
        yield problem(name, text.problem);
        continue;
      }
      for (const item of itemsOf(name, text.value)) {
        if (item.kind !== 'problem') found += 1;
        yield item;
      }
    }
  } catch (error) {
    yield refused(`This archive cannot be opened: ${messageOf(error)}.`);
    return;
  }
  if (found === 0)
    yield refused(
      'There is nothing of a studio in this archive: it should hold tunes/….reed.json, groups.json or the like.',
    );
}

type Inflated =
  | { readonly bytes: number; readonly value: string; readonly problem?: undefined }
  | { readonly bytes: number; readonly problem: string };

/** @param most bytes that may still be inflated of the whole archive */
async function inflated(zip: ZipFile, entry: Entry, most: number): Promise<Inflated> {
  let bytes = 0;
  try {
    const stream = await zip.openReadStreamPromise(entry);
    const chunks: Buffer[] = [];
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      bytes += chunk.length;
      // Leaving the loop ends the stream.
      if (bytes > ARCHIVE_LIMITS.file || bytes > most)
        return { bytes, problem: `it holds more than ${ARCHIVE_LIMITS.file / 1_048_576} MB` };
      chunks.push(chunk);
    }
    return { bytes, value: Buffer.concat(chunks).toString('utf8') };
  } catch (error) {
    return { bytes, problem: messageOf(error) };
  }
}

function* itemsOf(name: string, text: string): Generator<ArchiveItem, void> {
  if (PUPIL.test(name)) {
    const parsed = parseJson(text);
    const item: ArchiveItem = parsed.ok
      ? read(pupilFileSchema, parsed.value, (pupil) => ({ kind: 'pupil', pupil }))
      : { kind: 'problem', text: `it is not JSON: ${parsed.problem}` };
    yield item.kind === 'problem' ? problem(name, item.text) : item;
    return;
  }
  const readEntry = LISTS.get(name);
  if (!readEntry) {
    const checked = checkWorkFile(text);
    yield checked.ok ? { kind: 'work', work: checked.value } : problem(name, checked.problem[0] ?? 'it cannot be read');
    return;
  }
  const list = parseJson(text);
  if (!list.ok) yield problem(name, `it is not JSON: ${list.problem}`);
  else if (!Array.isArray(list.value)) yield problem(name, 'it should be a list');
  else
    for (const [index, data] of list.value.entries()) {
      const item = readEntry(data);
      yield item.kind === 'problem' ? problem(name, `number ${index + 1}: ${item.text}`) : item;
    }
}

function read<Value>(schema: z.ZodType<Value>, data: unknown, item: (value: Value) => ArchiveItem): ArchiveItem {
  const parsed = schema.safeParse(data);
  return parsed.success
    ? item(parsed.data)
    : { kind: 'problem', text: parsed.error.issues[0]?.message ?? 'it cannot be read' };
}

/** Names in an archive can be of any length. */
const problem = (name: string, text: string): ArchiveItem => ({
  kind: 'problem',
  text: `${name.slice(0, 120)}: ${text.slice(0, 300)}`,
});
const refused = (message: string): ArchiveItem => ({ kind: 'refused', messages: [message] });
const messageOf = (error: unknown) =>
  error instanceof Error ? error.message.replace(/\.$/, '').slice(0, 200) : 'it is damaged';
