import { semitones } from '../pitch';
import { degreeOver, formOf } from '../pools';
import { hasPickup, soundingNotes, type Tune } from '../score';
import { isBlueNote, nameDevice } from './devices';
import { groundAt, groundsOf, roleAt } from './ground';
import { measuresOf, type SoloMeasures } from './measures';
import type { FormBar } from './rhythm';
import type { SoloNote, SoloPhrase, SoloRole } from './soloNote';
import { formBarsOf } from './soloTune';

/**
 * A solo that somebody wrote or played, read as ours are: what each note is, which phrases go back to which, what can
 * be counted.
 */
export interface ReadSolo {
  readonly notes: readonly SoloNote[];
  readonly phrases: readonly SoloPhrase[];
  readonly bars: readonly FormBar[];
  readonly measures: SoloMeasures;
}

const PHRASE_BARS = 2;

/** Reads a solo with its chords over it, in concert pitch; a pickup is left out. `undefined` where it has no chords. */
export function readSolo(tune: Tune): ReadSolo | undefined {
  const form = formOf(tune);
  const bars = formBarsOf(tune);
  const { grounds } = groundsOf(form, 'advanced', bars);
  if (grounds.length === 0) return undefined;
  const pickup = hasPickup(tune) ? (tune.bars[0]?.partial ?? 0) : 0;
  const sounding = soundingNotes(tune).filter(({ start }) => start >= pickup);
  const heights = sounding.map(({ pitch }) => semitones(pitch));
  const isStep = (a: number, b: number) => Math.abs(a - b) === 1 || Math.abs(a - b) === 2;
  const notes = sounding.flatMap(({ pitch, start, length }, k): readonly SoloNote[] => {
    const at = start - pickup;
    const ground = groundAt(grounds, at);
    if (!ground) return [];
    const height = heights[k] ?? 0;
    const bit = 1 << (((height % 12) + 12) % 12);
    const next = groundAt(grounds, at + length);
    // A note that leans and is left by a leap has no name: it is said to rub.
    // Struck off the beat before a change and held into it: it belongs to the chord that comes.
    const isEarly = next !== undefined && next !== ground && next.start < at + length && (next.home & bit) !== 0;
    const placed = roleAt(ground, height);
    const role: SoloRole = isEarly ? 'home' : (ground.pool & bit) !== 0 || placed === 'home' ? placed : 'outside';
    const around = { before: heights[k - 1], here: height, after: heights[k + 1] };
    const device = isEarly
      ? ('anticipation' as const)
      : (role === 'rub' || role === 'outside') && around.after !== undefined && isStep(height, around.after)
        ? nameDevice(around, isStep, isBlueNote(height, ground.key, form.style))
        : undefined;
    return [
      {
        at,
        length,
        pitch,
        concert: pitch,
        chord: ground.chord,
        degree: degreeOver(pitch, ground.symbol),
        role,
        ...(device && { device }),
      },
    ];
  });
  const enclosed = withEnclosures(notes);
  const phrases = phrasesIn(enclosed, bars);
  return { notes: enclosed, phrases, bars, measures: measuresOf(enclosed, phrases, bars) };
}

/** Two notes on either side of a chord tone that follows, the second of them leaning, close in on it. */
function withEnclosures(notes: readonly SoloNote[]): readonly SoloNote[] {
  const made = [...notes];
  for (let k = 0; k + 2 < made.length; k += 1) {
    const [first, second, target] = [made[k], made[k + 1], made[k + 2]];
    if (!first || !second || target?.role !== 'home' || !second.device) continue;
    const [a, b] = [first, second].map(({ pitch }) => semitones(pitch) - semitones(target.pitch));
    if (a === undefined || b === undefined || Math.sign(a) !== -Math.sign(b)) continue;
    if (a === 0 || Math.abs(a) > 2 || Math.abs(b) > 2) continue;
    made[k + 1] = { ...second, device: 'enclosure' };
    if (first.device) made[k] = { ...first, device: 'enclosure' };
  }
  return made;
}

/** Two bars at a time: the same as before, begun in the same way, or in the same rhythm; else something new. */
function phrasesIn(notes: readonly SoloNote[], bars: readonly FormBar[]): readonly SoloPhrase[] {
  const found: SoloPhrase[] = [];
  const words: { readonly whole: string; readonly half: string; readonly rhythm: string }[] = [];
  for (let from = 0; from < bars.length; from += PHRASE_BARS) {
    const [first, last] = [bars[from], bars[Math.min(bars.length, from + PHRASE_BARS) - 1]];
    if (!first || !last) break;
    const [start, end] = [first.start, last.start + last.length];
    const inside = notes.filter(({ at }) => at >= start && at < end);
    const word = (list: readonly SoloNote[], hasPitch: boolean) =>
      list.map((note) => `${note.at - start}:${note.length}${hasPitch ? `:${semitones(note.pitch)}` : ''}`).join(' ');
    const half = inside.filter(({ at }) => at - start < (end - start) / 2);
    const said = { whole: word(inside, true), half: word(half, true), rhythm: word(half, false) };
    const kinds = [
      ['same', 'whole'],
      ['varied', 'half'],
      ['moved', 'rhythm'],
    ] as const;
    const kin = kinds
      .map(([kind, by]) => ({ kind, of: words.findIndex((earlier) => earlier[by] !== '' && earlier[by] === said[by]) }))
      .find(({ of }) => of >= 0);
    found.push({
      start,
      end,
      ...(inside.length === 0 ? { kind: 'rest' } : (kin ?? { kind: found.length === 0 ? 'idea' : 'answer' })),
    });
    words.push(said);
  }
  return found;
}
