import { analyseTune, warmUpTune } from '../../analysis';
import { type Instrument, LEVELS } from '../../instruments';
import type { Tune } from '../../score';
import { partFor, type Part } from '../parts/partFor';

/**
 * The tune's own scale for one player: at the easiest level whose range holds it in one piece, since a scale with a
 * note put into another octave is none. The widest range is the last resort.
 */
export function warmUpPart(tune: Tune, instrument: Instrument): Part {
  const scale = warmUpTune(tune, analyseTune(tune));
  const made = LEVELS.map((level) => partFor(scale, { level, instrument, shape: 'none' }));
  const whole = made.find(
    ({ value, changes }) =>
      value.outside.length === 0 && changes.every(({ detail }) => detail.kind === 'phrase-octave'),
  );
  const part = (whole ?? made.at(-1))?.value;
  if (!part) throw new RangeError('there are no levels');
  return part;
}
