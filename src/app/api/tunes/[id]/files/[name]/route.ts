import { fileSlug } from '../../../../../../core/formats';
import { tuneHead } from '../../../../../../db/tuneRepository';
import { currentStudio } from '../../../../../../server/database';
import { handle, problemResponse, sendMade } from '../../../../../../server/http';
import { tuneFile } from '../../../../../../server/keptFiles';
import { FILE_NAMES, fileType, fileWishes } from '../../../../../../server/tuneFiles';

/** Files to take away: see `FILE_NAMES`, and beside each what of an address it takes. `?save` downloads. */
export function GET(
  request: Request,
  { params }: { readonly params: Promise<{ readonly id: string; readonly name: string }> },
): Promise<Response> {
  return handle(async () => {
    const { id, name } = await params;
    const head = await tuneHead(currentStudio(), id);
    if (!head)
      return problemResponse(404, 'This tune was not found: it may have been removed, or the link is incomplete.');
    const type = fileType(name);
    if (type === undefined) return problemResponse(404, `There is no such file: use one of ${FILE_NAMES.join(', ')}.`);
    const query = new URL(request.url).searchParams;
    const wishes = fileWishes(name, query);
    if (!wishes.ok) return problemResponse(400, ...wishes.problem);
    const file = await tuneFile(currentStudio(), { id, ...head }, wishes.value);
    const sent =
      file &&
      (await sendMade(request, {
        ...file,
        type,
        disposition: query.has('save') ? 'attachment' : 'inline',
        name: `${fileSlug(head.title)}.${name}`,
      }));
    return (
      sent ?? problemResponse(404, `There is no ${name} of this tune: its instrument or its chords do not allow it.`)
    );
  });
}
