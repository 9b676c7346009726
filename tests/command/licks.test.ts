import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { licks } from '../../src/cli/licks';
import { reed } from '../reed';

const file = join(mkdtempSync(join(tmpdir(), 'licks-')), 'line.abc');
writeFileSync(
  file,
  'X:1\nT:Line\nM:4/4\nL:1/8\nQ:1/4=100\nK:C\n"Cmaj7"G4 E4|"Dm7"FAce d2 cA|"G7"B^ABG F2 D2|"Cmaj7"E4 z4|]\n',
);

test('licks: bars of a line say what they fit, and where they fit into other chords', () => {
  const made = reed('licks', file, '--bars', '2-4', '--over', 'Bbmaj7 | Cm7 | F7 | Bbmaj7', '--key', 'Bb');
  expect([made.status, made.errors]).toEqual([0, []]);
  const facts = JSON.parse(made.out) as {
    fits: string;
    chords: string[];
    notes: { at: number; concert: string; degree: string; device?: string }[];
    places: { fromBar: number; toBar: number; notes: { at: number; concert: string }[] }[];
  };
  expect([facts.fits, facts.chords]).toEqual(['over ii–V–I in major', ['Dm7', 'G7', 'Cmaj7']]);
  expect(facts.notes[8]).toMatchObject({ at: 4.5, concert: 'A#4', device: 'neighbour' });
  expect(facts.places.map(({ fromBar, toBar }) => [fromBar, toBar])).toEqual([[2, 4]]);
  expect(facts.places[0]?.notes.map(({ concert }) => concert).slice(0, 4)).toEqual(['Eb4', 'G4', 'Bb4', 'D5']);
});

test('licks refuses in one line what is no lick', () => {
  for (const [words, wanted] of [
    [[file, '--bars', '1-9'], /^--bars 1-9: give one to 4 bars between 1 and 4/],
    [[file, '--bars', '0'], /^--bars 0:/],
    [[file, '--key', 'D'], /--over/],
    [['missing.abc'], /missing\.abc/],
  ] as const)
    expect(() => licks(words)).toThrow(wanted);
});
