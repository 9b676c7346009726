import { type ChordKind, type ChordSymbol, kindText, parseChord } from '../../harmony';

type Plain = Omit<ChordKind, 'alterations' | 'added' | 'omitted' | 'altered'>;

/** Kinds of MusicXML and what they are built of. Source: MusicXML 4.0, type `kind-value`. */
const KINDS: readonly (readonly [string, Plain])[] = [
  ['major', { triad: 'major' }],
  ['minor', { triad: 'minor' }],
  ['augmented', { triad: 'augmented' }],
  ['diminished', { triad: 'diminished' }],
  ['dominant', { triad: 'major', seventh: 'minor' }],
  ['major-seventh', { triad: 'major', seventh: 'major' }],
  ['minor-seventh', { triad: 'minor', seventh: 'minor' }],
  ['diminished-seventh', { triad: 'diminished', seventh: 'diminished' }],
  ['augmented-seventh', { triad: 'augmented', seventh: 'minor' }],
  ['half-diminished', { triad: 'diminished', seventh: 'minor' }],
  ['major-minor', { triad: 'minor', seventh: 'major' }],
  ['major-sixth', { triad: 'major', sixth: true }],
  ['minor-sixth', { triad: 'minor', sixth: true }],
  ['dominant-ninth', { triad: 'major', seventh: 'minor', extension: 9 }],
  ['major-ninth', { triad: 'major', seventh: 'major', extension: 9 }],
  ['minor-ninth', { triad: 'minor', seventh: 'minor', extension: 9 }],
  ['dominant-11th', { triad: 'major', seventh: 'minor', extension: 11 }],
  ['major-11th', { triad: 'major', seventh: 'major', extension: 11 }],
  ['minor-11th', { triad: 'minor', seventh: 'minor', extension: 11 }],
  ['dominant-13th', { triad: 'major', seventh: 'minor', extension: 13 }],
  ['major-13th', { triad: 'major', seventh: 'major', extension: 13 }],
  ['minor-13th', { triad: 'minor', seventh: 'minor', extension: 13 }],
  ['suspended-second', { triad: 'sus2' }],
  ['suspended-fourth', { triad: 'sus4' }],
  ['power', { triad: 'power' }],
];

export interface HarmonyDegree {
  readonly value: number;
  readonly alter: number;
  readonly type: 'add' | 'alter' | 'subtract';
}

export interface HarmonyKind {
  readonly kind: string;
  /** What is printed after the root. */
  readonly text: string;
  readonly degrees: readonly HarmonyDegree[];
}

/** A chord as MusicXML says it: the nearest kind, and degrees for what the kind does not say. */
export function harmonyKind(chord: Extract<ChordSymbol, { kind: 'chord' }>): HarmonyKind {
  const { quality } = chord;
  const { kind, degrees } = exactKind(quality) ?? suspendedKind(quality) ?? nearestKind(quality);
  const stacked = (degree: number) => degree === 5 || (quality.extension !== undefined && degree <= quality.extension);
  const all: readonly HarmonyDegree[] = [
    ...degrees,
    ...quality.alterations.map(({ degree, alter }) => ({
      value: degree,
      alter,
      type: stacked(degree) ? ('alter' as const) : ('add' as const),
    })),
    ...quality.added.map((value) => added(value)),
    ...quality.omitted.map((value) => ({ value, alter: 0, type: 'subtract' as const })),
  ];
  return { kind, text: kindText(quality), degrees: quality.altered ? [] : all };
}

type KindAndDegrees = Pick<HarmonyKind, 'kind' | 'degrees'>;

const added = (value: number, alter = 0): HarmonyDegree => ({ value, alter, type: 'add' });
const SEVENTHS: Readonly<Record<NonNullable<ChordKind['seventh']>, number>> = { major: 0, minor: -1, diminished: -2 };

function exactKind(quality: ChordKind): KindAndDegrees | undefined {
  const found = KINDS.find(
    ([, plain]) =>
      plain.triad === quality.triad &&
      plain.seventh === quality.seventh &&
      plain.sixth === quality.sixth &&
      plain.extension === quality.extension,
  );
  return found && { kind: found[0], degrees: [] };
}

function suspendedKind(quality: ChordKind): KindAndDegrees | undefined {
  if (quality.triad !== 'sus4' && quality.triad !== 'sus2') return undefined;
  return {
    kind: quality.triad === 'sus4' ? 'suspended-fourth' : 'suspended-second',
    // The fourth stands in the chord already: no eleventh is added to it.
    degrees: [...upperDegrees(quality, true)].filter(({ value }) => value !== 11),
  };
}

/** The kind with the same triad and seventh, or with the triad alone. */
function nearestKind(quality: ChordKind): KindAndDegrees {
  const ofTriad = KINDS.filter(([, plain]) => plain.triad === quality.triad && !plain.sixth);
  const near = ofTriad.find(([, plain]) => plain.seventh === quality.seventh && !plain.extension);
  const kind = near ?? ofTriad.find(([, plain]) => !plain.seventh);
  return { kind: kind?.[0] ?? 'other', degrees: upperDegrees(quality, !near) };
}

function upperDegrees({ sixth, seventh, extension }: ChordKind, withSeventh: boolean): readonly HarmonyDegree[] {
  return [
    ...(sixth ? [added(6)] : []),
    ...(seventh && withSeventh ? [added(7, SEVENTHS[seventh])] : []),
    ...([9, 11, 13] as const).filter((value) => extension && value <= extension).map((value) => added(value)),
  ];
}

/** The chord kind meant by a MusicXML kind with its degrees; `undefined` for kinds this program does not know. */
export function kindOfHarmony(
  kind: string,
  text: string | undefined,
  degrees: readonly HarmonyDegree[],
): ChordKind | undefined {
  const plain = KINDS.find(([name]) => name === kind)?.[1];
  if (!plain) return undefined;
  const printed = text === undefined ? undefined : kindAsPrinted(kind, text, degrees);
  if (printed) return printed;
  let quality: ChordKind = { ...plain, alterations: [], added: [], omitted: [] };
  for (const { value, alter, type } of degrees) {
    const next = withDegree(quality, value, alter, type);
    if (!next) return undefined;
    quality = next;
  }
  return {
    ...quality,
    alterations: quality.alterations.toSorted((a, b) => a.degree - b.degree || a.alter - b.alter),
    added: quality.added.toSorted((a, b) => a - b),
  };
}

/**
 * What is printed after the root says more than kind and degrees (`7alt`, `mmaj9`); it is believed where it agrees with
 * them.
 */
function kindAsPrinted(kind: string, text: string, degrees: readonly HarmonyDegree[]): ChordKind | undefined {
  const parsed = parseChord(`C${text}`);
  if (!parsed.ok || parsed.value.kind !== 'chord' || parsed.value.bass) return undefined;
  const said = harmonyKind(parsed.value);
  const order = (list: readonly HarmonyDegree[]) =>
    list
      .map(({ value, alter, type }) => `${value}/${alter}/${type}`)
      .toSorted()
      .join(' ');
  return said.kind === kind && order(said.degrees) === order(degrees) ? parsed.value.quality : undefined;
}

function withDegree(
  quality: ChordKind,
  value: number,
  alter: number,
  type: HarmonyDegree['type'],
): ChordKind | undefined {
  if (type === 'subtract')
    return isOneOf(value, [3, 5]) ? { ...quality, omitted: [...quality.omitted, value] } : undefined;
  if (isOneOf(value, [5, 9, 11, 13]) && isOneOf(alter, [1, -1]))
    return { ...quality, alterations: [...quality.alterations, { degree: value, alter }] };
  return type === 'add' ? withAdded(quality, value, alter) : undefined;
}

function withAdded(quality: ChordKind, value: number, alter: number): ChordKind | undefined {
  if (value === 7) return { ...quality, seventh: alter === 0 ? 'major' : alter === -1 ? 'minor' : 'diminished' };
  if (alter !== 0) return undefined;
  if (value === 6) return { ...quality, sixth: true };
  const isSuspended = quality.triad === 'sus2' || quality.triad === 'sus4';
  if (isSuspended && quality.seventh && isOneOf(value, [9, 13])) return { ...quality, extension: value };
  return isOneOf(value, [2, 4, 9, 11, 13]) ? { ...quality, added: [...quality.added, value] } : undefined;
}

function isOneOf<const Value extends number>(value: number, among: readonly Value[]): value is Value {
  return among.some((one) => one === value);
}
