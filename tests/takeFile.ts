import { writeFileSync } from 'node:fs';
import { audioToWav } from 'spessasynth_core';
import { readAbc } from '../src/core/formats/abc/readAbc';
import { storedWork } from '../src/core/formats/json/upgradeRecipe';
import { instrumentById } from '../src/core/instruments/catalogue';
import { soundBank } from '../src/server/soundBank';
import { planPlaying, type PlayWishes } from '../src/sound/playPlan';
import { SoundRenderer } from '../src/sound/renderer';
import { wantedNotes } from '../src/sound/wantedNotes';
import { playTake } from './renderedTake';

/*
 * `takeFile.ts OUT.wav`: a pupil's take of a small tune as a sound file, four seconds of silence before it: the third note a half step
 * too high, the sixth not played, the tenth held back. The tune goes to standard output, ready to be put on the shelf.
 */
const RATE = 44_100;
const SILENCE = 4;
const ABC =
  'X:1\nT:Heard in a Test\nM:4/4\nL:1/4\nQ:1/4=100\nK:G\n"G"G A B c|"D"d2 A2|"G"B c d B|"D"A4|"G"G B d g|"C"e2 c2|"D7"d c B A|"G"G4|]\n';
const [out = ''] = process.argv.slice(2);
const read = readAbc(ABC);
const flute = instrumentById('flute');
const bank = await soundBank();
if (!read.ok || !flute || !bank) throw new Error('no tune, no flute or no sounds');
const { tune } = read.value;
const work = { tune, recipes: { intermediate: { instrument: 'flute' } } };
const wishes: PlayWishes = { heard: 'intermediate', backing: 'none', click: false, countIn: false, from: 0 };
const { notes } = wantedNotes(work, wishes);
const sounded = planPlaying(work, wishes).voices[0]?.notes ?? [];
let later = SILENCE;
const played = sounded.flatMap((note, k) => {
  if (k === 9) later += 0.6;
  const moved = { ...note, start: note.start + later, end: note.end + later };
  return k === 5 ? [] : [k === 2 ? { ...moved, key: note.key + 1 } : moved];
});
const renderer = await SoundRenderer.start(new Uint8Array(bank).buffer, RATE);
const samples = playTake(played, flute, renderer);
writeFileSync(out, new Uint8Array(audioToWav([samples, samples], RATE)));
process.stdout.write(JSON.stringify({ work: storedWork(work), notes: notes.length }));
