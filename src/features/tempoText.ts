import type { Tempo } from '../core/score/tune';

const SIGNS: Readonly<Record<string, string>> = { whole: '𝅝', half: '𝅗𝅥', quarter: '♩', eighth: '♪' };

/** `♩ = 96`, `♩. = 60`: the counted note and its number. */
export function tempoText({ beat, perMinute }: Tempo): string {
  return `${beatText(beat)} = ${perMinute}`;
}

export function beatText({ type, dots }: Tempo['beat']): string {
  return `${SIGNS[type] ?? type}${'.'.repeat(dots)}`;
}
