import { LEVELS } from '../../core/instruments';
import type { playTogether } from '../../core/keys';
import { levelTempo, recipesOf, type Work } from '../../core/work';

/** The key, tempo and form that a level has now. */
export type LevelSetting = Parameters<typeof playTogether>[0][number];

export function levelSettings(work: Work): readonly LevelSetting[] {
  const { tune } = work;
  return LEVELS.map((level) => {
    const recipe = recipesOf(work)[level];
    return {
      level,
      key: recipe.keyAndTempo?.key ?? tune.key,
      tempo: levelTempo(tune, level, recipe.keyAndTempo?.perMinute),
      ...(recipe.form?.plays && { form: recipe.form.plays }),
    };
  });
}
