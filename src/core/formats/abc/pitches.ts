import { alterInKey, type Key } from '../../pitch/key';
import { isStep, staffPosition, type Pitch, type Letter } from '../../pitch/pitch';
import type { AbcKey } from './header';

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

  /** The pitch of a note as `NOTE` matched it; `undefined` where its letter is none. */
  read(match: RegExpExecArray): Pitch | undefined {
    const letter = match[2] ?? '';
    const step = letter.toUpperCase();
    if (!isStep(step)) return undefined;
    const marks = match[3] ?? '';
    const octave = (letter === step ? 4 : 5) + (marks.match(/'/g)?.length ?? 0) - (marks.match(/,/g)?.length ?? 0);
    const sign = match[1];
    const natural: Pitch = { step, alter: 0, octave };
    if (sign !== undefined) {
      const alter = ALTERS[sign] ?? 0;
      // ABC 2.1, 11.3: by default an accidental holds for its letter in every octave of the bar.
      this.inBar.set(step, alter);
      return { ...natural, alter };
    }
    if (this.tieFrom && staffPosition(this.tieFrom) === staffPosition(natural)) return this.tieFrom;
    const alter = this.inBar.get(step) ?? this.extra.get(step) ?? alterInKey(step, this.key);
    return { ...natural, alter };
  }
}
