import { type Key, midiNumber, namePitchClass, type Pitch, printPitch, spellInKey } from '../pitch';
import type { EventId } from '../score';
import type { JudgedTake, Verdict, WantedNote } from './judgeTake';

/** A note of the page with what became of it. */
interface NoteReport {
  readonly id: EventId;
  /** Index of its bar on the page. */
  readonly bar: number;
  readonly verdict: Verdict;
  /** `A late`, `B♭ instead of A`; empty where it was right. */
  readonly text: string;
  /** What was heard instead, written. */
  readonly instead?: string;
}

/** A take in words: how much of it was right, and what was not, bar by bar. */
export interface TakeReport {
  readonly notes: readonly NoteReport[];
  readonly right: number;
  /** Bars with faults, in order: what happened, in words. */
  readonly bars: readonly { readonly bar: number; readonly text: string }[];
  /** Bars that want practice most, the worst first: runs of at most two. */
  readonly worst: readonly { readonly from: number; readonly to: number }[];
  /** Notes that nobody asked for. */
  readonly added: number;
  /** Hundredths of a half step above A = 440, on the whole; 0 where hardly anything was heard. */
  readonly cents: number;
  /** Nothing was heard at all. */
  readonly isSilent: boolean;
}

/** So many of the notes right, and the round was good. */
export const GOOD_SHARE = 0.9;
/** A bar wants practice where more than this share of its notes went wrong. */
const WORST = 0.3;
const MAX_WORST = 3;

/**
 * Says what became of a take.
 * @param written pitch of each note as its player reads it, by event
 * @param key the written one: what is heard instead is spelled in it
 */
export function takeReport(
  wanted: readonly (WantedNote & { readonly id: EventId; readonly bar: number })[],
  { verdicts, added, cents }: JudgedTake,
  written: ReadonlyMap<EventId, Pitch>,
  key: Key,
): TakeReport {
  const notes = wanted.map(({ id, bar, key: sounding }, k): NoteReport => {
    const verdict = verdicts[k] ?? { kind: 'missed' };
    const pitch = written.get(id);
    const name = pitch ? namePitchClass(pitch) : '';
    if (verdict.kind === 'right') return { id, bar, verdict, text: '' };
    if (verdict.kind !== 'wrong') return { id, bar, verdict, text: `${name} ${verdict.kind}` };
    const other = pitch && spellInKey(midiNumber(pitch) + verdict.heard - sounding, key);
    // The same name in another octave needs the octave said.
    const isOctave = other !== undefined && namePitchClass(other) === name;
    const instead = other ? (isOctave ? printPitch(other) : namePitchClass(other)) : '';
    return { id, bar, verdict, instead, text: `${instead} instead of ${isOctave && pitch ? printPitch(pitch) : name}` };
  });
  const byBar = new Map<number, NoteReport[]>();
  for (const note of notes) byBar.set(note.bar, [...(byBar.get(note.bar) ?? []), note]);
  const right = notes.filter(({ verdict }) => verdict.kind === 'right').length;
  const isSilent = notes.every(({ verdict }) => verdict.kind === 'missed');
  const bars = [...byBar].flatMap(([bar, own]) => {
    const faults = own.filter(({ verdict }) => verdict.kind !== 'right');
    return faults.length === 0 ? [] : [{ bar, text: barWords(own, faults), share: faults.length / own.length }];
  });
  return {
    notes,
    right,
    bars: bars.map(({ bar, text }) => ({ bar, text })),
    worst: isSilent ? [] : worstRuns(bars),
    added: added.length,
    cents: isSilent ? 0 : cents,
    isSilent,
  };
}

function barWords(all: readonly NoteReport[], faults: readonly NoteReport[]): string {
  if (all.length > 1 && faults.length === all.length) {
    const [first] = faults;
    if (first && faults.every(({ verdict }) => verdict.kind === first.verdict.kind) && first.verdict.kind !== 'wrong')
      return first.verdict.kind === 'missed' ? 'not heard' : `all ${first.verdict.kind}`;
  }
  return faults.map(({ text }) => text).join(', ');
}

function worstRuns(
  bars: readonly { readonly bar: number; readonly share: number }[],
): readonly { readonly from: number; readonly to: number }[] {
  const runs: { readonly from: number; readonly to: number }[] = [];
  const isTaken = (bar: number) => runs.some(({ from, to }) => bar >= from && bar < to);
  for (const { bar, share } of bars.toSorted((a, b) => b.share - a.share || a.bar - b.bar)) {
    if (share <= WORST || runs.length === MAX_WORST) break;
    if (isTaken(bar)) continue;
    const next = bars.find((other) => other.bar === bar + 1 && other.share > WORST && !isTaken(other.bar));
    runs.push({ from: bar, to: bar + (next ? 2 : 1) });
  }
  return runs;
}

/** `18 of 20 notes right`, and what else is to be said of the whole. */
export function takeWords({ notes, right, added, cents, isSilent }: TakeReport): string {
  if (isSilent) return 'Nothing was heard: is the microphone the right one, and near enough?';
  const words = [`${right} of ${notes.length} notes right`];
  if (added > 0) words.push(`${added === 1 ? 'one note' : `${added} notes`} more than are written`);
  if (Math.abs(cents) >= 15)
    words.push(`on the whole ${Math.abs(cents)} hundredths of a half step too ${cents > 0 ? 'high' : 'low'}`);
  return `${words.join('; ')}.`;
}
