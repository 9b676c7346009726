import { currentStudio } from '../../../../../../../server/database';
import { handle, problemResponse, sendMade } from '../../../../../../../server/http';
import { paintWidth } from '../../../../../../../server/paint';
import { runOnPool } from '../../../../../../../server/pool/pool';
import { buildId, contentKey } from '../../../../../../../server/storedWork';
import { revisionNumber, storedRevision } from '../../../../../../../server/tunes';

const MAX_BARS = 8;

/**
 * The picture of some bars of a version, as `{ svg }`: `?from=0&to=4`, counted from 0, `to` the bar after the last one,
 * `?width=400` in CSS pixels.
 */
export function GET(
  request: Request,
  { params }: { readonly params: Promise<{ readonly id: string; readonly revision: string }> },
): Promise<Response> {
  return handle(async () => {
    const { id, revision } = await params;
    const query = new URL(request.url).searchParams;
    const [from, to] = [Number(query.get('from') ?? 0), Number(query.get('to') ?? 4)];
    const width = Math.min(1_200, paintWidth(query.get('width') ?? undefined));
    if (!Number.isInteger(from) || !Number.isInteger(to) || from < 0 || to <= from || to - from > MAX_BARS)
      return problemResponse(400, `from and to are bars counted from 0, at most ${MAX_BARS} of them.`);
    const stored = await storedRevision(currentStudio(), id, revisionNumber(revision));
    if (!stored) return problemResponse(404, 'This version was not found.');
    const sent = await sendMade(request, {
      key: contentKey(buildId(), 'historyPicture', stored.tune, from, to, width),
      type: 'application/json; charset=utf-8',
      disposition: 'inline',
      name: `bars-${from + 1}-${to}.json`,
      make: (signal) => runOnPool('historyPicture', { stored, from, to, width }, signal),
    });
    return sent ?? problemResponse(404, 'This version was not found.');
  });
}
