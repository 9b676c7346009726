import type { Pitch } from '../../pitch';
import { spend } from '../effort';
import type { AbcPitches } from './pitches';
import { noteAt, type NoteText } from './noteText';

/** Notes that are written together, as in `[CEG]` or `{cd}`, and what stands between them and is no note. */
export interface Gathered {
  readonly notes: readonly { readonly pitch: Pitch; readonly note: NoteText }[];
  readonly odd: readonly string[];
}

/** @param most notes that are read; what follows is left */
export function gatheredIn(text: string, pitches: AbcPitches, most = Infinity): Gathered {
  const notes: { pitch: Pitch; note: NoteText }[] = [];
  const odd: string[] = [];
  for (let at = 0; at < text.length && notes.length <= most;) {
    spend();
    const note = noteAt(text, at);
    const pitch = note && pitches.read(note);
    const sign = text[at] ?? '';
    if (note && pitch) notes.push({ pitch, note });
    else if (sign.trim() !== '') odd.push(sign);
    at = note?.end ?? at + 1;
  }
  return { notes, odd };
}
