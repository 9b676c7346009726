import { ownScale, type TuneAnalysis } from '../analysis';
import { nameScale } from '../harmony';
import { type Pitch, semitones } from '../pitch';
import { withProposedChords } from '../pools';
import { DRILL_LIMITS, type DrillIdea, soundingNotes, type Tune } from '../score';
import { type Ticks, TICKS_PER_QUARTER } from '../time';
import { formOfTune } from './drill';
import { rungsOf } from './rungs';

/** A drill that a tune asks for. */
export interface DrillProposal {
  readonly id: 'scale' | 'thirds' | 'chords' | 'guide-tones' | 'cadence' | 'hard-bar';
  readonly title: string;
  readonly why: string;
  readonly idea: DrillIdea;
}

/**
 * Drills from a tune: its own scale and the thirds of it, its chords as they go by, its guide tones, and its hardest
 * bar as a cell moved through the scale in the bar's own rhythm.
 * @param hardest index of the hardest bar and its printed number, where it is known
 */
export function drillsFromTune(
  tune: Tune,
  analysis: TuneAnalysis,
  hardest?: { readonly index: number; readonly number: number },
): readonly DrillProposal[] {
  const scale = ownScale(analysis);
  const name = tune.title || 'this tune';
  const hasMelody = soundingNotes(tune).length > 0;
  const keys = [scale.tonic];
  const proposals: DrillProposal[] = [
    {
      id: 'scale',
      title: `The scale of ${name}`,
      why: hasMelody ? `${nameScale(scale)} holds the whole melody` : `${nameScale(scale)} is the scale of its key`,
      idea: { steps: [{ set: scale.name, pattern: 'scale' }], keys, spoken: true },
    },
    {
      id: 'thirds',
      title: `Thirds for ${name}`,
      why: 'the same notes, skipping one',
      idea: { steps: [{ set: scale.name, pattern: 'thirds' }], keys },
    },
  ];
  const over = formOfTune(withProposedChords(tune));
  if (over) {
    const set = scale.name;
    proposals.push(
      {
        id: 'chords',
        title: `The chords of ${name}`,
        why: '1 3 5 7 of each chord for as long as it sounds',
        idea: { steps: [{ set, pattern: 'chords' }], over },
      },
      {
        id: 'guide-tones',
        title: `Guide tones of ${name}`,
        why: 'third and seventh, held, each going to the nearest of the next',
        idea: { steps: [{ set, pattern: 'guide-tones' }], over },
      },
    );
  }
  const cell = hardest && cellOfBar(tune, hardest.index, analysis);
  if (cell)
    proposals.push({
      id: 'hard-bar',
      title: `Bar ${hardest.number} of ${name} as an exercise`,
      why: 'the hardest bar, moved through the scale in its own rhythm',
      idea: {
        steps: [{ set: scale.name, pattern: `cell:${cell.degrees.join(' ')}`, rhythm: 'borrowed' }],
        keys,
        borrowed: cell.rhythm,
      },
    });
  return proposals;
}

/** Borrowed rhythms are made of sixteenths. */
const GRID = TICKS_PER_QUARTER / 4;

/** A bar's line as degrees above its first note, and its rhythm. */
function cellOfBar(
  tune: Tune,
  index: number,
  analysis: TuneAnalysis,
): { readonly degrees: readonly number[]; readonly rhythm: readonly Ticks[] } | undefined {
  const notes = soundingNotes(tune).filter(({ bar }) => bar === index);
  const { up } = rungsOf(ownScale(analysis));
  const rung = (pitch: Pitch) => {
    const at = up.findIndex((one) => semitones(one) >= semitones(pitch));
    return at < 0 ? 0 : at;
  };
  const [first] = notes;
  if (!first || notes.length < 3 || notes.length > DRILL_LIMITS.cell) return undefined;
  const degrees = notes.map(({ pitch }) => rung(pitch) - rung(first.pitch) + 1);
  if (degrees.some((degree) => degree < -7 || degree > 15)) return undefined;
  const rhythm = rhythmOfBars(tune, index, index + 1);
  return rhythm ? { degrees, rhythm } : undefined;
}

/**
 * The rhythm of some bars of a tune as a drill borrows it: lengths on the grid of sixteenths, rests negative; none
 * where no note is struck.
 */
export function rhythmOfBars(tune: Tune, from: number, to: number): readonly Ticks[] | undefined {
  const events = tune.bars.slice(from, to).flatMap(({ events: inBar }) => inBar);
  const found: Ticks[] = [];
  // Rounded by where events begin, so that triplets do not lengthen the bar.
  let [at, placed, isTied] = [0, 0, false];
  for (const event of events) {
    at += event.length;
    const length = Math.round(at / GRID) * GRID - placed;
    placed += length;
    if (length > 0) {
      const last = found.at(-1);
      if (isTied && last !== undefined && last > 0) found[found.length - 1] = last + length;
      else found.push(event.kind === 'note' ? length : -length);
    }
    isTied = event.kind === 'note' && event.tied === true;
  }
  const isBorrowed = found.some((length) => length > 0) && found.length <= DRILL_LIMITS.borrowed;
  return isBorrowed ? found.map((length) => Math.max(-40_320, Math.min(40_320, length))) : undefined;
}
