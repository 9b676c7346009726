import { chanceFrom, type Chance } from '../src/core/chance';
import { readAbc } from '../src/core/formats/abc/readAbc';
import type { Tune } from '../src/core/score/tune';

/**
 * Tunes that could have been written by somebody: phrases of four bars in a form, chords of the key, strong beats on
 * chord tones, steps and some leaps between, endings that rest. The same number gives the same tune. They are nobody's
 * tunes and nobody's favourites, so that what serves them was not made to measure.
 */
export function likelyTune(seed: number): Tune {
  const abc = likelyAbc(seed);
  const read = readAbc(abc);
  if (!read.ok) throw new Error(`the generator made what cannot be read: ${JSON.stringify(read.problem)}\n${abc}`);
  return read.value.tune;
}

interface Kind {
  readonly meter: string;
  /** Eighths to a bar. */
  readonly eighths: number;
  /** Rhythms of a bar, in eighths. */
  readonly cells: readonly (readonly number[])[];
  readonly ending: readonly number[];
  readonly tempo: string;
  /** Eighths between the places where chord tones are wanted. */
  readonly beat: number;
}

const KINDS: readonly Kind[] = [
  {
    meter: '4/4',
    eighths: 8,
    cells: [
      [2, 2, 2, 2],
      [3, 1, 2, 2],
      [2, 1, 1, 2, 2],
      [4, 2, 2],
      [2, 2, 4],
      [1, 1, 1, 1, 2, 2],
      [3, 1, 3, 1],
      [2, 1, 1, 2, 1, 1],
      [6, 2],
    ],
    ending: [6, -2],
    tempo: '1/4=104',
    beat: 4,
  },
  {
    meter: '3/4',
    eighths: 6,
    cells: [
      [2, 2, 2],
      [4, 2],
      [3, 1, 2],
      [2, 1, 1, 2],
      [1, 1, 2, 2],
      [2, 2, 1, 1],
      [3, 1, 1, 1],
    ],
    ending: [6],
    tempo: '1/4=120',
    beat: 6,
  },
  {
    meter: '6/8',
    eighths: 6,
    cells: [
      [2, 1, 2, 1],
      [1, 1, 1, 2, 1],
      [1, 1, 1, 1, 1, 1],
      [2, 1, 1, 1, 1],
      [3, 2, 1],
      [2, 1, 3],
    ],
    ending: [3, 3],
    tempo: '3/8=96',
    beat: 3,
  },
  {
    meter: '2/4',
    eighths: 4,
    cells: [
      [1, 1, 1, 1],
      [2, 1, 1],
      [1, 1, 2],
      [2, 2],
      [3, 1],
    ],
    ending: [4],
    tempo: '1/4=112',
    beat: 2,
  },
  {
    meter: '2/2',
    eighths: 8,
    cells: [
      [1, 1, 1, 1, 1, 1, 1, 1],
      [2, 1, 1, 1, 1, 1, 1],
      [3, 1, 1, 1, 1, 1],
      [2, 1, 1, 2, 1, 1],
    ],
    ending: [2, 2, 4],
    tempo: '1/2=88',
    beat: 4,
  },
];

interface Home {
  readonly mode: string;
  /** Degrees of the chords of a four-bar phrase, from 0, and the kinds they have. */
  readonly plans: readonly (readonly number[])[];
  readonly kinds: readonly string[];
}

const HOMES: readonly Home[] = [
  {
    mode: '',
    plans: [
      [0, 3, 4, 0],
      [0, 5, 3, 4],
      [3, 0, 4, 0],
      [0, 1, 4, 0],
      [5, 3, 0, 4],
    ],
    kinds: ['', 'm', 'm', '', '7', 'm', 'dim'],
  },
  {
    mode: 'm',
    plans: [
      [0, 3, 4, 0],
      [0, 5, 3, 4],
      [0, 6, 5, 4],
      [0, 2, 6, 0],
    ],
    kinds: ['m', 'dim', '', 'm', '7', '', ''],
  },
  {
    mode: 'dor',
    plans: [
      [0, 6, 0, 6],
      [0, 3, 6, 0],
      [0, 0, 6, 0],
    ],
    kinds: ['m', 'm', '', '', 'm', 'dim', ''],
  },
  {
    mode: 'mix',
    plans: [
      [0, 6, 0, 0],
      [0, 3, 6, 0],
      [0, 4, 6, 0],
    ],
    kinds: ['', 'm', 'dim', '', 'm', 'm', ''],
  },
];

/** Tonics, with sharps or flats of their major scale. */
const TONICS: readonly (readonly [string, number])[] = [
  ['C', 0],
  ['G', 1],
  ['D', 2],
  ['A', 3],
  ['E', 4],
  ['F', -1],
  ['Bb', -2],
  ['Eb', -3],
];
const SHIFT: Readonly<Record<string, number>> = { '': 0, m: -3, dor: -2, mix: -1 };
const LETTERS = 'CDEFGAB';
const SHARP_ORDER = 'FCGDAEB';
const FORMS = ['AABA', 'ABAB', 'AABB', 'ABAC', 'ABCA'];

function likelyAbc(seed: number): string {
  const chance = chanceFrom(`likely ${seed}`);
  const one = <Value>(values: readonly Value[]): Value => values[Math.floor(chance() * values.length)] as Value;
  const kind = one(KINDS);
  const home = one(HOMES);
  const [tonic, sharps] = one(TONICS);
  const signature = sharps + (SHIFT[home.mode] ?? 0);
  const letter = LETTERS.indexOf(tonic[0] ?? 'C');
  const chordName = (degree: number): string => {
    const name = LETTERS[(letter + degree) % 7] ?? 'C';
    const altered =
      signature > 0
        ? SHARP_ORDER.slice(0, signature).includes(name)
          ? '#'
          : ''
        : SHARP_ORDER.split('').reverse().join('').slice(0, -signature).includes(name)
          ? 'b'
          : '';
    return `${name}${altered}${home.kinds[degree] ?? ''}`;
  };
  const low = -2 + Math.floor(chance() * 5);
  const high = low + 7 + Math.floor(chance() * 4);
  const phrases = new Map<string, readonly (readonly Placed[])[]>();
  const form = one(FORMS);
  let at = one([0, 2, 4]);
  for (const name of form)
    if (!phrases.has(name)) {
      const plan = one(home.plans);
      const cells = [one(kind.cells), one(kind.cells)];
      const bars = plan.map((degree, bar) => {
        const rhythm = bar === 3 ? kind.ending : (cells[bar % 2] ?? kind.ending);
        const made = barOf(chance, kind, rhythm, degree, at, low, high, bar === 3);
        at = made.at;
        return made.notes;
      });
      phrases.set(name, bars);
    }
  const swung = home.mode === '' && kind.meter === '4/4' && chance() < 0.2;
  const hasGraces = kind.meter === '6/8' && chance() < 0.3;
  const bars = form.split('').flatMap((name, index) => {
    const plan = phrases.get(name) ?? [];
    return plan.map((notes, bar) => {
      const isLast = index === form.length - 1 && bar === 3;
      const text = (isLast ? homeBar(notes) : notes)
        .map(
          ({ degree, length, chord }, k) =>
            `${chord === undefined ? '' : `"${chordName(chord)}"`}${hasGraces && k === 0 && bar === 1 ? `{${letterOf(letter, (degree ?? 0) + 1)}}` : ''}${degree === undefined ? 'z' : letterOf(letter, degree)}${length}`,
        )
        .join('');
      return `${text}${isLast ? '|]' : bar === 3 ? '|\n' : '|'}`;
    });
  });
  return [
    'X:1',
    `T:Likely ${seed}`,
    `M:${kind.meter}`,
    'L:1/8',
    `Q:${kind.tempo}`,
    ...(swung ? ['%%swing 2'] : []),
    `K:${tonic}${home.mode}`,
    bars.join(''),
    '',
  ].join('\n');
}

interface Placed {
  readonly degree: number | undefined;
  readonly length: number;
  readonly chord?: number;
}

function barOf(
  chance: Chance,
  kind: Kind,
  rhythm: readonly number[],
  chord: number,
  from: number,
  low: number,
  high: number,
  isEnd: boolean,
): { readonly notes: readonly Placed[]; readonly at: number } {
  let [at, place] = [from, 0];
  const notes = rhythm.map((length, k): Placed => {
    const isStrong = place % kind.beat === 0;
    place += Math.abs(length);
    if (length < 0) return { degree: undefined, length: -length };
    const moves = isStrong ? [-4, -3, -2, -1, 0, 1, 2, 3, 4] : [-2, -1, -1, 1, 1, 2];
    const fitting = moves
      .map((move) => at + move)
      .filter(
        (degree) =>
          degree >= low &&
          degree <= high &&
          (!(isStrong || isEnd) || [0, 2, 4].includes((((degree - chord) % 7) + 7) % 7)),
      );
    const near = fitting.toSorted((a, b) => Math.abs(a - at) - Math.abs(b - at)).slice(0, chance() < 0.2 ? 9 : 4);
    at = near[Math.floor(chance() * near.length)] ?? at;
    return { degree: at, length, ...(k === 0 && { chord }) };
  });
  return { notes, at };
}

/** The last bar: its last note is the tonic, the nearest. */
function homeBar(notes: readonly Placed[]): readonly Placed[] {
  const last = notes.findLastIndex(({ degree }) => degree !== undefined);
  return notes.map((note, k) =>
    k === 0 || k === last
      ? {
          ...note,
          ...(k === last && { degree: 7 * Math.round((note.degree ?? 0) / 7) }),
          ...(k === 0 && { chord: 0 }),
        }
      : note,
  );
}

function letterOf(tonic: number, degree: number): string {
  const place = tonic + degree;
  const name = LETTERS[((place % 7) + 7) % 7] ?? 'C';
  const octave = Math.floor(place / 7);
  if (octave >= 1) return name.toLowerCase() + "'".repeat(octave - 1);
  return name + ','.repeat(-octave);
}
