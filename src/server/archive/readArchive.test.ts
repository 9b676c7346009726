import { strToU8, zipSync } from 'fflate';
import { smallWork } from '../../../tests/smallWork';
import { ARCHIVE_LIMITS, recipesFile, STUDIO_FILES, workFile } from './archiveFiles';
import { readArchive, type ArchiveItem } from './readArchive';

const MEGABYTE = 1_048_576;
const itemsOf = async (archive: Uint8Array) => {
  const items: ArchiveItem[] = [];
  for await (const item of readArchive(archive)) items.push(item);
  return items;
};
const kindsOf = (items: readonly ArchiveItem[]) => items.map(({ kind }) => kind);
const textsOf = (items: readonly ArchiveItem[]) =>
  items.flatMap((item) =>
    item.kind === 'problem' ? [item.text] : item.kind === 'refused' ? [`refused: ${item.messages.join(' ')}`] : [],
  );
const tune = STUDIO_FILES.tune('0001-rope');

test('what was written comes back, one thing after another', async () => {
  const recipe = { id: 'recipe-a', name: 'First-years', level: 'beginner', wishes: { melody: 'simplified' } } as const;
  const items = await itemsOf(
    zipSync({
      [tune]: strToU8(workFile(smallWork('Rope'))),
      [STUDIO_FILES.recipes]: strToU8(recipesFile([recipe])),
      [STUDIO_FILES.groups]: strToU8('[{"name":"Loft","players":[]}]'),
      constructor: strToU8('[1]'),
      'tunes/0001-rope.musicxml': strToU8('<not-looked-at'),
    }),
  );
  expect(kindsOf(items)).toEqual(['work', 'recipe', 'group']);
  expect(items[0]).toMatchObject({ work: { columns: { title: 'Rope', kind: 'tune' } } });
  expect(items[1]).toEqual({ kind: 'recipe', recipe });
});

test('one file beyond its limit is not read, however small it is packed and whatever it declares; the others are', async () => {
  const archive = zipSync({
    [STUDIO_FILES.groups]: new Uint8Array(30 * MEGABYTE).fill(0x5b),
    [tune]: strToU8(workFile(smallWork('Rope'))),
  });
  expect(archive.length).toBeLessThan(100_000);
  const items = await itemsOf(archive);
  expect([kindsOf(items), textsOf(items)]).toEqual([['problem', 'work'], ['groups.json: it holds more than 8 MB']]);
});

test('all files together have a limit: nothing of an archive beyond it is used', async () => {
  const list = strToU8(`["${'x'.repeat(ARCHIVE_LIMITS.file - 8)}"]`);
  const items = await itemsOf(
    zipSync(Object.fromEntries(Array.from({ length: 9 }, (_, k) => [STUDIO_FILES.tune(`${k}`), list]))),
  );
  expect(textsOf(items).at(-1)).toBe('refused: The archive is too large: at most 20,000 files and 64 MB are read.');
});

test('a list too deep or too long for the parser is not given to it', async () => {
  const parse = jest.spyOn(JSON, 'parse');
  const items = await itemsOf(
    zipSync({
      [STUDIO_FILES.groups]: strToU8('['.repeat(7 * MEGABYTE)),
      [STUDIO_FILES.recipes]: strToU8(`[${'0,'.repeat(3 * MEGABYTE)}0]`),
    }),
  );
  expect([textsOf(items), parse.mock.calls.length]).toEqual([
    [
      'groups.json: it is not JSON: it is nested more than 64 levels deep',
      'recipes.json: it is not JSON: it holds more than 1,000,000 values',
      'refused: There is nothing of a studio in this archive: it should hold tunes/….reed.json, groups.json or the like.',
    ],
    0,
  ]);
  parse.mockRestore();
});

test('a tune that could not be opened is not brought in: the same is asked of it as at every other door', async () => {
  const work = smallWork('Rope');
  const file = (change: (work: ReturnType<typeof smallWork>) => unknown) =>
    strToU8(JSON.stringify({ format: 'reed-hook-tune', ...(change(work) as object) }));
  const items = await itemsOf(
    zipSync({
      [STUDIO_FILES.tune('a')]: file(({ tune: one }) => ({
        tune: one,
        recipes: { beginner: { schema: 2, instrument: 'viola', setting: { key: { ...one.key, mode: 'minor' } } } },
      })),
      [STUDIO_FILES.tune('b')]: file(({ tune: one }) => ({ tune: { ...one, bars: [{ ...one.bars[0], events: [] }] } })),
      [STUDIO_FILES.tune('c')]: file(({ tune: one }) => ({ tune: one })),
    }),
  );
  expect(kindsOf(items)).toEqual(['problem', 'problem', 'work']);
  expect(textsOf(items)[0]).toBe("tunes/a.reed.json: beginner: its key must be major, like the tune's");
});

test.each([
  ['nothing', new Uint8Array()],
  ['noise', new Uint8Array([1, 2, 3])],
  ['half an archive', zipSync({ [tune]: strToU8(workFile(smallWork('Rope'))) }).slice(0, 300)],
])('%s is refused as no archive', async (_, bytes) => {
  expect(textsOf(await itemsOf(bytes))).toEqual([expect.stringMatching(/^refused: This archive cannot be opened: /)]);
});
