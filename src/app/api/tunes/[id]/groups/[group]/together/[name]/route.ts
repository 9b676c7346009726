import { fileSlug } from '../../../../../../../../core/formats';
import { currentStudio } from '../../../../../../../../server/database';
import { openGroup } from '../../../../../../../../server/groups';
import { handle, problemResponse, sendMade } from '../../../../../../../../server/http';
import { soundBank } from '../../../../../../../../server/soundBank';
import {
  togetherArchive,
  togetherFileOnPool,
  togetherQuery,
  togetherWish,
} from '../../../../../../../../server/togetherFiles';
import { storedTune } from '../../../../../../../../server/tunes';

interface Context {
  readonly params: Promise<{ readonly id: string; readonly group: string; readonly name: string }>;
}

const TYPES: Readonly<Record<string, string>> = {
  pdf: 'application/pdf',
  musicxml: 'application/vnd.recordare.musicxml+xml',
  mp3: 'audio/mpeg',
};

/**
 * A tune as a group plays it together: `score.pdf`, `concert-score.pdf` and the same as `.musicxml`, `all.pdf` (one
 * part after the other), `all.pdf.zip`, `all.musicxml.zip`, `all.mp3`, and for a player `PLAYER.pdf`,
 * `PLAYER.musicxml`, `PLAYER.without.mp3`, `PLAYER.slow.mp3`. PDF takes `?paper=a4|letter`.
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
    const query = togetherQuery.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success) return problemResponse(400, 'There is no such paper: use a4 or letter.');
    const { paper } = query.data;
    const texts = { tune: stored.tune, recipes: stored.recipes };
    const slug = `${fileSlug(stored.title)}.${fileSlug(group.name)}.together`;
    if (name === 'all.pdf.zip' || name === 'all.musicxml.zip') {
      const archive = togetherArchive(texts, group, name === 'all.pdf.zip' ? 'pdf' : 'musicxml', paper);
      const sent = await sendMade(request, {
        ...archive,
        type: 'application/zip',
        disposition: 'attachment',
        name: `${slug}.${name.slice(4)}`,
      });
      if (sent) return sent;
    }
    const wish = togetherWish(name);
    if (wish?.kind === 'sound' && !(await soundBank()))
      return problemResponse(
        503,
        'There are no sounds on this machine: install the Debian package timgm6mb-soundfont.',
      );
    const player = wish && 'player' in wish ? group.players.find((one) => one.id === wish.player) : undefined;
    const isKnown = wish !== undefined && (!('player' in wish) || wish.player === undefined || player !== undefined);
    const ending = name.split('.').at(-1) ?? '';
    const sent =
      isKnown &&
      (await sendMade(request, {
        ...togetherFileOnPool(texts, group, wish, paper),
        type: TYPES[ending] ?? 'application/octet-stream',
        disposition: ending === 'pdf' ? 'inline' : 'attachment',
        name: `${slug}.${player ? fileSlug(player.name || 'player') + name.slice(player.id.length) : name}`,
      }));
    return (
      sent ||
      problemResponse(
        404,
        'There is no such file: use score.pdf, concert-score.pdf, all.pdf, all.pdf.zip, all.musicxml.zip, all.mp3, or a player with .pdf, .musicxml, .without.mp3 or .slow.mp3. A drill is not arranged.',
      )
    );
  });
}
