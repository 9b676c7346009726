import type { Phrase } from '../../analysis';
import {
  type Bar,
  type BarSpan,
  barSpans,
  isNote,
  quartersPerMinute,
  type SoundingNote,
  soundingNotes,
  type Tempo,
  type Tune,
} from '../../score';
import { TICKS_PER_QUARTER } from '../../time';
import type { Shortest } from '../../work';
import { simplify, type Simplified } from './simplify';
import { beatsRead } from './slots';
import { joined, phrasesIn } from '../bars/versions';

/** Tuplets that an intermediate player reads; others are eased. */
const USUAL_TUPLETS: ReadonlySet<string> = new Set(['3/2', '2/3', '6/4', '4/3']);

/** Whether notes may lean over a beat, and be held over a barline. */
export interface Freedom {
  readonly leans: boolean;
  readonly holds: boolean;
}

/** Bars beyond the level, with fewer notes; those next to them go along where a note is held between. */
export function eased(
  tune: Tune,
  phrases: readonly Phrase[],
  fastest: number,
  tempo: Tempo,
  { leans, holds }: Freedom,
): Simplified {
  const ticksPerSecond = (quartersPerMinute(tempo) * TICKS_PER_QUARTER) / 60;
  const spans = barSpans(tune);
  const notes = soundingNotes(tune);
  const leaning = new Set(leans ? [] : notes.filter((note) => leansOver(note, spans)).map(({ bar }) => bar));
  const held = new Set(
    holds
      ? []
      : notes.flatMap(({ start, length }) =>
          spans.flatMap((span, index) => (span.start > start && span.start < start + length ? [index - 1, index] : [])),
        ),
  );
  const hard = new Set(
    tune.bars.flatMap((bar, index) =>
      leaning.has(index) || held.has(index) || isBeyond(bar, fastest, ticksPerSecond) ? [index] : [],
    ),
  );
  if (hard.size === 0) return { tune, phrases, changes: [] };
  const shortest: Shortest = ticksPerSecond / (TICKS_PER_QUARTER / 4) > fastest ? 'eighth' : '16th';
  const easy = simplify(tune, phrases, new Set(), {
    shortest,
    syncopation: leans,
    ...(!holds && { untied: true as const }),
  });
  const taken = new Set(hard);
  const opens = (version: Tune, index: number) => {
    const last = version.bars[index]?.events.at(-1);
    return last !== undefined && isNote(last) && last.tied === true;
  };
  // A tie over the barline belongs to both bars: they are taken from the same version.
  for (let before = 0; before < taken.size;) {
    before = taken.size;
    for (const index of [...taken]) {
      if (index > 0 && opens(tune, index - 1) !== opens(easy.tune, index - 1)) taken.add(index - 1);
      if (index + 1 < spans.length && opens(tune, index) !== opens(easy.tune, index)) taken.add(index + 1);
    }
  }
  const bars = joined(tune.bars.map((bar, index) => (taken.has(index) ? (easy.tune.bars[index] ?? bar) : bar)));
  const version = { ...tune, bars };
  return {
    tune: version,
    phrases: phrasesIn(version, tune, phrases),
    changes: easy.changes.filter(({ barIndex }) => taken.has(barIndex)),
  };
}

/** Begins off the beat and sounds on over the next one. */
function leansOver({ bar, inBar, length }: SoundingNote, spans: readonly BarSpan[]): boolean {
  const beats = beatsRead(spans[bar]?.meter ?? { count: 4, unit: 4 });
  const beat = beats.findLast(({ start }) => start <= inBar);
  return beat !== undefined && inBar > beat.start && inBar + length > beat.start + beat.length;
}

function isBeyond(bar: Bar, fastest: number, ticksPerSecond: number): boolean {
  const notes = bar.events.filter(isNote);
  if (
    notes.some(
      ({ tuplet }) => tuplet && (tuplet.outer !== undefined || !USUAL_TUPLETS.has(`${tuplet.actual}/${tuplet.normal}`)),
    )
  )
    return true;
  if (notes.some(({ length, tuplet }) => !tuplet && length < TICKS_PER_QUARTER / 4)) return true;
  // Two quick notes are a grace; four in a row are a passage.
  let run = 0;
  return notes.some(({ length }) => {
    run = ticksPerSecond / length > fastest ? run + 1 : 0;
    return run >= 4;
  });
}
