import { instrumentById, LEVELS } from '../../../../core/instruments';
import { currentStudio } from '../../../../server/database';
import { drillBook, MAX_IN_BOOK } from '../../../../server/drillBook';
import { handle, problemResponse, sendMade } from '../../../../server/http';
import { isId } from '../../../../server/ids';

/** Chosen drills as one book: `?ids=ID,ID…&level=LEVEL`, `&instrument=ID` for all of them, `&paper=a4|letter`. */
export function GET(request: Request): Promise<Response> {
  return handle(async () => {
    const query = new URL(request.url).searchParams;
    const ids = [...new Set((query.get('ids') ?? '').split(',').filter(isId))];
    const level = LEVELS.find((known) => known === query.get('level'));
    const paper = query.get('paper') ?? 'a4';
    const instrument = query.get('instrument') ?? undefined;
    if (ids.length === 0 || ids.length > MAX_IN_BOOK)
      return problemResponse(400, `Name one to ${MAX_IN_BOOK} drills with ?ids=.`);
    if (!level) return problemResponse(400, `A book is for one level: use ${LEVELS.join(', ')}.`);
    if (paper !== 'a4' && paper !== 'letter')
      return problemResponse(400, `There is no paper "${paper.slice(0, 40)}": use a4 or letter.`);
    if (instrument !== undefined && !instrumentById(instrument))
      return problemResponse(400, `There is no instrument "${instrument.slice(0, 40)}" in the catalogue.`);
    const book = await drillBook(currentStudio(), ids, { level, paper, instrument });
    const sent =
      book &&
      (await sendMade(request, {
        ...book,
        type: 'application/pdf',
        disposition: 'inline',
        name: `drills.${level}.pdf`,
      }));
    return sent ?? problemResponse(404, 'None of these drills was found: they may have been removed.');
  });
}
