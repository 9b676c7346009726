import { type Pitch, staffPosition } from '../pitch';

export type Clef = 'treble' | 'treble-8va' | 'treble-8vb' | 'alto' | 'tenor' | 'bass' | 'bass-8vb';

export interface ClefSign {
  readonly sign: 'G' | 'C' | 'F';
  readonly line: number;
  readonly octaveChange: -1 | 0 | 1;
}

export const CLEF_SIGNS: Readonly<Record<Clef, ClefSign>> = {
  treble: { sign: 'G', line: 2, octaveChange: 0 },
  'treble-8va': { sign: 'G', line: 2, octaveChange: 1 },
  'treble-8vb': { sign: 'G', line: 2, octaveChange: -1 },
  alto: { sign: 'C', line: 3, octaveChange: 0 },
  tenor: { sign: 'C', line: 4, octaveChange: 0 },
  bass: { sign: 'F', line: 4, octaveChange: 0 },
  'bass-8vb': { sign: 'F', line: 4, octaveChange: -1 },
};

/** Staff position (letters above C0) of the middle line under each clef: B4 for treble, C4 for alto, D3 for bass. */
const MIDDLE_LINE: Readonly<Record<Clef, number>> = {
  treble: 34,
  'treble-8va': 41,
  'treble-8vb': 27,
  alto: 28,
  tenor: 26,
  bass: 22,
  'bass-8vb': 15,
};

/** How many steps a pitch lies below the lowest line of a staff; 0 for one that does not. */
export function stepsBelowStaff(pitch: Pitch, clef: Clef): number {
  return Math.max(0, MIDDLE_LINE[clef] - 4 - staffPosition(pitch));
}

/** Of the clefs offered, the one under which the pitches need the fewest ledger lines; the earlier wins a tie. */
export function clefFor(
  pitches: readonly Pitch[],
  offered: readonly Clef[] = ['treble', 'bass', 'treble-8vb', 'treble-8va'],
): Clef {
  const ledgers = (clef: Clef) =>
    pitches.reduce((sum, pitch) => sum + Math.max(0, Math.abs(staffPosition(pitch) - MIDDLE_LINE[clef]) - 5), 0);
  return offered.reduce((best, next) => (ledgers(next) < ledgers(best) ? next : best), offered[0] ?? 'treble');
}
