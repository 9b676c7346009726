import { isMinorSet, type ScaleName } from '../harmony';
import type { Instrument } from '../instruments';
import { writtenKeyOf } from '../keys';
import { type PitchClass, namePitchClass, printKey, printPitchClass } from '../pitch';
import { climbOf, inQuanta, learningMinutes, rungsOf, TASKS } from './estimates';
import type { PlannedWork, StepIdea, WorkChunk } from './pupilWork';

/** Tempos of a drill's key: more would have it come back too often. */
const DRILL_RUNGS = 3;
/** Keys of a round, and rounds until all twelve were there. */
const KEYS_IN_ROUND = 4;

/** By what a work is learned, in order. */
/** Whose keys are named: a transposing player reads other notes than sound. */
export type Reader = Pick<Instrument, 'transposition'>;

/** @param reader names of keys are those that this player reads; concert names without one */
export function stepsOf(work: PlannedWork, reader?: Reader): readonly StepIdea[] {
  switch (work.kind) {
    case 'tune':
      return tuneSteps(work);
    case 'ear':
      return earSteps(work);
    case 'drill':
      return drillSteps(work, reader);
    case 'rounds':
      return roundSteps(work.order, reader);
    case 'memory':
      return memorySteps(work, reader);
    case 'pool':
      return poolSteps(work, reader);
  }
}

type WorkOf<Kind extends PlannedWork['kind']> = Extract<PlannedWork, { kind: Kind }> & { readonly kind: Kind };
type TuneWork = Extract<PlannedWork, { readonly chunks: readonly WorkChunk[] }>;

const at = (tempo: number | undefined) => (tempo === undefined ? '' : ` at ${tempo}`);
const withTempo = (tempo: number | undefined) => (tempo === undefined ? {} : { tempo });

/** `Bar 4`, `Bars 1 to 4`; a pickup is bar 0. */
export function barWords(fromBar: number, toBar: number): string {
  if (fromBar === 0) return toBar === 0 ? 'Pickup' : `Pickup to bar ${toBar}`;
  return fromBar === toBar ? `Bar ${fromBar}` : `Bars ${fromBar} to ${toBar}`;
}

/** Its chunks at the first tempo, joined two by two; all of it up to the goal; by heart where it is wanted. */
function tuneSteps(work: TuneWork): readonly StepIdea[] {
  const { chunks } = work;
  const climb = climbOf(work);
  const rungs = climb ? rungsOf(climb.start, climb.goal) : [undefined];
  const key = work.key ? { key: printKey(work.key) } : {};
  const first = rungs[0];
  const learning = chunks.reduce((sum, chunk) => sum + minutesOf(chunk), 0);
  const learned = chunks.flatMap((chunk, k): StepIdea[] => {
    const { fromBar, toBar } = chunk;
    const step: StepIdea = {
      step: `bars-${fromBar}-${toBar}`,
      what: `${barWords(fromBar, toBar)}${at(first)}`,
      kind: 'new',
      ...key,
      ...withTempo(first),
      fromBar,
      toBar,
      estimate: inQuanta(minutesOf(chunk)),
    };
    const before = chunks[k - 1];
    if (!before || k % 2 === 0) return [step];
    return [
      step,
      {
        step: `join-${before.fromBar}-${toBar}`,
        what: `${barWords(before.fromBar, toBar)} in one go${at(first)}`,
        kind: 'repeat',
        ...key,
        ...withTempo(first),
        fromBar: before.fromBar,
        toBar,
        estimate: inQuanta((minutesOf(before) + minutesOf(chunk)) * TASKS.joined),
      },
    ];
  });
  const all = wholeOf(chunks);
  const climbing = climb ? (learning * TASKS.climb * (climb.goal - climb.start)) / climb.start : 0;
  const whole = rungs.map((tempo, k): StepIdea => ({
    step: tempo === undefined ? 'whole' : `whole-${tempo}`,
    what: `All of it${at(tempo)}`,
    kind: 'repeat',
    ...key,
    ...withTempo(tempo),
    ...all,
    estimate: inQuanta(k === 0 ? learning * TASKS.whole : climbing / (rungs.length - 1)),
  }));
  return [...learned, ...whole, ...(work.byHeart ? [byHeart(learning, rungs.at(-1), { ...key, ...all })] : [])];
}

function byHeart(
  learning: number,
  tempo: number | undefined,
  rest: Pick<StepIdea, 'key' | 'fromBar' | 'toBar'>,
): StepIdea {
  return {
    step: 'by-heart',
    what: `All of it by heart${at(tempo)}`,
    kind: 'repeat',
    ...withTempo(tempo),
    ...rest,
    estimate: inQuanta(learning * TASKS.byHeart),
  };
}

/** By ear first: each phrase heard, sung and found; then all of it; the page comes last. */
function earSteps(work: TuneWork): readonly StepIdea[] {
  const key = work.key ? { key: printKey(work.key) } : {};
  const learning = work.chunks.reduce((sum, chunk) => sum + minutesOf(chunk), 0);
  const goal = climbOf(work)?.goal;
  return [
    ...work.chunks.map((chunk): StepIdea => ({
      step: `find-${chunk.fromBar}-${chunk.toBar}`,
      what: `${barWords(chunk.fromBar, chunk.toBar)}: listen, sing, find the notes`,
      kind: 'new',
      ...key,
      fromBar: chunk.fromBar,
      toBar: chunk.toBar,
      estimate: inQuanta(minutesOf(chunk) * 1.3),
    })),
    {
      step: 'whole',
      what: `All of it by ear${at(goal)}`,
      kind: 'repeat',
      ...key,
      ...withTempo(goal),
      ...wholeOf(work.chunks),
      estimate: inQuanta(learning * TASKS.byHeart),
    },
  ];
}

function minutesOf({ fromBar, toBar, difficulty }: WorkChunk): number {
  return learningMinutes(toBar - fromBar + 1, difficulty);
}

function wholeOf(chunks: readonly WorkChunk[]): { readonly fromBar?: number; readonly toBar?: number } {
  const [first] = chunks;
  const last = chunks.at(-1);
  return first && last ? { fromBar: first.fromBar, toBar: last.toBar } : {};
}

/**
 * Its keys, each through its tempos. A key a day or a week goes round the keys at the first tempo, then at the next;
 * as mastered, one key goes through its tempos before the next begins.
 */
function drillSteps(work: WorkOf<'drill'>, reader: Reader | undefined): readonly StepIdea[] {
  const climb = climbOf(work);
  const rungs = climb ? rungsOf(climb.start, climb.goal, DRILL_RUNGS) : [undefined];
  const base = TASKS.drillKey + TASKS.drillByNote * Math.max(0, work.groupSize - 2);
  const more = climb ? (base * TASKS.climb * (climb.goal - climb.start)) / climb.start : 0;
  const step = (tonic: PitchClass, rung: number): StepIdea => {
    const tempo = rungs[rung];
    const key = printPitchClass(tonic);
    return {
      step: tempo === undefined ? key : `${key}-${tempo}`,
      what: `${readName(tonic, work.set, reader)}, ${work.patternName}${at(tempo)}`,
      kind: rung === 0 ? 'new' : 'repeat',
      key,
      ...withTempo(tempo),
      estimate: inQuanta(rung === 0 ? base : more / (rungs.length - 1)),
    };
  };
  return work.pace === 'as-mastered'
    ? work.keys.flatMap((tonic) => rungs.map((_, rung) => step(tonic, rung)))
    : rungs.flatMap((_, rung) => work.keys.map((tonic) => step(tonic, rung)));
}

/** Three rounds of four keys: something new, the same moved to three keys, then something of one's own in all four. */
function roundSteps(order: readonly PitchClass[], reader: Reader | undefined): readonly StepIdea[] {
  const rounds = Array.from({ length: Math.ceil(order.length / KEYS_IN_ROUND) }, (_, k) =>
    order.slice(k * KEYS_IN_ROUND, (k + 1) * KEYS_IN_ROUND),
  );
  return rounds.flatMap((keys, k): StepIdea[] => [
    ...keys.map((tonic, place): StepIdea => ({
      step: `round-${k + 1}-${printPitchClass(tonic)}`,
      what:
        place === 0
          ? `Round ${k + 1}: the new material in ${readTonic(tonic, 'major', reader)}`
          : `Round ${k + 1}: the same moved to ${readTonic(tonic, 'major', reader)}`,
      kind: place === 0 ? 'new' : 'moved',
      key: printPitchClass(tonic),
      estimate: inQuanta(place === 0 ? TASKS.roundNew : TASKS.roundMoved),
    })),
    {
      step: `round-${k + 1}-own`,
      what: `Round ${k + 1}: something of your own in ${keys.map((tonic) => readTonic(tonic, 'major', reader)).join(', ')}`,
      kind: 'own',
      estimate: inQuanta(TASKS.roundOwn),
    },
  ]);
}

function memorySteps(
  work: { readonly tonic: PitchClass; readonly set: ScaleName; readonly goal?: number },
  reader: Reader | undefined,
): readonly StepIdea[] {
  const name = readName(work.tonic, work.set, reader);
  const key = printPitchClass(work.tonic);
  const step = (id: string, what: string, kind: StepIdea['kind'], goal?: number): StepIdea => ({
    step: id,
    what,
    kind,
    key,
    ...withTempo(goal),
    estimate: inQuanta(TASKS.memory),
  });
  return [
    step('say', `${name}: say the notes aloud, up and down`, 'new'),
    step('finger', `${name}: finger it in silence, saying the notes`, 'repeat'),
    step('play', `${name}: play it from the page${at(work.goal)}`, 'repeat', work.goal),
    step('by-heart', `${name}: play it by heart${at(work.goal)}`, 'repeat', work.goal),
  ];
}

function poolSteps(
  work: { readonly tonic: PitchClass; readonly set: ScaleName },
  reader: Reader | undefined,
): readonly StepIdea[] {
  const name = readName(work.tonic, work.set, reader);
  const key = printPitchClass(work.tonic);
  const step = (id: string, what: string, kind: StepIdea['kind']): StepIdea => ({
    step: id,
    what,
    kind,
    key,
    estimate: inQuanta(TASKS.pool),
  });
  return [
    step('notes', `${name}: the notes, up and down and in skips`, 'new'),
    step('phrases', `${name}: two-bar phrases with rests between them`, 'repeat'),
    step('chorus', `${name}: a chorus of your own`, 'own'),
  ];
}

/** A set's name after its tonic: `minor pentatonic`. */
function setWords(set: ScaleName): string {
  return set.replace(/ scale$/, '');
}

function readTonic(tonic: PitchClass, set: ScaleName, reader: Reader | undefined): string {
  return namePitchClass(reader ? writtenKeyOf(reader, keyOfSet(tonic, set)).tonic : tonic);
}

/** `G minor pentatonic`, as the reader reads it. */
function readName(tonic: PitchClass, set: ScaleName, reader: Reader | undefined): string {
  return `${readTonic(tonic, set, reader)} ${setWords(set)}`;
}

/** A tonic with the mode that its set is nearest to: what a player's signature is found by. */
export function keyOfSet(tonic: PitchClass, set: ScaleName) {
  return { tonic, mode: isMinorSet(set) ? ('minor' as const) : ('major' as const) };
}
