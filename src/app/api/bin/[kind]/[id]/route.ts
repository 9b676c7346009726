import { BIN_KINDS, deleteFromBin, restoreFromBin } from '../../../../../db/binRepository';
import { notedOfAsker } from '../../../../../server/accounts/audit';
import { currentStudio } from '../../../../../server/database';
import { handle, problemResponse } from '../../../../../server/http';

interface Context {
  readonly params: Promise<{ readonly kind: string; readonly id: string }>;
}

async function inBin(
  { params }: Context,
  act: (kind: (typeof BIN_KINDS)[number], id: string) => Promise<boolean>,
): Promise<Response> {
  const { kind: wanted, id } = await params;
  const kind = BIN_KINDS.find((known) => known === wanted);
  if (!kind) return problemResponse(400, `There is no kind "${wanted.slice(0, 40)}": use ${BIN_KINDS.join(', ')}.`);
  return (await act(kind, id))
    ? Response.json({ ok: true })
    : problemResponse(404, 'This is not in the bin: it was restored or deleted meanwhile.');
}

/** Puts something back where it was. */
export function POST(_: Request, context: Context): Promise<Response> {
  return handle(() => inBin(context, (kind, id) => restoreFromBin(currentStudio(), kind, id)));
}

/** Deletes something for good. */
export function DELETE(_: Request, context: Context): Promise<Response> {
  return handle(() =>
    inBin(context, (kind, id) =>
      currentStudio().transaction(async (inside) => {
        const isDone = await deleteFromBin(inside, kind, id);
        if (isDone) await notedOfAsker(inside, 'deleted', `${kind} ${id}`);
        return isDone;
      }),
    ),
  );
}
