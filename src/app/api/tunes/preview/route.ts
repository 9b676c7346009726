import { MOST_BYTES } from '../../../../core/formats/limits';
import { nameKey } from '../../../../core/pitch/key';
import { countedBars } from '../../../../core/score/tune';
import { printMeter } from '../../../../core/time/meter';
import { tunePreview } from '../../../../server/engraving';
import { answer, limitedBody, refuse } from '../../../../server/http';
import { readFile } from '../../../../server/tunes';

/** Reads a file and shows what came of it; nothing is saved. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const bytes = await limitedBody(request, MOST_BYTES);
    if (!bytes) return refuse(413, `The file is too large; at most ${MOST_BYTES / 1_048_576} MB are read.`);
    const read = readFile(bytes, new URL(request.url).searchParams.get('name') ?? '');
    if (!read.ok) return refuse(422, ...read.problems);
    const { tune, warnings } = read;
    return Response.json({
      title: tune.title, composer: tune.composer ?? '', keyName: nameKey(tune.key), meter: printMeter(tune.meter), bars: countedBars(tune), warnings,
      rows: await tunePreview({ tune, recipes: {} }, 560),
    });
  });
}
