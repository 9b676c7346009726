import type { Meter, Tuplet } from '../../time';
import type { FormatProblem, Place } from '../problem';
import type { DraftEvent } from './draftBars';
import { tupletIn } from './lengths';

/** The tuplet that is going on, and how much of it is left. */
export class OpenTuplet {
  private open: { readonly mark: Tuplet; left: number; readonly text: string; readonly place: Place } | undefined;
  private begun = 0;

  /** @returns what is wrong: the sign cannot be read, or the tuplet before it was not finished */
  begin(match: RegExpExecArray, meter: Meter | undefined, place: Place): readonly FormatProblem[] {
    const before = this.end();
    const tuplet = tupletIn(match, meter);
    if (!tuplet)
      return [
        ...before,
        { code: 'unreadable-length', place, found: match[0], right: 'a tuplet is (2 to (9, or like (3:2:3' },
      ];
    this.begun += 1;
    const { actual, normal, count } = tuplet;
    this.open = { mark: { id: `t${this.begun}`, actual, normal }, left: count, text: match[0], place };
    return before;
  }

  /** Makes an event one of the tuplet, where one is going on. */
  take(event: DraftEvent): void {
    if (!this.open) return;
    const { mark } = this.open;
    event.tuplet = mark;
    event.length = (event.length * mark.normal) / mark.actual;
    this.open.left -= 1;
    if (this.open.left === 0) this.open = undefined;
  }

  /** @returns a problem where notes of it are missing */
  end(): readonly FormatProblem[] {
    const { open } = this;
    this.open = undefined;
    if (!open) return [];
    const right = `${open.left} more should follow`;
    return [{ code: 'tuplet-unfinished', place: open.place, found: open.text, right }];
  }
}
