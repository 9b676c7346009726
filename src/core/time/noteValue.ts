import { TICKS_PER_WHOLE, type Ticks } from './ticks';

export const NOTE_TYPES = ['breve', 'whole', 'half', 'quarter', 'eighth', '16th', '32nd', '64th', '128th'] as const;
export type NoteType = (typeof NOTE_TYPES)[number];

/** A printed note or rest length: its head and flags, and up to three dots. Tuplets are not part of it. */
export interface NoteValue {
  readonly type: NoteType;
  readonly dots: 0 | 1 | 2 | 3;
}

/**
 * A tuplet ratio: `actual` notes in the time of `normal`. Nested tuplets hang on `outer`. Events of one group share
 * `id`.
 */
export interface Tuplet {
  readonly id: string;
  readonly actual: number;
  readonly normal: number;
  readonly outer?: Tuplet;
}

export function typeTicks(type: NoteType): Ticks {
  return (2 * TICKS_PER_WHOLE) / 2 ** NOTE_TYPES.indexOf(type);
}

/** Sounding length of a value outside any tuplet. A dot adds half of what stands before it. */
export function valueTicks(value: NoteValue): Ticks {
  const plain = typeTicks(value.type);
  return 2 * plain - plain / 2 ** value.dots;
}

const valueByTicks: ReadonlyMap<Ticks, NoteValue> = new Map(
  NOTE_TYPES.flatMap((type) =>
    ([0, 1, 2, 3] as const).map((dots): [Ticks, NoteValue] => [valueTicks({ type, dots }), { type, dots }]),
  ).filter(([ticks]) => Number.isInteger(ticks)),
);

/** The single printed value of a length, or `undefined` where it takes several tied ones (five eighths, say). */
export function valueOfTicks(ticks: Ticks): NoteValue | undefined {
  return valueByTicks.get(ticks);
}

/** What one tick inside the tuplet stands for on paper: 3/2 in a triplet, multiplied up through nested groups. */
export function notatedTicks(sounding: Ticks, tuplet: Tuplet | undefined): Ticks {
  return tuplet ? notatedTicks((sounding * tuplet.actual) / tuplet.normal, tuplet.outer) : sounding;
}

export function soundingTicks(notated: Ticks, tuplet: Tuplet | undefined): Ticks {
  return tuplet ? soundingTicks((notated * tuplet.normal) / tuplet.actual, tuplet.outer) : notated;
}

const VALUE_NAMES: Readonly<Record<NoteType, string>> = {
  breve: 'double whole note',
  whole: 'whole note',
  half: 'half note',
  quarter: 'quarter',
  eighth: 'eighth',
  '16th': 'sixteenth',
  '32nd': 'thirty-second',
  '64th': 'sixty-fourth',
  '128th': 'hundred-twenty-eighth',
};

/** `dotted quarter`, `eighth`: for people and screen readers. */
export function nameValue(value: NoteValue): string {
  const dotted = ['', 'dotted ', 'double-dotted ', 'triple-dotted '][value.dots] ?? '';
  return dotted + VALUE_NAMES[value.type];
}
