import { parseScaleName, scaleProblemText } from '../../../core/harmony';
import { instrumentById } from '../../../core/instruments';
import { currentStudio } from '../../../server/database';
import { handle, problemResponse } from '../../../server/http';
import { firstSetsFor, tunesOpened } from '../../../server/sets';

/**
 * `?set=NAME`: the tunes on the shelf that it opens. `?for=INSTRUMENT`: which set a beginner on it could start with.
 */
export function GET(request: Request): Promise<Response> {
  return handle(async () => {
    const query = new URL(request.url).searchParams;
    const set = query.get('set')?.slice(0, 60);
    if (set !== undefined) {
      const parsed = parseScaleName(set);
      return parsed.ok
        ? Response.json(await tunesOpened(currentStudio(), parsed.value))
        : problemResponse(400, `There is no such set: ${scaleProblemText(parsed.problem)}.`);
    }
    const id = query.get('for') ?? '';
    const instrument = instrumentById(id);
    return instrument
      ? Response.json({ sets: await firstSetsFor(currentStudio(), instrument) })
      : problemResponse(
          400,
          `Ask with ?set=NAME, or with ?for= and an instrument of the catalogue; "${id.slice(0, 40)}" is none.`,
        );
  });
}
