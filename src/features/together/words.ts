import { ROLE_NAMES } from '../../core/ensemble';
import type { TogetherCell } from '../../core/score';
import type { TogetherLaidOut, TogetherSection } from '../../engrave/togetherEngraver';

/** A bar of a player that is picked. */
export interface PickedBar {
  readonly player: string;
  /** Index of the bar. */
  readonly bar: number;
}

/** What a cell of the table says. */
export function cellName(cell: TogetherCell): string {
  return cell === 'out' ? 'sits out' : cell === 'tune' ? 'the tune' : ROLE_NAMES[cell];
}

/** Bars of a section as printed: `bars 1 to 8`, `pickup to bar 4`, `bar 9`. */
export function sectionName({ from, to }: Pick<TogetherSection, 'from' | 'to'>): string {
  if (from === 0) return to === 0 ? 'the pickup' : `pickup to bar ${to}`;
  return from === to ? `bar ${from}` : `bars ${from} to ${to}`;
}

/**
 * What is otherwise than before for players who were not touched themselves, in sentences: roles that were given to
 * others because somebody is missing, or back.
 */
export function changesBetween(before: TogetherLaidOut, after: TogetherLaidOut): readonly string[] {
  if (before.sections.length !== after.sections.length) return [];
  return after.players.flatMap((player) => {
    const was = before.players.find(({ id }) => id === player.id);
    if (!was) return [];
    const changed = player.cells.flatMap((cell, section) => (cell === was.cells[section] ? [] : [section]));
    const [first] = changed;
    if (first === undefined) return [];
    const now = player.cells[first];
    const then = was.cells[first];
    if (now === undefined || then === undefined) return [];
    const isAll = changed.length === player.cells.length;
    const section = after.sections[first];
    const where = isAll || !section ? '' : ` in ${sectionName(section)}`;
    const more = changed.length > 1 && !isAll ? ' and elsewhere' : '';
    if (now === 'out') return [`${player.name} sits out${where}${more}.`];
    if (then === 'out') return [`${player.name} is back, with ${cellName(now)}${where}${more}.`];
    return [`${player.name} has ${cellName(now)}${where}${more}, instead of ${cellName(then)}.`];
  });
}
