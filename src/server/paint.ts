import type { FirstPaint } from '../engrave/benchEngraver';
import type { ByEarSheet } from '../engrave/byEarSheet';
import type { PitchView } from '../engrave/lanes';
import type { Group } from '../core/keys';
import type { CustomInstrument } from '../core/instruments';
import type { StoredTexts } from '../db/tuneRepository';
import type { DrawnNote } from './fingerCharts';
import type { GroupSheet } from './groupParts';
import { LRUCache } from 'lru-cache';
import { artifactCache } from './artifactCache';
import type { JobArgs, JobName, JobResult } from './pool/jobs';
import { patiently, runOnPool } from './pool/pool';
import { isBusy, jobFailureOf } from './pool/workerPool';
import { buildId, contentKey } from './storedWork';

/** A page that cannot do without has this many turns at a busy server before it says so. */
const PAGE_TRIES = 3;

/** What pages show of a tune, made on a worker and kept like files. */
async function kept<Name extends JobName>(job: Name, args: JobArgs<Name>): Promise<JobResult<Name>> {
  const bytes = await patiently(
    () =>
      artifactCache().get(contentKey(buildId(), job, args), async (signal) =>
        new TextEncoder().encode(JSON.stringify(await runOnPool(job, args, signal))),
      ),
    PAGE_TRIES,
  );
  return JSON.parse(new TextDecoder().decode(bytes)) as JobResult<Name>;
}

/**
 * CSS pixels. What the music may take at 1280 × 800, the size the bench is drawn for before the browser has said its
 * own; and what is believed.
 */
const USUAL_WIDTH = 800;
const [NARROWEST, WIDEST] = [240, 2_400];
/**
 * The browser draws anew where its width differs by twelve pixels: to this step every width is near enough to a drawn
 * one.
 */
const WIDTH_STEP = 20;

/** The width to draw for, from what the browser said last; whatever it says, there are about a hundred. */
export function paintWidth(said: string | undefined): number {
  const width = Number(said);
  if (!(width >= NARROWEST && width <= 4_000)) return USUAL_WIDTH;
  return Math.min(WIDEST, Math.round(width / WIDTH_STEP) * WIDTH_STEP);
}

/**
 * Tunes that took too long to draw, by content: they are not tried again for each reader. Nothing of that is kept on
 * disk.
 */
const undrawable = new LRUCache<string, true>({ max: 200 });

/**
 * The first rows of the bench; without rows where they take too long to draw or others are before them, since the
 * browser draws them as well.
 * @param width CSS pixels, as `paintWidth` gives it
 */
export async function benchPaint(stored: StoredTexts, view: PitchView, width: number): Promise<FirstPaint> {
  const args = { stored: textsOf(stored), view, width };
  const empty: FirstPaint = { view, width, infos: [], lines: [], numbers: [], rows: [] };
  const key = contentKey(buildId(), 'firstPaint', args);
  if (undrawable.get(key)) return empty;
  try {
    const bytes = await artifactCache().get(key, async (signal) =>
      new TextEncoder().encode(JSON.stringify(await runOnPool('firstPaint', args, signal))),
    );
    return JSON.parse(new TextDecoder().decode(bytes)) as FirstPaint;
  } catch (error) {
    const trouble = jobFailureOf(error);
    if (trouble === 'too long') undrawable.set(key, true);
    if (trouble === 'too long' || isBusy(error)) return empty;
    throw error;
  }
}

/** @param instrument of the catalogue; none: in concert pitch */
export function byEarPage(stored: StoredTexts, instrument: string | undefined): Promise<ByEarSheet> {
  return kept('byEar', { stored: textsOf(stored), instrument });
}

export function groupPage(stored: StoredTexts, group: Group): Promise<GroupSheet> {
  return kept('groupSheet', { stored: textsOf(stored), group });
}

export function chartPage(
  instrument: string,
  custom: CustomInstrument | undefined,
  system: JobArgs<'chart'>['system'],
): Promise<readonly DrawnNote[]> {
  return kept('chart', { instrument, custom, system });
}

/** Nothing else of what is stored may decide what is made. */
function textsOf({ tune, recipes }: StoredTexts): StoredTexts {
  return { tune, recipes };
}
