import { comeLater, openedAt } from '../../../../../server/accounts/answers';
import { currentlyAsked } from '../../../../../server/accounts/asking';
import { comeAgainWords, overLimit } from '../../../../../server/accounts/limits';
import { currentStudio } from '../../../../../server/database';
import { packOfHandout } from '../../../../../server/handouts';
import { handle, problemResponse, sendSound } from '../../../../../server/http';
import { archiveResponse, paperResponse } from '../../../../../server/packAnswers';
import { kept, packPaper } from '../../../../../server/packMaking';
import { squareOf } from '../../../../../server/scanSquare';

interface Context {
  readonly params: Promise<{ readonly token: string; readonly name: string }>;
}

const ENDED = 'This link has ended. Ask your teacher for a new one.';

/**
 * Files of a pack that was handed out: `pages.pdf`, `everything.zip`, and of a tune (`?tune=`) `bars.mp3`, `slow.mp3`,
 * `tempo.mp3` and `musicxml`. `?for=` says whose; without it everybody's.
 */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const { asking } = currentlyAsked();
    if (asking.kind !== 'handout') return problemResponse(404, ENDED);
    const seconds = await overLimit('byLink', asking.link);
    if (seconds !== undefined) return comeLater({ message: comeAgainWords(seconds), seconds });
    const whole = await packOfHandout(currentStudio(), asking.handout);
    if (!whole) return problemResponse(404, ENDED);
    const { token, name } = await params;
    const { searchParams } = new URL(request.url);
    const whose = searchParams.get('for');
    const pack = whose === null ? whole : { ...whole, recipients: whole.recipients.filter(({ id }) => id === whose) };
    if (name === 'pages.pdf') {
      const address = openedAt(request, `/h/${token}`);
      return paperResponse(pack, await packPaper(pack, request.signal, { address, square: await squareOf(address) }));
    }
    if (name === 'everything.zip') return archiveResponse(pack, request.signal);
    const tune = searchParams.get('tune');
    const file = pack.recipients[0]?.files.find(
      (one) => one.tune === tune && (one.what === 'musicxml' ? 'part.musicxml' : `${one.what}.mp3`) === name,
    );
    const data = file && (await kept(file.making, request.signal));
    if (!data) return problemResponse(404, 'There is no such file in this pack.');
    if (file.what !== 'musicxml') return sendSound(request, data, file.name);
    return new Response(data as BodyInit, {
      headers: {
        'content-type': 'application/vnd.recordare.musicxml+xml; charset=utf-8',
        'content-disposition': `attachment; filename="${file.name}"`,
      },
    });
  });
}
