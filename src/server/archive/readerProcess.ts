// A process of its own that reads one archive from standard input and writes what it holds to standard output, one JSON
// object a line. Its parent starts it with a limit on its address space, so that no archive can take the machine's
// memory.
import { once } from 'node:events';
import { MAX_ARCHIVE_BYTES } from './archiveFiles';
import { readArchive, type ArchiveItem } from './readArchive';

/** What tells a whole answer from one that broke off. */
export const END = { kind: 'end' } as const;

async function received(): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of process.stdin as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > MAX_ARCHIVE_BYTES) throw new RangeError('the parent sent more than it may');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

async function say(item: ArchiveItem | typeof END): Promise<void> {
  if (!process.stdout.write(`${JSON.stringify(item)}\n`)) await once(process.stdout, 'drain');
}

for await (const item of readArchive(await received())) await say(item);
await say(END);
