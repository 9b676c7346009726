import type { Articulation } from '../../score';
import { weightAt } from '../../time';
import { joins, type LineView, meterAt, placeOf, type Slur, tupletOf } from './lineView';
import type { PhrasingTable } from './styles';

/**
 * Dots, dashes and accents of a style, by the index of the sounding note. What ends a phrase is neither short nor
 * pushed, but where it is short before a rest.
 */
export function marksFor(
  view: LineView,
  style: PhrasingTable['marks'],
  slurs: readonly Slur[],
): ReadonlyMap<number, Articulation> {
  if (!style) return new Map();
  const under = new Map<number, 'first' | 'inside'>();
  for (const [from, to] of slurs) for (let k = from; k <= to; k += 1) under.set(k, k === from ? 'first' : 'inside');
  const marks = new Map<number, Articulation>();
  view.notes.forEach((_, k) => {
    const mark =
      style === 'march'
        ? marchMark(view, k, under)
        : style === 'swing'
          ? swingMark(view, k, under)
          : tangoMark(view, k, under);
    if (mark) marks.set(k, mark);
  });
  return marks;
}

type Under = ReadonlyMap<number, 'first' | 'inside'>;

/** Weight on one, the rest detached; the last note held. */
function marchMark(view: LineView, k: number, under: Under): Articulation | undefined {
  const note = view.notes[k];
  if (!note) return undefined;
  const { beatLength } = placeOf(view, note);
  if (k === view.notes.length - 1) return 'tenuto';
  if (note.inBar === 0 && note.length >= beatLength && !view.joints.has(k)) return 'accent';
  if (under.has(k) || view.joints.has(k) || tupletOf(note) !== undefined) return undefined;
  const before = view.notes[k - 1];
  // The short note after a dotted one is light by itself.
  const isAfterDot = before !== undefined && before.bar === note.bar && before.length === 3 * note.length;
  return note.length <= beatLength && !isAfterDot ? 'staccato' : undefined;
}

/** Accents on what comes early or holds over the beat, and on a long note before a short one; short before a rest. */
function swingMark(view: LineView, k: number, under: Under): Articulation | undefined {
  const [note, next] = [view.notes[k], view.notes[k + 1]];
  if (!note || tupletOf(note) !== undefined) return undefined;
  const { inBeat, beatLength } = placeOf(view, note);
  const isEarly = inBeat > 0 && note.length > beatLength - inBeat;
  if (isEarly) return 'accent';
  const restsAfter = !next || next.start > note.start + note.length;
  if (restsAfter) return note.length <= beatLength && k < view.notes.length - 1 ? 'staccato' : undefined;
  if (inBeat === 0 && note.length * 2 === beatLength * 3 && !view.joints.has(k)) return 'accent';
  const isWeakQuarter = inBeat === 0 && note.length === beatLength && weightAt(meterAt(view, note), note.inBar) < 0.75;
  return isWeakQuarter && !under.has(k) && !view.joints.has(k) && joins(view, k, true) ? 'staccato' : undefined;
}

/** Weight on one, the short notes of the second beat dry. */
function tangoMark(view: LineView, k: number, under: Under): Articulation | undefined {
  const note = view.notes[k];
  if (!note || view.joints.has(k)) return undefined;
  const { beat, beatLength } = placeOf(view, note);
  if (note.inBar === 0 && note.length < 2 * beatLength && note.length >= beatLength / 2) return 'accent';
  return beat > 0 && note.length === beatLength / 2 && !under.has(k) ? 'staccato' : undefined;
}
