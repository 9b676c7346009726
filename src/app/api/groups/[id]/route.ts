import { currentStudio } from '../../../../server/database';
import { checkGroupSave } from '../../../../server/groupSchema';
import { bringGroupBack, changeGroup, openedGroup, takeGroupAway } from '../../../../server/groups';
import { handle, limitedJson, problemResponse, stale } from '../../../../server/http';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

const MAX_BYTES = 256 * 1024;

/** Saves a whole group on top of the version the screen started from. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, MAX_BYTES);
    if (!body.ok) return body.problem;
    const checked = checkGroupSave(body.value);
    if (!checked.ok) return problemResponse(422, ...checked.problem);
    const outcome = await changeGroup(currentStudio(), (await params).id, checked.value.version, checked.value.group);
    switch (outcome.kind) {
      case 'saved':
        return Response.json({ version: outcome.version });
      case 'missing':
        return problemResponse(404, 'This group was removed meanwhile.');
      case 'stale':
        return stale('Somebody changed this group meanwhile.', openedGroup(outcome.current));
    }
  });
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return handle(async () =>
    (await takeGroupAway(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : problemResponse(404, 'This group was not found: it may have been removed.'),
  );
}

/** Brings back a group that was taken away. */
export function POST(_: Request, { params }: Context): Promise<Response> {
  return handle(async () =>
    (await bringGroupBack(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : problemResponse(404, 'This group was not removed.'),
  );
}
