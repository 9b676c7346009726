import { currentStudio } from '../../../../../server/database';
import { handle, problemResponse } from '../../../../../server/http';
import { historyOf } from '../../../../../server/tunes';

/** The versions of a tune, newest first. */
export function GET(_: Request, { params }: { readonly params: Promise<{ readonly id: string }> }): Promise<Response> {
  return handle(async () => {
    const revisions = await historyOf(currentStudio(), (await params).id);
    return revisions
      ? Response.json({ revisions })
      : problemResponse(404, 'This tune was not found: it may have been removed.');
  });
}
