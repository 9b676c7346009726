import { currentStudio } from '../../../../server/database';
import { handle, limitedJson, problemResponse } from '../../../../server/http';
import { putRecipe, takeRecipeAway } from '../../../../server/recipes';
import { checkSavedRecipe } from '../../../../server/workSchema';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

/** Keeps a recipe of the studio's own under a name: new, changed, or put back. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, 16 * 1024);
    if (!body.ok) return body.problem;
    const checked = checkSavedRecipe(body.value);
    if (!checked.ok) return problemResponse(422, ...checked.problem);
    if (checked.value.id !== (await params).id) return problemResponse(422, 'id: it differs from the address');
    await putRecipe(currentStudio(), checked.value);
    return Response.json({ ok: true });
  });
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return handle(async () =>
    (await takeRecipeAway(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : problemResponse(404, 'This recipe was not found: it may have been removed.'),
  );
}
