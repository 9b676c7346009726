import { unzipSync } from 'fflate';
import { zipStream, type ArchiveFile } from './zipStream';

const file = (name: string, size = 10, isPacked = false): ArchiveFile => ({
  name,
  data: new Uint8Array(size).fill(name.charCodeAt(0)),
  ...(isPacked && { isPacked: true as const }),
});
async function* given(files: readonly ArchiveFile[], made: string[] = []): AsyncGenerator<ArchiveFile, void> {
  try {
    for (const one of files) {
      made.push(one.name);
      yield one;
    }
  } finally {
    made.push('ended');
  }
}
const wholeOf = async (stream: ReadableStream<Uint8Array>) => new Uint8Array(await new Response(stream).arrayBuffer());
const noSignal = new AbortController().signal;

test('every file comes out as it went in, packed or as it is, and the same archive is the same bytes', async () => {
  const files = [file('a.pdf', 5_000), file('b/c.mp3', 3_000, true), file('empty', 0)];
  const archive = await wholeOf(zipStream(given(files), noSignal));
  expect(unzipSync(archive)).toEqual(Object.fromEntries(files.map(({ name, data }) => [name, data])));
  expect(await wholeOf(zipStream(given(files), noSignal))).toEqual(archive);
});

test('who reads slowly is waited for: no more is made than lies ahead', async () => {
  const made: string[] = [];
  const files = Array.from({ length: 12 }, (_, k) => file(`${k}`, 500_000, true));
  const reader = zipStream(given(files, made), noSignal).getReader();
  await reader.read();
  await new Promise((done) => setTimeout(done, 80));
  expect(made.length).toBeLessThan(6);
  await reader.cancel();
  await new Promise((done) => setTimeout(done, 60));
  expect(made.at(-1)).toBe('ended');
});

test('an archive that breaks off is seen as broken, never as a whole one', async () => {
  async function* broken(): AsyncGenerator<ArchiveFile, void> {
    yield file('a');
    throw new Error('no engraver');
  }
  await expect(wholeOf(zipStream(broken(), noSignal))).rejects.toThrow('no engraver');
});
