import type { CustomInstrument, Instrument, Level } from '../instruments';
import { type GroupPlayer, instrumentOfPlayer, type PackChoice } from '../keys';
import { type CalendarDate, dateOfDay, knownDay, mondayOf, type Weekday } from './dates';
import type { LogEntry, Pin, PlannedWork, PlanRequest, School } from './pupilWork';

/** What a pupil plays, with what holds for them on it: as a group's player, without the name. */
export type Playing = Omit<GroupPlayer, 'name' | 'pupil' | 'playing'>;

/** A work on the stand of a pupil. `removed` ones stay for the log's sake, and are not planned. */
export type PupilWork = PlannedWork & {
  /** On which of the pupil's instruments. */
  readonly playing: string;
  /** The tune or drill of the shelf that it came from. */
  readonly tune?: string;
  readonly state: 'going' | 'aside' | 'removed';
};

/** A lesson that was held, with what the teacher noted. */
interface LessonNote {
  readonly date: CalendarDate;
  readonly note: string;
}

/** A pupil. Only a first name is asked for; nothing else is needed to plan a week. */
export interface Pupil {
  readonly name: string;
  readonly playing: readonly Playing[];
  readonly lesson?: {
    readonly weekday: Weekday;
    /** `16:30`. */
    readonly time: string;
    readonly minutes: number;
  };
  readonly practice: Readonly<Partial<Record<Weekday, number>>>;
  readonly off: readonly { readonly from: CalendarDate; readonly to: CalendarDate }[];
  readonly school: School;
  /** The end of the term; twelve weeks from today where absent. */
  readonly until?: CalendarDate;
  readonly work: readonly PupilWork[];
  readonly pins: readonly Pin[];
  readonly lessons: readonly LessonNote[];
  /** Pupils of the same name who are known to be others. */
  readonly notThese?: readonly string[];
  /** What was handed out last. */
  readonly pack?: PackChoice;
}

export const PUPIL_LIMITS = {
  name: 80,
  playing: 8,
  off: 100,
  work: 100,
  pins: 500,
  lessons: 1_000,
  note: 2_000,
  dayMinutes: 600,
} as const;

/** Weeks that are planned where no end is set. */
const USUAL_WEEKS = 12;

/** A pupil who has only a name and an instrument. */
export function newPupil(name: string, playing: Playing): Pupil {
  return { name, playing: [playing], practice: {}, off: [], school: 'mastered', work: [], pins: [], lessons: [] };
}

/** The instrument that a work is played on; `undefined` where it is not in the catalogue any more. */
export function instrumentOfPlaying(playing: Playing): Instrument | undefined {
  return instrumentOfPlayer({ ...playing, name: '' });
}

export function playingOf(pupil: Pupil, id: string | undefined): Playing | undefined {
  return pupil.playing.find((one) => one.id === id) ?? pupil.playing[0];
}

/** Up to when a pupil's practice is planned. */
function plannedUntil({ until }: Pupil, today: CalendarDate): CalendarDate {
  return until !== undefined && until >= today ? until : dateOfDay(mondayOf(knownDay(today)) + 7 * USUAL_WEEKS - 1);
}

/**
 * What a pupil's plan is made of; `undefined` where they play nothing that is in the catalogue. All instruments share
 * the pupil's minutes; keys are told as the first of them reads.
 */
export function requestFor(pupil: Pupil, log: readonly LogEntry[], today: CalendarDate): PlanRequest | undefined {
  const [first] = pupil.playing;
  const instrument = first && instrumentOfPlaying(first);
  if (!instrument) return undefined;
  return {
    pupil: { name: pupil.name, instrument, level: first.level },
    from: today,
    to: plannedUntil(pupil, today),
    today,
    practice: pupil.practice,
    ...(pupil.lesson && { lesson: pupil.lesson.weekday }),
    off: pupil.off,
    school: pupil.school,
    work: pupil.work.filter(({ state }) => state === 'going'),
    log: log.filter(({ work }) => pupil.work.some(({ id, state }) => id === work && state === 'going')),
    pins: pupil.pins,
  };
}

/** A player of a group as their pupil is now. */
export function playerAsPupil(player: GroupPlayer, pupil: Pupil): GroupPlayer {
  const playing = playingOf(pupil, player.playing);
  if (!playing) return player;
  return { ...playing, id: player.id, name: pupil.name, pupil: player.pupil ?? '', playing: playing.id };
}

/** A pupil as a player of a group was changed: name, instrument, level, limits and aids are the pupil's. */
export function pupilAsPlayer(pupil: Pupil, player: GroupPlayer): Pupil {
  const { name, pupil: _, playing: id = pupil.playing[0]?.id ?? '', ...rest } = player;
  return {
    ...pupil,
    name: name.trim() || pupil.name,
    playing: pupil.playing.map((one) => (one.id === id ? { ...rest, id } : one)),
  };
}

/** Two instruments are the same for the question whether two pupils are. */
function samePlaying(
  a: { readonly instrument: string; readonly custom?: CustomInstrument; readonly level: Level },
  b: typeof a,
): boolean {
  return a.instrument === b.instrument && a.custom?.id === b.custom?.id;
}

/**
 * Pupils who may be one and the same: the same first name on the same instrument. They are shown to the teacher, never
 * joined by the program.
 */
export function possiblySame(
  pupils: readonly { readonly id: string; readonly pupil: Pupil }[],
): readonly (readonly [string, string])[] {
  return pupils.flatMap((a, k) =>
    pupils.slice(k + 1).flatMap((b): (readonly [string, string])[] => {
      const isKnownOther = a.pupil.notThese?.includes(b.id) || b.pupil.notThese?.includes(a.id);
      const isSame =
        a.pupil.name.trim().toLocaleLowerCase() === b.pupil.name.trim().toLocaleLowerCase() &&
        a.pupil.playing.some((one) => b.pupil.playing.some((other) => samePlaying(one, other)));
      return isSame && !isKnownOther ? [[a.id, b.id]] : [];
    }),
  );
}

/** Two pupils as one: what the first says holds; what only the other has comes along. */
export function joinPupils(
  kept: Pupil,
  other: Pupil,
  freshId: (taken: readonly string[]) => string,
): {
  readonly pupil: Pupil;
  /** The other's instruments by the id that they have now. */
  readonly playing: ReadonlyMap<string, string>;
} {
  const playing = [...kept.playing];
  const moved = new Map<string, string>();
  for (const one of other.playing) {
    const same = playing.find((known) => samePlaying(known, one));
    const id = same?.id ?? freshId(playing.map((known) => known.id));
    moved.set(one.id, id);
    if (!same && playing.length < PUPIL_LIMITS.playing) playing.push({ ...one, id });
  }
  const { lesson = other.lesson, until = other.until } = kept;
  const ids = new Set(kept.work.map(({ id }) => id));
  return {
    pupil: {
      ...kept,
      playing,
      ...(lesson && { lesson }),
      ...(until && { until }),
      practice: Object.keys(kept.practice).length > 0 ? kept.practice : other.practice,
      off: [...kept.off, ...other.off].slice(0, PUPIL_LIMITS.off),
      work: [
        ...kept.work,
        ...other.work
          .filter(({ id }) => !ids.has(id))
          .map((one) => ({ ...one, playing: moved.get(one.playing) ?? one.playing })),
      ].slice(0, PUPIL_LIMITS.work),
      pins: [...kept.pins, ...other.pins].slice(-PUPIL_LIMITS.pins),
      lessons: [...kept.lessons, ...other.lessons]
        .toSorted((a, b) => a.date.localeCompare(b.date))
        .slice(-PUPIL_LIMITS.lessons),
    },
    playing: moved,
  };
}
