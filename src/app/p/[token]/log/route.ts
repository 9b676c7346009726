import { comeLater } from '../../../../server/accounts/answers';
import { currentlyAsked } from '../../../../server/accounts/asking';
import { comeAgainWords, overLimit } from '../../../../server/accounts/limits';
import { currentStudio } from '../../../../server/database';
import { handle, limitedJson, problemResponse } from '../../../../server/http';
import { calendarToday, checkEntries, logPractice, openPupil } from '../../../../server/pupils';
import { refusedEntries } from '../../../../server/pupilWeek';

const MAX_BYTES = 65_536;

/** Entries that a pupil's own stand sends. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    const { asking } = currentlyAsked();
    if (asking.kind !== 'pupil') return problemResponse(404, 'This link has ended.');
    const seconds = await overLimit('entries', asking.link);
    if (seconds !== undefined) return comeLater({ message: comeAgainWords(seconds), seconds });
    const body = await limitedJson(request, MAX_BYTES);
    if (!body.ok) return body.problem;
    const checked = checkEntries(body.value);
    if (!checked.ok) return problemResponse(422, ...checked.problem);
    const opened = await openPupil(currentStudio(), asking.pupil);
    if (!opened) return problemResponse(404, 'This link has ended.');
    const refused = refusedEntries(opened.pupil, checked.value.entries, calendarToday());
    if (refused !== undefined) return problemResponse(422, refused);
    return Response.json({ added: await logPractice(currentStudio(), asking.pupil, checked.value.entries) });
  });
}
