import { dequal } from 'dequal';
import { z } from 'zod';
import { pupilSchema } from '../../core/formats';
import type { Pupil } from '../../core/planning';
import { success } from '../../core/result';
import { createDocumentStore, type DocumentStore } from '../work/document/documentStore';
import { Saver, type Remote } from '../work/document/saver';
import { send } from '../work/send';

/** A pupil as the server gave it. */
export interface VersionedPupil {
  readonly id: string;
  readonly version: number;
  readonly pupil: Pupil;
}

/** A pupil on the screen: with a history of its own, saving by itself. */
export interface OpenPupil {
  readonly id: string;
  readonly store: DocumentStore<Pupil>;
  readonly saver: Saver<Pupil>;
}

const versionSchema = z.object({ version: z.int() });

function pupilRemote(id: string): Remote<Pupil> {
  return {
    name: `pupil/${id}`,
    pack: (pupil) => pupil,
    unpack: (data) => pupilSchema.safeParse(data).data as Pupil | undefined,
    put: async ({ version, document }) => {
      const sent = await send(`/api/pupils/${id}`, versionSchema, {
        method: 'PUT',
        json: { version, pupil: document },
        tries: 1,
      });
      return sent.ok ? success(sent.value.version) : sent;
    },
    current: (answer) => {
      const { data } = z.object({ version: z.int(), pupil: pupilSchema }).safeParse(answer);
      return data && { version: data.version, document: data.pupil };
    },
  };
}

export function openPupil({ id, version, pupil }: VersionedPupil): OpenPupil {
  const store = createDocumentStore(pupil, dequal);
  return { id, store, saver: new Saver(pupilRemote(id), { version, document: pupil }, store) };
}

/** For something that is new on this page. */
export function freshId(): string {
  return crypto.randomUUID().replaceAll('-', '').slice(0, 16);
}
