import { type Articulation, type Dynamic, DYNAMICS, type Jump, type Ornament, type PhraseMark } from '../../score';

/** Element names of MusicXML 4.0 for our marks. `group` is the element they stand in inside `<notations>`. */
export const ARTICULATION_ELEMENTS: Readonly<
  Record<Articulation, { readonly group: 'articulations' | 'technical'; readonly element: string }>
> = {
  staccato: { group: 'articulations', element: 'staccato' },
  staccatissimo: { group: 'articulations', element: 'staccatissimo' },
  accent: { group: 'articulations', element: 'accent' },
  'strong-accent': { group: 'articulations', element: 'strong-accent' },
  tenuto: { group: 'articulations', element: 'tenuto' },
  breath: { group: 'articulations', element: 'breath-mark' },
  'up-bow': { group: 'technical', element: 'up-bow' },
  'down-bow': { group: 'technical', element: 'down-bow' },
};

/** A roll has no element of its own; it goes out as `other-ornament` and comes back by its text. */
export const ORNAMENT_ELEMENTS: Readonly<Record<Ornament, string>> = {
  trill: 'trill-mark',
  turn: 'turn',
  mordent: 'mordent',
  'inverted-mordent': 'inverted-mordent',
  roll: 'other-ornament',
};

export interface JumpWords {
  readonly words: string;
  /** The attribute of `<sound>` that says it to a player; the value for those that take one. */
  readonly sound?: readonly [string, string];
}

export const JUMP_WORDS: Readonly<Record<Exclude<Jump, 'segno' | 'coda'>, JumpWords>> = {
  fine: { words: 'Fine', sound: ['fine', 'yes'] },
  'to-coda': { words: 'To Coda', sound: ['tocoda', 'coda'] },
  dc: { words: 'D.C.', sound: ['dacapo', 'yes'] },
  'dc-al-fine': { words: 'D.C. al Fine', sound: ['dacapo', 'yes'] },
  'dc-al-coda': { words: 'D.C. al Coda', sound: ['dacapo', 'yes'] },
  ds: { words: 'D.S.', sound: ['dalsegno', 'segno'] },
  'ds-al-fine': { words: 'D.S. al Fine', sound: ['dalsegno', 'segno'] },
  'ds-al-coda': { words: 'D.S. al Coda', sound: ['dalsegno', 'segno'] },
};

/** The jump that some printed words mean, if any. */
export function jumpOfWords(words: string): Jump | undefined {
  const plain = words.toLowerCase().replace(/[^a-z]/g, '');
  const entries = Object.entries(JUMP_WORDS) as [Exclude<Jump, 'segno' | 'coda'>, JumpWords][];
  return entries.find(([, { words: known }]) => known.toLowerCase().replace(/[^a-z]/g, '') === plain)?.[0];
}

export function isDynamic(name: string): name is Dynamic {
  return DYNAMICS.some((known) => known === name);
}

/** What MusicXML has no element for goes out as `other-notation` with these words and comes back by them. */
export const PHRASE_NOTATIONS: Readonly<Record<PhraseMark, string>> = {
  begins: 'phrase begins',
  'goes-on': 'phrase goes on',
};
export const OPTIONAL_NOTATION = 'optional passage';

export const OWN_NOTATIONS: Readonly<
  Record<string, { readonly phrase?: PhraseMark; readonly optional?: true } | undefined>
> = {
  [PHRASE_NOTATIONS.begins]: { phrase: 'begins' },
  [PHRASE_NOTATIONS['goes-on']]: { phrase: 'goes-on' },
  [OPTIONAL_NOTATION]: { optional: true },
};

/** A miscellaneous field that names the part which is the second one. */
export const SECOND_PART_FIELD = 'second-part';
/** A miscellaneous field for the recording's concert key, as `Bb` or `Em`. */
export const RECORDING_FIELD = 'recording-key';
/** How a teacher reads the chords. */
export const HARMONY_FIELD = 'harmony';
/**
 * A miscellaneous field for swing: the unit and the ratio, like `eighth 2`. (`<swing>` came with MusicXML 4.0; the 3.0
 * schema has none.)
 */
export const SWING_FIELD = 'swing';
