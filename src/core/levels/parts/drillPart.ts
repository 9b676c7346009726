import { barNumbers, type DrillIdea, isNote, keysOf, soundingNotes, type Tune } from '../../score';
import { canReach, type DrillLine, type DrillRequest, layDrill, signsText } from '../../drills';
import { handPin } from '../../fingering';
import type { Instrument } from '../../instruments';
import { transpose } from '../../pitch';
import type { Change } from '../../work';
import type { PageRequest } from '../page/pageRequest';
import { partOfLine, type Part, type PartRequest } from './part';

export interface DrillPart {
  readonly value: Part;
  readonly changes: readonly Change[];
  readonly line: DrillLine;
}

/** A drill for a level of an instrument as a part: laid out, written for the player, with marks and aids as asked. */
export function drillPart(
  idea: DrillIdea,
  { level, instrument, keyAndTempo, page }: Pick<PartRequest, 'level' | 'instrument' | 'keyAndTempo' | 'page'>,
  wishes: DrillRequest['wishes'] = {},
  title?: string,
): DrillPart {
  const perMinute = keyAndTempo?.perMinute;
  const line = layDrill(idea, { level, instrument, wishes, ...(perMinute !== undefined && { perMinute }) });
  const tune: Tune = title ? { ...line.tune, title } : line.tune;
  const setTo = { perMinute: tune.tempo.perMinute };
  const part = partOfLine(
    tune,
    { level, instrument, keyAndTempo: setTo, ...(page && { page: heldPage(page, tune, line, instrument) }) },
    sectionPhrases(tune, line),
  );
  const numbers = barNumbers(tune);
  const changes = line.messages.map(({ bar, what, why }): Change => ({
    bar: numbers[bar] ?? 1,
    barIndex: bar,
    events: [],
    detail: { kind: 'drill', what, why },
  }));
  const asRead = readSections(line, part);
  const sounding = new Map(line.sections.map(({ from, concertName }) => [from, concertName]));
  const soundingBars = part.soundingBars.map((bar, index) => {
    const section = sounding.get(index);
    return section === undefined ? bar : { ...bar, section };
  });
  const sections = asRead.map(({ from, to, name, writtenKey }) => ({
    from,
    to,
    heading: `${name}   ${signsText(writtenKey)}`,
  }));
  const lead = leadOf(idea);
  return {
    value: { ...part, soundingBars, sections, ...calledAfter(line), ...(lead.length > 0 && { lead }) },
    changes,
    line: { ...line, sections: asRead },
  };
}

/** A drill is named by its set, and by its keys where it has more: a signature alone would call minor major. */
function calledAfter({ sections }: DrillLine): Pick<Part, 'called'> {
  const [first, ...others] = sections;
  if (!first) return {};
  const keys = `${sections.length} keys`;
  return {
    called: others.length > 0 ? { written: keys, sounding: keys } : { written: first.set, sounding: first.concertSet },
  };
}

/** The page with the hand where each key keeps it; a teacher's own pins go before. */
function heldPage(page: PageRequest, { bars }: Tune, { sections }: DrillLine, instrument: Instrument): PageRequest {
  if (!page.fingers || sections.every(({ hand }) => !hand)) return page;
  const hands = new Map<string, string>();
  for (const { hand, from, to } of sections) {
    if (!hand) continue;
    for (const event of bars.slice(from, to).flatMap(({ events }) => events))
      if (isNote(event) && canReach(instrument, transpose(event.pitch, instrument.transposition), hand))
        hands.set(event.id, handPin(hand.hand, hand.isStopped));
  }
  return { ...page, fingers: { ...page.fingers, hands } };
}

/**
 * The sections with keys and notes as the part spells them: a beginner reads no double sharps, and F♯ may have become
 * G♭.
 */
function readSections({ sections }: DrillLine, { bars, meter, writtenKey }: Part): DrillLine['sections'] {
  const keys = keysOf({ key: writtenKey, bars });
  const notes = soundingNotes({ bars, meter });
  return sections.map((section) => ({
    ...section,
    writtenKey: section.signature ? section.writtenKey : (keys[section.from] ?? section.writtenKey),
    notes: notes.filter(({ bar }) => bar >= section.from && bar < section.to).map(({ pitch }) => pitch),
  }));
}

/**
 * What stands before the music: the three steps where they are wanted, and when to go on to the next step of a ladder.
 */
function leadOf({ spoken, steps, movingOn }: DrillIdea): readonly string[] {
  const { when, rounds } = movingOn ?? { when: 'mastered', rounds: 2 };
  const goOn =
    when === 'in-turn'
      ? 'Play every step each time, one after the other.'
      : `Go on to the next step after ${rounds === 1 ? 'one round' : `${rounds} rounds`} without a mistake at this tempo.`;
  return [
    ...(spoken ? ['1  Say the names of the notes aloud.   2  Finger them silently, and say them.   3  Play.'] : []),
    ...(steps.length > 1 ? [goOn] : []),
  ];
}

/** Each key is a phrase of its own: where a drill is breathed in, and where its marks begin anew. */
function sectionPhrases(
  tune: Tune,
  { sections }: DrillLine,
): readonly { readonly from: number; readonly to: number }[] {
  const notes = soundingNotes(tune);
  const firstIn = (bar: number) => {
    const found = notes.findIndex((note) => note.bar >= bar);
    return found < 0 ? notes.length : found;
  };
  return sections.map(({ from, to }) => ({ from: firstIn(from), to: firstIn(to) })).filter(({ from, to }) => to > from);
}
