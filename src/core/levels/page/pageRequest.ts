import { FINGER_SCHOOLS, type MarkSchool } from '../../fingering';
import { type Instrument, type Level, profileOf } from '../../instruments';
import type { AidWishes, BarAids, PageSize, PageWishes, SyllableSchool } from '../../work';
import { usualAids } from './aids';
import type { FingerWishes } from './fingerPart';

/** What is printed over and under the notes of a part, with nothing left open. */
export interface PageRequest {
  /** How the part is fingered; without it, it is not. */
  readonly fingers?: FingerWishes;
  /** What else is printed to help; nothing by default. */
  readonly aids?: AidWishes;
  /** Bars with aids of their own. */
  readonly barAids?: BarAids;
  readonly syllables?: SyllableSchool;
  /** Usual by default. */
  readonly size?: PageSize;
  /** A tablature under the notes, where the instrument has frets. */
  readonly tab?: true;
}

/** What a recipe prints: as it says, else as usual for the instrument at the level. */
export function pageRequest(page: PageWishes, instrument: Instrument, level: Level): PageRequest {
  const { aids = usualAids(instrument, level), barAids, syllables, size, tab } = page;
  return {
    aids,
    ...(barAids && { barAids }),
    ...(syllables && { syllables }),
    ...(size && { size }),
    ...(tab && { tab }),
    fingers: fingerWishes(page, instrument, level),
  };
}

/** How a level's part is fingered: as its recipe says, else as usual for the instrument. */
export function fingerWishes(
  { marks, school = FINGER_SCHOOLS[0], pins = {}, tab, markStyle }: PageWishes,
  instrument: Pick<Instrument, 'mechanism'>,
  level: Level,
): FingerWishes {
  // Where a tablature says every fret, marks would say them twice.
  const usual = tab && instrument.mechanism.kind === 'fretted' ? 'none' : usualMarks(instrument, level);
  return { marks: marks ?? usual, school, pins: new Map(Object.entries(pins)), ...(markStyle && { style: markStyle }) };
}

/**
 * Marks fade with the levels where a figure or two over the note say it; keys of a woodwind are shown on a page of
 * their own.
 */
function usualMarks({ mechanism }: Pick<Instrument, 'mechanism'>, level: Level): MarkSchool {
  if (
    mechanism.kind === 'holes' ||
    mechanism.kind === 'bars' ||
    mechanism.kind === 'keys' ||
    mechanism.kind === 'voice'
  )
    return 'none';
  return profileOf(level).aids.fingers;
}
