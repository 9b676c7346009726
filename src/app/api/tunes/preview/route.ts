import { nameKey } from '../../../../core/pitch/key';
import { countedBars } from '../../../../core/score/tune';
import { printMeter } from '../../../../core/time/meter';
import { tunePreview } from '../../../../server/engraving';
import { answer } from '../../../../server/http';
import { uploadedTune } from '../../../../server/upload';

/** Reads a file and shows what came of it; nothing is saved. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const read = await uploadedTune(request);
    if (!read.ok) return read.refusal;
    const { tune, warnings } = read;
    return Response.json({
      title: tune.title, composer: tune.composer ?? '', keyName: nameKey(tune.key), meter: printMeter(tune.meter), bars: countedBars(tune), warnings,
      rows: await tunePreview({ tune, recipes: {} }, 560),
    });
  });
}
