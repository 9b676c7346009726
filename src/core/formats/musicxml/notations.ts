import { ARTICULATIONS, ORNAMENTS, type Articulation, type Lyric, type Ornament } from '../../score/tune';
import type { RawEvent } from '../assemble';
import { MOST_VERSES } from '../limits';
import { ARTICULATION_ELEMENTS, isDynamic, ORNAMENT_ELEMENTS, OWN_NOTATIONS } from './marks';
import { child, childrenOf, textOf, type XmlElement } from './xmlTree';

type Marks = NonNullable<RawEvent['marks']>;

/** Articulations, ornaments, slurs, fermata, dynamics and words of a note. What is not held is told to `notKept`. */
export function readNotations(note: XmlElement, notKept: (what: string) => void): Marks | undefined {
  const marks: { -readonly [K in keyof Marks]: Marks[K] } = {};
  const articulations: Articulation[] = [];
  const ornaments: Ornament[] = [];
  for (const group of childrenOf(note, 'notations').flatMap((one) => one.children)) {
    switch (group.name) {
      case 'tied':
      case 'tuplet':
        break;
      case 'slur':
        if (group.attributes['type'] === 'start') marks.slurStarts = (marks.slurStarts ?? 0) + 1;
        if (group.attributes['type'] === 'stop') marks.slurEnds = (marks.slurEnds ?? 0) + 1;
        break;
      case 'fermata':
        marks.fermata = true;
        break;
      case 'other-notation': {
        const own = OWN_NOTATIONS[group.text.trim()];
        if (own) Object.assign(marks, own);
        else notKept(`a mark "${group.text.trim()}"`);
        break;
      }
      case 'dynamics': {
        const name = group.children[0]?.name ?? '';
        if (isDynamic(name)) marks.dynamic = name;
        else notKept(`the dynamic ${name}`);
        break;
      }
      case 'articulations':
      case 'technical':
      case 'ornaments':
        for (const one of group.children) {
          const { articulation, ornament } = signOf(one);
          if (articulation) articulations.push(articulation);
          else if (ornament) ornaments.push(ornament);
          else notKept(`a ${one.name} mark`);
        }
        break;
      default:
        notKept(`a ${group.name} mark`);
    }
  }
  if (articulations.length > 0) marks.articulations = articulations;
  if (ornaments.length > 0) marks.ornaments = ornaments;
  const lyrics = lyricsOf(note, notKept);
  if (lyrics.length > 0) marks.lyrics = lyrics;
  return Object.keys(marks).length > 0 ? marks : undefined;
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
    const verse = number >= 1 && number <= MOST_VERSES ? number : order + 1;
    if (!text) return [];
    if (verse > MOST_VERSES) {
      notKept(`verse ${verse}`);
      return [];
    }
    const syllabic = textOf(lyric, 'syllabic');
    return [
      {
        verse,
        text: text.slice(0, 80),
        ...((syllabic === 'begin' || syllabic === 'middle') && { hyphen: true as const }),
        ...(child(lyric, 'extend') && { extend: true as const }),
      },
    ];
  });
  return lyrics
    .filter(({ verse }, k) => lyrics.findIndex((other) => other.verse === verse) === k)
    .toSorted((a, b) => a.verse - b.verse);
}
