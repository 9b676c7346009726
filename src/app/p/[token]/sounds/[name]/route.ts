import { comeLater } from '../../../../../server/accounts/answers';
import { currentlyAsked } from '../../../../../server/accounts/asking';
import { comeAgainWords, overLimit } from '../../../../../server/accounts/limits';
import { currentStudio } from '../../../../../server/database';
import { handle, problemResponse, sendSound } from '../../../../../server/http';
import { ownThings } from '../../../../../server/ownThings';
import { kept } from '../../../../../server/packMaking';

interface Context {
  readonly params: Promise<{ readonly name: string }>;
}

/** What a pupil hears of a tune that is set (`?tune=`): `bars.mp3` (this week's), `slow.mp3`, `tempo.mp3`. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const { asking } = currentlyAsked();
    if (asking.kind !== 'pupil') return problemResponse(404, 'This link has ended.');
    const seconds = await overLimit('byLink', asking.link);
    if (seconds !== undefined) return comeLater({ message: comeAgainWords(seconds), seconds });
    const [own, { name }] = await Promise.all([ownThings(currentStudio(), asking.pupil), params]);
    const tune = new URL(request.url).searchParams.get('tune');
    const file = own?.files.find((one) => one.tune === tune && `${one.what}.mp3` === name);
    const data = file && (await kept(file.making, request.signal));
    return data ? sendSound(request, data, file.name) : problemResponse(404, 'There is no such sound.');
  });
}
