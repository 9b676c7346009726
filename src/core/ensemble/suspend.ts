import { beatsOf, isCompound } from '../time';
import type { Ground } from './ground';
import { type LineNote, noteAt, type VoiceLine } from './line';
import { type EnsemblePlayer, isFirstYear } from './player';
import { faultsOf, type Sounding, strayPlaces } from './rules';

/** Bars between two suspensions of a part. */
const APART = 2;
/** In larger groups a note held over is not heard. */
const MAX_PARTS = 12;

/**
 * Holds notes over into the next chord where they fall a step into it (prepared, on a strong beat, falling by the next
 * beat: E. Aldwell and C. Schachter, Harmony and Voice Leading, ch. 20–21), in inner parts above the first year, and
 * where nothing else is made worse by it.
 *
 * @param parts as they sound, in the order of `order`
 */
export function withSuspensions(
  ground: Ground,
  parts: readonly Sounding[],
  order: readonly number[],
  players: readonly EnsemblePlayer[],
  lines: readonly VoiceLine[],
): readonly VoiceLine[] {
  if (order.length > MAX_PARTS || order.length < 3) return lines;
  const after = [...lines];
  const sounding = parts.map(({ line, cellAt }) => ({ line, cellAt }));
  let faults = faultsIn(ground, sounding);
  order.forEach((index, k) => {
    const player = players[index];
    if (!player || isFirstYear(player)) return;
    let last = -APART;
    for (let at = 1; at < ground.slots.length; at += 1) {
      const slot = ground.slots[at];
      const cell = slot && parts[k]?.cellAt(slot.bar);
      if (!slot || slot.bar - last < APART || (cell !== 'pad' && cell !== 'second' && cell !== 'counter')) continue;
      const line = after[index] ?? [];
      const held = heldOver(ground, line, at, sounding, k);
      if (!held) continue;
      sounding[k] = { line: held, cellAt: sounding[k]?.cellAt ?? (() => 'out') };
      const now = faultsIn(ground, sounding);
      const strays = cell === 'second' && strayPlaces(ground, sounding, k).length > 0;
      if (now > faults || strays) {
        sounding[k] = { line, cellAt: sounding[k]?.cellAt ?? (() => 'out') };
        continue;
      }
      faults = now;
      after[index] = held;
      last = slot.bar;
    }
  });
  return after;
}

function faultsIn(ground: Ground, parts: readonly Sounding[]): number {
  const { parallels, clashes, foreign } = faultsOf(ground, parts);
  return parallels.length + clashes.length + foreign.length;
}

/** The tune, and what a teacher wrote, stay as they are. */
const FIXED: ReadonlySet<LineNote['kind']> = new Set(['tune', 'own']);

/** The line with the note before a strong beat held over it, where that is a suspension. */
function heldOver(
  ground: Ground,
  line: VoiceLine,
  at: number,
  parts: readonly Sounding[],
  own: number,
): VoiceLine | undefined {
  const [slot, before] = [ground.slots[at], ground.slots[at - 1]];
  const span = slot && ground.spans[slot.bar];
  if (!slot?.isStrong || !before?.isStrong || !span || !slot.chord || slot.chord === before.chord) return undefined;
  if (ground.phraseStarts.has(slot.from)) return undefined;
  const beat = beatsOf(span.meter)[0]?.length ?? 0;
  const k = line.findIndex(({ from }) => from === slot.from);
  const [note, prior] = [line[k], line[k - 1]];
  if (!note || prior?.to !== slot.from || note.to - note.from < 2 * beat || isCompound(span.meter)) return undefined;
  const falls = prior.height - note.height;
  const isForeign = (slot.chord.bits & (1 << (prior.height % 12))) === 0;
  if ((falls !== 1 && falls !== 2) || !isForeign || FIXED.has(prior.kind) || FIXED.has(note.kind)) return undefined;
  const isRubbed = parts.some(({ line: other }, index) => {
    const there = index === own ? undefined : noteAt(other, slot.from);
    if (!there) return false;
    const distance = Math.abs(there.height - prior.height) % 12;
    // Nobody else has the note it falls to, but the bass far below.
    return distance === 1 || distance === 11 || Math.abs(there.height - note.height) % 12 === 0;
  });
  if (isRubbed) return undefined;
  const suspended: LineNote = { ...prior, to: slot.from + beat, kind: 'suspension' };
  const resolved: LineNote = { ...note, from: slot.from + beat, kind: 'resolution' };
  return [...line.slice(0, k - 1), suspended, resolved, ...line.slice(k + 1)];
}
