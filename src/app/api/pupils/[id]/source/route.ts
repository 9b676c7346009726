import { playingOf } from '../../../../../core/planning';
import { currentStudio } from '../../../../../server/database';
import { handle, problemResponse } from '../../../../../server/http';
import { runPatiently } from '../../../../../server/pool/pool';
import { openPupil } from '../../../../../server/pupils';
import { storedTune } from '../../../../../server/tunes';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

/** A tune or drill of the shelf as this pupil works at it: `?tune=ID&playing=ID`. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const { searchParams } = new URL(request.url);
    const studio = currentStudio();
    const [found, stored] = await Promise.all([
      openPupil(studio, (await params).id),
      storedTune(studio, searchParams.get('tune') ?? ''),
    ]);
    const playing = found && playingOf(found.pupil, searchParams.get('playing') ?? undefined);
    if (!playing) return problemResponse(404, 'This pupil was not found: they may have been removed.');
    if (!stored) return problemResponse(404, 'This tune was not found: it may have been removed.');
    const texts = { tune: stored.tune, recipes: stored.recipes };
    const source = await runPatiently('workSource', { stored: texts, playing }, request.signal);
    return source
      ? Response.json({ source })
      : problemResponse(422, `“${stored.title}” has nothing that can be learned on this instrument.`);
  });
}
