import {
  type EventId,
  isNote,
  lineByOctaves,
  quartersPerMinute,
  soundingNotes,
  type Tempo,
  type Tune,
} from '../../score';
import { isCompound, TICKS_PER_QUARTER } from '../../time';
import type { Instrument } from '../../instruments';
import { withOctavesChosen, withOwnBars } from '../bars/chosenBars';
import { fit, type Fitted } from '../fit/fit';
import { eventsOutOfReach } from '../fit/layout';
import { type BarChoice, LEVEL_DEFAULTS, levelTempo, type Melody } from '../../work';
import { sharedShape } from './lineCache';
import { shape, type Shaped, type ShapeWishes } from './shape';
import type { Source } from './source';
import { knownNotes, type LevelLine, type LineRequest } from './lineRequest';

/** A line shaped and fitted, before anything is added. */
export interface PlainLine {
  readonly line: LevelLine;
  readonly melody: Melody;
  readonly shaped: Shaped;
  /** Bars set by hand, by index. */
  readonly chosen: ReadonlyMap<number, BarChoice>;
  /** Those of them that are to be embellished, with their seeds. */
  readonly embellishedBars: ReadonlyMap<number, number>;
}

/** The notes that the level takes of the tune, where the instrument has them, with bars set by hand in their places. */
export function fittedLine(source: Source, request: LineRequest): PlainLine {
  const { instrument, level, limits = {} } = request;
  const chosen = chosenBars(source.tune, request);
  const wishes = shapeWishes(source, request, chosen);
  const shaped = chosen.size > 0 ? shape(source.tune, source.phrases, wishes) : sharedShape(source, wishes);
  const placed = fit(shaped.tune, instrument, level, shaped.phrases, limits.remedies ?? {}, knownNotes(request));
  const fitted = withOwnBars(withOctavesChosen(placed, chosen, instrument), chosen);
  const changes = withoutHidden([...shaped.changes, ...fitted.changes], fitted.changes);
  return {
    line: { ...fitted, ...baseOf(shaped.tune, fitted), changes, rounds: [] },
    melody: wishes.melody,
    shaped,
    chosen,
    embellishedBars: new Map(
      [...chosen].flatMap(([index, choice]) => (choice.kind === 'embellished' ? [[index, choice.seed] as const] : [])),
    ),
  };
}

/** What plays the many quick grace notes of pipers: fingers on holes or keys, and a bow over left-hand fingers. */
const PIPES: ReadonlySet<Instrument['mechanism']['kind']> = new Set(['holes', 'keys', 'bowed']);

function chosenBars(tune: Tune, { bars = {}, shape: shaping }: LineRequest): ReadonlyMap<number, BarChoice> {
  if (shaping === 'none') return new Map();
  return new Map(
    tune.bars.flatMap(({ id }, index) => {
      const choice = bars.chosen?.[id];
      return choice ? [[index, choice] as const] : [];
    }),
  );
}

function shapeWishes(
  { tune, phrases }: Source,
  request: LineRequest,
  chosen: ReadonlyMap<number, BarChoice>,
): ShapeWishes {
  const { level, instrument, keyAndTempo = {}, rhythm = {}, shape: shaping } = request;
  const tempo = levelTempo(tune, level, keyAndTempo.perMinute);
  const none: ReadonlySet<EventId> = new Set();
  if (shaping === 'none')
    return { melody: 'as written', rhythm: {}, fastest: undefined, tempo, chosen, outOfReach: none, pipes: true };
  const { melody: usual, fastest } = LEVEL_DEFAULTS[level];
  const melody = request.melody ?? usual;
  const isSlow = melody === 'simplified' && rhythm.shortest === undefined && readsEighths(tune, tempo);
  return {
    melody,
    rhythm: isSlow ? { ...rhythm, shortest: 'eighth' } : rhythm,
    fastest: melody === 'as written' ? undefined : fastest,
    tempo,
    chosen,
    pipes: PIPES.has(instrument.mechanism.kind),
    outOfReach:
      melody === 'simplified' ? eventsOutOfReach(tune, instrument, level, phrases, knownNotes(request)) : none,
  };
}

/** Quarters a minute up to which an eighth is no quicker than the quarters of other tunes. */
const SLOW_QUARTERS = 60;
/** A tune is slow itself, whatever the level makes of it, where so much of its own tempo is. */
const SLOWER_BY = 0.9;

/**
 * Whether a beginner reads the eighths of a tune: it is slow, and they are its usual notes. Rule: the shortest note
 * follows tempo and meter, not its name.
 */
function readsEighths(tune: Tune, tempo: Tempo): boolean {
  const slow = Math.max(quartersPerMinute(tempo), quartersPerMinute(tune.tempo) * SLOWER_BY);
  if (slow > SLOW_QUARTERS || isCompound(tune.meter)) return false;
  const lengths = soundingNotes(tune)
    .map(({ length }) => length)
    .toSorted((a, b) => a - b);
  return (lengths[Math.floor(lengths.length / 2)] ?? Infinity) <= TICKS_PER_QUARTER / 2;
}

/** What was done to a bar before the teacher's own took its place is not to be seen. */
function withoutHidden(all: LevelLine['changes'], last: LevelLine['changes']): LevelLine['changes'] {
  const isOwnBar = ({ detail }: LevelLine['changes'][number]) => detail.kind === 'chosen' && detail.variant === 'own';
  const hidden = new Set(last.filter(isOwnBar).map(({ barIndex }) => barIndex));
  return all.filter((change) => !hidden.has(change.barIndex) || isOwnBar(change));
}

/**
 * The line before it was moved, and by how many octaves it was, where all of it moved alike; else the line as it lies.
 */
function baseOf(shaped: Tune, { tune: fitted, octaves }: Fitted): Pick<LevelLine, 'base' | 'shift'> {
  if (fitted === lineByOctaves(shaped, octaves)) return { base: shaped, shift: octaves };
  let shift: number | undefined;
  const isAlike = shaped.bars.every((bar, index) =>
    bar.events.every((event, k) => {
      const there = fitted.bars[index]?.events[k];
      if (!there || there.id !== event.id || there.kind !== event.kind) return false;
      if (!isNote(event) || !isNote(there)) return true;
      shift ??= there.pitch.octave - event.pitch.octave;
      return (
        there.pitch.octave - event.pitch.octave === shift &&
        there.pitch.step === event.pitch.step &&
        there.pitch.alter === event.pitch.alter &&
        event.slurStarts === there.slurStarts &&
        event.slurEnds === there.slurEnds &&
        event.tied === there.tied
      );
    }),
  );
  return isAlike ? { base: shaped, shift: shift ?? 0 } : { base: fitted, shift: 0 };
}
