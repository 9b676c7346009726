/**
 * Throws random bytes and mutated, truncated and spliced files of every format at the readers. Each case must end with
 * a tune or with problems in words, within two seconds and 300 MB. Prints the seed of what does not.
 */
import { withinEffort } from '../src/core/formats/effort';
import { readTune } from '../src/core/formats/readTune';
import { HOSTILE } from './hostileFiles';
import { formatProblemText } from '../src/core/formats/problem';
import { scoreProblems } from '../src/core/score/validate';
import { writeAbc } from '../src/core/formats/abc/writeAbc';
import { writeJson } from '../src/core/formats/json/readJson';
import { writeMidi } from '../src/core/formats/midi/writeMidi';
import { writeMxl } from '../src/core/formats/musicxml/mxl';
import { writeMusicXml } from '../src/core/formats/musicxml/writeMusicXml';
import { richTune } from './richTune';
import { tuneStaff } from '../src/core/formats/musicxml/scoreFile';

const MAX_MILLISECONDS = 2_000;
const MAX_MEGABYTES = 300;
/** Readers take less than a step for each byte of real files; damaged ones may take a few. */
const MAX_STEPS_A_BYTE = 8;

export interface FuzzResult {
  readonly cases: number;
  readonly read: number;
  readonly refused: number;
  readonly slowest: number;
  readonly megabytes: number;
  /** Steps of reading for each byte, of the case that took most. */
  readonly stepsAByte: number;
  readonly faults: readonly string[];
}

function numbersFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const encode = (text: string) => new TextEncoder().encode(text);

/** Pieces that readers have to be ready for: numbers without end, entities, deep nests, signs of other formats. */
const NASTY = [
  '999999999999',
  '-1',
  '0',
  '1e308',
  'NaN',
  '\u0000',
  '<!DOCTYPE a [<!ENTITY b "bb">]>',
  '&b;',
  '<a>'.repeat(50),
  '[[[[',
  '(9:9:9',
  '(3',
  '"',
  '|:::|',
  '[V:9]',
  'M:0/0',
  'L:1/0',
  'Q:0',
  'K:',
  '<duration>1e9</duration>',
  '<actual-notes>0</actual-notes>',
  '<octave>99</octave>',
  '<divisions>0</divisions>',
  '{',
  ']}',
  '\uFFFD',
  '../../etc',
  'Z999999',
  '!!!!',
  '{gfe',
  '<backup><duration>99999</duration></backup>',
].map(encode);

function corpus(): readonly Uint8Array[] {
  const files: Uint8Array[] = [];
  for (let seed = 0; seed < 12; seed += 1) {
    const tune = richTune(seed, { oddTuplets: seed % 2 === 0, ownMarks: true, second: seed % 3 === 0 });
    const xml = writeMusicXml(tuneStaff(tune));
    files.push(encode(xml), encode(writeAbc(tune).text), encode(writeJson(tune)), writeMidi(tune).data, writeMxl(xml));
  }
  // Real files three times as often as those made to be slow.
  return [...files, ...files, ...files, ...HOSTILE.map(({ make }) => make(60))];
}

function mutated(files: readonly Uint8Array[], next: () => number): Uint8Array {
  const whole = (most: number) => Math.floor(next() * most);
  const pick = <One>(list: readonly One[]): One => list[whole(list.length)] as One;
  if (next() < 0.08) return Uint8Array.from({ length: whole(2_000) }, () => whole(256));
  let bytes = Uint8Array.from(pick(files));
  const changes = 1 + whole(4);
  for (let k = 0; k < changes && bytes.length > 0; k += 1) {
    const at = whole(bytes.length);
    const kind = next();
    if (kind < 0.3) for (let flips = 0; flips < 1 + whole(8); flips += 1) bytes[whole(bytes.length)] = whole(256);
    else if (kind < 0.45) bytes = bytes.slice(0, at);
    else if (kind < 0.6) bytes = joined(bytes.slice(0, at), bytes.slice(Math.min(bytes.length, at + 1 + whole(200))));
    else if (kind < 0.75) bytes = joined(bytes.slice(0, at), pick(NASTY), bytes.slice(at));
    else if (kind < 0.9)
      bytes = joined(bytes.slice(0, at), bytes.slice(Math.max(0, at - whole(400)), at), bytes.slice(at));
    else bytes = joined(bytes.slice(0, at), pick(files).slice(whole(1_000)));
  }
  return bytes;
}

function joined(...parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const all = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  parts.reduce((at, part) => {
    all.set(part, at);
    return at + part.length;
  }, 0);
  return all;
}

/** @param mostMegabytes of the whole process; a test runner's own memory is no reader's fault */
export function fuzz(
  cases: number,
  firstSeed = 1,
  say: (line: string) => void = () => undefined,
  mostMegabytes = MAX_MEGABYTES,
): FuzzResult {
  const files = corpus();
  const faults: string[] = [];
  let [read, refused, slowest, megabytes, mostSteps] = [0, 0, 0, 0, 0];
  for (let k = 0; k < cases; k += 1) {
    const seed = firstSeed + k;
    const bytes = mutated(files, numbersFrom(seed * 7_919));
    const start = performance.now();
    try {
      const { value: result, steps } = withinEffort(bytes.length, () => readTune(bytes, 'case'));
      mostSteps = Math.max(mostSteps, steps / (bytes.length + 1_000));
      if (result.ok) {
        read += 1;
        const broken = scoreProblems(result.value.tune);
        if (broken.length > 0) faults.push(`seed ${seed}: a broken tune came out: ${JSON.stringify(broken[0])}`);
      } else {
        refused += 1;
        const words = result.problem.map(formatProblemText);
        if (words.length === 0 || words.some((text) => text.trim().length < 8))
          faults.push(`seed ${seed}: refused without a reason`);
      }
    } catch (error) {
      faults.push(
        `seed ${seed}: ${error instanceof Error ? (error.stack ?? error.message).split('\n').slice(0, 3).join(' ') : String(error)}`,
      );
    }
    const took = performance.now() - start;
    slowest = Math.max(slowest, took);
    if (took > MAX_MILLISECONDS) faults.push(`seed ${seed}: took ${Math.round(took)} ms`);
    if (k % 50 === 0) {
      megabytes = Math.max(megabytes, process.memoryUsage().rss / 1_048_576);
      if (megabytes > mostMegabytes) {
        faults.push(`seed ${seed}: ${Math.round(megabytes)} MB in use`);
        break;
      }
    }
    if (k > 0 && k % 2_000 === 0)
      say(
        `${k} cases: ${read} read, ${refused} refused, slowest ${Math.round(slowest)} ms, ${Math.round(megabytes)} MB`,
      );
  }
  if (mostSteps > MAX_STEPS_A_BYTE) faults.push(`${mostSteps.toFixed(1)} steps a byte`);
  return { cases, read, refused, slowest, megabytes, stepsAByte: mostSteps, faults };
}
