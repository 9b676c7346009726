import { openedAt, withWish } from '../../../../../server/accounts/answers';
import { endPupilLink, linkWishSchema, newPupilLink, pupilLinkState } from '../../../../../server/accounts/pupilLinks';
import { currentStudio } from '../../../../../server/database';
import { handle, problemResponse } from '../../../../../server/http';
import { squareOf } from '../../../../../server/scanSquare';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

/** Whether the pupil has a link, until when, and when it was last used. */
export function GET(_request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const link = await pupilLinkState(currentStudio(), (await params).id, new Date());
    return Response.json({ ...(link && { link }) }, { headers: { 'cache-control': 'no-store' } });
  });
}

/** A new link, as an address and as a square to scan: given this once. */
export function POST(request: Request, { params }: Context): Promise<Response> {
  return withWish(request, linkWishSchema, async (wish) => {
    const made = await newPupilLink(currentStudio(), (await params).id, wish, new Date());
    if (!made) return problemResponse(404, 'This pupil was not found: they may have been removed.');
    const address = openedAt(request, `/p/${made.token}`);
    return Response.json(
      { address, endsAt: made.endsAt, square: await squareOf(address) },
      { status: 201, headers: { 'cache-control': 'no-store' } },
    );
  });
}

export function DELETE(_request: Request, { params }: Context): Promise<Response> {
  return handle(async () =>
    (await endPupilLink(currentStudio(), (await params).id, new Date()))
      ? Response.json({ ok: true })
      : problemResponse(404, 'There is no link to end.'),
  );
}
