import type { Pitch } from '../../pitch/pitch';
import { spend } from '../effort';
import type { AbcPitches } from './pitches';
import { NOTE } from './tokens';

/** Notes that are written together, as in `[CEG]` or `{cd}`, and what stands between them and is no note. */
export interface Gathered {
  readonly notes: readonly { readonly pitch: Pitch; readonly match: RegExpExecArray }[];
  readonly odd: readonly string[];
}

/** @param most notes that are read; what follows is left */
export function gatheredIn(text: string, pitches: AbcPitches, most = Infinity): Gathered {
  const notes: { pitch: Pitch; match: RegExpExecArray }[] = [];
  const odd: string[] = [];
  for (let at = 0; at < text.length && notes.length <= most;) {
    spend();
    NOTE.lastIndex = at;
    const match = NOTE.exec(text);
    const pitch = match ? pitches.read(match) : undefined;
    const sign = text[at] ?? '';
    if (match && pitch) notes.push({ pitch, match });
    else if (sign.trim() !== '') odd.push(sign);
    at += match ? match[0].length : 1;
  }
  return { notes, odd };
}
