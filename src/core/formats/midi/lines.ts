import type { MidiFile, MidiNote } from './midiFile';

/** Notes of one track and channel, or of one hand of it, as they could be taken for a melody. */
export interface MidiLine {
  readonly name: string;
  /** One at a time, in order. */
  readonly notes: readonly MidiNote[];
  /** Notes left out since another one sounded above them. */
  readonly covered: number;
}

const PERCUSSION = 9;
/** Wider than this at one time is two hands: an octave and a third is a large stretch. */
const ONE_HAND = 16;
/** Notes that begin within this of one another, in quarters, are struck together by a player's hands. */
const TOGETHER = 0.08;
/** Shares of the notes. */
const SPLIT_FROM = 0.12;

/** Every line that a file offers, in the order of its tracks; percussion is none. */
export function linesOfMidi(file: MidiFile): readonly MidiLine[] {
  const lines: MidiLine[] = [];
  file.tracks.forEach((track, index) => {
    const channels = [...new Set(track.notes.map(({ channel }) => channel))]
      .filter((channel) => channel !== PERCUSSION)
      .toSorted((a, b) => a - b);
    for (const channel of channels) {
      const notes = track.notes.filter((note) => note.channel === channel);
      const base = track.name || `Track ${index + 1}`;
      const name = channels.length > 1 ? `${base}, channel ${channel + 1}` : base;
      const hands = handsOf(notes, file.division);
      if (hands) {
        lines.push(
          { name: `${name}, upper notes`, ...topLine(hands.upper) },
          { name: `${name}, lower notes`, ...topLine(hands.lower) },
        );
      } else lines.push({ name, ...topLine(notes) });
    }
  });
  return lines;
}

export function hasPercussion(file: MidiFile): boolean {
  return file.tracks.some(({ notes }) => notes.some(({ channel }) => channel === PERCUSSION));
}

/** Two hands where notes far apart often sound together; each note goes to the hand that lies nearer. */
function handsOf(
  notes: readonly MidiNote[],
  division: number,
): { readonly upper: readonly MidiNote[]; readonly lower: readonly MidiNote[] } | undefined {
  const groups = onsetGroups(notes, division * TOGETHER);
  const wide = groups.filter((group) => spread(group) > ONE_HAND).length;
  if (wide < SPLIT_FROM * groups.length || groups.length < 4) return undefined;
  const all = notes.map(({ pitch }) => pitch).toSorted((a, b) => a - b);
  let high = all[Math.floor(all.length * 0.75)] ?? 72;
  let low = all[Math.floor(all.length * 0.25)] ?? 48;
  const upper: MidiNote[] = [];
  const lower: MidiNote[] = [];
  for (const group of groups) {
    const sorted = group.toSorted((a, b) => a.pitch - b.pitch);
    // A chord too wide for one hand parts at its widest gap; otherwise each note goes to the hand that is nearer.
    let cut = 0;
    if (spread(group) > ONE_HAND) {
      let widest = 0;
      for (let k = 1; k < sorted.length; k += 1) {
        const gap = (sorted[k]?.pitch ?? 0) - (sorted[k - 1]?.pitch ?? 0);
        if (gap >= widest) [widest, cut] = [gap, k];
      }
    } else {
      const upperFrom = sorted.findIndex(({ pitch }) => Math.abs(pitch - high) <= Math.abs(pitch - low));
      cut = upperFrom < 0 ? sorted.length : upperFrom;
    }
    for (const [index, one] of sorted.entries()) (index < cut ? lower : upper).push(one);
    if (cut > 0) low += (mean(sorted.slice(0, cut).map(({ pitch }) => pitch)) - low) * 0.15;
    if (cut < sorted.length) high += (mean(sorted.slice(cut).map(({ pitch }) => pitch)) - high) * 0.15;
  }
  return upper.length > 0 && lower.length > 0 ? { upper, lower } : undefined;
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
}

function spread(group: readonly MidiNote[]): number {
  const highest = group.reduce((most, { pitch }) => Math.max(most, pitch), 0);
  return highest - group.reduce((least, { pitch }) => Math.min(least, pitch), highest);
}

function onsetGroups(notes: readonly MidiNote[], within: number): readonly MidiNote[][] {
  const groups: MidiNote[][] = [];
  for (const note of notes.toSorted((a, b) => a.start - b.start)) {
    const last = groups.at(-1);
    if (last?.[0] && note.start - last[0].start <= within) last.push(note);
    else groups.push([note]);
  }
  return groups;
}

/**
 * The upper line of what may be chords: a note under one that still sounds is covered, unless it begins where that one
 * is nearly over; then the upper one is cut short.
 */
function topLine(notes: readonly MidiNote[]): { readonly notes: readonly MidiNote[]; readonly covered: number } {
  const line: MidiNote[] = [];
  let covered = 0;
  for (const note of notes.toSorted((a, b) => a.start - b.start || b.pitch - a.pitch)) {
    const last = line.at(-1);
    if (last && note.start < last.end) {
      const overlap = (last.end - note.start) / (last.end - last.start);
      const isChord = note.start - last.start < (last.end - last.start) * 0.1;
      if (note.pitch < last.pitch && (isChord || overlap > 0.3)) {
        covered += 1;
        continue;
      }
      if (isChord && note.pitch > last.pitch) {
        // A chord rolled from below: its top note is the melody.
        line.pop();
        covered += 1;
        line.push({ ...note, start: last.start });
        continue;
      }
      line[line.length - 1] = { ...last, end: note.start };
    }
    line.push(note);
  }
  return { notes: line.filter(({ start, end }) => end > start), covered };
}

/** Where the melody most likely is: many notes, one at a time, high. Counted from 0. */
export function likelyMelody(lines: readonly MidiLine[]): number {
  const scores = lines.map(({ notes, covered, name }) => {
    const alone = notes.length / Math.max(1, notes.length + covered);
    const height = mean(notes.map(({ pitch }) => pitch)) / 127;
    const named = /melod|lead|solo|voice|vocal|upper/i.test(name) ? 0.4 : 0;
    return 1.2 * alone + 1.5 * height + 0.15 * Math.log2(notes.length + 1) + named;
  });
  return scores.indexOf(Math.max(...scores));
}
