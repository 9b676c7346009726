import { fileSlug } from '../../../../../../../core/formats';
import { currentStudio } from '../../../../../../../server/database';
import {
  groupArchive,
  groupFileOnPool,
  groupSoundCount,
  groupSounds,
  playerSheetOnPool,
} from '../../../../../../../server/groupArchive';
import { GROUP_FILES } from '../../../../../../../server/groupParts';
import { openGroup } from '../../../../../../../server/groups';
import { handle, problemResponse, sendMade } from '../../../../../../../server/http';
import { soundBank } from '../../../../../../../server/soundBank';
import { storedTune } from '../../../../../../../server/tunes';
import { zipStream } from '../../../../../../../server/zipStream';

interface Context {
  readonly params: Promise<{ readonly id: string; readonly group: string; readonly name: string }>;
}

/**
 * A group's parts: `all.pdf.zip`, `all.musicxml.zip`, `all.mp3.zip` (sounds, a folder a player), `all.pdf` (one after
 * the other), `score.pdf`, `concert-score.pdf` and the same as `.musicxml`, or `PLAYER.pdf`. PDF takes
 * `?paper=a4|letter`.
 */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const { id, group: groupId, name } = await params;
    const studio = currentStudio();
    const [stored, found] = await Promise.all([storedTune(studio, id), openGroup(studio, groupId)]);
    if (!stored)
      return problemResponse(404, 'This tune was not found: it may have been removed, or the link is incomplete.');
    if (!found) return problemResponse(404, 'This group was not found: it may have been removed.');
    const { group } = found;
    const paper = new URL(request.url).searchParams.get('paper') ?? 'a4';
    if (paper !== 'a4' && paper !== 'letter')
      return problemResponse(400, `There is no paper "${paper.slice(0, 40)}": use a4 or letter.`);
    const texts = { tune: stored.tune, recipes: stored.recipes };
    const slug = `${fileSlug(stored.title)}.${fileSlug(group.name)}`;
    if (name === 'all.pdf.zip' || name === 'all.musicxml.zip') {
      const archive = groupArchive(texts, group, name === 'all.pdf.zip' ? 'pdf' : 'musicxml', paper);
      const sent = await sendMade(request, {
        ...archive,
        type: 'application/zip',
        disposition: 'attachment',
        name: `${slug}.${name.slice(4)}`,
      });
      if (sent) return sent;
    }
    if (name === 'all.mp3.zip') {
      if (!(await soundBank()))
        return problemResponse(
          503,
          'There are no sounds on this machine: install the Debian package timgm6mb-soundfont.',
        );
      return new Response(zipStream(groupSounds(texts, group, request.signal), request.signal), {
        headers: {
          'cache-control': 'no-store',
          'content-type': 'application/zip',
          'content-disposition': `attachment; filename="${slug}.sounds.zip"`,
          'x-reed-files': String(groupSoundCount(group)),
        },
      });
    }
    const whole = GROUP_FILES.find((one) => one === name);
    if (whole) {
      const isPdf = whole.endsWith('.pdf');
      const sent = await sendMade(request, {
        ...groupFileOnPool(texts, group, whole, paper),
        type: isPdf ? 'application/pdf' : 'application/vnd.recordare.musicxml+xml',
        disposition: isPdf ? 'inline' : 'attachment',
        name: `${slug}.${whole}`,
      });
      return sent ?? problemResponse(404, 'No player of this group has an instrument: choose one in Groups.');
    }
    const player = group.players.find((one) => `${one.id}.pdf` === name);
    const sent =
      player &&
      (await sendMade(request, {
        ...playerSheetOnPool(texts, player, 'part', 'pdf', paper),
        type: 'application/pdf',
        disposition: 'inline',
        name: `${slug}.${fileSlug(player.name || 'player')}.pdf`,
      }));
    return (
      sent ??
      problemResponse(
        404,
        `There is no such file: use all.pdf.zip, all.musicxml.zip, all.mp3.zip, ${GROUP_FILES.join(', ')} or a player with .pdf.`,
      )
    );
  });
}
