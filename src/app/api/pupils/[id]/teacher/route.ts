import { z } from 'zod';
import { signedIn, withWish } from '../../../../../server/accounts/answers';
import { handOver } from '../../../../../server/accounts/members';
import { problemResponse } from '../../../../../server/http';

/** Hands a pupil over to another teacher. */
export function PUT(
  request: Request,
  { params }: { readonly params: Promise<{ readonly id: string }> },
): Promise<Response> {
  return withWish(request, z.strictObject({ teacher: z.string().max(40) }), async ({ teacher }) =>
    (await handOver(signedIn(), (await params).id, teacher, new Date())) === 'done'
      ? Response.json({ ok: true })
      : problemResponse(404, 'The pupil or the teacher was not found.'),
  );
}
