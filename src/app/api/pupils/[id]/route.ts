import { notedOfAsker } from '../../../../server/accounts/audit';
import { currentStudio } from '../../../../server/database';
import { handle, limitedJson, problemResponse, stale } from '../../../../server/http';
import {
  bringPupilBack,
  changePupil,
  checkPupilSave,
  deletePupilWhole,
  openedPupil,
  takePupilAway,
} from '../../../../server/pupils';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

const MAX_BYTES = 512 * 1024;

/** Saves a whole pupil on top of the version the screen started from. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, MAX_BYTES);
    if (!body.ok) return body.problem;
    const checked = checkPupilSave(body.value);
    if (!checked.ok) return problemResponse(422, ...checked.problem);
    const { version, pupil } = checked.value;
    const outcome = await changePupil(currentStudio(), (await params).id, version, pupil);
    switch (outcome.kind) {
      case 'saved':
        return Response.json({ version: outcome.version });
      case 'missing':
        return problemResponse(404, 'This pupil was removed meanwhile.');
      case 'stale':
        return stale('Somebody changed this pupil meanwhile.', openedPupil(outcome.current));
    }
  });
}

/** Into the bin; with `?for-good=yes` the pupil is deleted whole: log, lessons, and the name in every group. */
export function DELETE(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const { id } = await params;
    const isForGood = new URL(request.url).searchParams.get('for-good') === 'yes';
    const isDone = await currentStudio().transaction(async (inside) => {
      const done = await (isForGood ? deletePupilWhole : takePupilAway)(inside, id);
      if (done && isForGood) await notedOfAsker(inside, 'deleted', `pupil ${id}`);
      return done;
    });
    return isDone
      ? Response.json({ ok: true })
      : problemResponse(404, 'This pupil was not found: they may have been removed.');
  });
}

/** Brings back a pupil who was taken away. */
export function POST(_: Request, { params }: Context): Promise<Response> {
  return handle(async () =>
    (await bringPupilBack(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : problemResponse(404, 'This pupil was not removed.'),
  );
}
