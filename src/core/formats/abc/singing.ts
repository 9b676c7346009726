import { type Lyric, MAX_VERSES } from '../../score';
import type { DraftEvent } from './draftBars';
import { parseLyricLine } from './lyrics';

/** The notes of a line of music, for the words that stand under it. */
export class Singing {
  private notes: { readonly event: DraftEvent; readonly bar: number }[] = [];
  private verses = 0;

  /** A new line of music begins. */
  begin(): void {
    this.notes = [];
    this.verses = 0;
  }

  add(event: DraftEvent, bar: number): void {
    this.notes.push({ event, bar });
  }

  /** Puts a line of words under the notes, the next verse each time. @returns what found no place, in words */
  sing(text: string): string | undefined {
    this.verses += 1;
    const verse = this.verses;
    if (verse > MAX_VERSES) return `verse ${verse}`;
    const { notes } = this;
    const put = (event: DraftEvent, lyric: Lyric) => {
      event.marks.lyrics = [...(event.marks.lyrics ?? []).filter((other) => other.verse !== verse), lyric];
    };
    let next = 0;
    let lastSung: { event: DraftEvent; lyric: Lyric } | undefined;
    for (const step of parseLyricLine(text, verse)) {
      if (step === 'bar') {
        const here = notes[next - 1]?.bar ?? notes[0]?.bar;
        while (next < notes.length && notes[next]?.bar === here) next += 1;
        continue;
      }
      const note = notes[next];
      if (!note)
        return `the words from "${typeof step === 'object' ? step.text : step}" on: there are no notes left for them`;
      if (step === 'hold' && lastSung) {
        if (!lastSung.lyric.hyphen) put(lastSung.event, { ...lastSung.lyric, extend: true });
      } else if (typeof step === 'object') {
        put(note.event, step);
        lastSung = { event: note.event, lyric: step };
      }
      next += 1;
    }
    return undefined;
  }
}
