import { z } from 'zod';
import type { Result } from '../../core/result';
import { send, type SendProblem } from './send';

const broughtBackSchema = z.object({
  tunes: z.int(),
  groups: z.int(),
  recipes: z.int(),
  instruments: z.int(),
  already: z.int(),
  problems: z.array(z.string()),
});
export type BroughtBack = Readonly<z.infer<typeof broughtBackSchema>>;

/** Sends the archive of a studio to be brought back. */
export async function bringBackArchive(file: Blob): Promise<Result<BroughtBack, SendProblem>> {
  return send('/api/archive', broughtBackSchema, { method: 'POST', bytes: new Uint8Array(await file.arrayBuffer()) });
}

/** What came back of an archive, in sentences. */
export function archiveText({ already, problems, ...counts }: BroughtBack): readonly string[] {
  const names = { tunes: 'tune', groups: 'group', recipes: 'saved recipe', instruments: 'own instrument' } as const;
  const parts = (Object.keys(names) as (keyof typeof names)[])
    .filter((kind) => counts[kind] > 0)
    .map((kind) => `${counts[kind]} ${names[kind]}${counts[kind] === 1 ? '' : 's'}`);
  const came = parts.length === 0 ? 'Nothing new came back.' : `Came back: ${parts.join(', ')}.`;
  return [
    came,
    ...(already > 0
      ? [
          `${already} ${already === 1 ? 'was' : 'were'} there already, and left as ${already === 1 ? 'it is' : 'they are'}.`,
        ]
      : []),
    ...problems.map((problem) => `Not read: ${problem}`),
  ];
}
