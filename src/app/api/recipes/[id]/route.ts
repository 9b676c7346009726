import { currentStudio } from '../../../../server/database';
import { answer, limitedJson, refuse } from '../../../../server/http';
import { putRecipe, takeRecipeAway } from '../../../../server/recipes';
import { checkSavedRecipe } from '../../../../server/workSchema';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

/** Keeps a recipe of the studio's own under a name: new, changed, or put back. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const body = await limitedJson(request, 16 * 1024);
    if (!body.ok) return body.problem;
    const checked = checkSavedRecipe(body.value);
    if (!checked.ok) return refuse(422, ...checked.problem);
    if (checked.value.id !== (await params).id) return refuse(422, 'id: it differs from the address');
    await putRecipe(currentStudio(), checked.value);
    return Response.json({ ok: true });
  });
}

export function DELETE(_: Request, { params }: Context): Promise<Response> {
  return answer(async () =>
    (await takeRecipeAway(currentStudio(), (await params).id))
      ? Response.json({ ok: true })
      : refuse(404, 'This recipe was not found: it may have been removed.'),
  );
}
