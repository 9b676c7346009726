import { chordTonesUnder } from '../analysis';
import type { Level } from '../instruments';
import type { Part } from '../levels';
import { chroma } from '../pitch';
import { barNumbers, barSpans, type SoundingNote, soundingNotes } from '../score';
import { weightAt } from '../time';

/** Two levels that rub by a half step on a strong beat when they play at once. */
export interface Clash {
  readonly barIndex: number;
  /** As printed. */
  readonly bar: number;
  readonly levels: readonly [Level, Level];
}

/** From here on a beat is strong: the first, and the middle of the bar. */
const STRONG = 0.75;

/**
 * Where parts of one tune, played at once, clash: on a strong beat two of them sound a half step apart (in any octave),
 * and not because the chord itself has both notes. Rule: parallel clashes on strong beats between parts are found and
 * mended.
 * @param parts once through, bar by bar with the tune, in one key
 */
export function clashesOf(parts: readonly Pick<Part, 'level' | 'soundingBars' | 'meter'>[]): readonly Clash[] {
  const lines = parts.map((part) => {
    const line = { bars: part.soundingBars, meter: part.meter };
    const notes = soundingNotes(line);
    return { level: part.level, notes, tones: chordTonesUnder(line, notes) };
  });
  const [first] = parts;
  if (!first) return [];
  const spans = barSpans({ bars: first.soundingBars, meter: first.meter });
  const numbers = barNumbers({ bars: first.soundingBars, meter: first.meter });
  const clashes: Clash[] = [];
  lines.forEach((line, index) => {
    for (const other of lines.slice(index + 1)) {
      const found = new Set<number>();
      let cursor = 0;
      line.notes.forEach((note, k) => {
        while (cursor < other.notes.length && endOf(other.notes[cursor]) <= note.start) cursor += 1;
        for (let at = cursor; at < other.notes.length; at += 1) {
          const against = other.notes[at];
          if (!against || against.start >= note.start + note.length) break;
          const struck = Math.max(note.start, against.start);
          const later = note.start >= against.start ? note : against;
          const span = spans[later.bar];
          if (!span || weightAt(span.meter, span.offset + struck - span.start) < STRONG) continue;
          const distance = (((chroma(note.pitch) - chroma(against.pitch)) % 12) + 12) % 12;
          if (distance !== 1 && distance !== 11) continue;
          const tones = (later === note ? line.tones[k] : other.tones[at]) ?? [];
          const isOfChord = [note, against].every(({ pitch }) => tones.some((tone) => chroma(tone) === chroma(pitch)));
          if (!isOfChord) found.add(later.bar);
        }
      });
      for (const barIndex of found)
        clashes.push({ barIndex, bar: numbers[barIndex] ?? 0, levels: [line.level, other.level] });
    }
  });
  return clashes.toSorted((a, b) => a.barIndex - b.barIndex);
}

function endOf(note: SoundingNote | undefined): number {
  return note ? note.start + note.length : 0;
}
