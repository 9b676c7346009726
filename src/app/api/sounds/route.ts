import { handle, problemResponse } from '../../../server/http';
import { soundBank } from '../../../server/soundBank';

/** The sound bank, for the worker that plays. It changes with the machine's packages alone. */
export function GET(): Promise<Response> {
  return handle(async () => {
    const data = await soundBank();
    if (!data)
      return problemResponse(
        404,
        'No sound bank is installed here: the Debian package timgm6mb-soundfont has one; or name a SoundFont file in REED_SOUND_BANK.',
      );
    return new Response(data as BodyInit, {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'private, max-age=86400' },
    });
  });
}
