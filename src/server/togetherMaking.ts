import { ensembleOfGroup, performedPart } from '../core/ensemble';
import { writeMusicXml } from '../core/formats';
import type { Group } from '../core/keys';
import type { Part } from '../core/levels';
import { slowTempo } from '../core/score';
import type { Work } from '../core/work';
import { partPdf, partsPdf } from '../engrave/pdf';
import { groupScore, scorePdf } from '../engrave/scorePdf';
import type { Paper } from '../engrave/sheet';
import { scoreWithOssias } from '../engrave/staves';
import { planPlaying } from '../sound/playPlan';
import { engraver } from './engraving';
import { renderedSound } from './levelSounds';

/** What is made of a tune that a group plays together. */
export type TogetherWish =
  | { readonly kind: 'score'; readonly pitch: 'written' | 'concert'; readonly format: 'pdf' | 'musicxml' }
  /** All parts, one after another. */
  | { readonly kind: 'parts' }
  | { readonly kind: 'part'; readonly player: string; readonly format: 'pdf' | 'musicxml' }
  /** Everybody, everybody but one, or one alone and slowly. */
  | { readonly kind: 'sound'; readonly player?: string; readonly how: 'all' | 'without' | 'slow' };

/** A file of a tune played together; `undefined` where nobody plays, the player is not there, or there is no sound. */
export async function togetherFile(
  work: Work,
  group: Group,
  wish: TogetherWish,
  paper: Paper,
): Promise<string | Uint8Array | undefined> {
  const ensemble = ensembleOfGroup(work, group);
  if (!ensemble || work.tune.drill) return undefined;
  const notes = work.tune.together ?? {};
  const partAt = (index: number): Part => performedPart(ensemble, index, notes).part;
  const bareAt = (index: number): Part => performedPart(ensemble, index, notes, 'bare').part;
  const there = ensemble.voices.flatMap(({ cells }, index) => (cells.some((cell) => cell !== 'out') ? [index] : []));
  const placeOf = (player: string) => ensemble.voices.findIndex((voice) => voice.player.id === player);
  switch (wish.kind) {
    case 'score': {
      const parts = there.map(bareAt);
      return wish.format === 'pdf'
        ? scorePdf(await engraver(), parts, wish.pitch, paper)
        : writeMusicXml(groupScore(parts, wish.pitch, work.tune.rights));
    }
    case 'parts':
      return partsPdf(await engraver(), there.map(partAt), paper);
    case 'part': {
      const place = placeOf(wish.player);
      if (place < 0) return undefined;
      return wish.format === 'pdf'
        ? partPdf(await engraver(), partAt(place), paper)
        : writeMusicXml(scoreWithOssias(partAt(place), work.tune.rights));
    }
    case 'sound': {
      const place = wish.player === undefined ? undefined : placeOf(wish.player);
      if (place !== undefined && place < 0) return undefined;
      return renderedSound(
        planPlaying(work, {
          heard: 'group',
          group: {
            group,
            ...(place !== undefined && (wish.how === 'slow' ? { only: place } : { without: place })),
          },
          backing: 'none',
          click: false,
          countIn: true,
          from: 0,
          ...(wish.how === 'slow' && { perMinute: slowTempo(ensemble.perMinute) }),
        }),
        'mp3',
      );
    }
  }
}
