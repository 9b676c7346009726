import { classOfChord, type FormReading } from '../harmony';
import { countedBars, quartersPerMinute, soundingNotes, type Style, type Tune } from '../score';
import { isCompound, TICKS_PER_QUARTER } from '../time';

export interface StyleFinding {
  readonly style: Style;
  /** What speaks for it, as the end of a sentence. */
  readonly because: string;
}

/** Limits of the judgement, set by trial on tunes of known style; argue with them here. */
const LIMITS = {
  /** Share of chords with a seventh or more (dominant sevenths apart) from which a progression is jazz. */
  sevenths: 0.4,
  seventhsSwung: 0.2,
  /** Notes to a quarter from which a tune runs as dances do. */
  running: 1.4,
  /** Chords to a bar from which they move as in a hymn. */
  hymnChords: 1.4,
  /** Longest mean note, in quarters, of a tune that is not sung in long notes. */
  hymnNote: 0.85,
} as const;

/** The style of a tune, told from chords, mode, rhythm and swing; the teacher's word goes before it. */
export function styleOf(tune: Tune, reading: FormReading): StyleFinding {
  const said = tune.harmony?.style;
  if (said) return { style: said, because: 'set by hand' };
  return judged(chordFeatures(reading, countedBars(tune)), noteFeatures(tune), reading);
}

/** The style that bare chords speak for. */
export function styleOfChords(reading: FormReading, bars: number): StyleFinding {
  return judged(chordFeatures(reading, bars), SILENT, reading);
}

function judged(chords: ChordFeatures, notes: NoteFeatures, { patterns, home }: FormReading): StyleFinding {
  const kinds = new Set(patterns.map(({ kind }) => kind));
  if (kinds.has('blues') || kinds.has('minor blues'))
    return { style: 'blues', because: 'the chords are a twelve-bar blues' };
  const isVamp = kinds.has('vamp');
  const modal: StyleFinding = { style: 'modal', because: 'a few chords stay, and none resolves' };
  const { sevenths, count } = chords;
  if (count > 0 && (sevenths >= LIMITS.sevenths || (notes.swings && sevenths >= LIMITS.seventhsSwung)))
    return isVamp ? modal : { style: 'jazz', because: 'most chords are sevenths' };
  if (notes.isCompound && notes.running > 1) return { style: 'dance', because: 'it runs in a compound meter' };
  if (notes.running >= LIMITS.running && !notes.swings) return { style: 'dance', because: 'it runs in short notes' };
  if (isVamp) return modal;
  if (chords.powers > 0 || chords.borrowed >= 2)
    return { style: 'rock', because: 'there are bare fifths or borrowed major chords' };
  if (notes.isSlow && chords.perBar >= LIMITS.hymnChords && notes.meanNote >= LIMITS.hymnNote)
    return { style: 'hymn', because: 'the chords change with the notes, and the notes are long' };
  if (home.mode !== 'major' && home.mode !== 'minor') return { style: 'modal', because: `it is in ${home.mode}` };
  if (notes.swings) return { style: 'jazz', because: 'it is swung' };
  return { style: 'song', because: 'nothing speaks for another' };
}

interface ChordFeatures {
  readonly count: number;
  /** Share of chords with a seventh or more, plain dominant sevenths apart. */
  readonly sevenths: number;
  readonly powers: number;
  /** Major chords borrowed from the parallel minor. */
  readonly borrowed: number;
  readonly perBar: number;
}

function chordFeatures({ chords }: FormReading, bars: number): ChordFeatures {
  const kinds = chords.flatMap(({ chord }) => (chord.symbol.kind === 'chord' ? [chord.symbol.quality] : []));
  const rich = kinds.filter(
    (kind) =>
      (kind.seventh && classOfChord(kind) !== 'dominant') ||
      kind.extension !== undefined ||
      kind.alterations.length > 0 ||
      kind.altered,
  );
  return {
    count: kinds.length,
    sevenths: kinds.length === 0 ? 0 : rich.length / kinds.length,
    powers: kinds.filter((kind) => classOfChord(kind) === 'power').length,
    borrowed: chords.filter(
      ({ function: does, chord }) =>
        does === 'borrowed' && chord.symbol.kind === 'chord' && classOfChord(chord.symbol.quality) === 'major',
    ).length,
    perBar: kinds.length / Math.max(1, bars),
  };
}

interface NoteFeatures {
  readonly swings: boolean;
  /** Notes to a quarter. */
  readonly running: number;
  /** In quarters. */
  readonly meanNote: number;
  readonly isCompound: boolean;
  readonly isSlow: boolean;
}

const SILENT: NoteFeatures = { swings: false, running: 0, meanNote: 0, isCompound: false, isSlow: false };

function noteFeatures(tune: Tune): NoteFeatures {
  const notes = soundingNotes(tune);
  const quarters = notes.reduce((sum, { length }) => sum + length, 0) / TICKS_PER_QUARTER;
  return {
    swings: tune.swing !== undefined,
    running: quarters === 0 ? 0 : notes.length / quarters,
    meanNote: notes.length === 0 ? 0 : quarters / notes.length,
    isCompound: isCompound(tune.meter),
    isSlow: quartersPerMinute(tune.tempo) <= SLOW,
  };
}

/** Quarters a minute up to which a tune can be a hymn. */
const SLOW = 108;
