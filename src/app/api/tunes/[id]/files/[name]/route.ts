import { writeAbc } from '../../../../../../core/formats/abc/writeAbc';
import { writeMidi } from '../../../../../../core/formats/midi/writeMidi';
import { writeMxl } from '../../../../../../core/formats/musicxml/mxl';
import { instrumentById } from '../../../../../../core/instruments/catalogue';
import { writeJson } from '../../../../../../core/formats/json/readJson';
import { fileSlug } from '../../../../../../core/formats/fileSlug';
import { writeMusicXml } from '../../../../../../core/formats/musicxml/writeMusicXml';
import { LEVELS, type Instrument } from '../../../../../../core/instruments/instrument';
import { BOW_RHYTHMS, USUAL_RHYTHM } from '../../../../../../core/levels/accompany/stringChords';
import { UNDER_PACES } from '../../../../../../core/levels/accompany/underPart';
import { currentStudio } from '../../../../../../server/database';
import {
  musicXmlOfLevel,
  openingOf,
  partFile,
  pdfOfLevel,
  stringChordsOf,
  underMusicXml,
  underPdf,
  warmUpPdf,
} from '../../../../../../server/engraving';
import { answer, refuse } from '../../../../../../server/http';
import { openWork, type OpenedWork } from '../../../../../../server/tunes';
import { tuneStaff } from '../../../../../../core/formats/musicxml/scoreFile';

/** Files to take away: `beginner.pdf`, `advanced.musicxml`, `LEVEL.under.pdf|musicxml` (`?notes=3|5&pace=bar|half|beat`), `LEVEL.chords.pdf|musicxml` for strings (`?rhythm=long|shuffle|quick`), `tune.musicxml|mxl|abc|mid|reed.json`, `warm-up.pdf` (`?for=INSTRUMENT`), and `opening.svg` for the shelf. PDF takes `?paper=a4|letter`, `?save` downloads. */
export function GET(
  request: Request,
  { params }: { readonly params: Promise<{ readonly id: string; readonly name: string }> },
): Promise<Response> {
  return answer(async () => {
    const { id, name } = await params;
    const opened = await openWork(currentStudio(), id);
    if (!opened) return refuse(404, 'This tune was not found: it may have been removed, or the link is incomplete.');
    const query = new URL(request.url).searchParams;
    const paper = query.get('paper') ?? 'a4';
    if (paper !== 'a4' && paper !== 'letter') return refuse(400, `There is no paper "${paper}": use a4 or letter.`);
    const instrument = instrumentById(query.get('for') ?? 'flute');
    if (!instrument)
      return refuse(400, `There is no instrument "${(query.get('for') ?? '').slice(0, 40)}" in the catalogue.`);
    const made = await fileNamed(name, opened, paper, instrument, query);
    if (!made)
      return refuse(
        404,
        'There is no such file: use LEVEL.pdf, LEVEL.musicxml, LEVEL.under.pdf, LEVEL.under.musicxml, LEVEL.chords.pdf or .musicxml for strings, warm-up.pdf, or tune with .musicxml, .mxl, .abc, .mid or .reed.json.',
      );
    const fileName = `${fileSlug(opened.work.tune.title)}.${name}`;
    return new Response(made.data as BodyInit, {
      headers: {
        'content-type': made.type,
        'content-disposition': `${query.has('save') ? 'attachment' : 'inline'}; filename="${fileName}"`,
        'cache-control': 'no-store',
      },
    });
  });
}

const MUSICXML = 'application/vnd.recordare.musicxml+xml; charset=utf-8';

async function fileNamed(
  name: string,
  { work }: OpenedWork,
  paper: 'a4' | 'letter',
  instrument: Instrument,
  query: URLSearchParams,
): Promise<{ readonly data: string | Uint8Array; readonly type: string } | undefined> {
  if (name === 'tune.musicxml') return { data: writeMusicXml(tuneStaff(work.tune)), type: MUSICXML };
  if (name === 'tune.mxl')
    return { data: writeMxl(writeMusicXml(tuneStaff(work.tune))), type: 'application/vnd.recordare.musicxml' };
  if (name === 'tune.abc') return { data: writeAbc(work.tune).text, type: 'text/vnd.abc; charset=utf-8' };
  if (name === 'tune.mid') return { data: writeMidi(work.tune).data, type: 'audio/midi' };
  if (name === 'warm-up.pdf') return { data: await warmUpPdf(work.tune, instrument, paper), type: 'application/pdf' };
  if (name === 'opening.svg') return { data: await openingOf(work.tune), type: 'image/svg+xml; charset=utf-8' };
  if (name === 'tune.reed.json') return { data: writeJson(work.tune), type: 'application/json; charset=utf-8' };
  const underLevel = LEVELS.find((known) => name.startsWith(`${known}.under.`));
  if (underLevel) {
    const wishes = {
      level: underLevel,
      notes: query.get('notes') === '5' ? (5 as const) : (3 as const),
      pace: UNDER_PACES.find((known) => known === query.get('pace')) ?? UNDER_PACES[0],
    };
    if (name === `${underLevel}.under.pdf`)
      return { data: await underPdf(work, wishes, paper), type: 'application/pdf' };
    return name === `${underLevel}.under.musicxml` ? { data: underMusicXml(work, wishes), type: MUSICXML } : undefined;
  }
  const chordLevel = LEVELS.find((known) => name === `${known}.chords.pdf` || name === `${known}.chords.musicxml`);
  if (chordLevel) {
    const made = stringChordsOf(
      work,
      chordLevel,
      BOW_RHYTHMS.find((known) => known === query.get('rhythm')) ?? USUAL_RHYTHM[chordLevel],
    );
    const format = name.endsWith('.pdf') ? 'pdf' : 'musicxml';
    return (
      made && {
        data: await partFile(made.part, format, paper, work.tune.rights),
        type: format === 'pdf' ? 'application/pdf' : MUSICXML,
      }
    );
  }
  const level = LEVELS.find((known) => name === `${known}.pdf` || name === `${known}.musicxml`);
  if (!level) return undefined;
  return name.endsWith('.pdf')
    ? { data: await pdfOfLevel(work, level, paper), type: 'application/pdf' }
    : { data: musicXmlOfLevel(work, level), type: MUSICXML };
}
