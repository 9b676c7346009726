import { profileOf } from '../instruments';
import type { Chance } from '../chance';
import { TICKS_PER_QUARTER as QUARTER } from '../time';
import { inBits, roleAt, type Grounds } from './ground';
import { groundOf, type Note, type Room, type SoloRequest } from './room';
import { isStrongAt } from './strong';
import { timesOf, USUAL } from './wishes';

/** Styles whose lines take half steps from outside. */
const HALF_STEPS = new Set(['blues', 'jazz', 'rock', 'song']);

/** Ways into strong chord tones for those who have them: a half step below, or from above and below. */
export function decorated(notes: readonly Note[], room: Room, chance: Chance): readonly Note[] {
  const { request, grounds, bars } = room;
  const shares = sharesFor(request);
  if (!shares) return notes;
  const made = [...notes];
  let used = -4;
  for (let k = 2; k < made.length; k += 1) {
    const [target, before, earlier] = [made[k], made[k - 1], made[k - 2]];
    if (!target || !before || !earlier || k - used < 4) continue;
    const ground = groundOf(target.slot, grounds.grounds);
    const isGoal =
      roleAt(ground, target.height) === 'home' && (isStrongAt(target.slot.at, bars) || target.slot.isEarly === true);
    const joins = (a: Note, b: Note) =>
      a.slot.at + a.slot.length === b.slot.at && a.slot.length <= QUARTER / 2 && !a.slot.isEarly && !a.slot.isTriplet;
    if (!isGoal || !joins(before, target) || isStrongAt(before.slot.at, bars)) continue;
    const dice = chance();
    const below = target.height - 1;
    if (below < room.low) continue;
    const first = made[k - 3];
    const above = [1, 2].map((up) => target.height + up).find((height) => inBits(height, ground.pool));
    const canEnclose =
      above !== undefined &&
      above <= room.high &&
      first &&
      joins(earlier, before) &&
      !isStrongAt(earlier.slot.at, bars) &&
      isAtRest(first, above, grounds);
    if (dice < shares.enclosed && canEnclose) {
      made[k - 2] = { ...earlier, height: above, device: 'enclosure' };
      made[k - 1] = { ...before, height: below, device: 'enclosure' };
      used = k;
    } else if (dice < shares.led && isAtRest(earlier, below, grounds)) {
      made[k - 1] = { ...before, height: below, device: 'approach' };
      used = k;
    }
  }
  return made;
}

/** How often a chord tone is closed in on, and how often that or led into; none for levels and styles without. */
function sharesFor({
  level,
  form,
  tools,
}: SoloRequest): { readonly enclosed: number; readonly led: number } | undefined {
  const amount = tools?.['ways-in'] ?? USUAL;
  // Where somebody asks for much of it, it comes in any style.
  if (profileOf(level).solo.notes !== 'all' || (amount <= USUAL && !HALF_STEPS.has(form.style))) return undefined;
  const times = timesOf(tools, 'ways-in');
  return { enclosed: Math.min(0.95, 0.35 * times), led: Math.min(0.95, 0.75 * times) };
}

/** Whether a note may go on to another height by other than a step, and does not repeat it. */
function isAtRest({ slot, height, device }: Note, to: number, { grounds }: Grounds): boolean {
  const ground = groundOf(slot, grounds);
  const isPool = inBits(height, ground.pool);
  return (
    device === undefined && isPool && roleAt(ground, height) !== 'rub' && height !== to && Math.abs(height - to) <= 7
  );
}
