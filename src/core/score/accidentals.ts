import { type Pitch, signatureAlters, signatureOf, staffPosition, stepIndex } from '../pitch';
import { isNote, keysOf, type EventId, type Tune } from './tune';

interface PrintedAccidental {
  readonly alter: number;
  /** A reminder that the rules do not ask for but a reader is glad of. */
  readonly courtesy: boolean;
}

/**
 * What to print before each note and grace note. Graces are named `ID/0`, `ID/1` … after the note they lead to, further
 * notes of a chord `ID+0`, `ID+1` ….
 */
export type AccidentalTable = ReadonlyMap<EventId, PrintedAccidental>;

/**
 * Accidentals by the common rules (E. Gould, Behind Bars, 2011, "Accidentals"): one holds to the end of its bar for its
 * own octave; the continuation of a tie needs none. Courtesy signs are given where the same letter was altered
 * otherwise in another octave of this bar, or in the bar before; a new signature says it for all.
 */
export function accidentalsFor(tune: Pick<Tune, 'bars' | 'key'>): AccidentalTable {
  const table = new Map<EventId, PrintedAccidental>();
  const keys = keysOf(tune);
  let before: Letters = [];
  let tiedFrom: Pitch | undefined;
  tune.bars.forEach((bar, index) => {
    const usual = signatureAlters(signatureOf(keys[index] ?? tune.key));
    if (bar.key) before = [];
    const inForce = new Map<number, number>();
    const sounded: Letters = [];
    const mark = (id: EventId, pitch: Pitch) => {
      const position = staffPosition(pitch);
      const current = inForce.get(position) ?? usual[stepIndex(pitch.step)];
      if (pitch.alter !== current) {
        table.set(id, { alter: pitch.alter, courtesy: false });
        inForce.set(position, pitch.alter);
      } else if (!inForce.has(position) && needsReminder(pitch, sounded, before)) {
        table.set(id, { alter: pitch.alter, courtesy: true });
        inForce.set(position, pitch.alter);
      }
      sounded[stepIndex(pitch.step)] = pitch;
    };
    for (const event of bar.events) {
      if (!isNote(event)) {
        tiedFrom = undefined;
        continue;
      }
      event.graces?.forEach((grace, k) => mark(`${event.id}/${k}`, grace.pitch));
      const continuesTie =
        tiedFrom !== undefined &&
        staffPosition(tiedFrom) === staffPosition(event.pitch) &&
        tiedFrom.alter === event.pitch.alter;
      // A tie over the barline carries its sign with it, for this note alone.
      if (continuesTie) sounded[stepIndex(event.pitch.step)] = event.pitch;
      else mark(event.id, event.pitch);
      event.chord?.forEach((pitch, k) => {
        if (continuesTie) sounded[stepIndex(pitch.step)] = pitch;
        else mark(`${event.id}+${k}`, pitch);
      });
      tiedFrom = event.tied ? event.pitch : undefined;
    }
    before = sounded;
  });
  return table;
}

/** Of each letter, from C: what sounded of it last. */
type Letters = (Pitch | undefined)[];

function needsReminder({ step, alter, octave }: Pitch, sounded: Letters, before: Letters): boolean {
  const lastHere = sounded[stepIndex(step)];
  if (lastHere) return lastHere.alter !== alter && lastHere.octave !== octave;
  const lastBefore = before[stepIndex(step)];
  return lastBefore !== undefined && lastBefore.alter !== alter;
}
