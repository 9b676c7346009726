import { soundingNotes } from '../score/sounding';
import { barNumbers, type Tune } from '../score/tune';
import type { DrillIdea } from '../score/drillIdea';
import { layDrill, type DrillLine, type DrillRequest } from '../drills/drill';
import type { Change } from './change';
import { partOfLine, type Part, type PartRequest } from './partFor';

export interface DrillPart {
  readonly value: Part;
  readonly changes: readonly Change[];
  readonly line: DrillLine;
}

/** A drill for a level of an instrument as a part: laid out, written for the player, with marks and aids as asked. */
export function drillPart(
  idea: DrillIdea,
  { level, instrument, setting, page }: Pick<PartRequest, 'level' | 'instrument' | 'setting' | 'page'>,
  wishes: DrillRequest['wishes'] = {},
  title?: string,
): DrillPart {
  const perMinute = setting?.perMinute;
  const line = layDrill(idea, { level, instrument, wishes, ...(perMinute !== undefined && { perMinute }) });
  const tune: Tune = title ? { ...line.tune, title } : line.tune;
  const setTo = { perMinute: tune.tempo.perMinute };
  const part = partOfLine(
    tune,
    { level, instrument, setting: setTo, ...(page && { page }) },
    sectionPhrases(tune, line),
  );
  const numbers = barNumbers(tune);
  const changes = line.said.map(({ bar, what, why }): Change => ({
    bar: numbers[bar] ?? 1,
    barIndex: bar,
    events: [],
    detail: { kind: 'drill', what, why },
  }));
  const sounding = new Map(line.sections.map(({ from, concertName }) => [from, concertName]));
  const soundingBars = part.soundingBars.map((bar, index) => {
    const section = sounding.get(index);
    return section === undefined ? bar : { ...bar, section };
  });
  return { value: { ...part, soundingBars }, changes, line };
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
