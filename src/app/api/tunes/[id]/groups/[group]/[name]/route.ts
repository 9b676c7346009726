import { fileSlug } from '../../../../../../../core/formats/fileSlug';
import { currentStudio } from '../../../../../../../server/database';
import { groupZip, playerPdf } from '../../../../../../../server/groupParts';
import { listGroups } from '../../../../../../../server/groups';
import { answer, refuse } from '../../../../../../../server/http';
import { openWork } from '../../../../../../../server/tunes';

interface Context {
  readonly params: Promise<{ readonly id: string; readonly group: string; readonly name: string }>;
}

/** A group's parts: `all.pdf.zip`, `all.musicxml.zip`, or `PLAYER.pdf`. PDF takes `?paper=a4|letter`. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { id, group: groupId, name } = await params;
    const studio = currentStudio();
    const [opened, groups] = await Promise.all([openWork(studio, id), listGroups(studio)]);
    if (!opened) return refuse(404, 'This tune was not found: it may have been removed, or the link is incomplete.');
    const group = groups.find((one) => one.id === groupId)?.group;
    if (!group) return refuse(404, 'This group was not found: it may have been removed.');
    const paper = new URL(request.url).searchParams.get('paper') ?? 'a4';
    if (paper !== 'a4' && paper !== 'letter') return refuse(400, `There is no paper "${paper}": use a4 or letter.`);
    const slug = `${fileSlug(opened.work.tune.title)}.${fileSlug(group.name)}`;
    if (name === 'all.pdf.zip' || name === 'all.musicxml.zip') {
      return file(
        await groupZip(opened.work, group, name === 'all.pdf.zip' ? 'pdf' : 'musicxml', paper),
        'application/zip',
        'attachment',
        `${slug}.${name.slice(4)}`,
      );
    }
    const player = group.players.find((one) => `${one.id}.pdf` === name);
    const data = player && (await playerPdf(opened.work, player, paper));
    return data
      ? file(data, 'application/pdf', 'inline', `${slug}.${fileSlug(player.name || 'player')}.pdf`)
      : refuse(404, 'There is no such file: use all.pdf.zip, all.musicxml.zip or a player with .pdf.');
  });
}

function file(data: Uint8Array, type: string, disposition: 'inline' | 'attachment', name: string): Response {
  return new Response(data as BodyInit, {
    headers: {
      'content-type': type,
      'content-disposition': `${disposition}; filename="${name}"`,
      'cache-control': 'no-store',
    },
  });
}
