import { chanceFrom } from '../chance';
import { key } from '../../../tests/given';
import { heardNotes, type Frame, type HeardNote } from './heardNotes';
import { judgeTake, type WantedNote } from './judgeTake';
import { takeReport, takeWords } from './takeReport';

const BEAT = 0.6;
const line = [60, 62, 64, 65, 67, 67, 69, 67, 65, 64, 62, 60];
const wanted = line.map((key, k): WantedNote => ({ key, start: k * BEAT, end: (k + 0.9) * BEAT }));
const heardAs = (change: (note: HeardNote, k: number) => readonly HeardNote[]): readonly HeardNote[] =>
  wanted.flatMap((note, k) => change({ ...note, loudness: 0.1 }, k));
const kinds = (heard: readonly HeardNote[], isFree = false) =>
  judgeTake(wanted, heard, { beat: BEAT, isFree })
    .verdicts.map(({ kind }) => kind[0])
    .join('');

test('notes are cut where the pitch moves, stops, or is struck again; not by a swell, a slip of the detector or what rings on', () => {
  const frames: Frame[] = [];
  const play = (seconds: number, key: number | undefined, loudness: (share: number) => number) => {
    const from = frames.length;
    const count = Math.round(seconds * 100);
    for (let k = 0; k < count; k += 1) frames.push({ at: (from + k) / 100, key, loudness: loudness(k / count) });
  };
  play(0.5, 60.1, () => 0.1);
  play(0.5, 62.05, (share) => 0.1 + 0.02 * Math.sin(share * 20));
  // Struck again after the tongue.
  play(0.06, 62, () => 0.02);
  play(0.4, 62, () => 0.1);
  play(0.02, 74, () => 0.1);
  play(0.3, 62, () => 0.1);
  play(0.1, undefined, () => 0.01);
  // The room.
  play(0.08, 62, () => 0.02);
  play(0.5, undefined, () => 0.001);
  const notes = heardNotes(frames);
  expect(notes.map(({ key, start }) => [Math.round(key), Math.round(start * 100) / 100])).toEqual([
    [60, 0],
    [62, 0.5],
    [62, 1.06],
  ]);
});

test('right, wrong, early, late and missed are told apart, whatever the delay and the tuning', () => {
  const chance = chanceFrom('listening');
  for (const delay of [-0.1, 0, 0.25]) {
    const heard = heardAs((note, k) => {
      const moved = { ...note, key: note.key - 0.3 + 0.1 * chance(), start: note.start + delay + 0.03 * chance() };
      if (k === 2) return [{ ...moved, key: moved.key + 1 }];
      if (k === 4) return [{ ...moved, start: moved.start + 0.25 }];
      if (k === 7) return [{ ...moved, start: moved.start - 0.25 }];
      return k === 9 ? [] : [moved];
    });
    const { verdicts, delay: found, cents } = judgeTake(wanted, heard, { beat: BEAT });
    expect(verdicts.map(({ kind }) => kind[0]).join('')).toBe('rrwrlrrermrr');
    expect(verdicts[2]).toEqual({ kind: 'wrong', heard: 65 });
    expect(Math.abs(found - delay)).toBeLessThan(0.05);
    expect(cents).toBeLessThan(-15);
  }
});

test('in free time only what happens between neighbours is late: twice as slow is no fault, a held-back note is', () => {
  const slow = heardAs((note) => [{ ...note, start: note.start * 2 + 3, end: note.end * 2 + 3 }]);
  expect(kinds(slow, true)).toBe('r'.repeat(12));
  const held = slow.map((note, k) => (k < 6 ? note : { ...note, start: note.start + 1.1, end: note.end + 1.1 }));
  expect(kinds(held, true)).toBe('rrrrrrlrrrrr');
});

test('notes that nobody asked for are counted, swells of a note are not', () => {
  const heard = heardAs((note, k) =>
    k === 3
      ? [note, { key: 71, start: note.end, end: note.end + 0.2, loudness: 0.1 }]
      : k === 5
        ? [note, { ...note, start: note.start + 0.3, isAgain: true }]
        : [note],
  );
  const { verdicts, added } = judgeTake(wanted, heard, { beat: BEAT });
  expect(verdicts.every(({ kind }) => kind === 'right')).toBe(true);
  expect(added.map(({ key }) => key)).toEqual([71]);
});

test('a take is told bar by bar in written names, with the bars that want practice', () => {
  const page = wanted.map((note, k) => ({ ...note, id: `n${k}`, bar: Math.floor(k / 4) }));
  // A clarinet reads a whole tone above: D E F♯ G …
  const names = ['D', 'E', 'F', 'G', 'A', 'A', 'B', 'A', 'G', 'F', 'E', 'D'] as const;
  const written = new Map(
    page.map(({ id }, k) => {
      const step = names[k] ?? 'D';
      return [id, { step, alter: step === 'F' ? 1 : 0, octave: 4 }] as const;
    }),
  );
  const heard = heardAs((note, k) => (k === 2 ? [{ ...note, key: 65 }] : k === 5 || k === 6 ? [] : [note]));
  const report = takeReport(page, judgeTake(wanted, heard, { beat: BEAT }), written, key('D major'));
  expect(report.bars).toEqual([
    { bar: 0, text: 'G instead of F♯' },
    { bar: 1, text: 'A missed, B missed' },
  ]);
  expect(report.worst).toEqual([{ from: 1, to: 2 }]);
  expect(takeWords(report)).toBe('9 of 12 notes right.');
  const silent = takeReport(page, judgeTake(wanted, [], { beat: BEAT }), written, key('D major'));
  expect(silent.isSilent).toBe(true);
  expect(takeWords(silent)).toMatch(/^Nothing was heard/);
});
