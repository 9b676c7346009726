import { alterInKey, isStep, type Key, type Letter, type Pitch } from '../../pitch';
import type { AbcKey } from './header';
import type { NoteText } from './noteText';

const ALTERS: Readonly<Record<string, number>> = { '^': 1, '^^': 2, _: -1, __: -2, '=': 0 };

/** What a letter sounds where it stands: key, accidentals of the bar and ties are remembered here. */
export class AbcPitches {
  private key: Key;
  private extra: ReadonlyMap<Letter, number>;
  private readonly inBar = new Map<Letter, number>();
  private tieFrom: Pitch | undefined;

  constructor({ key, extra }: AbcKey) {
    this.key = key;
    this.extra = extra;
  }

  setKey({ key, extra }: AbcKey): void {
    this.key = key;
    this.extra = extra;
  }

  /** Accidentals hold to the barline. */
  endBar(): void {
    this.inBar.clear();
  }

  /** The next note of this pitch's line or space has its accidental too. */
  tie(pitch: Pitch): void {
    this.tieFrom = pitch;
  }

  endTie(): void {
    this.tieFrom = undefined;
  }

  /** The pitch of a note as it is written; `undefined` where its letter is none. */
  read({ letter, octaves, accidental }: NoteText): Pitch | undefined {
    const step = letter.toUpperCase();
    if (!isStep(step)) return undefined;
    const octave = (letter === step ? 4 : 5) + octaves;
    if (accidental !== '') {
      const alter = ALTERS[accidental] ?? 0;
      // ABC 2.1, 11.3: by default an accidental holds for its letter in every octave of the bar.
      this.inBar.set(step, alter);
      return { step, alter, octave };
    }
    if (this.tieFrom?.step === step && this.tieFrom.octave === octave) return this.tieFrom;
    const alter = this.inBar.get(step) ?? this.extra.get(step) ?? alterInKey(step, this.key);
    return { step, alter, octave };
  }
}
