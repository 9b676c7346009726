import { type CostedFingering, fingeringsFor, isFingered } from '../core/fingering';
import { type Instrument, type Level, LEVELS, outsideBy } from '../core/instruments';
import { namePitchClass, naturalAt, type Pitch, semitones } from '../core/pitch';
import { fingerDiagram } from '../engrave/fingerDiagram';

export interface DrawnNote {
  readonly name: string;
  readonly level: Level | 'beyond';
  readonly ways: readonly { readonly svg: string; readonly words: string; readonly when?: string }[];
}

/** Ways drawn for one note; on strings the usual ones alone. */
const MAX_WAYS: Readonly<Record<string, number>> = { holes: 4, valves: 2, slide: 2, bowed: 2, fretted: 2 };

/**
 * Every note of an instrument from the lowest to the top of the advanced range and on as far as fingerings are known,
 * each with its usual ways drawn.
 */
export function chartNotes(instrument: Instrument): readonly DrawnNote[] {
  if (!isFingered(instrument)) return [];
  const notes: DrawnNote[] = [];
  const { low, high } = instrument.range.full;
  for (let height = semitones(low); height <= semitones(high); height += 1) {
    const [pitch, twin] = spellings(height);
    const level = LEVELS.find((one) => outsideBy(pitch, instrument.range[one]) === 0) ?? 'beyond';
    const seen = new Set<string>();
    const ways = chartWays(instrument, pitch)
      .flatMap(({ fingering }) => {
        const { svg, words } = fingerDiagram(fingering, instrument);
        // On a fingerboard the same place under another finger is no other way to a chart.
        const place =
          fingering.kind === 'bowed'
            ? `${fingering.string}/${fingering.above}`
            : fingering.kind === 'fretted'
              ? `${fingering.string}/${fingering.fret}`
              : words;
        if (seen.has(place)) return [];
        seen.add(place);
        return [{ svg, words, ...(fingering.kind === 'holes' && fingering.when && { when: fingering.when }) }];
      })
      .slice(0, MAX_WAYS[instrument.mechanism.kind] ?? 1);
    if (level === 'beyond' && ways.length === 0) continue;
    const name = (one: Pitch) => `${namePitchClass(one)}${one.octave}`;
    notes.push({ name: twin ? `${name(pitch)} / ${name(twin)}` : name(pitch), level, ways });
  }
  return notes;
}

/** The usual ways first, open strings before stopped ones; high positions only where there is no other. */
function chartWays(instrument: Instrument, pitch: Pitch): readonly CostedFingering[] {
  const open = ({ fingering }: CostedFingering) =>
    (fingering.kind === 'bowed' || fingering.kind === 'fretted') && fingering.finger === 0 ? 0 : 1;
  const isHigh = ({ fingering }: CostedFingering) =>
    (fingering.kind === 'bowed' && fingering.position > HIGH_POSITION) ||
    (fingering.kind === 'fretted' && fingering.hand > HIGH_FRET);
  const ways = fingeringsFor(instrument, pitch).toSorted((a, b) => open(a) - open(b) || a.cost - b.cost);
  const low = ways.filter((way) => !isHigh(way));
  return low.length > 0 ? low : ways;
}

/** What a chart shows for first use: positions and frets beyond these are for who looks for them. */
const HIGH_POSITION = 3;
const HIGH_FRET = 5;

/** A height's usual spelling, with its twin where it is a black key. */
function spellings(height: number): readonly [Pitch, Pitch?] {
  const letters = [0, 0, 1, 1, 2, 3, 3, 4, 4, 5, 5, 6];
  const sharp = naturalAt(Math.floor(height / 12) * 7 + (letters[height % 12] ?? 0));
  const alter = height - semitones(sharp);
  if (alter === 0) return [sharp];
  const flat = naturalAt(Math.floor(height / 12) * 7 + (letters[height % 12] ?? 0) + 1);
  return [
    { ...sharp, alter },
    { ...flat, alter: height - semitones(flat) },
  ];
}
