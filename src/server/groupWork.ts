import { type GroupMember, lately, planOf, requestFor } from '../core/planning';
import type { Group } from '../core/keys';
import type { StudioDatabase } from '../db/studioDatabase';
import { logForPlan, openPupil } from './pupils';

/** A tune that somebody in a group works at, with everybody who does. */
export interface GroupTune {
  readonly tune: string;
  readonly title: string;
  readonly members: readonly GroupMember[];
}

/** What the pupils of a group work at, what most of them do first. */
export async function groupTunes(studio: StudioDatabase, group: Group, today: string): Promise<readonly GroupTune[]> {
  const found = new Map<string, { readonly title: string; readonly members: GroupMember[] }>();
  for (const id of new Set(group.players.flatMap(({ pupil }) => pupil ?? []))) {
    const opened = await openPupil(studio, id);
    if (!opened) continue;
    const log = await logForPlan(studio, id, today);
    const request = requestFor(opened.pupil, log, today);
    const plan = request && planOf(request);
    for (const work of opened.pupil.work) {
      const planned = plan?.work.find((one) => one.id === work.id);
      if (work.state !== 'going' || !('chunks' in work) || work.tune === undefined || !planned) continue;
      const entry = found.get(work.tune) ?? { title: work.title, members: [] };
      entry.members.push({
        name: opened.pupil.name,
        work: planned,
        ...(work.goal !== undefined && { goal: work.goal }),
        chunks: work.chunks,
        log: lately(
          log.filter((one) => one.work === work.id),
          today,
        ),
      });
      found.set(work.tune, entry);
    }
  }
  return [...found]
    .map(([tune, rest]) => ({ tune, ...rest }))
    .toSorted((a, b) => b.members.length - a.members.length || a.title.localeCompare(b.title, 'en'));
}
