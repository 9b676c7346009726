import type { Instrument } from '../instrument';
import { ADLER, AT_PITCH, IN_BB, IN_EB, IN_LOW_BB, IN_LOW_EB, MAKERS, pitch, ranges, VALVES } from './facts';

type Facts = Omit<Instrument, 'family' | 'breaks' | 'breathSeconds' | 'source' | 'beginnerMinutes'> & Partial<Pick<Instrument, 'breathSeconds' | 'source' | 'beginnerMinutes'>>;

/** The partials of a brass instrument are felt at the lip, not crossed with the fingers: no breaks. First-year lips tire soon. */
function brass(facts: Facts): Instrument {
  return { family: 'brass', breaks: [], beginnerMinutes: 5, breathSeconds: 4, source: ADLER, ...facts };
}

const CORNET_RANGES = ranges('B3 D5', 'A3 G5', 'F#3 C6', 'F#3 D6');
const BAND_RANGES = ranges('B3 D5', 'A3 G5', 'F#3 B5', 'F#3 C6');
const BAND_KEYS = ['C', 'G', 'F'] as const;
const LOW_KEYS = ['Bb', 'F', 'Eb'] as const;

export const BRASS: readonly Instrument[] = [
  brass({ id: 'cornet', name: 'Cornet in B♭', shortName: 'cornet', clef: 'treble', transposition: IN_BB, range: CORNET_RANGES, homeKeys: BAND_KEYS, mechanism: VALVES('C3') }),
  brass({ id: 'trumpet-bb', name: 'Trumpet in B♭', shortName: 'trumpet', clef: 'treble', transposition: IN_BB, range: CORNET_RANGES, homeKeys: BAND_KEYS, mechanism: VALVES('C3') }),
  brass({ id: 'trumpet-c', name: 'Trumpet in C', shortName: 'C trumpet', clef: 'treble', transposition: AT_PITCH, range: CORNET_RANGES, homeKeys: BAND_KEYS, mechanism: VALVES('C3') }),
  brass({ id: 'flugelhorn', name: 'Flugelhorn', shortName: 'flugelhorn', clef: 'treble', transposition: IN_BB, range: BAND_RANGES, homeKeys: BAND_KEYS, mechanism: VALVES('C3') }),
  brass({
    id: 'horn-f', name: 'Horn in F', shortName: 'horn', clef: 'treble', transposition: { diatonic: 4, chromatic: 7 },
    range: ranges('B3 D5', 'G3 G5', 'C3 A5', 'F#2 C6'), homeKeys: ['C', 'F', 'G'], mechanism: { kind: 'valves', valves: 3, open: pitch('C2'), second: pitch('F2') },
  }),
  brass({ id: 'tenor-horn', name: 'Tenor horn in E♭', shortName: 'tenor horn', clef: 'treble', transposition: IN_EB, range: BAND_RANGES, homeKeys: BAND_KEYS, source: MAKERS, mechanism: VALVES('C3') }),
  brass({ id: 'baritone-tc', name: 'Baritone, treble clef', shortName: 'baritone', clef: 'treble', transposition: IN_LOW_BB, range: BAND_RANGES, homeKeys: BAND_KEYS, source: MAKERS, mechanism: VALVES('C3') }),
  brass({ id: 'baritone-bc', name: 'Baritone, bass clef', shortName: 'baritone (b.c.)', clef: 'bass', transposition: AT_PITCH, range: ranges('A2 C4', 'G2 F4', 'E2 A4', 'E2 Bb4'), homeKeys: LOW_KEYS, source: MAKERS, mechanism: VALVES('Bb1') }),
  brass({ id: 'euphonium-tc', name: 'Euphonium, treble clef', shortName: 'euphonium', clef: 'treble', transposition: IN_LOW_BB, range: ranges('B3 D5', 'A3 G5', 'F#3 C6', 'E3 D6'), homeKeys: BAND_KEYS, mechanism: VALVES('C3', 4) }),
  brass({ id: 'euphonium-bc', name: 'Euphonium, bass clef', shortName: 'euphonium (b.c.)', clef: 'bass', transposition: AT_PITCH, range: ranges('A2 C4', 'G2 F4', 'E2 Bb4', 'D2 C5'), homeKeys: LOW_KEYS, mechanism: VALVES('Bb1', 4) }),
  brass({
    id: 'trombone', name: 'Trombone', shortName: 'trombone', clef: 'bass', transposition: AT_PITCH,
    range: ranges('Bb2 D4', 'F2 F4', 'E2 Bb4', 'E2 F5'), homeKeys: LOW_KEYS, breathSeconds: 3, mechanism: { kind: 'slide', open: pitch('Bb1') },
  }),
  brass({
    id: 'trombone-tenor-clef', name: 'Trombone, tenor clef', shortName: 'trombone (t.c.)', clef: 'tenor', transposition: AT_PITCH,
    range: ranges('Bb2 D4', 'F2 F4', 'E2 Bb4', 'E2 F5'), homeKeys: LOW_KEYS, breathSeconds: 3, mechanism: { kind: 'slide', open: pitch('Bb1') },
  }),
  brass({
    id: 'trombone-tc', name: 'Trombone in B♭, treble clef', shortName: 'trombone (tr.c.)', clef: 'treble', transposition: IN_LOW_BB,
    range: ranges('C4 E5', 'G3 G5', 'F#3 C6', 'F#3 G6'), homeKeys: BAND_KEYS, breathSeconds: 3, source: MAKERS, mechanism: { kind: 'slide', open: pitch('C3') },
  }),
  brass({ id: 'bass-eb', name: 'Bass in E♭, treble clef', shortName: 'E♭ bass', clef: 'treble', transposition: IN_LOW_EB, range: ranges('B3 D5', 'A3 G5', 'F#3 B5', 'E3 C6'), homeKeys: BAND_KEYS, breathSeconds: 3, source: MAKERS, mechanism: VALVES('C3', 4) }),
  brass({ id: 'bass-bb', name: 'Bass in B♭, treble clef', shortName: 'B♭ bass', clef: 'treble', transposition: { diatonic: 15, chromatic: 26 }, range: ranges('B3 C5', 'A3 G5', 'F#3 B5', 'E3 C6'), homeKeys: BAND_KEYS, breathSeconds: 3, source: MAKERS, mechanism: VALVES('C3', 4) }),
  brass({ id: 'tuba', name: 'Tuba', shortName: 'tuba', clef: 'bass', transposition: AT_PITCH, range: ranges('A1 C3', 'F1 F3', 'E1 Bb3', 'D1 F4'), homeKeys: LOW_KEYS, breathSeconds: 3, mechanism: VALVES('Bb0', 4) }),
];
