import { kindText, parseChord, type ChordKind, type ChordSymbol } from '../../harmony/chordSymbol';

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
  const same = (plain: Plain) =>
    plain.triad === quality.triad &&
    plain.seventh === quality.seventh &&
    plain.sixth === quality.sixth &&
    plain.extension === quality.extension;
  const exact = KINDS.find(([, plain]) => same(plain));
  const degrees: HarmonyDegree[] = [];
  let kind = exact?.[0];
  if (kind === undefined && (quality.triad === 'sus4' || quality.triad === 'sus2')) {
    kind = quality.triad === 'sus4' ? 'suspended-fourth' : 'suspended-second';
    if (quality.sixth) degrees.push({ value: 6, alter: 0, type: 'add' });
    if (quality.seventh) degrees.push({ value: 7, alter: quality.seventh === 'major' ? 0 : -1, type: 'add' });
    for (const value of [9, 11, 13] as const)
      if (quality.extension && value <= quality.extension && value !== 11)
        degrees.push({ value, alter: 0, type: 'add' });
  }
  if (kind === undefined) {
    const near = KINDS.find(
      ([, plain]) =>
        plain.triad === quality.triad && plain.seventh === quality.seventh && !plain.sixth && !plain.extension,
    );
    kind =
      near?.[0] ??
      KINDS.find(([, plain]) => plain.triad === quality.triad && !plain.seventh && !plain.sixth)?.[0] ??
      'other';
    if (quality.sixth) degrees.push({ value: 6, alter: 0, type: 'add' });
    if (!near && quality.seventh)
      degrees.push({
        value: 7,
        alter: quality.seventh === 'major' ? 0 : quality.seventh === 'minor' ? -1 : -2,
        type: 'add',
      });
    for (const value of [9, 11, 13] as const)
      if (quality.extension && value <= quality.extension) degrees.push({ value, alter: 0, type: 'add' });
  }
  for (const { degree, alter } of quality.alterations) {
    const stacked = degree === 5 || (quality.extension !== undefined && degree <= quality.extension);
    degrees.push({ value: degree, alter, type: stacked ? 'alter' : 'add' });
  }
  for (const value of quality.added) degrees.push({ value, alter: 0, type: 'add' });
  for (const value of quality.omitted) degrees.push({ value, alter: 0, type: 'subtract' });
  return { kind, text: kindText(quality), degrees: quality.altered ? [] : degrees };
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

/** What is printed after the root says more than kind and degrees (`7alt`, `mmaj9`); it is believed where it agrees with them. */
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
    return value === 3 || value === 5 ? { ...quality, omitted: [...quality.omitted, value] } : undefined;
  if ((value === 5 || value === 9 || value === 11 || value === 13) && (alter === 1 || alter === -1)) {
    return { ...quality, alterations: [...quality.alterations, { degree: value, alter }] };
  }
  if (type !== 'add') return undefined;
  if (value === 7) return { ...quality, seventh: alter === 0 ? 'major' : alter === -1 ? 'minor' : 'diminished' };
  if (value === 6 && alter === 0) return { ...quality, sixth: true };
  const suspended = quality.triad === 'sus2' || quality.triad === 'sus4';
  if (suspended && quality.seventh && (value === 9 || value === 13) && alter === 0)
    return { ...quality, extension: value };
  if (alter === 0 && (value === 2 || value === 4 || value === 9 || value === 11 || value === 13))
    return { ...quality, added: [...quality.added, value] };
  return undefined;
}
