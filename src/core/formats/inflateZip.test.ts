import { strToU8, Zip, ZipDeflate, zipSync } from 'fflate';
import { inflateZip } from './inflateZip';

const all = () => true;
const MEGABYTE = 1_048_576;

/** The same archive with another size declared for everything in it, in the local headers and in the directory. */
function declaring(archive: Uint8Array, size: number): Uint8Array {
  const lying = archive.slice();
  const view = new DataView(lying.buffer);
  for (let at = 0; at < lying.length - 30; at += 1) {
    const mark = view.getUint32(at, true);
    if (mark === 0x04034b50) view.setUint32(at + 22, size, true);
    if (mark === 0x02014b50) view.setUint32(at + 24, size, true);
  }
  return lying;
}

test('the wanted files come out whole, packed or stored, also from an archive that was written as a stream', () => {
  const text = strToU8('A tune. '.repeat(20_000));
  const packed = zipSync({ 'a.xml': text, 'b.xml': [strToU8('stored'), { level: 0 }], 'c.pdf': text });
  const found = inflateZip(packed, (name) => name.endsWith('.xml'), MEGABYTE);
  expect(found).toEqual({
    ok: true,
    value: new Map([
      ['a.xml', text],
      ['b.xml', strToU8('stored')],
    ]),
  });
  const chunks: Uint8Array[] = [];
  const stream = new Zip((_, chunk) => chunks.push(chunk));
  const file = new ZipDeflate('a.xml', { level: 6 });
  stream.add(file);
  file.push(text, true);
  stream.end();
  expect(inflateZip(Uint8Array.from(Buffer.concat(chunks)), all, MEGABYTE)).toEqual({
    ok: true,
    value: new Map([['a.xml', text]]),
  });
});

test('inflating stops at the limit, whatever sizes are declared and however many files share it', () => {
  const bomb = zipSync({ 'a.xml': new Uint8Array(60 * MEGABYTE) });
  const small = declaring(bomb, 10);
  const before = process.memoryUsage().arrayBuffers;
  expect(inflateZip(small, all, MEGABYTE)).toEqual({ ok: false, problem: { code: 'too-large', most: MEGABYTE } });
  expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(20 * MEGABYTE);
  const many = zipSync(Object.fromEntries(Array.from({ length: 9 }, (_, k) => [`${k}.xml`, new Uint8Array(200_000)])));
  expect(inflateZip(many, all, MEGABYTE).ok).toBe(false);
  expect(inflateZip(many, (name) => name < '5', MEGABYTE).ok).toBe(true);
});

test('an archive that declares gigabytes it does not hold costs nothing', () => {
  const lying = declaring(zipSync({ 'a.xml': strToU8('small') }), 0xfffffffe);
  expect(inflateZip(lying, all, MEGABYTE)).toEqual({ ok: true, value: new Map([['a.xml', strToU8('small')]]) });
});

test('half an archive is damaged', () => {
  const noise = Uint8Array.from({ length: 60_000 }, (_, k) => (k * k * 31 + (k >> 3)) & 255);
  const archive = zipSync({ 'a.xml': noise });
  expect(inflateZip(archive.subarray(0, archive.length / 2), all, MEGABYTE)).toMatchObject({
    ok: false,
    problem: { code: 'damaged' },
  });
});
