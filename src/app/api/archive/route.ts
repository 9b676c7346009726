import { sizeText, handle, problemResponse } from '../../../server/http';
import { readArchiveApart } from '../../../server/archive/archiveReader';
import { MAX_ARCHIVE_BYTES } from '../../../server/archive/archiveFiles';
import { bringBack, countFiles, exportParts, exportStudio } from '../../../server/archive/studioArchive';
import { notedOfAsker } from '../../../server/accounts/audit';
import { currentStudio } from '../../../server/database';

/**
 * The studio as an archive of open files. One that is too large to be brought back at once comes in parts: `?part=1`,
 * counted from 1. `x-reed-files` tells how many files it will have where nothing is damaged.
 */
export function GET(request: Request): Promise<Response> {
  return handle(async () => {
    const studio = currentStudio();
    const parts = await exportParts(studio);
    const asked = new URL(request.url).searchParams.get('part');
    const part = asked === null && parts.length === 1 ? 1 : Number(asked);
    const tunes = parts[part - 1];
    if (!tunes)
      return problemResponse(
        400,
        `This studio is exported in ${parts.length === 1 ? 'one part' : `${parts.length} parts`}: ask with ?part= and a number from 1 to ${parts.length}.`,
      );
    await notedOfAsker(studio, 'exported', parts.length > 1 ? `part ${part}` : '');
    const name = `reed-hook-studio-${new Date().toISOString().slice(0, 10)}${parts.length > 1 ? `-part-${part}` : ''}`;
    return new Response(exportStudio(studio, tunes, part - 1, request.signal), {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename="${name}.zip"`,
        'cache-control': 'no-store',
        'x-reed-files': String(await countFiles(studio, tunes, part - 1)),
      },
    });
  });
}

/** Takes an archive back: what is there already is left as it is, the rest is added. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    const tooLarge = () =>
      problemResponse(413, `An archive may have ${sizeText(MAX_ARCHIVE_BYTES)} at most. Nothing was changed.`);
    if (Number(request.headers.get('content-length') ?? 0) > MAX_ARCHIVE_BYTES) return tooLarge();
    if (!request.body) return problemResponse(400, 'There is no archive in the request.');
    const read = await readArchiveApart(request.body, request.signal);
    if (read.ok) return Response.json(await bringBack(currentStudio(), read.value), { status: 201 });
    switch (read.problem.kind) {
      case 'too large':
        return tooLarge();
      case 'broken off':
        return problemResponse(408, 'The archive did not arrive whole. Nothing was changed; please send it again.');
      case 'refused':
        return problemResponse(422, ...read.problem.messages);
    }
  });
}
