import { fingeringStrings } from './stringMarks';
import { type BowedFingering, type Fingering, type FrettedFingering, type HolesFingering, ordinal } from './fingering';

/**
 * What the signs over a line's notes mean, each kind told once with one that stands there: `L2 second finger low`, `6-5
 * sixth string, fifth fret`. Digits that everybody who plays the instrument reads are not told, but what is ours is.
 * @param marked fingerings that are printed, with their text
 * @param strings names of the open strings, lowest first
 */
export function markLegend(
  marked: readonly { readonly fingering: Fingering; readonly text: string }[],
  strings: readonly string[],
): readonly string[] {
  const told = new Map<string, string>();
  for (const { fingering, text } of marked) {
    const [kind, words] = meaningOf(fingering, text, strings) ?? [];
    if (kind !== undefined && words !== undefined && !told.has(kind)) told.set(kind, `${text} ${words}`);
  }
  return [...told.values()];
}

type Meaning = readonly [kind: string, words: string];

function meaningOf(fingering: Fingering, text: string, strings: readonly string[]): Meaning | undefined {
  switch (fingering.kind) {
    case 'bowed':
      return ofBowed(fingering, text, fingeringStrings(fingering, strings));
    case 'fretted':
      return ofFretted(fingering, text, fingeringStrings(fingering, strings));
    case 'valves':
      if (fingering.thumb) return ['side', 'thumb trigger and valves'];
      return fingering.valves.length === 0 ? ['open', 'no valve'] : undefined;
    case 'slide':
      return ['slide', `${ordinal(fingering.position)} position of the slide`];
    case 'holes':
      return ofHoles(fingering);
    case 'reed':
      return [fingering.breath, `hole ${fingering.hole}, ${fingering.breath}`];
    case 'bar':
      return undefined;
  }
}

const PLACEMENTS = { usual: '', low: ' low', high: ' high', stretched: ' stretched' } as const;

function ofBowed({ placement, finger }: BowedFingering, text: string, name: string): Meaning | undefined {
  const hasString = text.startsWith(name) && name !== '';
  const where = hasString ? `${name} string` : '';
  if (!/\d/.test(text)) return ['string', `on the ${where}`];
  if (finger === 0) return ['open', hasString ? `open ${where}` : 'open string'];
  if (placement === 'usual' && !hasString) return undefined;
  return [placement, `${where ? `${where}, ` : ''}${ordinal(finger)} finger${PLACEMENTS[placement]}`];
}

function ofFretted({ string, fret }: FrettedFingering, text: string, name: string): Meaning {
  const where = text.startsWith(name) && name !== '' ? `${name} string` : `${ordinal(string)} string`;
  if (!/\d/.test(text)) return ['string', `on the ${where}`];
  return fret === 0 ? ['open', `open ${where}`] : ['fret', `${where}, ${ordinal(fret)} fret`];
}

function ofHoles({ keys }: HolesFingering): Meaning | undefined {
  const half = keys.find((key) => key.endsWith('h'));
  if (half !== undefined) return ['half', `${half.slice(0, -1)}½ half closed`];
  if (keys.length === 0) return ['open', 'all open'];
  return keys.some((key) => /^[1-6]$/.test(key)) ? ['holes', 'left hand 123, right hand 456'] : undefined;
}
