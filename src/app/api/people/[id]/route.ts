import { z } from 'zod';
import { ROLES } from '../../../../server/accounts/access';
import { signedIn, withWish } from '../../../../server/accounts/answers';
import { changeRole, takeMemberOut, type MemberOutcome } from '../../../../server/accounts/members';
import { handle, problemResponse } from '../../../../server/http';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

function told(outcome: MemberOutcome): Response {
  if (outcome === 'done') return Response.json({ ok: true });
  return outcome === 'missing'
    ? problemResponse(404, 'This person is no member of the studio any more.')
    : problemResponse(409, 'A studio keeps an owner: make somebody else an owner first.');
}

/** A member is something else from now on. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return withWish(request, z.strictObject({ role: z.enum(ROLES) }), async ({ role }) =>
    told(await changeRole(signedIn(), (await params).id, role, new Date())),
  );
}

/** A member leaves the studio. */
export function DELETE(_request: Request, { params }: Context): Promise<Response> {
  return handle(async () => told(await takeMemberOut(signedIn(), (await params).id, new Date())));
}
