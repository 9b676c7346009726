import type { Articulation, Dynamic, Hairpin, Jump, Ornament } from '../../score';

/** What a decoration means in the tune document. */
export type AbcMark =
  | { readonly kind: 'articulation'; readonly value: Articulation }
  | { readonly kind: 'ornament'; readonly value: Ornament }
  | { readonly kind: 'dynamic'; readonly value: Dynamic }
  | { readonly kind: 'jump'; readonly value: Jump }
  | { readonly kind: 'fermata' }
  | { readonly kind: 'hairpin'; readonly value: Hairpin }
  /** Stands after the last note of the hairpin. */
  | { readonly kind: 'hairpin-end'; readonly value: Hairpin };

/** One-letter decorations. Source: the ABC music standard 2.1, section 4.14. */
export const SHORT_MARKS: Readonly<Record<string, string>> = {
  '.': 'staccato',
  '~': 'roll',
  H: 'fermata',
  L: 'accent',
  M: 'lowermordent',
  O: 'coda',
  P: 'uppermordent',
  S: 'segno',
  T: 'trill',
  u: 'upbow',
  v: 'downbow',
};

const articulation = (value: Articulation): AbcMark => ({ kind: 'articulation', value });
const ornament = (value: Ornament): AbcMark => ({ kind: 'ornament', value });
const dynamic = (value: Dynamic): AbcMark => ({ kind: 'dynamic', value });
const jump = (value: Jump): AbcMark => ({ kind: 'jump', value });

/** Decorations between exclamation marks. Source: as above. Those not listed are reported by the reader. */
export const NAMED_MARKS: Readonly<Record<string, AbcMark>> = {
  staccato: articulation('staccato'),
  wedge: articulation('staccatissimo'),
  accent: articulation('accent'),
  '>': articulation('accent'),
  emphasis: articulation('accent'),
  marcato: articulation('strong-accent'),
  '^': articulation('strong-accent'),
  tenuto: articulation('tenuto'),
  breath: articulation('breath'),
  upbow: articulation('up-bow'),
  downbow: articulation('down-bow'),
  trill: ornament('trill'),
  turn: ornament('turn'),
  roll: ornament('roll'),
  mordent: ornament('mordent'),
  lowermordent: ornament('mordent'),
  uppermordent: ornament('inverted-mordent'),
  pralltriller: ornament('inverted-mordent'),
  fermata: { kind: 'fermata' },
  'crescendo(': { kind: 'hairpin', value: 'crescendo' },
  '<(': { kind: 'hairpin', value: 'crescendo' },
  'diminuendo(': { kind: 'hairpin', value: 'diminuendo' },
  '>(': { kind: 'hairpin', value: 'diminuendo' },
  'crescendo)': { kind: 'hairpin-end', value: 'crescendo' },
  '<)': { kind: 'hairpin-end', value: 'crescendo' },
  'diminuendo)': { kind: 'hairpin-end', value: 'diminuendo' },
  '>)': { kind: 'hairpin-end', value: 'diminuendo' },
  ppp: dynamic('ppp'),
  pp: dynamic('pp'),
  p: dynamic('p'),
  mp: dynamic('mp'),
  mf: dynamic('mf'),
  f: dynamic('f'),
  ff: dynamic('ff'),
  fff: dynamic('fff'),
  sfz: dynamic('sfz'),
  fp: dynamic('fp'),
  segno: jump('segno'),
  coda: jump('coda'),
  fine: jump('fine'),
  'D.C.': jump('dc'),
  'D.S.': jump('ds'),
  dacapo: jump('dc'),
  dacoda: jump('to-coda'),
  'D.C.alfine': jump('dc-al-fine'),
  'D.C.alcoda': jump('dc-al-coda'),
  'D.S.alfine': jump('ds-al-fine'),
  'D.S.alcoda': jump('ds-al-coda'),
};
