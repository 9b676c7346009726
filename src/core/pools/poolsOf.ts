import { derived } from '../derived';
import {
  chordNotes,
  type ChordReading,
  type ChordSymbol,
  type ChordTone,
  chordTones,
  chromaBits,
  hasLetterForEach,
  nameScale,
  scaleBeside,
  type Scale,
} from '../harmony';
import { chroma, namePitchClass, type PitchClass, transposeClass } from '../pitch';
import { unreachable } from '../result';
import { type Level, profileOf } from '../instruments';
import { type Bend, bentOrNeighbour, pentatonicOf } from './chordAltered';
import { chordScalesFor, type ChordScale } from './chordScales';
import type { ImprovisingForm } from './form';
import { growingStages, type GrowingStage } from './growing';
import { guideLines, type GuideLines } from './guideTones';
import { roleOf, rolesOver, type ChordRoles, type Role } from './roles';
import { coverageOf, wholeFormSets, type WholeFormSet } from './wholeForm';
import { presetFor, type ChordWish, type ImprovisingWishes, type PoolKind } from './wishes';

export interface PoolNote {
  readonly note: PitchClass;
  readonly role: Role;
  /** Degree of the chord: `1`, `♭3`, `♯11`. */
  readonly degree: string;
  /** Where a rub goes. */
  readonly wayOut?: PitchClass;
  /** Not in the same pool of the chord before. */
  readonly isNew: boolean;
}

/** What a player may use over one chord, from one pool. */
export interface ChordPool {
  readonly kind: PoolKind;
  /** `D minor pentatonic`, `chord tones`. */
  readonly name: string;
  readonly scale?: Scale;
  readonly notes: readonly PoolNote[];
  readonly bends: readonly Bend[];
  /** Bent sets: the set on the chord's own root, where that is nearer. */
  readonly neighbour?: Scale;
  /** Chord scales: what this choice is for. */
  readonly adds?: string;
  /** The usual alternatives of a chord scale. */
  readonly others: readonly ChordScale[];
}

interface WayIn {
  readonly to: PitchClass;
  /** A half step below. */
  readonly below: PitchClass;
  /** The next note of the chord's scale above. */
  readonly above: PitchClass;
}

export interface ChordPools {
  readonly index: number;
  readonly reading: ChordReading;
  readonly tones: readonly ChordTone[];
  readonly guide: GuideLines;
  readonly pools: readonly ChordPool[];
  /** Notes that the first pool shares with that of the next chord, and the half steps from one into the other. */
  readonly bridges: readonly PitchClass[];
  readonly halfSteps: readonly { readonly from: PitchClass; readonly to: PitchClass }[];
  /** Advanced players: approaches to each chord tone. */
  readonly waysIn: readonly WayIn[];
  /** 1 2 3 5 of the chord's scale where it stands in a ii–V–I: a cell to learn by heart. */
  readonly cell: readonly PitchClass[];
}

export interface LevelPools {
  readonly level: Level;
  readonly form: ImprovisingForm;
  readonly kinds: readonly PoolKind[];
  /** Sets for the whole form, the level's own first. */
  readonly overall: readonly WholeFormSet[];
  readonly stages: readonly GrowingStage[];
  /** The notes of the level's set that are open. */
  readonly open: readonly PitchClass[];
  readonly chords: readonly ChordPools[];
  readonly towardsChords: number;
}

/**
 * The notes to improvise with at a level, over a form in the pitch in which it is given.
 * @param wishAt what was decided for the chord of an index, if anything
 */
export function poolsFor(
  form: ImprovisingForm,
  level: Level,
  wishes: ImprovisingWishes = {},
  wishAt: (index: number) => ChordWish | undefined = () => undefined,
): LevelPools {
  const preset = presetFor(level, wishes.school);
  const kinds = wishes.pools ?? preset.pools;
  const ranked = wholeFormSets(form);
  const chosen = wishes.whole && chosenSet(form, wishes.whole);
  const overall = chosen ? [chosen, ...ranked.filter(({ scale }) => !sameSet(scale, chosen.scale))] : ranked;
  const [set] = overall;
  const stages = set ? growingStages(set, form.reading, form.style) : [];
  const stage = wishes.stage === undefined ? undefined : stages[wishes.stage];
  const open = stage?.notes ?? set?.scale.notes ?? [];
  const lines = guideLines(form.reading.chords.map(({ chord }) => chord));
  const sets = form.reading.chords.map((reading, index) =>
    kinds.map((kind) => notesOf(kind, { reading, form, set, open, guide: lines[index], wish: wishAt(index) })),
  );
  const cellChords = new Set(
    form.reading.patterns.flatMap(({ kind, from, to }) =>
      kind === 'ii–V–I' ? Array.from({ length: to - from }, (_, k) => from + k) : [],
    ),
  );
  const { hasApproaches } = profileOf(level).pools;
  const chords = form.reading.chords.map((reading, index): ChordPools => {
    const here = sets[index] ?? [];
    const before = index > 0 ? sets[index - 1] : undefined;
    const next = sets[index + 1];
    const { symbol } = reading.chord;
    const first = here[0]?.notes ?? NO_NOTES;
    const nextFirst = next?.[0]?.notes ?? NO_NOTES;
    return {
      index,
      reading,
      tones: chordTones(symbol),
      guide: lines[index] ?? { upper: undefined, lower: undefined },
      pools: here.map((made, k) => withRoles(made, symbol, before?.[k]?.notes)),
      ...joinOf(first, nextFirst),
      waysIn: hasApproaches ? waysInto(reading, form) : [],
      cell: hasApproaches && cellChords.has(index) ? cellOf(reading, form) : [],
    };
  });
  return {
    level,
    form,
    kinds,
    overall,
    stages,
    open,
    chords,
    towardsChords: wishes.towardsChords ?? preset.towardsChords,
  };
}

/** How a set sits on a form, whichever it is: what a teacher tries before it is taken. */
export function setOnForm(form: ImprovisingForm, scale: Scale): WholeFormSet {
  const coverage = coverageOf(form, scale);
  return { scale, fit: coverage.bars === 0 ? 0 : coverage.restsIn.length / coverage.bars, ...coverage };
}

function chosenSet(form: ImprovisingForm, { name, above }: NonNullable<ImprovisingWishes['whole']>): WholeFormSet {
  return setOnForm(form, scaleBeside(transposeClass(form.reading.home.tonic, above), name));
}

function sameSet(a: Scale, b: Scale): boolean {
  return a.name === b.name && chroma(a.tonic) === chroma(b.tonic);
}

interface MadePool {
  readonly kind: PoolKind;
  readonly name: string;
  readonly scale?: Scale;
  readonly notes: readonly PitchClass[];
  readonly bends: readonly Bend[];
  /** Bent sets: the set on the chord's own root, where that is nearer. */
  readonly neighbour?: Scale;
  readonly adds?: string;
  readonly others: readonly ChordScale[];
}

interface Place {
  readonly reading: ChordReading;
  readonly form: ImprovisingForm;
  readonly set: WholeFormSet | undefined;
  readonly open: readonly PitchClass[];
  readonly guide: GuideLines | undefined;
  readonly wish: ChordWish | undefined;
}

function notesOf(kind: PoolKind, place: Place): MadePool {
  const made = plainNotes(kind, place);
  const { wish, reading } = place;
  const { symbol } = reading.chord;
  if (!wish || symbol.kind === 'no chord') return made;
  const at = (intervals: readonly { readonly diatonic: number; readonly chromatic: number }[] = []) =>
    intervals.map((interval) => transposeClass(symbol.root, interval));
  const struck = new Set(at(wish.struck).map(chroma));
  const added = at(wish.added).filter((note) => !made.notes.some((one) => chroma(one) === chroma(note)));
  if (struck.size === 0 && added.length === 0) return made;
  return {
    ...made,
    notes: inOrder([...made.notes.filter((note) => !struck.has(chroma(note))), ...added], made.notes[0]),
  };
}

/** Upwards from a note. */
function inOrder(notes: readonly PitchClass[], first: PitchClass | undefined): readonly PitchClass[] {
  const from = first ? chroma(first) : 0;
  return notes.toSorted((a, b) => ((chroma(a) - from + 12) % 12) - ((chroma(b) - from + 12) % 12));
}

function plainNotes(kind: PoolKind, { reading, form, set, open, guide, wish }: Place): MadePool {
  const { symbol } = reading.chord;
  const none = { bends: [], others: [] } as const;
  switch (kind) {
    case 'whole':
      return {
        kind,
        name: set ? nameScale(set.scale) : 'no set',
        ...(set && { scale: set.scale }),
        notes: open,
        ...none,
      };
    case 'bent': {
      const bent = bentOrNeighbour(set?.scale, open, symbol);
      const name = set ? nameScale(bent.neighbour ?? set.scale) : 'no set';
      return {
        kind,
        name: bent.bends.length > 0 && !bent.neighbour ? `${name}, bent` : name,
        notes: bent.notes,
        bends: bent.bends,
        ...(bent.neighbour && { neighbour: bent.neighbour }),
        others: [],
      };
    }
    case 'pentatonic': {
      const own = pentatonicOf(symbol);
      if (!own) return { kind, name: 'chord tones', notes: chordNotes(symbol), ...none };
      return { kind, name: nameScale(own), scale: own, notes: own.notes, ...none };
    }
    case 'chord-tones':
      return { kind, name: 'chord tones', notes: chordNotes(symbol), ...none };
    case 'guide-tones': {
      const { upper, lower } = guide ?? {};
      const notes = [lower, upper].flatMap((note) => (note ? [note] : []));
      return { kind, name: 'guide tones', notes: notes.filter((note, k) => notes.indexOf(note) === k), ...none };
    }
    case 'colour':
      return { kind, name: 'added colour', notes: coloursOf(reading, form), ...none };
    case 'chord-scale': {
      const choices = chordScalesFor(reading, form.style);
      const wished =
        wish?.set !== undefined && symbol.kind === 'chord'
          ? { scale: scaleBeside(symbol.root, wish.set), adds: 'chosen by hand' }
          : undefined;
      const first = wished ?? choices[0];
      if (!first) return { kind, name: 'chord tones', notes: chordNotes(symbol), ...none };
      return {
        kind,
        name: nameScale(first.scale),
        scale: first.scale,
        notes: first.scale.notes,
        bends: [],
        adds: first.adds,
        others: choices.filter(({ scale }) => !sameSet(scale, first.scale)),
      };
    }
    default:
      return unreachable(kind);
  }
}

/** The 9, 11 and 13 that the first scale of a chord gives without a rub. */
export function coloursOf(reading: ChordReading, form: ImprovisingForm): readonly PitchClass[] {
  const { symbol } = reading.chord;
  const [first] = chordScalesFor(reading, form.style);
  if (!first || symbol.kind === 'no chord') return [];
  const roles = rolesOver(symbol);
  return [1, 3, 5].flatMap((step) => {
    const note = first.scale.notes.length === 7 ? first.scale.notes[step] : undefined;
    return note && roleOf(note, roles) === 'colour' ? [note] : [];
  });
}

/** A scale over a chord as a pool of its own: an alternative, looked at beside the first choice. */
export function poolOfScale(scale: Scale, adds: string, { reading }: Pick<ChordPools, 'reading'>): ChordPool {
  return withRoles(
    { kind: 'chord-scale', name: nameScale(scale), scale, notes: scale.notes, bends: [], adds, others: [] },
    reading.chord.symbol,
    undefined,
  );
}

function withRoles(made: MadePool, symbol: ChordSymbol, before: readonly PitchClass[] | undefined): ChordPool {
  const { notes, ...rest } = made;
  const keepsLetters = made.scale !== undefined && hasLetterForEach(made.scale.name);
  const over = rolesOver(symbol);
  const both = roledNotes(notes, symbol, over, keepsLetters);
  const known = before === undefined ? ALL_NOTES : chromaBits(before);
  return { ...rest, notes: both.map(({ bit, fresh, known: kept }) => (known & bit ? kept : fresh)) };
}

/** A note over a chord in its two forms: new with this chord, and known from the chord before. */
interface RoledNote {
  /** The note's place among twelve bits. */
  readonly bit: number;
  readonly fresh: PoolNote;
  readonly known: PoolNote;
}

/**
 * By the roles over a chord, which equal chords share, and the list of notes: spelled as the list has them, or as the
 * chord has them.
 */
const roledNotes = derived(
  (notes: readonly PitchClass[], symbol: ChordSymbol, roles: ChordRoles, keepsLetters: boolean): readonly RoledNote[] =>
    notes.map((note) => roledNote(note, symbol, roles, keepsLetters)),
  { by: (notes, _symbol, roles, keepsLetters) => [notes, roles, keepsLetters] },
);
const ALL_NOTES = 0xfff;

function roledNote(given: PitchClass, symbol: ChordSymbol, roles: ChordRoles, keepsLetters: boolean): RoledNote {
  // Where a set has no letters of its own, a chord tone is spelled as the chord spells it.
  const tone = keepsLetters ? undefined : chordNotes(symbol).find((one) => chroma(one) === chroma(given));
  const note = tone && Math.abs(tone.alter) <= 1 ? tone : given;
  const role = roleOf(note, roles);
  const wayOut = role === 'rub' ? roles.wayOut[chroma(note)] : undefined;
  const known: PoolNote = { note, role, degree: degreeOver(note, symbol), ...(wayOut && { wayOut }), isNew: false };
  return { bit: 1 << chroma(note), known, fresh: { ...known, isNew: true } };
}

/** A note as a degree of a chord: named tones by their own number, others by their place above the root. */
export function degreeOver(note: PitchClass, symbol: ChordSymbol): string {
  if (symbol.kind === 'no chord') return '';
  const tone = chordTones(symbol).find(({ pitchClass }) => chroma(pitchClass) === chroma(note));
  const above = (chroma(note) - chroma(symbol.root) + 12) % 12;
  if (!tone) return PLAIN_DEGREES[above] ?? '';
  const natural = MAJOR_SEMITONES[(tone.degree - 1) % 7] ?? 0;
  const alter = ((above - natural + 18) % 12) - 6;
  return (alter < 0 ? '♭'.repeat(-alter) : '♯'.repeat(alter)) + String(tone.degree);
}

const MAJOR_SEMITONES = [0, 2, 4, 5, 7, 9, 11] as const;
/** As degrees that are not chord tones are usually called. */
const PLAIN_DEGREES = ['1', '♭9', '9', '♭3', '3', '11', '♯11', '5', '♭13', '13', '♭7', '7'] as const;

const NO_NOTES: readonly PitchClass[] = [];

type Join = Pick<ChordPools, 'bridges' | 'halfSteps'>;

/**
 * What two neighbours share, and the half steps from notes that only the first has to notes that only the second has.
 */
const joinOf = derived(freshJoin);

function freshJoin(from: readonly PitchClass[], to: readonly PitchClass[]): Join {
  const [inFrom, inTo] = [chromaBits(from), chromaBits(to)];
  const isIn = (bits: number, note: PitchClass) => (bits & (1 << chroma(note))) !== 0;
  return {
    bridges: from.filter((note) => isIn(inTo, note)),
    halfSteps: from
      .filter((note) => !isIn(inTo, note))
      .flatMap((note) =>
        to
          .filter((other) => [1, 11].includes((chroma(other) - chroma(note) + 12) % 12) && !isIn(inFrom, other))
          .map((other) => ({ from: note, to: other })),
      ),
  };
}

/** Approaches to the 1 3 5 7 of a chord: a half step below, and the next note of its scale above. */
function waysInto(reading: ChordReading, form: ImprovisingForm): readonly WayIn[] {
  const { symbol } = reading.chord;
  const [first] = chordScalesFor(reading, form.style);
  return chordTones(symbol)
    .filter(({ degree }) => degree <= 7)
    .map(({ pitchClass: to }) => {
      const above = first?.scale.notes
        .filter((note) => chroma(note) !== chroma(to))
        .toSorted((a, b) => ((chroma(a) - chroma(to) + 12) % 12) - ((chroma(b) - chroma(to) + 12) % 12))[0];
      return { to, below: halfStepBelow(to), above: above ?? transposeClass(to, { diatonic: 1, chromatic: 2 }) };
    });
}

/** A half step below: spelled a letter below as leading notes are, unless that needs a double sign. */
function halfStepBelow(to: PitchClass): PitchClass {
  const leading = transposeClass(to, { diatonic: -1, chromatic: -1 });
  return Math.abs(leading.alter) <= 1 ? leading : transposeClass(to, { diatonic: 0, chromatic: -1 });
}

function cellOf(reading: ChordReading, form: ImprovisingForm): readonly PitchClass[] {
  const [first] = chordScalesFor(reading, form.style);
  const notes = first?.scale.notes ?? [];
  return notes.length === 7 ? [0, 1, 2, 4].flatMap((step) => notes[step] ?? []) : [];
}

/** What changes with a chord, in words for a player: `let B♭ become B`, `F♯ is new`. Nothing where nothing changes. */
export function changeWords({ bends, notes, kind, neighbour }: ChordPool): string | undefined {
  if (kind === 'bent') {
    const moves = bends.map(({ from, to }) => `let ${namePitchClass(from)} become ${namePitchClass(to)}`).join(', ');
    if (neighbour) return `change to ${nameScale(neighbour)}${moves ? `: ${moves}` : ''}`;
    return moves || undefined;
  }
  const fresh = notes.filter(({ isNew }) => isNew).map(({ note }) => namePitchClass(note));
  return fresh.length > 0 ? `new: ${fresh.join(' ')}` : undefined;
}
