/** Pages that may lie in a pack, in this order for each tune; the week lies before them all. */
export const PACK_SHEETS = ['week', 'part', 'together', 'pools', 'solo', 'ear'] as const;
export type PackSheet = (typeof PACK_SHEETS)[number];

/** What goes with the pages: this week's bars, and all of a part slowly and at tempo, as sounds; the part as MusicXML. */
export const PACK_FILES = ['bars', 'slow', 'tempo', 'musicxml'] as const;
export type PackFile = (typeof PACK_FILES)[number];

/** What they are called on screen and on the cover. */
export const PACK_SHEET_NAMES: Readonly<Record<PackSheet, string>> = {
  week: 'The week’s plan',
  part: 'Part',
  together: 'Part in the group’s arrangement',
  pools: 'Notes to improvise with',
  solo: 'Example solo',
  ear: 'Learning it by ear',
};

/**
 * What a pack holds. It names kinds of pages, not pages: what is on the stand when the pack is made is what it is made
 * of, so that the same choice gives the next week's pack.
 */
export interface PackChoice {
  readonly sheets: readonly PackSheet[];
  readonly files: readonly PackFile[];
  readonly paper: 'a4' | 'letter';
  /** A group's: which tunes and drills of the shelf. */
  readonly tunes?: readonly string[];
  /** A pupil's: what is on the stand and stays out. */
  readonly without?: readonly string[];
  /** A line for the cover. */
  readonly note?: string;
}

export const PACK_LIMITS = { tunes: 12, without: 100, note: 300 } as const;

/** What nobody has chosen yet. */
export const USUAL_PACK = {
  pupil: { sheets: ['week', 'part'], files: ['bars', 'slow', 'tempo'], paper: 'a4' },
  group: { sheets: ['part'], files: ['slow', 'tempo'], paper: 'a4' },
} as const satisfies Readonly<Record<string, PackChoice>>;
