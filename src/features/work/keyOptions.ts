import type { Instrument } from '../../core/instruments';
import {
  type Key,
  keyWithSignature,
  type Mode,
  nameKey,
  parseKey,
  printKey,
  readableInterval,
  signatureOf,
  transposeKey,
} from '../../core/pitch';
import type { Option } from '../../ui/Select';

/**
 * The keys of a mode in the order of fifths, from six flats to six sharps; F♯ and G♭ are both there.
 * @param reader by whom they are read in another key than sounds: that one is told beside each
 */
export function keyOptions(
  mode: Mode,
  extra: readonly Key[] = [],
  reader?: Pick<Instrument, 'transposition'>,
): readonly Option<string>[] {
  const isOther = reader !== undefined && reader.transposition.chromatic % 12 !== 0;
  const hint = (key: Key) => {
    if (!isOther) return signatureText(key);
    const read = transposeKey(key, readableInterval(key, reader.transposition));
    return `read in ${nameKey(read)}, ${signatureText(read)}`;
  };
  const keys = Array.from({ length: 13 }, (_, index) => keyWithSignature(index - 6, mode));
  const all = [...keys, ...extra.filter((key) => !keys.some((known) => printKey(known) === printKey(key)))];
  return all.map((key) => ({ value: printKey(key), label: nameKey(key), hint: hint(key) }));
}

function signatureText(key: Key): string {
  const count = Math.abs(signatureOf(key));
  if (count === 0) return 'no sharps or flats';
  return `${count} ${signatureOf(key) > 0 ? 'sharp' : 'flat'}${count > 1 ? 's' : ''}`;
}

/** The key of an option's value. */
export function keyOf(value: string): Key | undefined {
  const parsed = parseKey(value);
  return parsed.ok ? parsed.value : undefined;
}
