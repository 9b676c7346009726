import { groupSize, keysOfDrill, parsePattern, patternName } from '../core/drills';
import { partForPlayer } from '../core/keys';
import { printKey } from '../core/pitch';
import {
  barWords,
  chunksOfPart,
  instrumentOfPlaying,
  type Plan,
  type PlannedWork,
  type Playing,
  type Pupil,
  type PupilWork,
} from '../core/planning';
import { hasPickup } from '../core/score';
import { recipesOf, type Work } from '../core/work';
import { type HardBars, practiceSheetPdf } from '../engrave/practiceSheet';
import type { WeekPaper } from '../engrave/sheet';
import { partBars } from './engraving';

type Distributed<Union, Names extends PropertyKey> = Union extends unknown ? Omit<Union, Names> : never;

/** What a pupil's work takes from the shelf: all but its id, and whose it is. */
export type WorkSource = Distributed<PlannedWork, 'id'> & {
  /** The written key, for the eye. */
  readonly writtenKey?: string;
};

/**
 * A tune or drill of the shelf as a pupil works at it: the part's chunks with their difficulty, its key and tempo; of a
 * drill its first exercise and keys. `undefined` where the instrument is not there any more, or nothing can be learned.
 */
export function workSource(work: Work, playing: Playing): WorkSource | undefined {
  const instrument = instrumentOfPlaying(playing);
  if (!instrument) return undefined;
  const { tune } = work;
  const made = partForPlayer(work, { ...playing, name: '' });
  const goal = made?.part.tempo.perMinute;
  const tempo = goal === undefined ? {} : { goal };
  const [exercise] = tune.drill?.steps ?? [];
  if (tune.drill && exercise) {
    const pattern = parsePattern(exercise.pattern);
    const wishes = recipesOf(work)[playing.level].drill;
    const keys = keysOfDrill(tune.drill, { instrument, level: playing.level, ...(wishes && { wishes }) });
    if (!pattern.ok || keys.length === 0) return undefined;
    return {
      kind: 'drill',
      title: tune.title,
      set: exercise.set,
      patternName: patternName(exercise.pattern),
      groupSize: groupSize(pattern.value),
      keys,
      pace: 'as-mastered',
      ...tempo,
    };
  }
  if (!made) return undefined;
  const chunks = chunksOfPart(made.part, hasPickup(made.part));
  if (chunks.length === 0) return undefined;
  return {
    kind: 'tune',
    title: tune.title,
    chunks,
    key: made.part.concertKey,
    writtenKey: printKey(made.part.writtenKey),
    ...tempo,
  };
}

/** The hardest chunk of a pupil's work, engraved small. */
async function hardBarsOf(work: Work, entry: PupilWork, playing: Playing): Promise<HardBars | undefined> {
  if (!('chunks' in entry) || entry.chunks.length < 2) return undefined;
  const made = partForPlayer(work, { ...playing, name: '' }, 'bare');
  if (!made) return undefined;
  const { part } = made;
  const first = hasPickup(part) ? 0 : 1;
  const hardest = entry.chunks.toSorted((a, b) => b.difficulty - a.difficulty)[0];
  if (!hardest || hardest.toBar - first >= part.bars.length) return undefined;
  const from = hardest.fromBar - first;
  // Two bars are enough to be seen at arm's length.
  const to = Math.min(hardest.toBar - first + 1, from + 2);
  const { svg, geometry } = await partBars(part, from, to, HARD_WIDTH);
  return {
    work: entry.id,
    words: `${entry.title}: ${barWords(hardest.fromBar, hardest.fromBar + to - from - 1).toLowerCase()}, the hardest`,
    svg,
    shape: geometry.width / Math.max(1, geometry.height),
  };
}

/** Width of two engraved bars, in the engraver's pixels. */
const HARD_WIDTH = 460;

/** What a sheet of practice is made of. */
export interface SheetRequest {
  readonly pupil: Pupil;
  readonly plan: Plan;
  readonly paper: WeekPaper;
  /** Stored works by the id of the pupil's work. */
  readonly works: ReadonlyMap<string, Work>;
}

/** A pupil's weeks on paper; `undefined` where they play nothing that is in the catalogue. */
export async function practiceSheet({ pupil, plan, paper, works }: SheetRequest): Promise<Uint8Array | undefined> {
  const [first] = pupil.playing;
  const instrument = first && instrumentOfPlaying(first);
  if (!instrument) return undefined;
  const hardBars: HardBars[] = [];
  for (const entry of pupil.work) {
    const work = works.get(entry.id);
    const playing = pupil.playing.find(({ id }) => id === entry.playing);
    const drawn = work && playing && (await hardBarsOf(work, entry, playing));
    if (drawn) hardBars.push(drawn);
  }
  return practiceSheetPdf(plan, { instrument, paper, hardBars });
}
