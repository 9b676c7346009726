/**
 * What beginner, intermediate and advanced mean, for every engine: one row a level. Who adds a level adds a row here,
 * its ranges to the instruments, its sign to the screen, and its row to the few larger tables that the compiler then
 * asks for (`LEVEL_DEFAULTS`, the rhythms and shapes of solos, the presets of pools). Rules of thumb are ours unless a
 * source is named.
 */
interface LevelProfile {
  readonly name: string;
  /** Whom the level is written for. */
  readonly player: string;
  /**
   * Totals from which a part is right, demanding, and too hard. Read off the lines that the scale is set by: what tutor
   * books and examination syllabuses ask of a first, third and fifth year. A teacher who disagrees changes them here.
   */
  readonly difficulty: readonly [right: number, demanding: number, tooHard: number];
  /** How much the level counts where all play together: who has least choice counts most. */
  readonly weight: number;
  /** The most sharps or flats that are read, where another key serves. Common to first tutor books. */
  readonly maxSignature: number;
  /** Whether a key that the instrument has first in every tutor book is preferred. */
  readonly prefersHomeKey: boolean;
  /** Whether double sharps and flats are read, or written as plain notes. */
  readonly readsDoubleAccidentals: boolean;
  /** Whether a line may leave the usual range a little, where the instrument goes on. */
  readonly goesBeyondRange: boolean;
  /** How much longer than a beginner's the breath lasts; a teacher knows better. */
  readonly breath: number;
  /** What is printed to help when nobody says otherwise. */
  readonly aids: {
    /** Whether held notes are counted. */
    readonly counts: boolean;
    /** Whether bows are marked; breaths are music, and marked at every level. */
    readonly bows: boolean;
    /** Which notes have a finger mark, where one or two figures say it. */
    readonly fingers: 'all' | 'change' | 'none';
  };
  /** Height of a staff on paper, millimetres. First tutor books print 9 to 10, method books 8, engraved parts 7. */
  readonly staffMillimetres: number;
  /** What is pencilled in: one loudness at the beginning, or slurs, dots and loudness as the style has them. */
  readonly phrasing: 'first' | 'whole';
  readonly embellishing: {
    /** Whether notes of the tune may be varied, not only added to. */
    readonly varies: boolean;
    /** What comes in on top for a second time through, figures to a hundred beats. */
    readonly secondTime: number;
  };
  /** The rhythm of chords on two strings. */
  readonly chordRhythm: 'long' | 'shuffle' | 'quick';
  readonly drill: {
    /** The shortest notes of a drill. */
    readonly shortest: 'quarter' | 'eighth' | 'sixteenth';
    /** The order of keys: the easiest first, or round the fourths for who plays all of them. */
    readonly order: 'easiest' | 'fourths';
  };
  /** Notes to improvise with. */
  readonly pools: {
    /** Whether approach notes and the cells of a chord are shown. */
    readonly hasApproaches: boolean;
    /** Whether the first scale of all is a question worth asking. */
    readonly asksForFirst: boolean;
  };
  readonly solo: {
    /** What a line is made of: one scale; that and chord tones; whatever leads on by step. */
    readonly notes: 'scale' | 'scale and chord tones' | 'all';
    /**
     * How wide a phrase lies, in half steps, where its middle lies in the range, 0 to 1, and how often it comes early.
     * Eighteen are an octave and a half: no run is longer.
     */
    readonly window: { readonly width: number; readonly middle: number; readonly early: number };
    /**
     * Notes a beat, in beats of two halves and of three thirds, and the range in half steps, of a phrase that says
     * something.
     */
    readonly idea: { readonly simple: number; readonly compound: number; readonly range: readonly [number, number] };
    /** How full a chorus is, 0 to 1. */
    readonly fullness: number;
    /** Beats that rest before the next phrase, at least. */
    readonly rest: number;
    /** The last note of a phrase is held for as many beats, or for one or two where chance says. */
    readonly held: 2 | 'one or two';
    /** What different rhythms are worth. */
    readonly variety: number;
  };
}

const LEVEL_PROFILES = {
  beginner: {
    name: 'Beginner',
    player: 'a first-year player',
    difficulty: [0.8, 2.4, 3.4],
    weight: 3,
    maxSignature: 3,
    prefersHomeKey: true,
    readsDoubleAccidentals: false,
    goesBeyondRange: false,
    breath: 1,
    aids: { counts: true, bows: true, fingers: 'all' },
    staffMillimetres: 9.5,
    phrasing: 'first',
    embellishing: { varies: false, secondTime: 10 },
    chordRhythm: 'long',
    drill: { shortest: 'quarter', order: 'easiest' },
    pools: { hasApproaches: false, asksForFirst: true },
    solo: {
      notes: 'scale',
      window: { width: 12, middle: 0.45, early: 0 },
      idea: { simple: 0.72, compound: 1.3, range: [5, 9] },
      fullness: 0.35,
      rest: 1,
      held: 2,
      variety: 0.3,
    },
  },
  intermediate: {
    name: 'Intermediate',
    player: 'a third-year player',
    difficulty: [1.6, 4, 5.4],
    weight: 2,
    maxSignature: Infinity,
    prefersHomeKey: false,
    readsDoubleAccidentals: true,
    goesBeyondRange: true,
    breath: 1.5,
    aids: { counts: false, bows: true, fingers: 'change' },
    staffMillimetres: 8,
    phrasing: 'whole',
    embellishing: { varies: false, secondTime: 25 },
    chordRhythm: 'shuffle',
    drill: { shortest: 'eighth', order: 'easiest' },
    pools: { hasApproaches: false, asksForFirst: false },
    solo: {
      notes: 'scale and chord tones',
      window: { width: 16, middle: 0.5, early: 0.35 },
      idea: { simple: 1.05, compound: 1.8, range: [7, 12] },
      fullness: 0.6,
      rest: 1,
      held: 'one or two',
      variety: 0.6,
    },
  },
  advanced: {
    name: 'Advanced',
    player: 'a fifth-year player',
    difficulty: [2.8, 6.2, 7.8],
    weight: 1,
    maxSignature: Infinity,
    prefersHomeKey: false,
    readsDoubleAccidentals: true,
    goesBeyondRange: true,
    breath: 2,
    aids: { counts: false, bows: false, fingers: 'none' },
    staffMillimetres: 7,
    phrasing: 'whole',
    embellishing: { varies: true, secondTime: 35 },
    chordRhythm: 'quick',
    drill: { shortest: 'sixteenth', order: 'fourths' },
    pools: { hasApproaches: true, asksForFirst: false },
    solo: {
      notes: 'all',
      window: { width: 18, middle: 0.55, early: 0.4 },
      idea: { simple: 1.35, compound: 2.2, range: [8, 15] },
      fullness: 0.85,
      rest: 0.5,
      held: 'one or two',
      variety: 0.6,
    },
  },
} as const satisfies Readonly<Record<string, LevelProfile>>;

export type Level = keyof typeof LEVEL_PROFILES;

/** The levels, easiest first. */
export const LEVELS = Object.keys(LEVEL_PROFILES) as unknown as readonly [Level, ...Level[]];

/** What a level means. */
export function profileOf(level: Level): LevelProfile {
  return LEVEL_PROFILES[level];
}
