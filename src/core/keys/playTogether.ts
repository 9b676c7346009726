import { type Level, LEVELS } from '../instruments';
import { partOfLevel } from '../levels';
import { type BarChoices, levelTempo, recipesOf, withRecipe, type Work } from '../work';
import { capitalised } from '../plainText';
import { nameKey, sameKey } from '../pitch';
import { clashesOf } from './clashes';
import type { KeyPlayer } from './player';
import { bestKey } from './startKey';
import { withStartKey } from './startWork';

/** All levels in one key, at one tempo, through one form, and what that costs each. */
export interface Together {
  readonly work: Work;
  /** What changes for each level, as the end of a sentence; nothing for one that stays as it is. */
  readonly costs: readonly { readonly level: Level; readonly text: string }[];
  /** Bars as written instead of embellished, since they would clash. */
  readonly mended: readonly number[];
}

/**
 * One concert key, one tempo and one form for all levels, such that the weakest can hold it: the best key for all with
 * beginners weighing most, the slowest of the levels' tempos, once through. Bars of the upper levels that would clash
 * with another on a strong beat are put back as they are written.
 */
export function allTogether(work: Work, players: readonly KeyPlayer[]): Together {
  const { tune } = work;
  const recipes = recipesOf(work);
  const key = bestKey(tune, players);
  const perMinute = Math.min(
    ...LEVELS.map((level) => levelTempo(tune, level, recipes[level].keyAndTempo?.perMinute).perMinute),
  );
  const costs = LEVELS.flatMap((level) => {
    const { keyAndTempo = {}, form = {} } = recipes[level];
    const own = keyAndTempo.key ?? tune.key;
    const tempo = levelTempo(tune, level, keyAndTempo.perMinute).perMinute;
    const said = [
      ...(sameKey(own, key) ? [] : [`plays in ${nameKey(key)} instead of ${nameKey(own)}`]),
      ...(tempo === perMinute ? [] : [`at ${perMinute} instead of ${tempo}`]),
      ...((form.plays ?? 'once') === 'once' || form.plays === 'second' ? [] : ['once through']),
    ];
    return said.length > 0 ? [{ level, text: said.join(', ') }] : [];
  });
  const joined = LEVELS.reduce<Work>((after, level) => {
    const plays = recipes[level].form?.plays;
    return withRecipe(after, level, {
      keyAndTempo: { key, perMinute, moved: undefined },
      form: { plays: plays === 'second' ? plays : undefined },
    });
  }, work);
  return { ...withoutClashes(joined), costs };
}

/**
 * Puts bars back as written, from the top level down, until nothing clashes or nothing of ours is left to take back.
 */
function withoutClashes(work: Work): Pick<Together, 'work' | 'mended'> {
  let mended = work;
  const bars = new Set<number>();
  for (const level of ['advanced', 'intermediate'] as const) {
    const parts = LEVELS.map((one) => partOfLevel(mended.tune, one, mended.recipes).value);
    const chosen = recipesOf(mended)[level].bars?.chosen ?? {};
    const back: BarChoices = Object.fromEntries(
      clashesOf(parts)
        .filter(({ levels }) => levels.includes(level))
        .flatMap(({ barIndex, bar }) => {
          const id = mended.tune.bars[barIndex]?.id;
          if (id === undefined || chosen[id]) return [];
          bars.add(bar);
          return [[id, { kind: 'as-written' as const }]];
        }),
    );
    if (Object.keys(back).length > 0) mended = withRecipe(mended, level, { bars: { chosen: { ...chosen, ...back } } });
  }
  return { work: mended, mended: [...bars].toSorted((a, b) => a - b) };
}

/** Each level as it is by itself: its own key, tempo and form. Bars set by hand stay. */
export function eachItsOwn(work: Work): Work {
  const free = LEVELS.reduce<Work>(
    (after, level) =>
      withRecipe(after, level, { keyAndTempo: { key: undefined, perMinute: undefined, moved: undefined } }),
    work,
  );
  return withStartKey(free);
}

/** What playing together costs, in a sentence; none where nothing changes. */
export function costsText({ costs, mended }: Together): string {
  const said = costs.map(({ level, text }) => `${level} ${text}`);
  const clashes =
    mended.length > 0
      ? [`${mended.length === 1 ? 'bar' : 'bars'} ${mended.join(', ')} as written, so that nothing clashes`]
      : [];
  const all = [...said, ...clashes].join('; ');
  return all === '' ? '' : `${capitalised(all)}.`;
}
