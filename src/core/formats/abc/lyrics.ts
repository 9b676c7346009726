import type { Lyric } from '../../score';
import { spend } from '../effort';

/** What a `w:` line says for each note in turn; `undefined` passes a note over, `bar` skips to the next bar. */
export type LyricStep = Lyric | 'skip' | 'hold' | 'bar';

/**
 * Reads a `w:` line (ABC 2.1, section 5.1): `-` splits a word, `_` holds, `*` passes, `~` joins, `|` goes to the next
 * bar.
 */
export function parseLyricLine(text: string, verse: number): readonly LyricStep[] {
  const steps: LyricStep[] = [];
  const pattern = /\s+|(\*)|(_)|(\|)|(-)|((?:\\-|[^\s*_|\-]){1,200})/gy;
  for (let match = pattern.exec(text); match; match = pattern.exec(text)) {
    spend();
    if (match[1]) steps.push('skip');
    else if (match[2]) steps.push('hold');
    else if (match[3]) steps.push('bar');
    else if (match[4]) {
      const last = steps.at(-1);
      // A second hyphen in a row holds the syllable for one more note.
      if (typeof last === 'object' && !last.hyphen) steps[steps.length - 1] = { ...last, hyphen: true };
      else if (last !== undefined) steps.push('hold');
    } else if (match[5])
      steps.push({ verse, text: match[5].replaceAll('~', ' ').replaceAll('\\-', '-').replaceAll('\\%', '%') });
  }
  return steps;
}
