import { z } from 'zod';
import { storedWork, workSchema } from '../../core/work/stored';
import type { Work } from '../../core/work';
import type { Remote } from './document/saver';
import { success, type Result } from '../../core/result';
import { send, type SendProblem } from './send';

const versionSchema = z.object({ version: z.int() });
export const versionedWorkSchema = z.object({ version: z.int(), work: workSchema });

/**
 * A tune with its levels, as the server saves it.
 * @param tries how often a save is sent where the server is busy; the saver sends it once, and tells of it and tries
 *   again itself
 */
export function tuneRemote(id: string, tries?: number): Remote<Work> {
  return {
    name: id,
    pack: storedWork,
    unpack: (data) => workSchema.safeParse(data).data,
    put: async ({ version, document, what, saveId }) => {
      const sent = await send(`/api/tunes/${id}`, versionSchema, {
        method: 'PUT',
        json: { version, work: storedWork(document), ...(what && { what }), saveId },
        ...(tries !== undefined && { tries }),
      });
      return sent.ok ? { ok: true, value: sent.value.version } : sent;
    },
    current: (answer) => {
      const { data } = versionedWorkSchema.safeParse(answer);
      return data && { version: data.version, document: data.work };
    },
  };
}

/** How often a change is made anew on top of what somebody else saved meanwhile. */
const MAX_TRIES = 3;

/**
 * Changes a tune that is not open here: reads it, changes it, and saves it; again where somebody saved in between.
 * @param what the change in words, for the tune's history
 */
export async function changeWork(
  id: string,
  what: string,
  change: (work: Work) => Work,
): Promise<Result<undefined, SendProblem>> {
  const { put } = tuneRemote(id);
  for (let tries = 1; ; tries += 1) {
    const opened = await send(`/api/tunes/${id}`, versionedWorkSchema, { method: 'GET' });
    if (!opened.ok) return opened;
    const saved = await put({
      version: opened.value.version,
      document: change(opened.value.work),
      what,
      saveId: crypto.randomUUID(),
    });
    if (saved.ok) return success(undefined);
    if (saved.problem.kind !== 'stale' || tries >= MAX_TRIES) return saved;
  }
}
