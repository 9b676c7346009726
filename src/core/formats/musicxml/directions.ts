import { cutText } from '../../plainText';
import { jumpOfWords } from './marks';
import type { Jump, Tempo } from '../../score';
import { NOTE_TYPES, type NoteType } from '../../time';
import { childrenOf, numberIn, textOf, type XmlElement } from './xmlTree';

/** What the marks of one direction say together. */
export interface DirectionRead {
  readonly section?: string;
  readonly jumps: readonly Jump[];
  /** The name of the element, which may be no dynamic that is known. */
  readonly dynamic?: string;
  readonly tempo?: Tempo;
  readonly wedges: readonly ('stop' | 'crescendo' | 'diminuendo')[];
  readonly words: readonly string[];
  /** What is left out, in words. */
  readonly left: readonly string[];
}

type Draft = { -readonly [Field in keyof DirectionRead]: DirectionRead[Field] } & {
  jumps: Jump[];
  wedges: DirectionRead['wedges'][number][];
  words: string[];
  left: string[];
};

const MAX_SECTION = 40;

/** Reads the marks of a `<direction>`; where they stand is not looked at here. */
export function readDirection(element: XmlElement): DirectionRead {
  const draft: Draft = { jumps: [], wedges: [], words: [], left: [] };
  for (const type of childrenOf(element, 'direction-type')) for (const mark of type.children) readMark(mark, draft);
  return draft;
}

function readMark(mark: XmlElement, draft: Draft): void {
  switch (mark.name) {
    case 'rehearsal':
      draft.section = cutText(mark.text.trim(), MAX_SECTION);
      return;
    case 'segno':
    case 'coda':
      draft.jumps.push(mark.name);
      return;
    case 'dynamics': {
      const dynamic = mark.children[0]?.name;
      if (dynamic !== undefined) draft.dynamic = dynamic;
      return;
    }
    case 'metronome': {
      const tempo = metronome(mark);
      if (tempo) draft.tempo = tempo;
      else draft.left.push('a metronome mark without a number');
      return;
    }
    case 'wedge': {
      const kind = mark.attributes['type'];
      if (kind === 'stop' || kind === 'crescendo' || kind === 'diminuendo') draft.wedges.push(kind);
      return;
    }
    case 'words': {
      const jump = jumpOfWords(mark.text);
      if (jump) draft.jumps.push(jump);
      else if (mark.text.trim()) draft.words.push(mark.text.trim());
      return;
    }
    default:
      draft.left.push(`a ${mark.name} mark`);
  }
}

function metronome(element: XmlElement): Tempo | undefined {
  const unit = NOTE_TYPES.find((known): known is NoteType => known === textOf(element, 'beat-unit'));
  const perMinute = wholeTempo(numberIn(element, 'per-minute'));
  const dots = Math.min(1, childrenOf(element, 'beat-unit-dot').length) as 0 | 1;
  return unit && perMinute !== undefined ? { beat: { type: unit, dots }, perMinute } : undefined;
}

/** The tempo of a `<sound>`, which counts quarters. */
export function soundTempo(element: XmlElement | undefined): Tempo | undefined {
  const perMinute = wholeTempo(Number(element?.attributes['tempo']));
  return perMinute === undefined ? undefined : { beat: { type: 'quarter', dots: 0 }, perMinute };
}

/** Beats a minute as a whole number, 1 or more; whether anybody could play it is looked at later. */
function wholeTempo(found: number | undefined): number | undefined {
  return found !== undefined && Number.isFinite(found) && found > 0 ? Math.max(1, Math.round(found)) : undefined;
}
