'use client';

import { type Level, LEVELS } from '../../core/instruments';
import { recipesOf, REMEDIES, type Remedy, type Work } from '../../core/work';
import { parsePitch } from '../../core/pitch';
import { barNumbers } from '../../core/score';
import type { LaneInfo } from '../../engrave/lanes';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Selection, Dispatch } from '../work/workStore';

const REMEDY_NAMES: Readonly<Record<Remedy, string>> = {
  'phrase-up': 'phrase up',
  'phrase-down': 'phrase down',
  'chord-tone': 'chord tone',
  'leave-out': 'leave out',
};

/** Notes that a level does not have, with what can be done about each; decisions taken, to take back. */
export function OutOfReach({
  work,
  infos,
  onSelect,
  onDispatch,
}: {
  readonly work: Work;
  readonly infos: readonly LaneInfo[];
  readonly onSelect: (selection: Selection) => void;
  readonly onDispatch: Dispatch;
}) {
  const onRemedy = (level: Level, event: string, remedy: Remedy | undefined) => {
    const words = remedy ? REMEDY_NAMES[remedy] : 'as it was';
    onDispatch({ kind: 'entries', level, words, table: 'remedies', entries: { [event]: remedy } });
  };
  const onTeach = (level: Level, { pitch: text, isLow }: NonNullable<LaneInfo['changes'][number]['teach']>) => {
    const pitch = parsePitch(text);
    if (!pitch.ok) return;
    const { limits = {} } = recipesOf(work)[level];
    const range = { ...limits.range, [isLow ? 'low' : 'high']: pitch.value };
    onDispatch({ kind: 'recipe', level, words: `${isLow ? 'lowest' : 'highest'} note`, change: { limits: { range } } });
  };
  const levels = LEVELS.map((level) => ({
    level,
    info: infos.find(({ id }) => id === level),
    taken: Object.entries(recipesOf(work)[level].limits?.remedies ?? {}),
  }));
  const isClear = levels.every(({ info, taken }) => (info?.outside.length ?? 0) === 0 && taken.length === 0);
  const button = 'min-h-7 rounded border border-line bg-paper px-1.5 text-[12.5px] hover:bg-cane-pale';
  return (
    <section aria-label="Out of reach" className="mt-4 border-t border-line pt-3">
      <h3 className="mb-1 font-semibold">Out of reach</h3>
      {levels.map(({ level, info }) => {
        const moved = info?.changes.filter(({ what, teach }) => !teach && /octave/.test(what)) ?? [];
        return (
          moved.length > 0 && (
            <p key={level} className="mb-1 flex gap-1 text-[13px]">
              <LevelSign level={level} size={15} />
              <span>
                Moved by octaves so that it fits: bars{' '}
                {moved
                  .map(({ bar }) => bar)
                  .filter((bar, k, all) => all.indexOf(bar) === k)
                  .join(', ')}
                .
              </span>
            </p>
          )
        );
      })}
      {levels.flatMap(({ level, info }) =>
        (info?.changes ?? []).flatMap(({ teach, what, why }) =>
          teach ? (
            <p key={`${level} ${teach.pitch}`} className="mb-1 flex flex-wrap items-center gap-1 text-[13px]">
              <LevelSign level={level} size={15} />
              <span>
                {what} {why}.
              </span>
              <button
                type="button"
                className={button}
                aria-label={`${LEVEL_NAMES[level]}: allow ${teach.pitch}`}
                onClick={() => onTeach(level, teach)}
              >
                allow {teach.pitch}
              </button>
            </p>
          ) : (
            []
          ),
        ),
      )}
      {isClear && <p className="text-ink-soft">Nothing: every note lies where its level plays.</p>}
      {levels.map(
        ({ level, info, taken }) =>
          ((info?.outside.length ?? 0) > 0 || taken.length > 0) && (
            <div key={level} className="mb-2">
              <p className="flex items-center gap-1 font-medium">
                <LevelSign level={level} size={15} />
                {LEVEL_NAMES[level]}
              </p>
              <ul>
                {info?.outside.map(({ event, barIndex, bar, pitch }) => (
                  <li key={event} className="py-1">
                    <button
                      type="button"
                      className="mr-1 min-h-7 font-semibold text-cane underline underline-offset-2"
                      onClick={() => onSelect({ lane: level, bar: barIndex })}
                    >
                      Bar {bar}
                    </button>
                    {pitch}
                    <span className="mt-0.5 flex flex-wrap gap-1">
                      {REMEDIES.map((remedy) => (
                        <button
                          key={remedy}
                          type="button"
                          className={button}
                          aria-label={`${pitch} in bar ${bar}: ${REMEDY_NAMES[remedy]}`}
                          onClick={() => onRemedy(level, event, remedy)}
                        >
                          {REMEDY_NAMES[remedy]}
                        </button>
                      ))}
                    </span>
                  </li>
                ))}
                {taken.map(([event, remedy]) => (
                  <li key={event} className="flex items-center justify-between py-0.5 text-[13px] text-ink-soft">
                    {placeOf(work, event)}: {REMEDY_NAMES[remedy]}
                    <button
                      type="button"
                      className={button}
                      aria-label={`Undo: ${REMEDY_NAMES[remedy]}, ${placeOf(work, event)}`}
                      onClick={() => onRemedy(level, event, undefined)}
                    >
                      undo
                    </button>
                  </li>
                ))}
              </ul>
            </div>
          ),
      )}
    </section>
  );
}

function placeOf({ tune }: Work, event: string): string {
  const index = tune.bars.findIndex(({ events }) => events.some(({ id }) => id === event));
  return index < 0 ? 'a note that is gone' : `bar ${barNumbers(tune)[index] ?? ''}`;
}
