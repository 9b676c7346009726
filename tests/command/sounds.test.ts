import { mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { UsageError } from '../../src/cli/arguments';
import { solo } from '../../src/cli/solo';
import { sound } from '../../src/cli/sound';
import { reed } from '../reed';

const ABC = 'X:1\nT:Two\nM:4/4\nL:1/4\nQ:1/4=120\nK:C\n"C" CEGE | "G7" GFDB, | "C" C4 |]\n';

interface Facts {
  readonly file: string;
  readonly seconds: number;
  readonly tempo: number;
  readonly key: string;
  readonly channels: number;
  readonly sampleRate: number;
}

/** How loud each tenth of a second is, of a 16-bit WAV file with two channels. */
function loudness(file: string, rate: number): readonly number[] {
  const bytes = readFileSync(file);
  const from = bytes.indexOf('data') + 8;
  const samples = new Int16Array(
    bytes.buffer.slice(bytes.byteOffset + from, bytes.byteOffset + bytes.length - ((bytes.length - from) % 4)),
  );
  const step = rate / 10;
  return Array.from({ length: Math.floor(samples.length / 2 / step) }, (_, k) => {
    let sum = 0;
    for (let frame = k * step; frame < (k + 1) * step; frame += 1) sum += Math.abs(samples[Math.floor(frame) * 2] ?? 0);
    return sum / step;
  });
}

test('sound: a line, a stretch of it with count-in, a metronome that falls silent; WAV and MP3', () => {
  const folder = mkdtempSync(join(tmpdir(), 'sounds-'));
  const input = join(folder, 'two.abc');
  writeFileSync(input, ABC);
  const run = (...words: readonly string[]) => JSON.parse(reed('sound', input, ...words).out) as Facts;
  const plain = run('--out', join(folder, 'plain.wav'));
  expect(plain).toMatchObject({ tempo: 120, key: 'C', channels: 2, sampleRate: 44_100 });
  expect(plain.seconds).toBeGreaterThanOrEqual(6);
  expect(plain.seconds).toBeLessThanOrEqual(8);
  const stretch = run(
    '--key',
    'D',
    '--from',
    '2',
    '--to',
    '2',
    '--times',
    '3',
    '--count-in',
    '1',
    '--tempo',
    '60',
    '--out',
    join(folder, 'stretch.wav'),
  );
  expect(stretch).toMatchObject({ tempo: 60, key: 'D' });
  expect(Math.floor(stretch.seconds)).toBeGreaterThanOrEqual(16);
  expect(stretch.seconds).toBeLessThanOrEqual(18);
  const clicks = run('--lane', 'none', '--click', '1/1', '--out', join(folder, 'clicks.wav'));
  const heard = loudness(clicks.file, clicks.sampleRate);
  const second = heard.slice(22, 40);
  // The second bar, from 2 to 4 seconds, is silent; the first and third are not.
  expect(Math.max(...second)).toBeLessThan(40);
  expect(Math.max(...heard.slice(0, 20))).toBeGreaterThan(200);
  expect(Math.max(...heard.slice(40, 60))).toBeGreaterThan(200);
  const mp3 = run('--backing', 'beats', '--out', join(folder, 'tune.mp3'));
  expect(readFileSync(mp3.file).subarray(0, 2)[0]).toBe(0xff);
});

test('sound and solo refuse in one line what they cannot do, and write nothing', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'sounds-'));
  const input = join(folder, 'two.abc');
  writeFileSync(input, ABC);
  for (const [command, words, says] of [
    [sound, [input], /--out is missing/],
    [sound, [input, '--out', join(folder, 'x.ogg')], /use \.wav or \.mp3/],
    [sound, [input, '--lane', 'none', '--out', join(folder, 'x.wav')], /leaves nothing/],
    [sound, [input, '--from', '3', '--to', '1', '--out', join(folder, 'x.wav')], /--from 3 lies after/],
    [sound, [input, '--click', '0/2', '--out', join(folder, 'x.wav')], /--click 0\/2/],
    [solo, ['Dm7 | Hx', '--for', 'flute', '--level', 'all', '--out', folder], /"Hx"/],
    [solo, [input, '--for', 'flute', '--level', 'all', '--choruses', '0', '--out', folder], /--choruses 0/],
  ] as const) {
    await expect(command(words)).rejects.toThrow(says);
  }
  expect(readdirSync(folder)).toEqual(['two.abc']);
});

test('solo: three levels with plan and notes; the same seed gives the same bytes', () => {
  const folder = mkdtempSync(join(tmpdir(), 'solos-'));
  const words = [
    'solo',
    'Dm7 | G7 | Cmaj7 | C6',
    '--for',
    'alto-sax',
    '--level',
    'all',
    '--seed',
    '5',
    '--out',
    folder,
  ] as const;
  const once = reed(...words);
  expect([once.status, once.errors]).toEqual([0, []]);
  expect(reed(...words).out).toBe(once.out);
  const facts = JSON.parse(once.out) as readonly {
    readonly level: string;
    readonly writtenKey: string;
    readonly plan: readonly unknown[];
    readonly notes: readonly { readonly pitch: string; readonly concert: string; readonly role: string }[];
  }[];
  expect(facts.map(({ level, writtenKey, plan }) => [level, writtenKey, plan.length])).toEqual([
    ['beginner', 'A', 2],
    ['intermediate', 'A', 2],
    ['advanced', 'A', 2],
  ]);
  for (const { notes } of facts) expect(notes.at(-1)?.role).toBe('home');
});

test('sound: what is no sound bank is told as that, like any other mistake in a command', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'sounds-'));
  const [input, bank] = [join(folder, 'two.abc'), join(folder, 'no-bank.sf2')];
  writeFileSync(input, ABC);
  writeFileSync(bank, 'this is no sound bank');
  const own = process.env['REED_SOUND_BANK'];
  try {
    for (const path of [bank, folder]) {
      process.env['REED_SOUND_BANK'] = path;
      const failed = await sound([input, '--out', join(folder, 'two.wav')]).catch((error: unknown) => error);
      expect([failed instanceof UsageError, String(failed)]).toEqual([true, expect.stringContaining(path)]);
    }
  } finally {
    if (own === undefined) delete process.env['REED_SOUND_BANK'];
    else process.env['REED_SOUND_BANK'] = own;
  }
});
