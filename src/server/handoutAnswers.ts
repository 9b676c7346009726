import type { HandoutFor } from '../db/handoutRepository';
import { openedAt, withWish } from './accounts/answers';
import { currentStudio } from './database';
import { handoutsOf, handoutWishSchema, newHandout } from './handouts';
import { handle, problemResponse } from './http';
import { squareOf } from './scanSquare';

/** The links of packs for somebody that can be opened still. */
export function answerHandouts(to: HandoutFor): Promise<Response> {
  return handle(async () =>
    Response.json(
      { handouts: await handoutsOf(currentStudio(), to, new Date()) },
      { headers: { 'cache-control': 'no-store' } },
    ),
  );
}

/** A new link to a pack, as an address and as a square to scan: given this once. */
export function answerNewHandout(request: Request, to: HandoutFor): Promise<Response> {
  return withWish(request, handoutWishSchema, async (wish) => {
    const made = await newHandout(currentStudio(), to, wish, new Date());
    if (!made) return problemResponse(404, 'Whoever this pack is for was not found: they may have been removed.');
    const address = openedAt(request, `/h/${made.token}`);
    return Response.json(
      { address, endsAt: made.endsAt, square: await squareOf(address) },
      { status: 201, headers: { 'cache-control': 'no-store' } },
    );
  });
}
