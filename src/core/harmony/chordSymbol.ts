import { derived } from '../derived';
import {
  alterOf,
  type Interval,
  isStep,
  namePitchClass,
  nameWithoutDouble,
  type PitchClass,
  printPitchClass,
  transposeClass,
} from '../pitch';
import { failure, success, type Result } from '../result';

type Triad = 'major' | 'minor' | 'diminished' | 'augmented' | 'sus2' | 'sus4' | 'power';
type Seventh = 'minor' | 'major' | 'diminished';
/** A chord degree as in ♭9 or ♯11: 5 to 13 with −1, 0 or 1. */
interface DegreeAlteration {
  readonly degree: 5 | 9 | 11 | 13;
  readonly alter: -1 | 1;
}

/** What a chord is built of, apart from its root. `extension` is the highest stacked third: 9, 11 or 13. */
export interface ChordKind {
  readonly triad: Triad;
  readonly sixth?: true;
  readonly seventh?: Seventh;
  readonly extension?: 9 | 11 | 13;
  readonly alterations: readonly DegreeAlteration[];
  readonly added: readonly (2 | 4 | 9 | 11 | 13)[];
  readonly omitted: readonly (3 | 5)[];
  /** The symbol `alt`: a dominant whose fifth and ninth are altered at the player's choice. */
  readonly altered?: true;
}

/** A chord symbol: a root with its kind and perhaps another bass; or `no chord` (N.C.). */
export type ChordSymbol =
  | { readonly kind: 'chord'; readonly root: PitchClass; readonly quality: ChordKind; readonly bass?: PitchClass }
  | { readonly kind: 'no chord' };

export interface ChordProblem {
  readonly code: 'unreadable-chord';
  readonly found: string;
  /** The part that could not be read. */
  readonly rest: string;
}

const PLAIN: ChordKind = { triad: 'major', alterations: [], added: [], omitted: [] };

/**
 * What a piece of a symbol means. Longer spellings stand before their beginnings. Spellings in common use on lead
 * sheets.
 */
const QUALITIES: readonly (readonly [RegExp, Partial<ChordKind>])[] = [
  [/^(?:major|maj|Maj|MAJ|ma|Ma|MA|M|j|Δ|△|\^)(?=7|9|11|13)/, { triad: 'major', seventh: 'major' }],
  [/^(?:Δ|△|\^)/, { triad: 'major', seventh: 'major' }],
  [/^(?:major|maj|Maj|MA|ma|M)(?=$|[/(]|6|add)/, { triad: 'major' }],
  [/^dom(?=7|9|11|13)/, { triad: 'major' }],
  [/^(?:min|mi|m|-)[(/]?(?:maj|Maj|ma|Ma|MA|M|Δ|△|\^)(?=7|9|11|13)/, { triad: 'minor', seventh: 'major' }],
  [/^(?:ø7?|Ø7?|m7b5|m7♭5|m7\(b5\)|m7\(♭5\)|min7b5|-7b5|-7♭5)/, { triad: 'diminished', seventh: 'minor' }],
  [/^(?:dim7|°7|o7|º7)/, { triad: 'diminished', seventh: 'diminished' }],
  [/^(?:dim|°|º|o(?=$|[/]))/, { triad: 'diminished' }],
  [/^2(?=$|\/)/, { triad: 'sus2' }],
  [/^4(?=$|\/)/, { triad: 'sus4' }],
  [/^(?:aug|\+(?=$|7|9|\/|M|maj))/, { triad: 'augmented' }],
  [/^(?:minor|min|mi|m|-)/, { triad: 'minor' }],
];

/**
 * Reads one chord symbol: `Bbmaj7`, `F#m7b5/A`, `G13`, `E7#9`, `Dsus4`, `C6/9`, `N.C.`; also with ♭ ♯ ° ø Δ.
 * What is left over is a problem, never a guess.
 * Rule: what cannot be read is an error with its place, never a guess; one canonical print form.
 */
export function parseChord(text: string): Result<ChordSymbol, ChordProblem> {
  const trimmed = text.trim();
  if (/^(?:N\.?\s?C\.?|no chord)$/i.test(trimmed)) return success({ kind: 'no chord' });
  const head = /^([A-G])([#♯]{1,2}|[b♭]{1,2})?/.exec(trimmed);
  const step = head?.[1];
  if (!head || !isStep(step)) return failure({ code: 'unreadable-chord', found: text, rest: trimmed });
  const root: PitchClass = { step, alter: alterOf(head[2] ?? '') };
  let rest = trimmed.slice(head[0].length);
  let bass: PitchClass | undefined;
  const slash = /\/([A-G])([#♯]{1,2}|[b♭]{1,2})?$/.exec(rest);
  const bassStep = slash?.[1];
  if (slash && isStep(bassStep)) {
    bass = { step: bassStep, alter: alterOf(slash[2] ?? '') };
    rest = rest.slice(0, slash.index);
  }
  const quality = parseQuality(rest);
  if (!quality.ok) return failure({ code: 'unreadable-chord', found: text, rest: quality.problem });
  return success({ kind: 'chord', root, quality: quality.value, ...(bass && { bass }) });
}

interface Piece {
  readonly pattern: RegExp;
  readonly apply: (kind: ChordKind, match: RegExpExecArray) => ChordKind | undefined;
}

function alteration(kind: ChordKind, sign: string, degree: number): ChordKind | undefined {
  const alter = /[#♯+]/.test(sign) ? 1 : -1;
  if (degree !== 5 && degree !== 9 && degree !== 11 && degree !== 13) return undefined;
  return { ...kind, alterations: [...kind.alterations, { degree, alter }] };
}

const PIECES: readonly Piece[] = [
  { pattern: /^(?:6\/9|69|6\(9\)|6add9)/, apply: (kind) => ({ ...kind, sixth: true, added: [...kind.added, 9] }) },
  {
    // A major seventh on a chord that is named first: `+maj7`, `°maj7`.
    pattern: /^(?:maj|Maj|ma|Ma|MA|M|Δ|△|\^)(13|11|9|7)/,
    apply: (kind, [, number]) =>
      kind.seventh === undefined
        ? {
            ...kind,
            seventh: 'major',
            ...(number === '9' || number === '11' || number === '13'
              ? { extension: Number(number) as 9 | 11 | 13 }
              : {}),
          }
        : undefined,
  },
  {
    pattern: /^(13|11|9|7)/,
    apply: (kind, [, number]) => ({
      ...kind,
      seventh: kind.seventh ?? 'minor',
      ...(number === '9' || number === '11' || number === '13' ? { extension: Number(number) as 9 | 11 | 13 } : {}),
    }),
  },
  { pattern: /^6/, apply: (kind) => ({ ...kind, sixth: true }) },
  {
    pattern: /^5(?=$)/,
    apply: (kind) => (kind.triad === 'major' && !kind.seventh ? { ...kind, triad: 'power' } : undefined),
  },
  { pattern: /^alt/, apply: (kind) => ({ ...kind, seventh: 'minor', altered: true }) },
  { pattern: /^sus2/, apply: (kind) => ({ ...kind, triad: 'sus2' }) },
  { pattern: /^sus4?/, apply: (kind) => ({ ...kind, triad: 'sus4' }) },
  // After the seventh: `7+`, `7aug`.
  { pattern: /^(?:\+|aug)(?=$)/, apply: (kind) => ({ ...kind, triad: 'augmented' }) },
  {
    pattern: /^add(2|4|9|11|13)/,
    apply: (kind, [, degree]) => ({ ...kind, added: [...kind.added, Number(degree) as 2 | 4 | 9 | 11 | 13] }),
  },
  {
    pattern: /^(?:omit|no)(3|5)/,
    apply: (kind, [, degree]) => ({ ...kind, omitted: [...kind.omitted, Number(degree) as 3 | 5] }),
  },
  {
    pattern: /^(?:add)?([#♯b♭+-])(5|9|11|13)/,
    apply: (kind, [, sign, degree]) => alteration(kind, sign ?? '', Number(degree)),
  },
  // An octave lower than they are usually named.
  { pattern: /^(?:add)?[b♭]6/, apply: (kind) => alteration(kind, 'b', 13) },
  { pattern: /^(?:add)?[#♯]4/, apply: (kind) => alteration(kind, '#', 11) },
];

/** A book of tunes writes the same few hundred kinds again and again; equal ones are the same object. */
const parseQuality = derived(readQuality, { most: 2_000 });

function readQuality(text: string): Result<ChordKind, string> {
  let kind: ChordKind = PLAIN;
  let rest = text;
  for (const [pattern, meaning] of QUALITIES) {
    const match = pattern.exec(rest);
    if (match) {
      kind = { ...kind, ...meaning };
      rest = rest.slice(match[0].length);
      break;
    }
  }
  while (rest !== '') {
    const bare = rest.replace(/^[\s(),]+/, '');
    if (bare === '') break;
    let next: ChordKind | undefined;
    for (const piece of PIECES) {
      const match = piece.pattern.exec(bare);
      if (!match) continue;
      next = piece.apply(kind, match);
      rest = bare.slice(match[0].length);
      break;
    }
    if (!next) return failure(bare);
    kind = next;
  }
  return success(canonicalKind(kind));
}

/** Folds spellings of one chord together: an augmented triad is not "major with ♯5". */
function canonicalKind(kind: ChordKind): ChordKind {
  const sharpFifth =
    kind.triad === 'major' &&
    kind.seventh === undefined &&
    kind.alterations.some(({ degree, alter }) => degree === 5 && alter === 1);
  const alterations = (sharpFifth ? kind.alterations.filter(({ degree }) => degree !== 5) : kind.alterations).toSorted(
    (a, b) => a.degree - b.degree || a.alter - b.alter,
  );
  return {
    ...kind,
    triad: sharpFifth ? 'augmented' : kind.triad,
    alterations,
    added: kind.added.toSorted((a, b) => a - b),
  };
}

/** `Bbmaj7`, `F#m7b5/A`: the one print form, for files; read back by `parseChord`. */
export function printChord(chord: ChordSymbol): string {
  return chord.kind === 'no chord' ? 'N.C.' : chordText(chord, printPitchClass, 'b', '#');
}

/** `B♭maj7`, `F♯m7♭5/A`: for people. */
export function nameChord(chord: ChordSymbol): string {
  return chord.kind === 'no chord' ? 'N.C.' : chordText(chord, namePitchClass, '♭', '♯');
}

function chordText(
  chord: Extract<ChordSymbol, { kind: 'chord' }>,
  spell: (root: PitchClass) => string,
  flat: string,
  sharp: string,
): string {
  const bass = chord.bass ? `/${spell(chord.bass)}` : '';
  return spell(chord.root) + kindText(chord.quality, flat, sharp) + bass;
}

/** The letters after the root: `m7♭5`, `maj9`, `7sus4`. */
export function kindText(kind: ChordKind, flat = '♭', sharp = '♯'): string {
  const alterations = kind.alterations.map(({ degree, alter }) => (alter < 0 ? flat : sharp) + degree).join('');
  const added = kind.added.map((degree) => (kind.sixth && degree === 9 ? '' : `add${degree}`)).join('');
  const omitted = kind.omitted.map((degree) => `no${degree}`).join('');
  const head = stem(kind, flat);
  // Beside the root's letter a sign would be the root's own: C(♭5) is no chord on C♭.
  return head + (head === '' && alterations !== '' ? `(${alterations})` : alterations) + added + omitted;
}

function stem(kind: ChordKind, flat: string): string {
  const sixth = kind.sixth ? (kind.added.includes(9) ? '6/9' : '6') : '';
  const number = kind.extension ?? (kind.seventh ? 7 : '');
  const seventh = kind.seventh === 'major' ? `maj${number}` : String(number);
  if (kind.altered) return '7alt';
  switch (kind.triad) {
    case 'major':
      return (kind.seventh ? seventh : '') + sixth;
    case 'minor':
      return `m${kind.seventh ? seventh : ''}${sixth}`;
    case 'augmented':
      return `+${kind.seventh ? seventh : ''}`;
    case 'diminished':
      if (kind.seventh === 'minor') return `m${number}${flat}5`;
      if (kind.seventh === 'major') return `°${seventh}`;
      return kind.seventh === 'diminished' ? '°7' : '°';
    case 'sus2':
      return `${kind.seventh ? seventh : ''}${sixth}sus2`;
    case 'sus4':
      return `${kind.seventh ? seventh : ''}${sixth}sus4`;
    case 'power':
      return '5';
  }
}

/** The same chord on a root (and bass) with one sharp or flat at most: what moved to A𝄫♭ is written on G♭. */
export function withReadableRoot(chord: ChordSymbol): ChordSymbol {
  if (chord.kind === 'no chord') return chord;
  const root = nameWithoutDouble(chord.root);
  const bass = chord.bass && nameWithoutDouble(chord.bass);
  if (root === chord.root && bass === chord.bass) return chord;
  return { ...chord, root, ...(bass && { bass }) };
}

/**
 * Rule: chord symbols move with their roots, basses and alterations.
 */
export function transposeChord(chord: ChordSymbol, interval: Interval): ChordSymbol {
  if (chord.kind === 'no chord') return chord;
  return {
    ...chord,
    root: transposeClass(chord.root, interval),
    ...(chord.bass && { bass: transposeClass(chord.bass, interval) }),
  };
}
