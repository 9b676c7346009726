import { storedWork } from '../../../../core/formats/json/upgradeRecipe';
import { MOST_BYTES } from '../../../../core/formats/limits';
import { currentStudio } from '../../../../server/database';
import { answer, limitedJson, refuse, stale } from '../../../../server/http';
import { openWork, remove, save } from '../../../../server/tunes';
import { checkSave, checkWork } from '../../../../server/workSchema';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

export function GET(_: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const opened = await openWork(currentStudio(), (await params).id);
    return opened
      ? Response.json({ ...opened, work: storedWork(opened.work) })
      : refuse(404, 'This tune was not found: it may have been removed, or the link is incomplete.');
  });
}

/** Saves on top of the version the bench started from; a stale save answers 409 with what is there. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const body = await limitedJson(request, 2 * MOST_BYTES);
    if (!body.ok) return body.problem;
    const checked = checkSave(body.value);
    if (!checked.ok) return refuse(422, ...checked.problem);
    const outcome = await save(currentStudio(), (await params).id, checked.value.version, checked.value.work);
    switch (outcome.kind) {
      case 'saved':
        return Response.json({ version: outcome.version });
      case 'missing':
        return refuse(404, 'This tune was removed meanwhile.');
      case 'stale': {
        const current = checkWork(outcome.current);
        if (!current.ok) throw new Error(`the stored tune is damaged: ${current.problem.join('; ')}`);
        return stale('Somebody saved this tune meanwhile.', {
          version: outcome.current.version,
          work: storedWork(current.value),
        });
      }
    }
  });
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return answer(async () =>
    (await remove(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : refuse(404, 'This tune was not found: it may have been removed, or the link is incomplete.'),
  );
}
