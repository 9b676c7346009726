import { artifactCache } from './artifactCache';
import { wishesToForget, wishToForget } from './database';

/** Wishes that this process has done. Kept on the global object as what was made is. */
const holder = globalThis as typeof globalThis & { reedHookForgotten?: Set<string> };
const done = () => (holder.reedHookForgotten ??= new Set());

/**
 * Forgets all that was made, here at once and in every other process within seconds; a machine that is away does when
 * it comes back. For when somebody's name is to be nowhere any more.
 */
export async function forgetWhatWasMade(now: Date): Promise<void> {
  const wish = await wishToForget(now);
  await artifactCache().forget([...(await artifactCache().forgotten()), wish]);
  done().add(wish);
}

/** Does what other processes were asked to forget. What lies on disk remembers which wishes it has followed. */
export async function forgetAsWished(): Promise<void> {
  const wishes = await wishesToForget();
  if (wishes.every((wish) => done().has(wish))) return;
  const onDisk = new Set(await artifactCache().forgotten());
  // In memory there is nothing yet that is older than the process.
  const isNew = wishes.some((wish) => !onDisk.has(wish));
  if (isNew) await artifactCache().forget(wishes);
  else artifactCache().forgetMemory();
  for (const wish of wishes) done().add(wish);
}
