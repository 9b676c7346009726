import type { PackChoice, PackFile } from '../core/keys';
import type { StudioDatabase } from '../db/studioDatabase';
import { packOfPupil, type PackRecipient } from './packs';
import { calendarToday } from './pupils';

/** All that can be heard of what is set. */
const HEARD: PackChoice = { sheets: [], files: ['bars', 'slow', 'tempo'], paper: 'a4' };

/** What a pupil has on the stand, with its sounds, as their own link opens it; nothing where they play nothing any more. */
export async function ownThings(studio: StudioDatabase, pupil: string): Promise<PackRecipient | undefined> {
  return (await packOfPupil(studio, pupil, HEARD, calendarToday()))?.recipients[0];
}

/** A tune on a pupil's stand, as their page shows it. */
export interface OwnTune {
  readonly id: string;
  readonly title: string;
  readonly isDrill: boolean;
  readonly sounds: readonly PackFile[];
}

/** @param hasSounds this computer has any */
export function ownTunes({ tunes, files }: PackRecipient, hasSounds: boolean): readonly OwnTune[] {
  return tunes.map(({ id, title, isDrill }) => ({
    id,
    title,
    isDrill,
    sounds: hasSounds ? files.filter(({ tune }) => tune === id).map(({ what }) => what) : [],
  }));
}
