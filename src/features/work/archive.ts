import { z } from 'zod';
import { joinBytes } from '../../core/joinBytes';
import type { Result } from '../../core/result';
import { inflateZip, parseJson } from '../../core/formats';
import { send, type SendProblem } from './send';

const broughtBackSchema = z.object({
  tunes: z.int(),
  groups: z.int(),
  recipes: z.int(),
  instruments: z.int(),
  pupils: z.int(),
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
  const names = {
    tunes: 'tune',
    groups: 'group',
    pupils: 'pupil',
    recipes: 'saved recipe',
    instruments: 'custom instrument',
  } as const;
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

/** What the server puts into an archive where something could not be exported. */
const LEFT_OUT = 'left-out.json';
const MAX_LEFT_OUT_BYTES = 1_048_576;

/** What could not be exported, in the words of the archive itself; nothing where all of it is there. */
export function leftOutOf(pieces: readonly Uint8Array<ArrayBuffer>[]): readonly string[] {
  const found = inflateZip(joinBytes(pieces), (name) => name === LEFT_OUT, MAX_LEFT_OUT_BYTES);
  const file = found.ok ? found.value.get(LEFT_OUT) : undefined;
  const list = file && parseJson(new TextDecoder().decode(file));
  return (list?.ok && z.array(z.string()).safeParse(list.value).data) || [];
}

/** How an export ended, in sentences. */
export function exportText(leftOut: readonly string[]): readonly string[] {
  if (leftOut.length === 0) return ['Exported, all of it.'];
  return [
    'Exported, except for what is listed here. What is damaged is in the archive as it is stored, in the folder “damaged”.',
    ...leftOut,
  ];
}
