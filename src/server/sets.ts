import { nameScale, type ScaleName } from '../core/harmony';
import type { Instrument } from '../core/instruments';
import { firstSets, openingOf } from '../core/pools';
import type { StudioDatabase } from '../db/studioDatabase';
import { melodies } from '../db/tuneRepository';

/** A tune that lacks more notes than this is not opened by a set. */
const MAX_MISSING = 2;
const MAX_TUNES = 60;

export interface OpenedTune {
  readonly id: string;
  readonly title: string;
  readonly keyName: string;
  readonly missing: number;
  readonly moved: number;
}

/** The tunes on the shelf that a set opens: whole first, then all but one note, then all but two. */
export async function tunesOpened(
  studio: StudioDatabase,
  name: ScaleName,
): Promise<{ readonly tunes: readonly OpenedTune[]; readonly whole: number; readonly of: number }> {
  const shelf = await melodies(studio);
  const tunes = shelf
    .flatMap(({ melody, ...tune }): readonly OpenedTune[] => {
      const opening = openingOf(melody, name);
      return opening && opening.missing <= MAX_MISSING ? [{ ...tune, ...opening }] : [];
    })
    .toSorted((a, b) => a.missing - b.missing || a.title.localeCompare(b.title));
  return {
    tunes: tunes.slice(0, MAX_TUNES),
    whole: tunes.filter(({ missing }) => missing === 0).length,
    of: shelf.length,
  };
}

/** Which set first, for an instrument and this shelf. */
export async function firstSetsFor(studio: StudioDatabase, instrument: Instrument) {
  const shelf = await melodies(studio);
  return firstSets(
    instrument,
    shelf.map(({ melody }) => melody),
  ).map(({ scale, reasons, opens }) => ({
    name: nameScale(scale),
    set: scale.name,
    tonic: scale.tonic,
    reasons,
    opens,
  }));
}
