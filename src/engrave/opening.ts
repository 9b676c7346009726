import { FOR_ENGRAVER, writeMusicXml } from '../core/formats';
import { accidentalsFor, type Tune } from '../core/score';
import type { Engraver } from './engraver';
import { barWidths } from './lines';
import { tuneLane } from './staves';
import { cutSystems } from './systems';

/**
 * The first bars of a tune as a picture that stands alone (no style or font of a page needed): how a tune is known on
 * the shelf.
 */
export function openingPicture(engraver: Engraver, tune: Tune): string {
  const lane = tuneLane('opening', tune);
  const staff = { ...lane, hideChords: true, accidentals: accidentalsFor(lane) };
  const widths = barWidths([staff]);
  let to = 0;
  for (let room = 20; to < widths.length && to < 8 && (to === 0 || room >= (widths[to] ?? 0)); to += 1)
    room -= widths[to] ?? 0;
  // Whole bars alone, without the marks of what is not shown.
  const bars = staff.bars.slice(0, to).map(({ ending: _, endingStops: __, repeatEnd: ___, ...bar }) => bar);
  const picture = cutSystems(
    engraver.systems(
      writeMusicXml({ title: '', staves: [{ ...staff, bars }] }, { target: FOR_ENGRAVER, from: 0, to }),
      {
        width: 560,
        staffSpace: 6,
      },
    ),
  );
  const [system] = picture.systems;
  if (!system) throw new Error('a tune without bars has no opening');
  const air = (system.bottom - system.top) * 0.9;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 ${system.top - air} ${picture.width} ${system.bottom - system.top + 2 * air}" color="#1D211F" fill="#1D211F" stroke-width="0">${picture.definitions}${system.markup}</svg>`;
}
