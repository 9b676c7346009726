import type { ImprovisingForm } from '../pools';
import {
  type Bar,
  barSpans,
  hasPickup,
  type PlacedChord,
  type ScoreEvent,
  type Tempo,
  type Tune,
  TUNE_SCHEMA,
} from '../score';
import { type Meter, sameMeter, spellNoteLength, spellRestLength, type Ticks, type Tuplet } from '../time';
import type { FormBar } from './rhythm';
import type { Solo } from './solo';
import type { SoloNote } from './soloNote';

/** The bars of a tune in time, its pickup left out. */
export function formBarsOf(tune: Pick<Tune, 'bars' | 'meter'>): readonly FormBar[] {
  const spans = barSpans(tune);
  const from = hasPickup(tune) ? 1 : 0;
  const first = spans[from]?.start ?? 0;
  return spans.slice(from).map(({ start, length, meter }, index) => {
    const signs = signsOf(tune.bars[index + from]);
    return { start: start - first, length, meter, ...(signs && { signs }) };
  });
}

function signsOf(bar: Bar | undefined): FormBar['signs'] {
  if (!bar) return undefined;
  const { repeatStart, repeatEnd, ending, endingStops } = bar;
  const signs = {
    ...(repeatStart && { repeatStart }),
    ...(repeatEnd !== undefined && { repeatEnd }),
    ...(ending && { ending }),
    ...(endingStops && { endingStops }),
  };
  return Object.keys(signs).length > 0 ? signs : undefined;
}

/** So many bars of one meter. */
export function evenBars(count: number, meter: Meter, length: Ticks): readonly FormBar[] {
  return Array.from({ length: count }, (_, k) => ({ start: k * length, length, meter }));
}

/** A solo as a tune in concert pitch, with the chords of its form over it. */
export function soloTune(
  solo: Pick<Solo, 'notes' | 'bars'>,
  {
    form,
    title,
    tempo,
    swing,
  }: { readonly form: ImprovisingForm; readonly title: string; readonly tempo: Tempo; readonly swing?: Tune['swing'] },
): Tune {
  const { notes, bars } = solo;
  const chorus = form.bars.length;
  const chords = form.reading.chords.map(({ chord }) => chord);
  const made = bars.map(({ start, length, meter, signs }, index): Bar => {
    const before = bars[index - 1];
    const here = piecesIn(notes, start, start + length);
    const line: ScoreEvent[] = [];
    // Named by their bar: where one bar changes, the others keep their names, and their pictures.
    const nameNext = () => `n${index + 1}.${line.length}`;
    let tuplets = 0;
    let tuplet: { readonly beat: number; readonly value: Tuplet } | undefined;
    let at = start;
    const rest = (until: Ticks) => {
      for (const piece of spellRestLength(at - start, until - at, meter))
        line.push({ kind: 'rest', id: nameNext(), length: piece });
      at = until;
    };
    for (const { note, from, to, isTied } of here) {
      if (from > at) rest(from);
      if (note.isTriplet) {
        const beat = Math.floor((from - start) / (3 * note.length));
        if (tuplet?.beat !== beat)
          tuplet = { beat, value: { id: `t${index + 1}.${(tuplets += 1)}`, actual: 3, normal: 2 } };
        line.push({
          kind: 'note',
          id: nameNext(),
          pitch: note.concert,
          length: note.length,
          tuplet: tuplet.value,
        });
      } else {
        const pieces = spellNoteLength(from - start, to - from, meter);
        pieces.forEach((piece, k) =>
          line.push({
            kind: 'note',
            id: nameNext(),
            pitch: note.concert,
            length: piece,
            ...((k < pieces.length - 1 || isTied) && { tied: true as const }),
          }),
        );
      }
      at = to;
    }
    if (at < start + length) rest(start + length);
    const inForm = index % chorus;
    const full = length;
    return {
      id: `b${index + 1}`,
      events: line,
      chords: chords
        .filter(({ bar, at: place }) => bar === inForm && place < full)
        .map(({ at: place, symbol }): PlacedChord => ({ at: place, symbol })),
      ...(before && !sameMeter(before.meter, meter) && { meter }),
      ...signs,
      ...(signs?.repeatEnd === undefined &&
        (index === bars.length - 1
          ? { barline: 'final' as const }
          : inForm === chorus - 1 && { barline: 'double' as const })),
    };
  });
  return {
    schema: TUNE_SCHEMA,
    title,
    rights: 'own',
    key: form.key,
    meter: bars[0]?.meter ?? form.meter,
    tempo,
    ...(swing && { swing }),
    bars: made,
  };
}

/** The stretches of notes that sound in a bar; one that goes on into the next is tied. */
function piecesIn(notes: readonly SoloNote[], start: Ticks, end: Ticks) {
  return notes
    .filter(({ at, length }) => at < end && at + length > start)
    .map((note) => ({
      note,
      from: Math.max(start, note.at),
      to: Math.min(end, note.at + note.length),
      isTied: note.at + note.length > end,
    }));
}
