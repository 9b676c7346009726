'use client';

import { z } from 'zod';
import { useStore } from 'zustand';
import { storedWork } from '../../core/work/stored';
import type { Work } from '../../core/work';
import { cutText } from '../../core/plainText';
import { countedBars } from '../../core/score';
import { ConflictSheet } from '../work/document/ConflictSheet';
import type { Saver } from '../work/document/saver';
import { send } from '../work/send';
import type { WorkStore } from '../work/workStore';

/** Longest title that the server takes. */
const MAX_TITLE = 500;

/** Asks which of two versions of the tune to go on with, where there are two. */
export function WorkConflict({ store, saver }: { readonly store: WorkStore; readonly saver: Saver<Work> }) {
  const save = useStore(store, (state) => state.save);
  const mine = useStore(store, ({ document }) => document);
  if (save.kind !== 'conflict') return null;
  const saveCopy = async () => {
    const title = cutText(`${mine.tune.title || 'Untitled'} (my version)`, MAX_TITLE);
    const work = storedWork({ ...mine, tune: { ...mine.tune, title } });
    const made = await send('/api/tunes/new', z.object({ id: z.string() }), { method: 'POST', json: work });
    return made.ok ? undefined : `The copy could not be made, and nothing was changed: ${made.problem.message}`;
  };
  return (
    <ConflictSheet
      what="tune"
      mine={summary(mine)}
      theirs={summary(save.theirs)}
      onTheirs={() => saver.adopt({ version: save.version, document: save.theirs })}
      onMine={() => saver.overwrite(save.version)}
      onCopy={saveCopy}
    />
  );
}

function summary({ tune, recipes }: Work): string {
  const [bars, levels] = [countedBars(tune), Object.keys(recipes).length];
  return `“${tune.title || 'Untitled'}”, ${bars === 1 ? '1 bar' : `${bars} bars`}, ${levels === 1 ? '1 level' : `${levels} levels`} set`;
}
