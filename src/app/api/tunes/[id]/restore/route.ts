import { currentStudio } from '../../../../../server/database';
import { answer, refuse } from '../../../../../server/http';
import { restore } from '../../../../../server/tunes';

/** Puts a removed tune back on the shelf. */
export function POST(_: Request, { params }: { readonly params: Promise<{ readonly id: string }> }): Promise<Response> {
  return answer(async () =>
    (await restore(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : refuse(404, 'There is no such tune to restore.'),
  );
}
