import { dayNumber } from '../../../../../../core/planning';
import { WEEK_PAPERS } from '../../../../../../engrave/sheet';
import { currentStudio } from '../../../../../../server/database';
import { handle, problemResponse } from '../../../../../../server/http';
import { PUPIL_FILES, pupilFile } from '../../../../../../server/pupilFiles';
import { calendarToday, openPupil } from '../../../../../../server/pupils';

interface Context {
  readonly params: Promise<{ readonly id: string; readonly name: string }>;
}

/**
 * A pupil's files: `practice.pdf` (`?paper=a5|a4|letter&weeks=N`), `practice.ics`, `plan.csv`, `log.csv`, `pupil.json`.
 * `?from=DATE` begins on another day than today.
 */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const { id, name } = await params;
    const { searchParams } = new URL(request.url);
    const file = PUPIL_FILES.find((known) => known === name);
    if (!file) return problemResponse(404, `There is no file "${name.slice(0, 40)}": use ${PUPIL_FILES.join(', ')}.`);
    const paperText = searchParams.get('paper') ?? 'a4';
    const paper = WEEK_PAPERS.find((known) => known === paperText);
    if (!paper)
      return problemResponse(400, `There is no paper "${paperText.slice(0, 40)}": use ${WEEK_PAPERS.join(', ')}.`);
    const weeksText = searchParams.get('weeks');
    if (weeksText !== null && !/^[1-9]\d?$/.test(weeksText))
      return problemResponse(400, `weeks "${weeksText.slice(0, 20)}": give a whole number from 1 to 99.`);
    const today = searchParams.get('from') ?? calendarToday();
    if (dayNumber(today) === undefined)
      return problemResponse(400, `from "${today.slice(0, 20)}": give a date of the calendar like 2027-03-20.`);
    const studio = currentStudio();
    const opened = await openPupil(studio, id);
    if (!opened) return problemResponse(404, 'This pupil was not found: they may have been removed.');
    const wishes = { today, paper, ...(weeksText !== null && { weeks: Number(weeksText) }) };
    const made = await pupilFile(studio, opened, file, wishes, request.signal);
    if (!made) return problemResponse(422, 'There is nothing to plan: the pupil’s instrument is not in the catalogue.');
    return new Response(made.data as BodyInit, {
      headers: {
        'content-type': made.type,
        'cache-control': 'no-store',
        'content-disposition': `${file === 'practice.pdf' ? 'inline' : 'attachment'}; filename="${made.name}"`,
      },
    });
  });
}
