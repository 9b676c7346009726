import { zipSync } from 'fflate';
import { FilesInZip } from './filesInZip';

const archive = zipSync({ 'a.mp3': new Uint8Array(500), 'b.mp3': new Uint8Array(400), 'c.mp3': new Uint8Array(0) });

test('files are counted when they have come whole, however the bytes are cut', () => {
  for (const size of [1, 3, 7, archive.length]) {
    const counter = new FilesInZip();
    const counts: number[] = [];
    for (let at = 0; at < archive.length; at += size) counts.push(counter.take(archive.subarray(at, at + size)));
    expect(counts).toEqual(counts.toSorted((a, b) => a - b));
    expect(counts.at(-1)).toBe(3);
    if (size === 1) expect(new Set(counts)).toEqual(new Set([0, 1, 2, 3]));
  }
});

test('the file that is coming is not there yet', () => {
  const second = archive.indexOf(0x50, 4);
  expect(new FilesInZip().take(archive.subarray(0, second))).toBe(0);
});
