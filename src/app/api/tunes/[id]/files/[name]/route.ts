import { writeJson } from '../../../../../../core/formats/json/readJson';
import { fileSlug } from '../../../../../../core/formats/fileSlug';
import { tuneStaff, writeMusicXml } from '../../../../../../core/formats/musicxml/writeMusicXml';
import { LEVELS } from '../../../../../../core/instruments/instrument';
import { currentStudio } from '../../../../../../server/database';
import { musicXmlOfLevel, openingOf, pdfOfLevel } from '../../../../../../server/engraving';
import { answer, refuse } from '../../../../../../server/http';
import { openWork, type OpenedWork } from '../../../../../../server/tunes';

/** Files to take away: `beginner.pdf`, `advanced.musicxml`, `tune.musicxml`, `tune.reed.json`, and `opening.svg` for the shelf. PDF takes `?paper=a4|letter`, `?save` downloads. */
export function GET(request: Request, { params }: { readonly params: Promise<{ readonly id: string; readonly name: string }> }): Promise<Response> {
  return answer(async () => {
    const { id, name } = await params;
    const opened = await openWork(currentStudio(), id);
    if (!opened) return refuse(404, 'This tune is not on the shelf.');
    const query = new URL(request.url).searchParams;
    const paper = query.get('paper') ?? 'a4';
    if (paper !== 'a4' && paper !== 'letter') return refuse(400, `There is no paper "${paper}": use a4 or letter.`);
    const made = await fileNamed(name, opened, paper);
    if (!made) return refuse(404, 'There is no such file: use LEVEL.pdf, LEVEL.musicxml, tune.musicxml or tune.reed.json.');
    const fileName = `${fileSlug(opened.work.tune.title)}.${name}`;
    return new Response(made.data as BodyInit, {
      headers: { 'content-type': made.type, 'content-disposition': `${query.has('save') ? 'attachment' : 'inline'}; filename="${fileName}"`, 'cache-control': 'no-store' },
    });
  });
}

const MUSICXML = 'application/vnd.recordare.musicxml+xml; charset=utf-8';

async function fileNamed(name: string, { work }: OpenedWork, paper: 'a4' | 'letter'): Promise<{ readonly data: string | Uint8Array; readonly type: string } | undefined> {
  if (name === 'tune.musicxml') return { data: writeMusicXml(tuneStaff(work.tune)), type: MUSICXML };
  if (name === 'opening.svg') return { data: await openingOf(work.tune), type: 'image/svg+xml; charset=utf-8' };
  if (name === 'tune.reed.json') return { data: writeJson(work.tune), type: 'application/json; charset=utf-8' };
  const level = LEVELS.find((known) => name === `${known}.pdf` || name === `${known}.musicxml`);
  if (!level) return undefined;
  return name.endsWith('.pdf') ? { data: await pdfOfLevel(work, level, paper), type: 'application/pdf' } : { data: musicXmlOfLevel(work, level), type: MUSICXML };
}
