import type { ChordSymbol } from '../../harmony';
import type { Key } from '../../pitch';
import type { Jump, Note } from '../../score';
import type { Ticks } from '../../time';
import type { RawBar, RawEvent } from '../assemble';
import type { Place } from '../problem';
import type { AbcMark } from './marks';

type Marks = NonNullable<RawEvent['marks']>;
export type DraftEvent = { -readonly [K in keyof RawEvent]: RawEvent[K] } & {
  marks: { -readonly [K in keyof Marks]: Marks[K] };
};
type DraftBar = { -readonly [K in keyof RawBar]: RawBar[K] } & {
  events: DraftEvent[];
  chords: { at: Ticks; symbol: ChordSymbol }[];
};

/** The bars as they fill: the one that is open, and those that are closed. */
export class DraftBars {
  readonly closed: RawBar[] = [];
  open: DraftBar = emptyBar({});
  /** How much the open bar holds. */
  position: Ticks = 0;
  private nextKey: Key | undefined;

  /** Whether nothing has sounded or rested yet. */
  get isEmpty(): boolean {
    return this.closed.length === 0 && this.open.events.length === 0;
  }

  add(event: DraftEvent, place: Place): void {
    if (this.open.events.length === 0) this.open.place = place;
    this.open.events.push(event);
    this.position += event.length;
  }

  /** A key at the head of the open bar; inside one it waits for the next barline, and the answer is false. */
  setKey(key: Key): boolean {
    if (this.open.events.length === 0) {
      this.open.key = key;
      return true;
    }
    this.nextKey = key;
    return false;
  }

  addJump(value: Jump): void {
    this.open.jumps = [...(this.open.jumps ?? []), value];
  }

  /** Marks of a bar still to come (a repeat sign, a key) stay for it. */
  close(): void {
    this.position = 0;
    if (this.open.events.length === 0) return;
    this.closed.push(this.open);
    this.open = emptyBar(this.open.place);
    if (this.nextKey) this.open.key = this.nextKey;
    this.nextKey = undefined;
  }

  barline(text: string): void {
    const endsRepeat = text.startsWith(':');
    const startsRepeat = text === '::' || (text.length > 1 && text.endsWith(':'));
    const colons = text === '::' ? 1 : (/^:+/.exec(text)?.[0].length ?? 0);
    if (this.open.events.length > 0) {
      if (endsRepeat) this.open.repeatEnd = colons + 1;
      else if (text.includes(']')) this.open.barline = 'final';
      else if (text.includes('||')) this.open.barline = 'double';
    } else {
      const before = this.closed.at(-1);
      if (before && endsRepeat) this.closed[this.closed.length - 1] = { ...before, repeatEnd: colons + 1 };
      else if (before && text.includes(']')) this.closed[this.closed.length - 1] = { ...before, barline: 'final' };
    }
    this.close();
    if (startsRepeat) this.open.repeatStart = true;
  }

  /** An ending for the times that are written like `1` or `1,3-4`. */
  ending(text: string): void {
    const times = text.split(',').flatMap((part) => {
      const [from = 1, to] = part.split('-').map(Number);
      return Array.from({ length: Math.min(16, Math.max(1, (to ?? from) - from + 1)) }, (_, k) => from + k);
    });
    if (this.open.events.length > 0) this.close();
    this.open.ending = times;
  }

  /** What a mark says of the event that it stands before, or of its bar. */
  apply(mark: AbcMark, event: DraftEvent): void {
    switch (mark.kind) {
      case 'fermata':
        event.marks.fermata = true;
        return;
      case 'articulation':
        event.marks.articulations = [...(event.marks.articulations ?? []), mark.value] satisfies Note['articulations'];
        return;
      case 'ornament':
        event.marks.ornaments = [...(event.marks.ornaments ?? []), mark.value];
        return;
      case 'dynamic':
        event.marks.dynamic = mark.value;
        return;
      case 'hairpin':
        if (event.pitch) event.marks.hairpin = mark.value;
        return;
      case 'hairpin-end':
        return;
      case 'jump':
        this.addJump(mark.value);
    }
  }
}

function emptyBar(place: Place): DraftBar {
  return { events: [], chords: [], place };
}
