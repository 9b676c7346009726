import { isAdded } from '../embellish/events';
import { isOneTuplet, joins, type LineView, placeOf, type Slur, stretchOf, tupletOf } from './lineView';
import type { PhrasingTable } from './styles';

/** How what is played makes its slurs. */
export type Touch = 'bow' | 'breath' | 'plucked';

/**
 * The slurs of a style, inside the phrase: no note is slurred to itself, none over the end of a phrase or its half, and
 * a pickup not into its downbeat; a triplet is slurred whole or not at all. Equal bars come out alike, since nothing
 * but the bar is looked at.
 */
export function slursFor(view: LineView, style: PhrasingTable['slurs'], touch: Touch): readonly Slur[] {
  switch (style) {
    case 'half bar':
      return runs(view, (k) => sameStretch(view, k));
    case 'bar':
      return runs(view, () => true);
    case 'beat':
      return touch === 'bow' ? overBeats(view) : onBeats(view);
    case 'weak into strong':
      return weakIntoStrong(view);
    case 'pairs':
      return pairs(view);
    case 'detached':
      return withAdditions(view);
    case 'snap':
      return snaps(view);
  }
}

function sameStretch(view: LineView, k: number): boolean {
  const [here, next] = [view.notes[k], view.notes[k + 1]];
  return here !== undefined && next !== undefined && stretchOf(view, here) === stretchOf(view, next);
}

/** The longest runs that hold together; a tuplet is never parted. */
function runs(view: LineView, goesOn: (k: number) => boolean): readonly Slur[] {
  const slurs: Slur[] = [];
  for (let k = 0; k < view.notes.length;) {
    let to = k;
    while (joins(view, to) && (isOneTuplet(view, to) || goesOn(to))) to += 1;
    // What ends in the middle of a tuplet leaves it out.
    while (to > k && isOneTuplet(view, to)) to -= 1;
    if (to > k) slurs.push([k, to]);
    k = to + 1;
  }
  return slurs;
}

/** Whole tuplets by themselves. */
function tuplets(view: LineView): readonly Slur[] {
  const slurs: Slur[] = [];
  view.notes.forEach((note, k) => {
    const id = tupletOf(note);
    if (id === undefined || id === tupletOf(view.notes[k - 1])) return;
    let to = k;
    while (isOneTuplet(view, to)) to += 1;
    const isWhole = Array.from({ length: to - k }, (_, n) => k + n).every((n) => joins(view, n));
    if (to > k && isWhole) slurs.push([k, to]);
  });
  return slurs;
}

/** Nothing but what was added to a note, which goes with it. */
function withAdditions(view: LineView): readonly Slur[] {
  const { notes } = view;
  return byRule(view, (k) => {
    let to = k;
    while (isAdded(notes[to + 1]?.first.id ?? '') && !isAdded(notes[k]?.first.id ?? '')) to += 1;
    return to - k;
  });
}

/** Slurs of a rule that says how far a slur from a note goes, with tuplets whole. */
function byRule(view: LineView, reach: (k: number, isAfterSlur: boolean) => number): readonly Slur[] {
  const whole = tuplets(view);
  const slurs: Slur[] = [];
  for (let k = 0; k < view.notes.length;) {
    const tuplet = whole.find(([from]) => from === k);
    if (tuplet) {
      slurs.push(tuplet);
      k = tuplet[1] + 1;
      continue;
    }
    let to = k;
    const wanted = tupletOf(view.notes[k]) === undefined ? reach(k, slurs.at(-1)?.[1] === k - 1) : 0;
    while (to < k + wanted && joins(view, to) && tupletOf(view.notes[to + 1]) === undefined) to += 1;
    if (to > k) slurs.push([k, to]);
    k = to + 1;
  }
  return slurs;
}

/** Notes of the beat (in twos, of the half bar) that a note begins, as shares of the beat. */
function beatFrom(view: LineView, k: number): readonly number[] {
  const note = view.notes[k];
  if (!note) return [];
  const { inBeat, beatLength } = placeOf(view, note);
  if (inBeat !== 0) return [];
  const lengths: number[] = [];
  for (let n = k, left = beatLength; n < view.notes.length && left > 0; n += 1) {
    const next = view.notes[n];
    if (!next || next.bar !== note.bar || tupletOf(next) !== undefined) break;
    lengths.push(next.length / beatLength);
    left -= next.length;
  }
  return lengths;
}

const THIRD = 1 / 3;
const isNear = (a: number | undefined, b: number) => a !== undefined && Math.abs(a - b) < 0.01;

/** Winds in dances: the first two of three eighths; a quarter and its eighth where the bar begins; the first pair of four. */
function onBeats(view: LineView): readonly Slur[] {
  return byRule(view, (k) => {
    const note = view.notes[k];
    if (!note) return 0;
    const place = placeOf(view, note);
    const shares = beatFrom(view, k);
    if (place.isCompound) {
      if (shares.length >= 3 && isNear(shares[0], THIRD) && isNear(shares[1], THIRD)) return 1;
      return note.inBar === 0 && isNear(shares[0], 2 * THIRD) && shares.length >= 2 && fallsByStep(view, k) ? 1 : 0;
    }
    // In two and four every other beat; a pair that follows a longer note by itself.
    if (!isNear(shares[0], 0.5) || shares.length < 2) return 0;
    const before = view.notes[k - 1];
    const isAlone = before !== undefined && before.bar === note.bar && before.length >= place.beatLength;
    return place.beat % 2 === 0 || isAlone ? 1 : 0;
  });
}

function fallsByStep({ notes }: LineView, k: number): boolean {
  const [here, next] = [notes[k], notes[k + 1]];
  return here !== undefined && next !== undefined && next.start === here.start + here.length;
}

/**
 * The bow in dances: a weak note goes into the strong one, so that the strong beat moves; else the first two of a
 * group.
 */
function overBeats(view: LineView): readonly Slur[] {
  return byRule(view, (k, isAfterSlur) => {
    const note = view.notes[k];
    if (!note) return 0;
    return placeOf(view, note).isCompound ? overCompoundBeat(view, k) : overSimpleBeat(view, k, isAfterSlur);
  });
}

/** The last note of a beat: not its first. */
function endsBeat(view: LineView, k: number): boolean {
  const note = view.notes[k];
  if (!note) return false;
  const { inBeat, beatLength } = placeOf(view, note);
  return inBeat > 0 && isNear((inBeat + note.length) / beatLength, 1);
}

/** Whether the note so many places back stands in the same bar and lasts so many beats. */
function stoodBefore(view: LineView, k: number, back: number, beats: number): boolean {
  const [note, before] = [view.notes[k], view.notes[k - back]];
  if (!note || before?.bar !== note.bar) return false;
  return isNear(before.length / placeOf(view, note).beatLength, beats);
}

function overCompoundBeat(view: LineView, k: number): number {
  const [note, next] = [view.notes[k], view.notes[k + 1]];
  if (!note) return 0;
  if (endsBeat(view, k) && stoodBefore(view, k, 1, 2 * THIRD) && next !== undefined && next.inBar > 0)
    return next.length < placeOf(view, note).beatLength / 2 ? 2 : 1;
  const shares = beatFrom(view, k);
  return shares.length >= 3 && isNear(shares[0], THIRD) && isNear(shares[1], THIRD) ? 1 : 0;
}

function overSimpleBeat(view: LineView, k: number, isAfterSlur: boolean): number {
  const [note, before, next] = [view.notes[k], view.notes[k - 1], view.notes[k + 1]];
  if (!note) return 0;
  const { beat, beatLength } = placeOf(view, note);
  // A quarter and two eighths: the second of them goes into the next strong place of the bar.
  const isAfterQuarter = endsBeat(view, k) && stoodBefore(view, k, 2, 1);
  if (isAfterQuarter && next !== undefined && next.inBar > 0 && placeOf(view, next).beat % 2 === 0)
    return isNear(next.length / beatLength, 0.5) ? 2 : 1;
  const shares = beatFrom(view, k);
  if (!isNear(shares[0], 0.5) || shares.length < 2) return 0;
  if (beat % 2 === 0) return 1;
  const isLast = view.notes[k + 2]?.bar !== note.bar;
  return isLast && !isAfterSlur && before?.bar === note.bar && before.length >= beatLength ? 1 : 0;
}

/** Swing: an eighth off the beat goes into the next beat; what is held over it is struck by itself. */
function weakIntoStrong(view: LineView): readonly Slur[] {
  return byRule(view, (k) => {
    const note = view.notes[k];
    const next = view.notes[k + 1];
    if (!note || !next || next.bar !== note.bar) return 0;
    const { inBeat, beatLength } = placeOf(view, note);
    return inBeat > 0 && note.length <= beatLength / 2 && placeOf(view, next).inBeat === 0 ? 1 : 0;
  });
}

/** Pairs of equal short notes by step, from a beat or its half on. */
function pairs(view: LineView): readonly Slur[] {
  return byRule(view, (k) => {
    const [note, next] = [view.notes[k], view.notes[k + 1]];
    if (!note || !next || note.length !== next.length) return 0;
    const { inBeat, beatLength } = placeOf(view, note);
    return note.length <= beatLength / 2 && inBeat % (2 * note.length) === 0 ? 1 : 0;
  });
}

/** A dotted note by itself, its short one slurred into the next; pairs of the shortest notes. */
function snaps(view: LineView): readonly Slur[] {
  return byRule(view, (k) => {
    const [note, before] = [view.notes[k], view.notes[k - 1]];
    if (!note) return 0;
    const { inBeat, beatLength } = placeOf(view, note);
    if (note.length > beatLength / 4) return 0;
    const isSnap = before !== undefined && before.bar === note.bar && before.length >= 3 * note.length;
    return isSnap || inBeat % (2 * note.length) === 0 ? 1 : 0;
  });
}
