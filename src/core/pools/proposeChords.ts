import { type ChordSymbol, chordTones, diatonicChords, familyOfKey, parseChord } from '../harmony';
import { chroma } from '../pitch';
import { type Bar, barSpans, hasPickup, soundingNotes, type Tune } from '../score';
import { middleOf, type Ticks, TICKS_PER_QUARTER, weightAt } from '../time';

/**
 * What speaks against a chord: melody time that is none of its tones, a rarer chord, an unusual step from the one
 * before, a change inside a bar. Degrees are counted from 0. Source of the usual steps: S. Kostka and D. Payne, Tonal
 * Harmony (2013), ch. 7; the numbers are ours.
 */
const COST = {
  outside: 3,
  insideBar: 0.55,
  stays: 0.2,
  endsElsewhere: 4,
  beginsElsewhere: 0.5,
  rare: { 0: 0, 1: 0.4, 2: 0.7, 3: 0.2, 4: 0.2, 5: 0.4, 6: 0.6 } as Readonly<Record<number, number>>,
  usual: {
    '4-0': -0.3,
    '1-4': -0.3,
    '3-4': -0.1,
    '3-0': -0.1,
    '5-1': -0.2,
    '0-3': -0.1,
    '0-4': -0.1,
    '5-3': -0.1,
  } as Readonly<Record<string, number>>,
  unusual: { '4-3': 0.3, '4-1': 0.5, '2-0': 0.3, '1-0': 0.3, '1-5': 0.2 } as Readonly<Record<string, number>>,
} as const;

interface Candidate {
  readonly symbol: ChordSymbol;
  readonly degree: number;
  readonly tones: number;
}

interface Stretch {
  readonly bar: number;
  readonly at: Ticks;
  /** Melody time of each of the twelve notes, strong places weighing more. */
  readonly heard: readonly number[];
}

/**
 * Chords for a tune that has none: from its key's own, one or two a bar, the cheapest way through the whole tune. They
 * are proposals: a teacher takes or changes them. A tune that has chords, or no notes, comes back as the same object.
 */
export function withProposedChords(tune: Tune): Tune {
  if (tune.bars.some(({ chords }) => chords.length > 0)) return tune;
  const stretches = stretchesOf(tune);
  const candidates = candidatesFor(tune);
  if (stretches.length === 0 || candidates.length === 0) return tune;
  const path = cheapest(stretches, candidates);
  const chordsByBar = new Map<number, Bar['chords'][number][]>();
  path.forEach((chosen, k) => {
    const stretch = stretches[k];
    if (!stretch || path[k - 1] === chosen) return;
    chordsByBar.set(stretch.bar, [...(chordsByBar.get(stretch.bar) ?? []), { at: stretch.at, symbol: chosen.symbol }]);
  });
  return {
    ...tune,
    bars: tune.bars.map((bar, index) => {
      const chords = chordsByBar.get(index);
      return chords ? { ...bar, chords } : bar;
    }),
  };
}

function candidatesFor({ key }: Tune): readonly Candidate[] {
  const isMinor = familyOfKey(key) === 'minor';
  return diatonicChords(key).flatMap((text, index): readonly Candidate[] => {
    const parsed = parseChord(text);
    if (!parsed.ok || parsed.value.kind !== 'chord') return [];
    const { triad } = parsed.value.quality;
    if (triad === 'diminished' || triad === 'augmented') return [];
    // In minor the dominant has its raised third; the plain one on the fifth degree is not offered beside it.
    const degree = index === 7 ? 4 : index;
    if (isMinor && index === 4 && (key.mode === 'minor' || key.mode === 'aeolian')) return [];
    const tones = chordTones(parsed.value).reduce((bits, { pitchClass }) => bits | (1 << chroma(pitchClass)), 0);
    return [{ symbol: parsed.value, degree, tones }];
  });
}

function stretchesOf(tune: Tune): readonly Stretch[] {
  const notes = soundingNotes(tune);
  if (notes.length === 0) return [];
  const from = hasPickup(tune) ? 1 : 0;
  return barSpans(tune).flatMap((span, bar): readonly Stretch[] => {
    if (bar < from || span.length === 0) return [];
    const middle = middleOf(span.meter);
    const cuts =
      middle !== undefined && middle < span.length && span.offset === 0 ? [0, middle, span.length] : [0, span.length];
    return cuts.slice(0, -1).map((at, k) => {
      const [begin, end] = [span.start + at, span.start + (cuts[k + 1] ?? span.length)];
      const heard = Array<number>(12).fill(0);
      for (const note of notes) {
        const sounds = Math.min(end, note.start + note.length) - Math.max(begin, note.start);
        if (sounds <= 0) continue;
        const strength = note.start >= begin ? 0.6 + weightAt(span.meter, note.inBar) : 1;
        const place = chroma(note.pitch);
        heard[place] = (heard[place] ?? 0) + (sounds / TICKS_PER_QUARTER) * strength;
      }
      return { bar, at, heard };
    });
  });
}

function cheapest(stretches: readonly Stretch[], candidates: readonly Candidate[]): readonly Candidate[] {
  let costs: readonly number[] = candidates.map(({ degree }) => (degree === 0 ? 0 : COST.beginsElsewhere));
  const back: (readonly number[])[] = [];
  stretches.forEach(({ heard, at }, k) => {
    const total = heard.reduce((sum, time) => sum + time, 0);
    const before = costs;
    const from: number[] = [];
    costs = candidates.map((candidate, to) => {
      const outside = heard.reduce((sum, time, note) => sum + (candidate.tones & (1 << note) ? 0 : time), 0);
      const own = (total > 0 ? (COST.outside * outside) / total : 0) + (COST.rare[candidate.degree] ?? 0.6);
      let best = to;
      let least = k === 0 ? (before[to] ?? 0) : Infinity;
      if (k > 0)
        candidates.forEach(({ degree }, other) => {
          const name = `${degree}-${candidate.degree}`;
          const step =
            other === to
              ? at === 0
                ? COST.stays
                : 0
              : (at === 0 ? 0 : COST.insideBar) + (COST.usual[name] ?? 0) + (COST.unusual[name] ?? 0);
          const cost = (before[other] ?? 0) + step;
          if (cost < least) {
            least = cost;
            best = other;
          }
        });
      from.push(best);
      return least + own;
    });
    back.push(from);
  });
  const endCost = (one: number) => (costs[one] ?? 0) + (candidates[one]?.degree === 0 ? 0 : COST.endsElsewhere);
  const last = candidates.reduce((best, _, k) => (endCost(k) < endCost(best) ? k : best), 0);
  const path: Candidate[] = [];
  let state = last;
  for (let k = stretches.length - 1; k >= 0; k -= 1) {
    const chosen = candidates[state];
    if (chosen) path.unshift(chosen);
    state = back[k]?.[state] ?? state;
  }
  return path;
}
