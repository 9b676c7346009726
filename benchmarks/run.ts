import { Worker } from 'node:worker_threads';
import abcjs from 'abcjs';
import { Note, transpose as tonalTranspose } from 'tonal';
import { readAbc } from '../src/core/formats';
import { instrumentById, LEVELS } from '../src/core/instruments';
import { partFor, partOfLevel } from '../src/core/levels';
import { parseKey, parsePitch, type Pitch, printPitch, transpose } from '../src/core/pitch';
import { type Work, WorkSender } from '../src/core/work';
import { analysing, midiReading, musicXmlReading } from './formats';
import { drills } from './drills';
import { plans } from './plans';
import { together } from './together';
import { soloTimes } from './soloTimes';
import { soundTimes } from './sounds';
import { harmony } from './harmony';
import { fingeringLines, rankingKeys } from './keys';
import { keystroke } from './keystroke';
import { load } from './load';
import { school } from './school';
import { firstMusic } from './firstMusic';
import { longAbc } from './longTune';
import type { Asked, Drawn } from './engravingThread';

/** Measures in one run what belongs together, so that the ratios hold on a noisy machine. Medians of several rounds. */

function median(times: readonly number[]): number {
  return times.toSorted((a, b) => a - b)[Math.floor(times.length / 2)] ?? NaN;
}

/** Until code has run for as long as this, what is measured is the compiler; milliseconds. */
const WARM_UP = 1_500;

/** Milliseconds of one call, median of rounds, measured warm. */
function time(rounds: number, work: () => unknown): number {
  const begun = performance.now();
  for (let k = 0; k < 3 || performance.now() - begun < WARM_UP; k += 1) work();
  return median(
    Array.from({ length: rounds }, () => {
      const start = performance.now();
      work();
      return performance.now() - start;
    }),
  );
}

/**
 * The same with something that was never seen before each time, bars and all: of a tune that is known, the parts are
 * known.
 */
function timeOfFresh<Value>(rounds: number, fresh: () => Value, work: (value: Value) => unknown): number {
  const begun = performance.now();
  for (let k = 0; k < 3 || performance.now() - begun < WARM_UP; k += 1) work(fresh());
  return median(
    Array.from({ length: rounds }, () => {
      const value = fresh();
      const start = performance.now();
      work(value);
      return performance.now() - start;
    }),
  );
}

function line(text: string): void {
  process.stdout.write(`${text}\n`);
}

function tuneOf(abc: string): Work['tune'] {
  const read = readAbc(abc);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
}

function shaping(): void {
  line('Shaping: three levels of one tune');
  for (const bars of [16, 64, 256, 1024]) {
    const milliseconds = timeOfFresh(
      bars > 200 ? 5 : 15,
      () => tuneOf(longAbc(bars)),
      (tune) => LEVELS.map((level) => partOfLevel(tune, level, {})),
    );
    line(
      `  ${String(bars).padStart(4)} bars: ${milliseconds.toFixed(1)} ms, ${((1_000 * milliseconds) / (3 * bars)).toFixed(0)} microseconds a bar`,
    );
  }
  const players = [
    'flute',
    'oboe',
    'clarinet-bb',
    'alto-sax',
    'trumpet-bb',
    'trombone',
    'violin',
    'cello',
    'guitar',
    'xylophone',
  ].flatMap((id) => instrumentById(id) ?? []);
  const milliseconds = timeOfFresh(
    15,
    () => tuneOf(longAbc(64)),
    (tune) => players.map((instrument) => LEVELS.map((level) => partFor(tune, { level, instrument }))),
  );
  line(`  three levels for ${players.length} instruments, 64 bars: ${milliseconds.toFixed(0)} ms (aim: 60)`);
}

function abcReading(): void {
  line('Reading ABC, ours beside abcjs (parse alone)');
  for (const bars of [16, 128, 512]) {
    const text = longAbc(bars);
    const ours = time(15, () => readAbc(text));
    const theirs = time(15, () => abcjs.parseOnly(text));
    line(
      `  ${String(bars).padStart(4)} bars: ${ours.toFixed(2)} ms against ${theirs.toFixed(2)} ms: ${(theirs / ours).toFixed(1)} times as fast (aim: 1 or more)`,
    );
  }
}

function transposing(): void {
  const names = ['C4', 'F#5', 'Bb3', 'E4', 'Ab5', 'G2', 'D#4', 'B4'];
  const pitches = names.map((name): Pitch => {
    const parsed = parsePitch(name);
    if (!parsed.ok) throw new Error(name);
    return parsed.value;
  });
  const sixth = { diatonic: 5, chromatic: 9 };
  const agree = names.every(
    (name, k) => Note.get(tonalTranspose(name, '6M')).name === printPitch(transpose(pitches[k] as Pitch, sixth)),
  );
  const rounds = 20_000;
  const run = (work: (index: number) => unknown) =>
    time(7, () => {
      for (let k = 0; k < rounds; k += 1) work(k % names.length);
    });
  const ours = run((k) => transpose(pitches[k] as Pitch, sixth));
  const text = run((k) => {
    const parsed = parsePitch(names[k] as string);
    return parsed.ok && printPitch(transpose(parsed.value, sixth));
  });
  const theirs = run((k) => tonalTranspose(names[k] as string, '6M'));
  line(`Transposing by an interval, ours beside tonal (same results: ${agree ? 'yes' : 'NO'})`);
  line(
    `  spelled pitches: ${((ours * 1e6) / rounds).toFixed(0)} ns against ${((theirs * 1e6) / rounds).toFixed(0)} ns: ${(theirs / ours).toFixed(0)} times as fast (aim: 10)`,
  );
  line(
    `  text to text:    ${((text * 1e6) / rounds).toFixed(0)} ns against ${((theirs * 1e6) / rounds).toFixed(0)} ns: ${(theirs / text).toFixed(1)} times as fast`,
  );
}

async function engraving(): Promise<void> {
  line('From a changed key to new pictures, in a worker thread (four lanes, 800 pixels wide, warm)');
  const thread = new Worker(new URL('./engravingThread.mjs', import.meta.url));
  const works = new WorkSender();
  // As the page does it: the thread is sent what changed.
  const ask = ({ work, nearBar }: { readonly work: Work; readonly nearBar: number }) =>
    new Promise<Drawn>((resolve, reject) => {
      const fail = (error: Error) => reject(error);
      thread.once('error', fail);
      thread.once('message', (drawn: Drawn) => {
        thread.off('error', fail);
        resolve(drawn);
      });
      thread.postMessage({ work: works.next(work), nearBar } satisfies Asked);
    });
  const keys = ['G', 'F', 'D', 'Bb', 'A', 'Eb', 'E', 'Ab', 'B', 'Db', 'C'].map((text) => {
    const parsed = parseKey(text);
    if (!parsed.ok) throw new Error(text);
    return parsed.value;
  });
  for (const bars of [8, 32, 128]) {
    const tune = tuneOf(longAbc(bars));
    const near = Math.floor(bars / 2);
    const draw = (instrument: string, key: (typeof keys)[number]) =>
      ask({ work: { tune, recipes: { beginner: { instrument, keyAndTempo: { key } } } }, nearBar: near });
    // Another instrument warms code and engraver; no picture of it is met again below.
    for (const key of keys) await draw('trumpet-bb', key);
    const warm: Drawn[] = [];
    for (const key of keys) warm.push(await draw('clarinet-bb', key));
    line(
      `  ${String(bars).padStart(4)} bars: row under the change ${median(warm.map(({ first }) => first)).toFixed(0)} ms (aim: 100), all ${warm[0]?.rows ?? 0} rows ${median(warm.map(({ all }) => all)).toFixed(0)} ms`,
    );
  }
  const tune = tuneOf(longAbc(128));
  const choices = (['rest', 'simpler', 'as-written', 'octave-up', 'simplest', 'octave-down'] as const).map((kind) => ({
    kind,
  }));
  const pinned: Drawn[] = [];
  for (const choice of choices)
    pinned.push(
      await ask({
        work: {
          tune,
          recipes: { advanced: { instrument: 'alto-sax', bars: { chosen: { [tune.bars[60]?.id ?? '']: choice } } } },
        },
        nearBar: 60,
      }),
    );
  line(`   128 bars, one bar set by hand: its row ${median(pinned.map(({ first }) => first)).toFixed(0)} ms (aim: 80)`);
  await thread.terminate();
}

async function all(): Promise<void> {
  const measuredTune = (bars: number) => tuneOf(longAbc(bars));
  shaping();
  abcReading();
  midiReading(line, time, measuredTune);
  musicXmlReading(line, time, measuredTune);
  analysing(line, time, measuredTune);
  transposing();
  harmony(line, time);
  rankingKeys(line, time, measuredTune);
  fingeringLines(line, time);
  await drills(time, line);
  plans(time, line);
  together(time, line);
  await soloTimes(time, line);
  await soundTimes(line);
  await engraving();
  await firstMusic(line);
  await keystroke(line);
}

/**
 * One part of it alone: `npm run bench -- levels` shapes, `-- files` reads MIDI and MusicXML, `-- load` puts the whole
 * program under load, `-- harmony` reads chords, `-- drills` lays drills out, `-- plans` plans, `-- together` arranges for eight, `-- solos` composes, `-- sounds` renders.
 */
const PARTS: Readonly<Record<string, () => unknown>> = {
  levels: shaping,
  files: () => {
    const measuredTune = (bars: number) => tuneOf(longAbc(bars));
    midiReading(line, time, measuredTune);
    musicXmlReading(line, time, measuredTune);
  },
  load: () => load(line),
  school: () => school(line),
  harmony: () => harmony(line, time),
  drills: () => drills(time, line),
  plans: () => plans(time, line),
  together: () => together(time, line),
  solos: () => soloTimes(time, line),
  sounds: () => soundTimes(line),
};
const asked = Object.keys(PARTS).find((name) => process.argv.includes(name));
await (asked === undefined ? all() : PARTS[asked]?.());
