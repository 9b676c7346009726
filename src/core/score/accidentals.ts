import { alterInSignature, signatureOf } from '../pitch/key';
import { staffPosition, type Pitch } from '../pitch/pitch';
import { isNote, keysOf, type EventId, type Tune } from './tune';

export interface PrintedAccidental {
  readonly alter: number;
  /** A reminder that the rules do not ask for but a reader is glad of. */
  readonly courtesy: boolean;
}

/** What to print before each note and grace note. Graces are named `ID/0`, `ID/1` … after the note they lead to, further notes of a chord `ID+0`, `ID+1` …. */
export type AccidentalTable = ReadonlyMap<EventId, PrintedAccidental>;

/**
 * Accidentals by the common rules (E. Gould, Behind Bars, 2011, "Accidentals"): one holds to the end of its bar for its
 * own octave; the continuation of a tie needs none. Courtesy signs are given where the same letter was altered
 * otherwise in another octave of this bar, or in the bar before; a new signature says it for all.
 */
export function accidentalsFor(tune: Pick<Tune, 'bars' | 'key'>): AccidentalTable {
  const table = new Map<EventId, PrintedAccidental>();
  const keys = keysOf(tune);
  let before: readonly Pitch[] = [];
  let tiedFrom: Pitch | undefined;
  tune.bars.forEach((bar, index) => {
    const signature = signatureOf(keys[index] ?? tune.key);
    if (bar.key) before = [];
    const inForce = new Map<number, number>();
    const sounded: Pitch[] = [];
    const mark = (id: EventId, pitch: Pitch) => {
      const position = staffPosition(pitch);
      const usual = alterInSignature(pitch.step, signature);
      const current = inForce.get(position) ?? usual;
      if (pitch.alter !== current) {
        table.set(id, { alter: pitch.alter, courtesy: false });
        inForce.set(position, pitch.alter);
      } else if (!inForce.has(position) && needsReminder(pitch, sounded, before)) {
        table.set(id, { alter: pitch.alter, courtesy: true });
        inForce.set(position, pitch.alter);
      }
      sounded.push(pitch);
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
      if (continuesTie) sounded.push(event.pitch);
      else mark(event.id, event.pitch);
      event.chord?.forEach((pitch, k) => {
        if (continuesTie) sounded.push(pitch);
        else mark(`${event.id}+${k}`, pitch);
      });
      tiedFrom = event.tied ? event.pitch : undefined;
    }
    before = sounded;
  });
  return table;
}

function needsReminder(pitch: Pitch, sounded: readonly Pitch[], before: readonly Pitch[]): boolean {
  const lastHere = sounded.findLast((other) => other.step === pitch.step);
  if (lastHere) return lastHere.alter !== pitch.alter && lastHere.octave !== pitch.octave;
  const lastBefore = before.findLast((other) => other.step === pitch.step);
  return lastBefore !== undefined && lastBefore.alter !== pitch.alter;
}
