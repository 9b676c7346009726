import { nameChord, transposeChord } from '../harmony';
import { chroma, type Interval, namePitchClass, type PitchClass, transposeClass, withAlterUpTo } from '../pitch';
import type { PartRole, TogetherCell } from '../score';
import type { Ground, GroundChord, Slot } from './ground';
import { type LineNote, noteAt, notesIn, type VoiceLine } from './line';

/** What a part is in a bar, and why, in words for its player and teacher. */
export interface BarReason {
  /** As printed, and as an index. */
  readonly bar: number;
  readonly barIndex: number;
  readonly what: string;
  readonly why: string;
}

/** What players do where they do not lead, as people say it. */
export const ROLE_NAMES: Readonly<Record<PartRole, string>> = {
  tune: 'the tune',
  second: 'second voice',
  counter: 'counter-melody',
  pad: 'long notes',
  bass: 'bass',
  rhythm: 'rhythm',
};

const WHY: Readonly<Record<Exclude<PartRole, 'tune'>, string>> = {
  second: 'a second voice goes with the tune',
  counter: 'a counter-melody moves where the tune is still',
  pad: 'long notes hold the chords together',
  bass: 'the bass has the roots',
  rhythm: 'one note in the rhythm of the tune’s style',
};

const DEGREES: Readonly<Record<number, string>> = {
  1: 'root',
  2: 'second',
  3: 'third',
  4: 'fourth',
  5: 'fifth',
  6: 'sixth',
  7: 'seventh',
  9: 'ninth',
  11: 'eleventh',
  13: 'thirteenth',
};

interface Told {
  readonly ground: Ground;
  readonly line: VoiceLine;
  readonly tune: VoiceLine;
  /** From concert pitch to what the player reads. */
  readonly written: Interval;
}

/** What an accompanying part is in one bar. */
export function barReason(told: Told, barIndex: number, bar: number, cell: TogetherCell): BarReason {
  const span = told.ground.spans[barIndex];
  const [from, to] = [span?.start ?? 0, (span?.start ?? 0) + (span?.length ?? 0)];
  const here = notesIn(told.line, from, to);
  const reason = (what: string, why: string): BarReason => ({ bar, barIndex, what, why });
  if (cell === 'out') return reason('rests', 'sits out here');
  if (cell === 'tune' && here.length > 0) return reason('the tune', 'leads here');
  if (cell === 'tune') return reason('rests', 'the tune rests, or is left to another who leads here');
  if (here.length === 0) return reason('rests', barIndex === 0 ? 'the pickup is the leader’s alone' : WHY[cell]);
  if (here.some(({ kind }) => kind === 'own')) return reason('as written by hand', 'the teacher’s own bar');
  const slots = told.ground.slots.filter((slot) => slot.bar === barIndex);
  const held = here.find(({ kind }) => kind === 'suspension');
  const extra = held ? [`${nameOf(held.pitch, told)} is held over and falls`] : [];
  const text = cell === 'second' ? secondText(told, slots, here) : toneText(told, slots, here, to);
  return reason([text, ...motionWords(here), ...extra].filter((one) => one !== '').join('; '), WHY[cell]);
}

function nameOf(pitch: PitchClass, { written }: Told): string {
  const { step, alter } = withAlterUpTo({ ...transposeClass(pitch, written), octave: 4 }, 1);
  return namePitchClass({ step, alter });
}

function chordName(chord: GroundChord, { written }: Told): string {
  return nameChord(transposeChord(chord.symbol, written));
}

/** `sixth below the tune`, `third above, then sixth below the tune`. */
function secondText(told: Told, slots: readonly Slot[], here: readonly LineNote[]): string {
  const words: string[] = [];
  for (const { from } of slots) {
    const [own, tune] = [noteAt(told.line, from), noteAt(told.tune, from)];
    if (!own || !tune) continue;
    const word = intervalWord(own.height - tune.height);
    if (words.at(-1) !== word) words.push(word);
  }
  return words.length === 0 ? toneText(told, slots, here, Infinity) : `${words.join(', then ')} the tune`;
}

const INTERVALS = [
  'octave',
  'second',
  'second',
  'third',
  'third',
  'fourth',
  'fifth',
  'fifth',
  'sixth',
  'sixth',
  'seventh',
  'seventh',
] as const;

function intervalWord(halfSteps: number): string {
  if (halfSteps === 0) return 'in unison with';
  return `${INTERVALS[Math.abs(halfSteps) % 12] ?? ''} ${halfSteps < 0 ? 'below' : 'above'}`;
}

/** `third of C, falls to B`; `root of G, then fifth of D7`. */
function toneText(told: Told, slots: readonly Slot[], here: readonly LineNote[], to: number): string {
  const words: string[] = [];
  for (const { from, chord } of slots) {
    const note = noteAt(told.line, from);
    if (!note || !chord) continue;
    const tone = chord.tones.find(({ pitchClass }) => chroma(pitchClass) === note.height % 12);
    const degree = tone ? (DEGREES[tone.degree] ?? 'tone') : 'bass';
    const word = `${nameOf(note.pitch, told)}, ${degree} of ${chordName(chord, told)}`;
    if (words.at(-1) !== word) words.push(word);
  }
  const last = here.at(-1);
  const next = last && Number.isFinite(to) ? noteAt(told.line, to) : undefined;
  const moves = last && next && next.height !== last.height;
  const goes = moves ? `${next.height < last.height ? 'falls' : 'rises'} to ${nameOf(next.pitch, told)}` : '';
  return [...words.slice(0, 3), goes].filter((one) => one !== '').join('; ');
}

function motionWords(here: readonly LineNote[]): readonly string[] {
  const kinds = new Set(here.map(({ kind }) => kind));
  return [
    ...(kinds.has('figure') ? ['with the tune’s own figure'] : []),
    ...(kinds.has('passing') ? ['walks on by step'] : []),
  ];
}
