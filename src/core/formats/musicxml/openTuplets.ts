import { greatestCommonDivisor, NOTE_TYPES, type NoteType, type Tuplet, valueTicks } from '../../time';
import { child, childrenOf, numberIn, textOf, type XmlElement } from './xmlTree';

/** A tuplet that further notes of its voice may belong to. */
interface OpenTuplet {
  readonly mark: Tuplet;
  /** The file says itself where it begins; otherwise it ends when its notes fill whole normal ones. */
  readonly declared: boolean;
  readonly number: string;
  notated: number;
}

/**
 * Groups the notes of one measure under tuplets, nested ones too: by the file's own start and stop marks, else by
 * filling up. `<time-modification>` gives the product of all levels; the ratios of each stand in `<tuplet-actual>` and
 * `<tuplet-normal>`, or follow by division (MusicXML 4.0, elements `tuplet` and `time-modification`).
 */
export class OpenTuplets {
  private made = 0;
  private readonly byVoice = new Map<string, OpenTuplet[]>();

  /** A new measure: no tuplet runs over its barline. */
  clear(): void {
    this.byVoice.clear();
  }

  /** The innermost tuplet of a note, with those around it. */
  of(note: XmlElement, voice: string): Tuplet | undefined {
    const actual = numberIn(note, 'time-modification', 'actual-notes');
    const normal = numberIn(note, 'time-modification', 'normal-notes');
    if (!actual || !normal || actual === normal || !isRatio(actual, normal)) {
      this.byVoice.delete(voice);
      return undefined;
    }
    const open = this.byVoice.get(voice) ?? [];
    this.byVoice.set(voice, open);
    const marks = childrenOf(child(note, 'notations'), 'tuplet');
    const starts = marks
      .filter((mark) => mark.attributes['type'] === 'start')
      .toSorted((a, b) => Number(a.attributes['number'] ?? 1) - Number(b.attributes['number'] ?? 1));
    starts.forEach((start, k) => this.begin(open, start, { actual, normal }, k === starts.length - 1));
    if (!open.at(-1) || !fits(open, actual, normal)) {
      // The marks do not say what the note's own ratio is: that one counts.
      if (open.length > 0 && starts.length === 0) open.length = 0;
      while (open.length > 0 && !fits(open, actual, normal)) open.pop();
      if (open.length === 0)
        open.push({
          mark: { id: this.freshId(), actual, normal },
          declared: starts.length > 0,
          number: '1',
          notated: 0,
        });
    }
    const innermost = open.at(-1);
    if (!innermost) return undefined;
    const type = NOTE_TYPES.find((known): known is NoteType => known === textOf(note, 'type')) ?? 'eighth';
    innermost.notated += valueTicks({ type, dots: Math.min(3, childrenOf(note, 'dot').length) as 0 | 1 | 2 | 3 });
    const isFull =
      !innermost.declared && innermost.notated % (innermost.mark.actual * valueTicks({ type, dots: 0 })) === 0;
    const stopped = marks
      .filter((mark) => mark.attributes['type'] === 'stop')
      .map((mark) => mark.attributes['number'] ?? '1');
    for (let k = open.length - 1; k >= 0; k -= 1) if (stopped.includes(open[k]?.number ?? '')) open.splice(k, 1);
    if (isFull) open.pop();
    return innermost.mark;
  }

  private begin(
    open: OpenTuplet[],
    start: XmlElement,
    whole: { readonly actual: number; readonly normal: number },
    isLast: boolean,
  ): void {
    const number = start.attributes['number'] ?? '1';
    const same = open.findIndex((one) => one.number === number);
    if (same >= 0) open.length = same;
    const outer = open.at(-1)?.mark;
    const said = [
      numberIn(start, 'tuplet-actual', 'tuplet-number'),
      numberIn(start, 'tuplet-normal', 'tuplet-number'),
    ] as const;
    const rest = divide(whole, product(open));
    const actual = said[0] ?? (isLast ? rest.actual : undefined);
    const normal = said[1] ?? (isLast ? rest.normal : undefined);
    if (actual === undefined || normal === undefined || !isRatio(actual, normal)) return;
    open.push({
      mark: { id: this.freshId(), actual, normal, ...(outer && { outer }) },
      declared: true,
      number,
      notated: 0,
    });
  }

  private freshId(): string {
    this.made += 1;
    return `t${this.made}`;
  }
}

function isRatio(actual: number, normal: number): boolean {
  return [actual, normal].every((one) => Number.isInteger(one) && one >= 1 && one <= 64);
}

interface Ratio {
  readonly actual: number;
  readonly normal: number;
}

function product(open: readonly OpenTuplet[]): Ratio {
  return open.reduce((all, { mark }) => ({ actual: all.actual * mark.actual, normal: all.normal * mark.normal }), {
    actual: 1,
    normal: 1,
  });
}

function fits(open: readonly OpenTuplet[], actual: number, normal: number): boolean {
  const whole = product(open);
  return whole.actual * normal === whole.normal * actual;
}

/** What is left of a ratio, as the file wrote it where that divides, else in lowest terms. */
function divide(whole: Ratio, by: Ratio): Ratio {
  const actual = whole.actual / by.actual;
  const normal = whole.normal / by.normal;
  if (Number.isInteger(actual) && Number.isInteger(normal)) return { actual, normal };
  const [over, under] = [whole.actual * by.normal, whole.normal * by.actual];
  const common = greatestCommonDivisor(over, under);
  return { actual: over / common, normal: under / common };
}
