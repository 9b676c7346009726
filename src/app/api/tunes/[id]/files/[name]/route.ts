import { SOLO_PAGES } from '../../../../../../core/levels/soloPages';
import { fileSlug } from '../../../../../../core/formats/fileSlug';
import { parseScaleName, scaleProblemText } from '../../../../../../core/harmony/scales';
import { EXTENTS } from '../../../../../../core/pools/setLine';
import { instrumentById } from '../../../../../../core/instruments/catalogue';
import { TEMPO_LIMITS } from '../../../../../../core/score/usualTempo';
import { currentStudio } from '../../../../../../server/database';
import { answer, refuse, sendMade } from '../../../../../../server/http';
import { tuneFile } from '../../../../../../server/keptFiles';
import { tuneHead } from '../../../../../../db/tuneRepository';
import { fileType, type FileWishes } from '../../../../../../server/tuneFiles';

const NO_SUCH_FILE =
  'There is no such file: use LEVEL.pdf, LEVEL.musicxml, LEVEL.under.pdf, LEVEL.under.musicxml, LEVEL.pools.pdf or .musicxml, LEVEL.sets.pdf, LEVEL.solo.pdf or .musicxml, LEVEL, LEVEL.backing, LEVEL.click or LEVEL.solo with .mp3 or .wav where there is a sound bank, LEVEL.chords.pdf or .musicxml for strings, warm-up.pdf, or tune with .musicxml, .mxl, .abc, .mid or .reed.json.';

/** Files to take away: `beginner.pdf`, `advanced.musicxml`, `LEVEL.under.pdf|musicxml` (`?notes=3|5&pace=bar|half|beat`), `LEVEL.chords.pdf|musicxml` for strings (`?rhythm=long|shuffle|quick`), `LEVEL.pools.pdf|musicxml` (`?names=covered`), `LEVEL.sets.pdf` (`?set=NAME&extent=1|2|full`), `LEVEL.solo.pdf|musicxml` (`?analysis`, `?page=syllables|rhythm|call|early|own`), `LEVEL.mp3|wav`, `LEVEL.backing.mp3|wav`, `LEVEL.click.mp3|wav` and `LEVEL.solo.mp3|wav` (`?tempo=N`), of a drill `LEVEL.pdf` (`?names=covered&keys=all`), `tune.musicxml|mxl|abc|mid|reed.json`, `warm-up.pdf` (`?for=INSTRUMENT`), and `opening.svg` for the shelf. PDF takes `?paper=a4|letter`, `?save` downloads. */
export function GET(
  request: Request,
  { params }: { readonly params: Promise<{ readonly id: string; readonly name: string }> },
): Promise<Response> {
  return answer(async () => {
    const { id, name } = await params;
    const head = await tuneHead(currentStudio(), id);
    if (!head) return refuse(404, 'This tune was not found: it may have been removed, or the link is incomplete.');
    const type = fileType(name);
    if (type === undefined) return refuse(404, NO_SUCH_FILE);
    const query = new URL(request.url).searchParams;
    const paper = query.get('paper') ?? 'a4';
    if (paper !== 'a4' && paper !== 'letter')
      return refuse(400, `There is no paper "${paper.slice(0, 40)}": use a4 or letter.`);
    const instrument = query.get('for') ?? 'flute';
    if (!instrumentById(instrument))
      return refuse(400, `There is no instrument "${instrument.slice(0, 40)}" in the catalogue.`);
    const set = query.get('set')?.slice(0, 60);
    if (set !== undefined) {
      const parsed = parseScaleName(set);
      if (!parsed.ok) return refuse(400, `There is no such set: ${scaleProblemText(parsed.problem)}.`);
    }
    const extent = EXTENTS.find((known) => known === (query.get('extent') ?? 'full'));
    if (!extent) return refuse(400, `How far a set goes is ${EXTENTS.join(', ')}.`);
    const perMinute = askedTempo(query);
    if (perMinute === null)
      return refuse(400, `A tempo is a whole number from ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest}.`);
    const soloAs = askedSolo(query);
    if (soloAs === null) return refuse(400, `A page of a solo is ${SOLO_PAGES.join(', ')}.`);
    const wishes: FileWishes = {
      name,
      paper,
      instrument,
      notes: query.get('notes') === '5' ? 5 : 3,
      pace: query.get('pace')?.slice(0, 20),
      rhythm: query.get('rhythm')?.slice(0, 20),
      words: query.get('names') === 'covered' ? 'covered' : 'names',
      set,
      extent,
      ...(perMinute !== undefined && { perMinute }),
      ...(soloAs && { soloAs }),
      ...(query.get('keys') === 'all' && { allKeys: true }),
    };
    const file = await tuneFile(currentStudio(), { id, ...head }, wishes);
    const sent =
      file &&
      (await sendMade(request, {
        ...file,
        type,
        disposition: query.has('save') ? 'attachment' : 'inline',
        name: `${fileSlug(head.title)}.${name}`,
      }));
    return sent ?? refuse(404, NO_SUCH_FILE);
  });
}

/** As what a solo is printed; `null` for a page that there is not, `undefined` for the line alone. */
function askedSolo(query: URLSearchParams): FileWishes['soloAs'] | null {
  if (query.has('analysis')) return 'analysis';
  return query.has('page') ? (SOLO_PAGES.find((known) => known === query.get('page')) ?? null) : undefined;
}

/** Beats a minute of a sound file; `null` for what is no tempo, `undefined` where none is asked for. */
function askedTempo(query: URLSearchParams): number | null | undefined {
  const text = query.get('tempo');
  if (text === null) return undefined;
  const tempo = Number(text);
  return Number.isInteger(tempo) && tempo >= TEMPO_LIMITS.slowest && tempo <= TEMPO_LIMITS.fastest ? tempo : null;
}
