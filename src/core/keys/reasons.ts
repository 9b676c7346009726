import { heaviestCauses } from '../analysis';
import { nameKey, namePitchClass, type Pitch, semitones } from '../pitch';
import type { KeyForPlayer } from './rankKeys';

export function signatureText(signature: number): string {
  if (signature === 0) return 'no sharps or flats';
  const count = Math.abs(signature);
  const kind = signature > 0 ? 'sharp' : 'flat';
  return `${count} ${kind}${count === 1 ? '' : 's'}`;
}

function pitchText(pitch: Pitch): string {
  return `${namePitchClass(pitch)}${pitch.octave}`;
}

const times = (count: number) => (count === 1 ? 'once' : count === 2 ? 'twice' : `${count} times`);

/** Why a key is easy or hard for a player, in words, the weightiest first. */
export function keyReasons(judged: KeyForPlayer): readonly string[] {
  const { player, lowest, highest, missing, below, above, unknown } = judged;
  const range = player.instrument.range[player.level];
  const reasons: string[] = [];
  if (missing.length > 0)
    reasons.push(
      `${judged.canPlay ? '' : 'cannot be played: '}the ${player.instrument.shortName} does not have ${missing.map(pitchText).join(', ')}`,
    );
  if (below > 0)
    reasons.push(
      `${below} ${below === 1 ? 'note' : 'notes'} below ${pitchText(range.low)}, down to ${lowest ? pitchText(lowest) : ''}`,
    );
  if (above > 0)
    reasons.push(
      `${above} ${above === 1 ? 'note' : 'notes'} above ${pitchText(range.high)}, up to ${highest ? pitchText(highest) : ''}`,
    );
  if (unknown > 0) reasons.push(`${unknown} ${unknown === 1 ? 'note' : 'notes'} not known yet`);
  reasons.push(
    `${nameKey(judged.writtenKey)}, ${signatureText(judged.signature)}${judged.isHomeKey ? ', a key that first pupils start in' : ''}`,
  );
  if (judged.crossings > 0) reasons.push(`crosses the break ${times(judged.crossings)}`);
  if (highest && above === 0) {
    const room = semitones(range.high) - semitones(highest);
    reasons.push(`top note ${pitchText(highest)}, ${room >= 2 ? 'comfortable' : 'just within reach'}`);
  }
  if (judged.octave !== 0)
    reasons.push(
      `${Math.abs(judged.octave) === 1 ? 'an octave' : `${Math.abs(judged.octave)} octaves`} ${judged.octave > 0 ? 'above' : 'below'} the tune`,
    );
  const heaviest = heaviestCauses(judged.causes, 2)
    .filter(({ cause }) => cause !== 'signature' && cause !== 'break')
    .map(({ name }) => name);
  if (heaviest.length > 0) reasons.push(`hardest by ${heaviest.join(' and ')}`);
  return reasons;
}
