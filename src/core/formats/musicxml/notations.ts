import { ARTICULATIONS, ORNAMENTS, type Articulation, type Ornament } from '../../score/tune';
import type { RawEvent } from '../assemble';
import { ARTICULATION_ELEMENTS, isDynamic, ORNAMENT_ELEMENTS } from './marks';
import { child, childrenOf, textOf, type XmlElement } from './xmlTree';

type Marks = NonNullable<RawEvent['marks']>;

/** Articulations, ornaments, slurs, fermata, dynamics and the first verse of a note. What is not held is told to `notKept`. */
export function readNotations(note: XmlElement, notKept: (what: string) => void): Marks | undefined {
  const marks: { -readonly [K in keyof Marks]: Marks[K] } = {};
  const articulations: Articulation[] = [];
  const ornaments: Ornament[] = [];
  for (const group of childrenOf(note, 'notations').flatMap((one) => one.children)) {
    switch (group.name) {
      case 'tied': case 'tuplet': break;
      case 'slur':
        if (group.attributes['type'] === 'start') marks.slurStarts = (marks.slurStarts ?? 0) + 1;
        if (group.attributes['type'] === 'stop') marks.slurEnds = (marks.slurEnds ?? 0) + 1;
        break;
      case 'fermata': marks.fermata = true; break;
      case 'dynamics': {
        const name = group.children[0]?.name ?? '';
        if (isDynamic(name)) marks.dynamic = name;
        else notKept(`the dynamic ${name}`);
        break;
      }
      case 'articulations': case 'technical': case 'ornaments':
        for (const one of group.children) {
          const articulation = ARTICULATIONS.find((known) => ARTICULATION_ELEMENTS[known].element === one.name);
          const ornament = ORNAMENTS.find((known) => ORNAMENT_ELEMENTS[known] === one.name && (known !== 'roll' || one.text.trim() === 'roll'));
          if (articulation) articulations.push(articulation);
          else if (ornament) ornaments.push(ornament);
          else notKept(`a ${one.name} mark`);
        }
        break;
      default: notKept(`a ${group.name} mark`);
    }
  }
  if (articulations.length > 0) marks.articulations = articulations;
  if (ornaments.length > 0) marks.ornaments = ornaments;
  const lyrics = childrenOf(note, 'lyric');
  const text = textOf(lyrics[0], 'text');
  if (lyrics.length > 1) notKept('a further verse of words');
  if (text) {
    const syllabic = textOf(lyrics[0], 'syllabic');
    marks.lyric = {
      text: text.slice(0, 80),
      ...((syllabic === 'begin' || syllabic === 'middle') && { hyphen: true as const }),
      ...(child(lyrics[0], 'extend') && { extend: true as const }),
    };
  }
  return Object.keys(marks).length > 0 ? marks : undefined;
}
