import { nameKey } from '../../../../core/pitch/key';
import { printPitch } from '../../../../core/pitch/pitch';
import { guessesForScreen } from '../../../../server/importPreview';
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
    const { tune, warnings, choices, guesses } = read;
    return Response.json({
      title: tune.title,
      composer: tune.composer ?? '',
      keyName: nameKey(tune.key),
      meter: printMeter(tune.meter),
      bars: countedBars(tune),
      warnings,
      choices: {
        ...choices,
        lines: choices.lines.map(({ number, name, notes, lowest, highest }) => ({
          number,
          name,
          notes,
          range: lowest && highest ? `${printPitch(lowest)} to ${printPitch(highest)}` : '',
        })),
      },
      ...(guesses && { guesses: guessesForScreen(guesses) }),
      rows: await tunePreview({ tune, recipes: {} }, 560),
    });
  });
}
