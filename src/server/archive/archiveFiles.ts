import { storedRecipes, storedSavedRecipe } from '../../core/work/stored';
import type { SavedRecipe, Work } from '../../core/work';

/** Everything of a studio as files that other programs read too. */
export const STUDIO_FILES = {
  readMe: 'read-me.txt',
  /** A tune and, beside it, its levels; read by the usual door for tunes as well. */
  tune: (name: string) => `tunes/${name}.reed.json`,
  musicXml: (name: string) => `tunes/${name}.musicxml`,
  csv: (name: string) => `groups/${name}.csv`,
  /** A pupil whole: work, lessons and log. */
  pupil: (name: string) => `pupils/${name}.json`,
  groups: 'groups.json',
  recipes: 'recipes.json',
  instruments: 'instruments.json',
  /** What is damaged, as it lies in the database. */
  damaged: (name: string) => `damaged/${name}.txt`,
  /** Sentences: what could not be exported, and why. The last file, and there only where something was left out. */
  leftOut: 'left-out.json',
} as const;

/**
 * What may be read back of an archive, inflated: one file, all of them together (bytes), and how many files are looked
 * at.
 */
export const ARCHIVE_LIMITS = { file: 8 * 1_048_576, whole: 64 * 1_048_576, files: 20_000 } as const;
/** An archive as it is sent, in bytes. */
export const MAX_ARCHIVE_BYTES = 64 * 1_048_576;

/** A tune with its levels as a file of an archive. */
export function workFile({ tune, recipes }: Work): string {
  return `${JSON.stringify({ format: 'reed-hook-tune', tune, recipes: storedRecipes(recipes) })}\n`;
}

/** A list as a file of an archive: one entry a line. */
export function listFile(entries: readonly unknown[]): string {
  return `[\n${entries.map((entry) => JSON.stringify(entry)).join(',\n')}\n]\n`;
}

export const recipesFile = (recipes: readonly SavedRecipe[]): string => listFile(recipes.map(storedSavedRecipe));
