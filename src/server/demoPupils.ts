import { type Chance, chanceFrom } from '../core/chance';
import { groupSize, keysOfDrill, parsePattern, patternName } from '../core/drills';
import type { SentEntry } from '../core/formats';
import type { Group, GroupPlayer } from '../core/keys';
import { namePitchClass, parseNotes, parsePitch, pitchClassOf } from '../core/pitch';
import {
  dateOfDay,
  type DayNumber,
  instrumentOfPlaying,
  knownDay,
  type LogEntry,
  mondayOf,
  type PlanItem,
  planOf,
  type Playing,
  type Pupil,
  type PupilWork,
  requestFor,
  weekdayOf,
} from '../core/planning';
import { tonicsInOrder } from '../core/drills';
import type { DrillIdea } from '../core/score';
import { DEMO_PUPILS, type DemoPupil } from '../demo/pupils';
import { DEMO_DRILLS, DEMO_TUNES } from '../demo/studio';
import { demoDrill, demoWork } from './demoStudio';
import { checkPupil } from './pupils';
import { workSource } from './workSource';

/** Days of the log that the demo comes with: four months. */
const LOG_DAYS = 120;
/** How many weeks ago the first work of a pupil was set, the second, and so on: what is newest is worked at most. */
const SINCE_WEEKS = [2, 7, 12, 18] as const;
/** The first instrument of a demo pupil. */
const FIRST = 'a';

export interface MadePupil {
  readonly id: string;
  readonly pupil: Pupil;
  readonly log: readonly SentEntry[];
}

/** The demo's pupils with four months of log, the same for the same day. @throws Error where the demo is wrong */
export function demoPupils(today: string): readonly MadePupil[] {
  return DEMO_PUPILS.map((demo) => {
    const pupil = pupilOf(demo, today);
    return { id: `demo-${demo.id}`, pupil, log: practised(pupil, demo, today) };
  });
}

/** A demo group with its players as the pupils who they are. */
export function withDemoPupils(group: Group, pupils: readonly MadePupil[]): Group {
  return {
    ...group,
    players: group.players.map((player): GroupPlayer => {
      const found = pupils.find(({ pupil }) => pupil.name === player.name);
      return found ? { ...player, pupil: found.id, playing: FIRST } : player;
    }),
  };
}

function pupilOf(demo: DemoPupil, today: string): Pupil {
  const { name, instrument, level, high, known, marks, second, lesson, practice, school } = demo;
  const top = high === undefined ? undefined : parsePitch(high);
  const notes = known === undefined ? undefined : parseNotes(known);
  const playing: Playing = {
    id: FIRST,
    instrument,
    level,
    ...(top?.ok && { high: top.value }),
    ...(notes?.ok && { known: notes.value }),
    ...(marks && { marks }),
  };
  const checked = checkPupil({
    name,
    playing: [playing, ...(second ? [{ ...second, id: 'b' }] : [])],
    lesson,
    practice,
    off: [],
    school,
    work: demo.work.map((work, k) => workOf(work, `w${k + 1}`, playing, today)),
    pins: [],
    lessons: [],
  });
  if (!checked.ok) throw new Error(`demo pupil ${name}: ${checked.problem.join('; ')}`);
  const lessons = demo.notes.map((note, k) => ({
    date: lessonBefore(checked.value, today, demo.notes.length - k),
    note,
  }));
  return { ...checked.value, lessons };
}

/** The date of the lesson so many weeks ago. */
function lessonBefore({ lesson }: Pupil, today: string, weeks: number): string {
  let day = knownDay(today) - 1;
  while (weekdayOf(day) !== lesson?.weekday) day -= 1;
  return dateOfDay(day - 7 * (weeks - 1));
}

function workOf(work: DemoPupil['work'][number], id: string, playing: Playing, today: string): PupilWork {
  const common = { id, playing: FIRST, state: 'going' as const };
  if ('rounds' in work)
    return {
      ...common,
      kind: 'rounds',
      title: 'Rounds through twelve keys',
      order: tonicsInOrder('fourths', { step: 'C', alter: 0 }),
    };
  if ('scale' in work) {
    const tonic = parsePitch(`${work.scale}4`);
    if (!tonic.ok) throw new Error(`demo pupil: ${work.scale} is no tonic`);
    const name = `${namePitchClass(tonic.value)} ${work.set.replace(/ scale$/, '')}`;
    const scale = { ...common, tonic: pitchClassOf(tonic.value), set: work.set };
    return work.use === 'memory'
      ? { ...scale, kind: 'memory', title: `${name} by heart`, goal: 80, start: 60 }
      : { ...scale, kind: 'pool', title: `Improvise with ${name}` };
  }
  const tempo = { goal: work.goal, ...(work.start !== undefined && { start: work.start }) };
  if ('drill' in work && work.drill === 'thirds') return { ...common, ...thirds(playing), ...tempo, pace: work.pace };
  const slug = 'drill' in work ? work.drill : work.tune;
  const tune = DEMO_TUNES.find((one) => one.slug === slug);
  const drill = DEMO_DRILLS.find((one) => one.slug === slug);
  const source = tune ? workSource(demoWork(tune), playing) : drill && workSource(demoDrill(drill), playing);
  if (!source) throw new Error(`demo pupil: ${slug} is not on the shelf`);
  const { writtenKey: _, ...rest } = source;
  return {
    ...rest,
    ...common,
    ...tempo,
    tune: slug,
    ...('ear' in work && rest.kind === 'tune' && { kind: 'ear' as const, title: `${rest.title}, by ear` }),
    ...('pace' in work && { pace: work.pace }),
    ...('inWeeks' in work && work.inWeeks !== undefined && { by: dateOfDay(knownDay(today) + 7 * work.inWeeks) }),
  } as PupilWork;
}

function thirds(playing: Playing) {
  const instrument = instrumentOfPlaying(playing);
  const pattern = parsePattern('thirds');
  if (!instrument || !pattern.ok) throw new Error('demo pupil: no thirds');
  const idea: DrillIdea = { steps: [{ set: 'major', pattern: 'thirds' }], keys: 'fourths' };
  return {
    kind: 'drill' as const,
    title: 'Thirds in all major keys',
    set: 'major' as const,
    patternName: patternName('thirds'),
    groupSize: groupSize(pattern.value),
    keys: keysOfDrill(idea, { instrument, level: playing.level }),
  };
}

/** What the pupil practised up to yesterday: week by week what the plan had, as their habits are. */
function practised(pupil: Pupil, demo: DemoPupil, today: string): readonly SentEntry[] {
  const chance = chanceFrom(`practice of ${demo.id}`);
  const end = knownDay(today);
  const log: SentEntry[] = [];
  for (let monday = mondayOf(end - LOG_DAYS); monday < end; monday += 7) {
    const weeksAgo = Math.ceil((end - monday) / 7);
    if (demo.habits.weeksAway?.includes(weeksAgo)) continue;
    const since = demo.since ?? SINCE_WEEKS;
    const begun = pupil.work.filter((_, k) => weeksAgo <= (since[k] ?? 0));
    const request = requestFor({ ...pupil, work: begun, until: dateOfDay(end + 60) }, log, dateOfDay(monday));
    const days = request ? planOf(request).days.slice(0, 7) : [];
    for (const { date, items, lesson } of days) {
      const day = knownDay(date);
      if (day >= end) break;
      if (items.length > 0 && chance() >= demo.habits.missed)
        for (const item of items) {
          const entry = entryOf(item, day, demo, chance);
          if (entry) log.push({ ...entry, id: `demo-${demo.id}-${log.length}` });
        }
      if (lesson) log.push(...lessonEntries({ ...pupil, work: begun }, log, date, demo));
    }
  }
  return log;
}

function entryOf(item: PlanItem, day: DayNumber, demo: DemoPupil, chance: Chance): LogEntry | undefined {
  if (item.kind === 'warm-up') return undefined;
  const { habits } = demo;
  const minutes = Math.max(1, Math.round(item.minutes * habits.minutes * (0.8 + 0.4 * chance())));
  // It is one piece that somebody is stuck in.
  const isTooFast = item.work === 'w1' && (item.tempo ?? 0) > (habits.ceiling ?? Infinity);
  const isGood = !isTooFast && chance() < habits.good;
  const [good, again] = isGood
    ? [1 + Math.floor(2 * chance()), chance() < 0.3 ? 1 : 0]
    : [0, 1 + Math.floor(2 * chance())];
  const by = chance() < 0.6 ? 'stand' : chance() < 0.5 ? 'listener' : 'pupil';
  const notes = 32 + Math.floor(20 * chance());
  const right = Math.round(notes * Math.min(1, (isGood ? 0.92 : 0.78) + 0.08 * chance()));
  return {
    date: dateOfDay(day),
    work: item.work,
    step: item.step,
    minutes,
    ...(item.tempo !== undefined && { tempo: item.tempo }),
    good,
    again,
    by,
    note: by === 'listener' ? `${right} of ${notes} notes` : '',
  };
}

/** In every third lesson the teacher says that a step is done. */
function lessonEntries(pupil: Pupil, log: readonly LogEntry[], date: string, demo: DemoPupil): readonly SentEntry[] {
  if (Math.floor(knownDay(date) / 7) % 3 !== 0) return [];
  const request = requestFor(pupil, log, date);
  const [work] = request ? planOf(request).work : [];
  const step = work?.steps.find(({ state }) => state === 'open');
  const tooFast = demo.habits.ceiling !== undefined && (step?.tempo ?? 0) > demo.habits.ceiling;
  if (!work || !step || tooFast) return [];
  return [
    {
      id: `demo-${demo.id}-${log.length}`,
      date,
      work: work.id,
      step: step.step,
      minutes: 0,
      ...(step.tempo !== undefined && { tempo: step.tempo }),
      good: 1,
      again: 0,
      by: 'teacher',
      note: '',
    },
  ];
}
