import { fileSlug, logToCsv, planToCsv } from '../core/formats';
import { planCalendar } from '../core/formats/calendar';
import { dateOfDay, knownDay, mondayOf, type Plan, planOf, type Pupil, requestFor } from '../core/planning';
import type { StudioDatabase } from '../db/studioDatabase';
import type { WeekPaper } from '../engrave/sheet';
import { runPatiently } from './pool/pool';
import { logForPlan, type OpenedPupil, wholeLog } from './pupils';
import { storedTune } from './tunes';

/** Files of a pupil, as their addresses name them. */
export const PUPIL_FILES = ['practice.pdf', 'practice.ics', 'plan.csv', 'log.csv', 'pupil.json'] as const;
export type PupilFile = (typeof PUPIL_FILES)[number];

export interface PupilFileWishes {
  readonly today: string;
  readonly paper: WeekPaper;
  /** Weeks from the one of today on; all of the plan where absent. */
  readonly weeks?: number;
}

interface MadeFile {
  readonly data: string | Uint8Array;
  readonly type: string;
  readonly name: string;
}

const TYPES: Readonly<Record<PupilFile, string>> = {
  'practice.pdf': 'application/pdf',
  'practice.ics': 'text/calendar; charset=utf-8',
  'plan.csv': 'text/csv; charset=utf-8',
  'log.csv': 'text/csv; charset=utf-8',
  'pupil.json': 'application/json; charset=utf-8',
};

/** A pupil's plan from a day on; `undefined` where they play nothing that is in the catalogue. */
export async function planOfPupil(
  studio: StudioDatabase,
  { id, pupil }: OpenedPupil,
  today: string,
): Promise<Plan | undefined> {
  const log = await logForPlan(studio, id, today);
  // A plan of a day that is past is as it was then; who logs a day ahead lives where it is tomorrow.
  const tomorrow = dateOfDay(knownDay(today) + 1);
  const known = log.filter(({ date }) => date <= tomorrow);
  const request = requestFor(pupil, known, today);
  return request && planOf(request);
}

/** The plan up to the Sunday of the last of so many weeks. */
function firstWeeks(plan: Plan, today: string, weeks: number | undefined): Plan {
  if (weeks === undefined) return plan;
  const last = dateOfDay(mondayOf(knownDay(today)) + 7 * weeks - 1);
  return { ...plan, days: plan.days.filter(({ date }) => date <= last) };
}

/** Makes a file of a pupil; `undefined` where there is nothing to make it of. */
export async function pupilFile(
  studio: StudioDatabase,
  opened: OpenedPupil,
  file: PupilFile,
  { today, paper, weeks }: PupilFileWishes,
  signal: AbortSignal,
): Promise<MadeFile | undefined> {
  const { id, pupil } = opened;
  const made = (data: string | Uint8Array | undefined): MadeFile | undefined =>
    data === undefined ? undefined : { data, type: TYPES[file], name: `${fileSlug(pupil.name)}.${file}` };
  if (file === 'log.csv') return made(`\uFEFF${logToCsv(await wholeLog(studio, id))}`);
  if (file === 'pupil.json')
    return made(
      `${JSON.stringify({ format: 'reed-hook-pupil', id, pupil, log: await wholeLog(studio, id) }, undefined, 1)}\n`,
    );
  const whole = await planOfPupil(studio, opened, today);
  if (!whole) return undefined;
  const plan = firstWeeks(whole, today, weeks);
  if (file === 'plan.csv') return made(`\uFEFF${planToCsv(plan.days)}`);
  if (file === 'practice.ics')
    return made(planCalendar(plan.days, { name: pupil.name, from: plan.from }, lessonTime(pupil)));
  return made(await runPatiently('practiceSheet', { pupil, plan, paper, works: await worksOf(studio, pupil) }, signal));
}

function lessonTime({ lesson }: Pupil) {
  if (!lesson) return undefined;
  const [hour = 0, minute = 0] = lesson.time.split(':').map(Number);
  return { hour, minute, length: lesson.minutes };
}

/** The stored tunes of what a pupil works at; what is not on the shelf any more is left out. */
export async function worksOf(studio: StudioDatabase, pupil: Pupil) {
  const going = pupil.work.filter(({ state, tune }) => state === 'going' && tune !== undefined);
  const found = await Promise.all(
    going.map(async ({ id, tune = '' }) => {
      const stored = await storedTune(studio, tune);
      return stored ? ([id, { tune: stored.tune, recipes: stored.recipes }] as const) : undefined;
    }),
  );
  return found.flatMap((one) => (one ? [one] : []));
}
