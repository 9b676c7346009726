import { DYNAMICS, type Articulation, type Dynamic, type Jump, type Ornament } from '../../score/tune';

/** Element names of MusicXML 4.0 for our marks. `group` is the element they stand in inside `<notations>`. */
export const ARTICULATION_ELEMENTS: Readonly<Record<Articulation, { readonly group: 'articulations' | 'technical'; readonly element: string }>> = {
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
  trill: 'trill-mark', turn: 'turn', mordent: 'mordent', 'inverted-mordent': 'inverted-mordent', roll: 'other-ornament',
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
