import { type Articulation, ARTICULATIONS, type Lyric, MAX_VERSES, type Ornament, ORNAMENTS } from '../../score';
import type { RawEvent } from '../assemble';
import { cutText } from '../../plainText';
import { ARTICULATION_ELEMENTS, isDynamic, ORNAMENT_ELEMENTS, OWN_NOTATIONS } from './marks';
import { child, childrenOf, textOf, type XmlElement } from './xmlTree';

type Marks = NonNullable<RawEvent['marks']>;

type DraftMarks = { -readonly [K in keyof Marks]: Marks[K] };

/** Articulations, ornaments, slurs, fermata, dynamics and words of a note. What is not held is told to `notKept`. */
export function readNotations(note: XmlElement, notKept: (what: string) => void): Marks | undefined {
  const marks: DraftMarks = {};
  for (const group of childrenOf(note, 'notations').flatMap((one) => one.children)) readGroup(group, marks, notKept);
  const lyrics = lyricsOf(note, notKept);
  if (lyrics.length > 0) marks.lyrics = lyrics;
  return Object.keys(marks).length > 0 ? marks : undefined;
}

function readGroup(group: XmlElement, marks: DraftMarks, notKept: (what: string) => void): void {
  switch (group.name) {
    case 'tied':
    case 'tuplet':
      return;
    case 'slur':
      if (group.attributes['type'] === 'start') marks.slurStarts = (marks.slurStarts ?? 0) + 1;
      if (group.attributes['type'] === 'stop') marks.slurEnds = (marks.slurEnds ?? 0) + 1;
      return;
    case 'fermata':
      marks.fermata = true;
      return;
    case 'other-notation': {
      const own = OWN_NOTATIONS[group.text.trim()];
      if (own) Object.assign(marks, own);
      else notKept(`a mark "${group.text.trim()}"`);
      return;
    }
    case 'dynamics': {
      const name = group.children[0]?.name ?? '';
      if (isDynamic(name)) marks.dynamic = name;
      else notKept(`the dynamic ${name}`);
      return;
    }
    case 'articulations':
    case 'technical':
    case 'ornaments':
      for (const one of group.children) {
        const { articulation, ornament } = signOf(one);
        if (articulation) marks.articulations = [...(marks.articulations ?? []), articulation];
        else if (ornament) marks.ornaments = [...(marks.ornaments ?? []), ornament];
        else notKept(`a ${one.name} mark`);
      }
      return;
    default:
      notKept(`a ${group.name} mark`);
  }
}

/** What an element inside articulations, ornaments or technical marks stands for. */
function signOf({ name, text }: XmlElement): { readonly articulation?: Articulation; readonly ornament?: Ornament } {
  const articulation = ARTICULATIONS.find((known) => ARTICULATION_ELEMENTS[known].element === name);
  if (articulation) return { articulation };
  const ornament = ORNAMENTS.find(
    (known) => ORNAMENT_ELEMENTS[known] === name && (known !== 'roll' || text.trim() === 'roll'),
  );
  return ornament ? { ornament } : {};
}

/** The words under a note, a verse each. */
function lyricsOf(note: XmlElement, notKept: (what: string) => void): readonly Lyric[] {
  const lyrics = childrenOf(note, 'lyric').flatMap((lyric, order): Lyric[] => {
    const text = textOf(lyric, 'text');
    const number = Number.parseInt(lyric.attributes['number'] ?? '', 10);
    const verse = number >= 1 && number <= MAX_VERSES ? number : order + 1;
    if (!text) return [];
    if (verse > MAX_VERSES) {
      notKept(`verse ${verse}`);
      return [];
    }
    const syllabic = textOf(lyric, 'syllabic');
    return [
      {
        verse,
        text: cutText(text, 80),
        ...((syllabic === 'begin' || syllabic === 'middle') && { hyphen: true as const }),
        ...(child(lyric, 'extend') && { extend: true as const }),
      },
    ];
  });
  return lyrics
    .filter(({ verse }, k) => lyrics.findIndex((other) => other.verse === verse) === k)
    .toSorted((a, b) => a.verse - b.verse);
}
