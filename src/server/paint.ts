import type { FirstPaint } from '../engrave/benchEngraver';
import type { ByEarSheet } from '../engrave/byEarSheet';
import type { PitchView } from '../engrave/lanes';
import type { Group } from '../core/keys/group';
import type { CustomInstrument } from '../core/instruments/customInstrument';
import type { StoredTexts } from '../db/tuneRepository';
import type { DrawnNote } from './fingerCharts';
import type { GroupSheet } from './groupParts';
import { made } from './made';
import type { JobArgs, JobName, JobResult } from './pool/jobs';
import { runOnPool } from './pool/pool';
import { jobTroubleOf } from './pool/workerPool';
import { buildId, contentKey } from './storedWork';

/** What pages show of a tune, made on a worker and kept like files. */
async function kept<Name extends JobName>(job: Name, args: JobArgs<Name>): Promise<JobResult<Name>> {
  const bytes = await made().get(contentKey(buildId(), job, args), async (signal) =>
    new TextEncoder().encode(JSON.stringify(await runOnPool(job, args, signal))),
  );
  return JSON.parse(new TextDecoder().decode(bytes)) as JobResult<Name>;
}

/**
 * The first rows of the bench; without rows where they take too long to draw, since the browser draws them as well.
 * @param width CSS pixels
 */
export async function benchPaint(stored: StoredTexts, view: PitchView, width: number): Promise<FirstPaint> {
  const args = { stored: textsOf(stored), view, width };
  const bytes = await made().get(contentKey(buildId(), 'firstPaint', args), async (signal) => {
    const empty: FirstPaint = { view, width, infos: [], lines: [], numbers: [], rows: [] };
    const paint = await runOnPool('firstPaint', args, signal).catch((error: unknown) => {
      // Kept like any other, so that only the first who opens it waits.
      if (jobTroubleOf(error) === 'too long') return empty;
      throw error;
    });
    return new TextEncoder().encode(JSON.stringify(paint));
  });
  return JSON.parse(new TextDecoder().decode(bytes)) as FirstPaint;
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
