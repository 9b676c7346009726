import { z } from 'zod';
import { isPlainText } from '../../plainText';

/**
 * A text of at most so many characters that can be stored and sent: whole characters, no NUL.
 * @param most UTF-16 code units
 */
export function textSchema(most: number) {
  return z.string().max(most).refine(isPlainText, 'half a character or a NUL is in it');
}
