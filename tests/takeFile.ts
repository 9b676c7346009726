import { readFileSync, writeFileSync } from 'node:fs';
import { audioToWav } from 'spessasynth_core';
import { readAbc } from '../src/core/formats/abc/readAbc';
import { storedWork } from '../src/core/work/stored/upgradeRecipe';
import { LEVELS } from '../src/core/instruments/instrument';
import type { Work } from '../src/core/work/work';
import { standPart } from '../src/core/levels/standPart';
import { soundBank } from '../src/server/soundBank';
import { checkNewWork, checkStoredTexts } from '../src/server/workSchema';
import { planPlaying, type PlayWishes } from '../src/sound/playPlan';
import { SoundRenderer } from '../src/sound/renderer';
import { wantedNotes } from '../src/sound/wantedNotes';
import { playTake } from './renderedTake';

/*
 * `takeFile.ts OUT.wav [WORK.json LEVEL]`: a pupil's take of a level's part as a sound file, four seconds of silence
 * before it: the third note a half step too high, the sixth not played, the tenth held back. Of a small tune on the
 * flute where no work is given; the work goes to standard output, ready to be put on the shelf.
 */
const RATE = 44_100;
const SILENCE = 4;
const ABC =
  'X:1\nT:Heard in a Test\nM:4/4\nL:1/4\nQ:1/4=100\nK:G\n"G"G A B c|"D"d2 A2|"G"B c d B|"D"A4|"G"G B d g|"C"e2 c2|"D7"d c B A|"G"G4|]\n';
const [out = '', given, level = 'intermediate'] = process.argv.slice(2);
const heard = LEVELS.find((one) => one === level);
const bank = await soundBank();
if (!heard || !bank) throw new Error('no such level, or no sounds');
const work = given === undefined ? smallWork() : givenWork(given);
const { instrument } = standPart(work, heard, 'part') ?? {};
if (!instrument) throw new Error('no part');
const wishes: PlayWishes = {
  heard,
  backing: 'none',
  click: false,
  countIn: false,
  from: 0,
  loopTo: work.tune.bars.length - 1,
};
const { notes } = wantedNotes(work, wishes);
const sounded = planPlaying(work, wishes).voices[0]?.notes ?? [];
let later = SILENCE;
const played = sounded.flatMap((note, k) => {
  if (k === 9) later += 0.6;
  const moved = { ...note, start: note.start + later, end: note.end + later };
  return k === 5 ? [] : [k === 2 ? { ...moved, key: note.key + 1 } : moved];
});
const renderer = await SoundRenderer.start(new Uint8Array(bank).buffer, RATE);
const samples = playTake(played, instrument, renderer);
writeFileSync(out, new Uint8Array(audioToWav([samples, samples], RATE)));
process.stdout.write(
  JSON.stringify({ work: storedWork(work), notes: notes.length, seconds: Math.ceil(samples.length / RATE) }),
);

function smallWork(): Work {
  const read = readAbc(ABC);
  if (!read.ok) throw new Error('no tune');
  // As written: which notes are wrong does not change with what a level adds.
  return { tune: read.value.tune, recipes: { intermediate: { instrument: 'flute', melody: 'as written' } } };
}

function givenWork(path: string): Work {
  const checked = checkNewWork(JSON.parse(readFileSync(path, 'utf8')));
  const read = checked.ok ? checkStoredTexts(checked.value) : checked;
  if (!read.ok) throw new Error(read.problem.join('; '));
  return read.value;
}
