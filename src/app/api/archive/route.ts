import { bringBack, exportStudio } from '../../../server/studioArchive';
import { currentStudio } from '../../../server/database';
import { answer, limitedBody, refuse, tooLarge } from '../../../server/http';
import { runOnPool } from '../../../server/pool/pool';

const MOST_BYTES = 64 * 1_048_576;

/** Everything of the studio as one archive of open files. */
export function GET(request: Request): Promise<Response> {
  return answer(() =>
    Promise.resolve(
      new Response(exportStudio(currentStudio(), request.signal), {
        headers: {
          'content-type': 'application/zip',
          'content-disposition': `attachment; filename="reed-hook-studio-${new Date().toISOString().slice(0, 10)}.zip"`,
          'cache-control': 'no-store',
        },
      }),
    ),
  );
}

/** Takes an archive back: what is there already is left as it is, the rest is added. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const bytes = await limitedBody(request, MOST_BYTES);
    if (!bytes) return tooLarge(MOST_BYTES);
    const read = await runOnPool('readArchive', bytes, request.signal);
    return read.ok
      ? Response.json(await bringBack(currentStudio(), read.value), { status: 201 })
      : refuse(422, ...read.problem);
  });
}
