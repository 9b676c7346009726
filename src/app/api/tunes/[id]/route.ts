import { storedWork } from '../../../../core/work/stored';
import { currentStudio } from '../../../../server/database';
import { handle, problemResponse, stale } from '../../../../server/http';
import { openWork, readStored, remove, save } from '../../../../server/tunes';
import { sentSave } from '../../../../server/upload';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

export function GET(_: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const opened = await openWork(currentStudio(), (await params).id);
    return opened
      ? Response.json({ id: opened.id, version: opened.version, work: storedWork(opened.work) })
      : problemResponse(404, 'This tune was not found: it may have been removed, or the link is incomplete.');
  });
}

/** Saves on top of the version the bench started from; a stale save answers 409 with what is there. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const sent = await sentSave(request);
    if (!sent.ok) return sent.problem;
    const { version, ...rest } = sent.value;
    const outcome = await save(currentStudio(), (await params).id, { startedFrom: version, ...rest });
    switch (outcome.kind) {
      case 'saved':
        return Response.json({ version: outcome.version });
      case 'missing':
        return problemResponse(404, 'This tune was removed meanwhile.');
      case 'stale':
        return stale('Somebody saved this tune meanwhile.', {
          version: outcome.current.version,
          work: storedWork(await readStored(outcome.current, 'tune')),
        });
    }
  });
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return handle(async () =>
    (await remove(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : problemResponse(404, 'This tune was not found: it may have been removed, or the link is incomplete.'),
  );
}
