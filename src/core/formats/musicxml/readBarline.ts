import type { MeasureFound } from './voices';
import { child, textOf, type XmlElement } from './xmlTree';

type Writable<Value> = { -readonly [Field in keyof Value]: Value[Field] };
export type BarlineMarks = Writable<
  Pick<MeasureFound, 'repeatStart' | 'repeatEnd' | 'ending' | 'endingStops' | 'barline'>
>;

/** A repeat is played so often at most. */
const MAX_TIMES = 16;

/** What a barline says, put on its measure: repeats, endings, double and final lines. */
export function readBarline(element: XmlElement, found: BarlineMarks): void {
  const repeat = child(element, 'repeat');
  if (repeat?.attributes['direction'] === 'forward') found.repeatStart = true;
  if (repeat?.attributes['direction'] === 'backward')
    found.repeatEnd = Math.min(MAX_TIMES, Math.max(2, Number.parseInt(repeat.attributes['times'] ?? '2', 10) || 2));
  const ending = child(element, 'ending');
  if (ending?.attributes['type'] === 'start') {
    const times = (ending.attributes['number'] ?? '1')
      .split(/[,\s]+/)
      .map(Number)
      .filter((time) => Number.isInteger(time) && time > 0 && time <= MAX_TIMES);
    found.ending = times.length > 0 ? times : [1];
  } else if (ending) found.endingStops = true;
  const style = textOf(element, 'bar-style');
  const isRight = (element.attributes['location'] ?? 'right') === 'right';
  if (isRight && !repeat && style === 'light-heavy') found.barline = 'final';
  if (isRight && !repeat && style === 'light-light') found.barline = 'double';
}
