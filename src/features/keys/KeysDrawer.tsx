'use client';

import { Copy } from 'lucide-react';
import Link from 'next/link';
import { memo, useState } from 'react';
import { LEVELS, type Level } from '../../core/instruments/instrument';
import type { Group } from '../../core/keys/group';
import { instrumentOfPlayer } from '../../core/keys/group';
import type { KeyPlayer } from '../../core/keys/player';
import { allTogether, costsText, eachItsOwn } from '../../core/keys/playTogether';
import type { RankedKey } from '../../core/keys/rankKeys';
import { movedText, withOwnKey } from '../../core/keys/startWork';
import { accompanistText, apartBecause, playTogether, recordingText } from '../../core/keys/together';
import { instrumentOf, levelTempo } from '../../core/levels/recipe/recipe';
import { recipesOf, withDetails, withRecipe, type Work } from '../../core/levels/recipe/work';
import { nameKey, printKey, sameKey } from '../../core/pitch/key';
import { barNumbers } from '../../core/score/tune';
import type { LaneInfo } from '../../engrave/lanes';
import { Choice } from '../../ui/Choice';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { useTell } from '../../ui/Toast';
import type { Selection } from '../work/workStore';
import { keyOf, keyOptions } from '../work/keyOptions';
import type { KeyOrder } from './KeysGrid';
import { REMEDIES, type Remedy } from '../../core/levels/recipe/groups';

export type KeyScope = 'all' | Level;

interface Props {
  readonly work: Work;
  readonly infos: readonly LaneInfo[];
  readonly groups: readonly { readonly id: string; readonly group: Group }[];
  readonly groupId: string;
  readonly onGroup: (id: string) => void;
  /** Whom the keys are weighed for. */
  readonly players: readonly KeyPlayer[];
  readonly scope: KeyScope;
  readonly onScope: (scope: KeyScope) => void;
  readonly order: KeyOrder;
  readonly onOrder: (order: KeyOrder) => void;
  readonly best: RankedKey | undefined;
  readonly onKey: (key: RankedKey['key']) => void;
  readonly onChange: (name: string, after: Work) => void;
  readonly onSelect: (selection: Selection) => void;
}

const ACT = 'min-h-7 rounded border border-cane bg-paper px-2 font-medium text-cane hover:bg-cane-pale';

const REMEDY_NAMES: Readonly<Record<Remedy, string>> = {
  'phrase-up': 'phrase up',
  'phrase-down': 'phrase down',
  'chord-tone': 'chord tone',
  'leave-out': 'leave out',
};

/** The drawer of the Keys step: for whom, in which order, against which recording; who can play together, and what to tell the accompanist. */
export const KeysDrawer = memo(function KeysDrawer({
  work,
  infos,
  groups,
  groupId,
  onGroup,
  players,
  scope,
  onScope,
  order,
  onOrder,
  best,
  onKey,
  onChange,
  onSelect,
}: Props) {
  const tell = useTell();
  const { tune } = work;
  const group = groups.find(({ id }) => id === groupId)?.group;
  const settings = LEVELS.map((level) => {
    const recipe = recipesOf(work)[level];
    return {
      level,
      key: recipe.setting?.key ?? tune.key,
      tempo: levelTempo(tune, level, recipe.setting?.perMinute),
      ...(recipe.form?.plays && { form: recipe.form.plays }),
    };
  });
  const sets = playTogether(settings);
  const [cost, setCost] = useState<string>();
  const playAtOnce = () => {
    const together = allTogether(work, players);
    setCost(costsText(together));
    onChange('Play together', together.work);
  };
  const sentences = sentencesFor(work, group, settings);
  const setRemedy = (level: Level, event: string, remedy: Remedy | undefined) => {
    const { [event]: _, ...rest } = recipesOf(work)[level].limits?.remedies ?? {};
    onChange(
      remedy ? `${LEVEL_NAMES[level]}: ${REMEDY_NAMES[remedy]}` : `${LEVEL_NAMES[level]}: as it was`,
      withRecipe(work, level, { limits: { remedies: remedy ? { ...rest, [event]: remedy } : rest } }),
    );
  };
  return (
    <div>
      <p className="leading-8">
        For{' '}
        <Choice
          look="word"
          label="Group"
          value={groupId}
          options={[
            ...groups.map(({ id, group: one }) => ({ value: id, label: one.name })),
            { value: 'lanes', label: 'the three lanes' },
          ]}
          onChange={onGroup}
        />
        ; change the key of{' '}
        <Choice<KeyScope>
          look="word"
          label="Levels whose key changes"
          value={scope}
          options={[
            { value: 'all', label: 'all levels' },
            ...LEVELS.map((level) => ({ value: level, label: LEVEL_NAMES[level].toLowerCase() })),
          ]}
          onChange={onScope}
        />
        . Keys{' '}
        <Choice<KeyOrder>
          look="word"
          label="Order of the keys"
          value={order}
          options={[
            { value: 'fifths', label: 'in fifths' },
            { value: 'chromatic', label: 'chromatically' },
          ]}
          onChange={onOrder}
        />
        ; the recording is in{' '}
        <Choice
          look="word"
          label="Key of the recording"
          value={tune.recordingKey ? printKey(tune.recordingKey) : 'none'}
          options={[
            { value: 'none', label: 'no known key' },
            ...keyOptions(tune.key.mode, tune.recordingKey ? [tune.recordingKey] : []),
          ]}
          onChange={(value) =>
            onChange(
              'Key of the recording',
              withDetails(work, { recordingKey: value === 'none' ? undefined : keyOf(value) }),
            )
          }
        />
        .
      </p>
      {best && (
        <div className="mt-2 rounded border border-line bg-paper p-2.5">
          <p>
            <b>{nameKey(best.key)}</b> suits everybody best
            {best.players.every(({ fits }) => fits)
              ? ': all its notes are in reach'
              : `; ${best.players
                  .filter(({ fits }) => !fits)
                  .map(({ player }) => player.name || player.instrument.shortName)
                  .join(
                    ', ',
                  )} ${best.players.filter(({ fits }) => !fits).length === 1 ? 'needs' : 'need'} help with some notes`}
            .
          </p>
          <button
            type="button"
            onClick={() => onKey(best.key)}
            className="mt-1 min-h-7 font-medium text-cane underline underline-offset-2"
          >
            Use {nameKey(best.key)}
          </button>
        </div>
      )}
      {groups.length === 0 && (
        <p className="mt-2 text-[13px] text-ink-soft">
          No group yet:{' '}
          <Link href="/groups" className="text-cane underline underline-offset-2">
            make one
          </Link>
          .
        </p>
      )}
      <section aria-label="Together" className="mt-4 border-t border-line pt-3">
        <h3 className="mb-1 font-semibold">Who can play at the same time</h3>
        {sets.length === 1 ? (
          <p>
            All three levels, in {nameKey(settings[0]?.key ?? tune.key)} at {settings[0]?.tempo.perMinute}.
          </p>
        ) : (
          <ul>
            {sets.map((set) => (
              <li key={set[0]?.level} className="py-0.5">
                {set.map(({ level }) => LEVEL_NAMES[level]).join(' and ')}
                {set.length === 1 ? ' alone' : ' together'}: {nameKey(set[0]?.key ?? tune.key)},{' '}
                {set[0]?.tempo.perMinute} a minute.
              </li>
            ))}
          </ul>
        )}
        {sets.length > 1 && sets[0]?.[0] && sets[1]?.[0] && (
          <p className="mt-1 text-[13px] text-ink-soft">Apart by {apartBecause(sets[0][0], sets[1][0])}.</p>
        )}
        <p className="mt-1.5 flex flex-wrap gap-1.5">
          <button type="button" className={ACT} onClick={playAtOnce}>
            Play together
          </button>
          <button
            type="button"
            className={ACT}
            onClick={() => onChange('Each level its own key, tempo and form', eachItsOwn(work))}
          >
            Each level its own
          </button>
        </p>
        {cost !== undefined && (
          <p role="status" className="mt-1 text-[13px]">
            {cost === '' ? 'All levels play together as they are.' : cost}
          </p>
        )}
        {LEVELS.map((level) => {
          const text = movedText(work, level);
          return (
            text && (
              <p key={level} className="mt-1.5 flex gap-1 text-[13px]">
                <LevelSign level={level} size={15} />
                <span>
                  {text}{' '}
                  <button
                    type="button"
                    className="min-h-7 text-cane underline underline-offset-2"
                    onClick={() => onChange(`${LEVEL_NAMES[level]}: the tune's own key`, withOwnKey(work, level))}
                  >
                    Back to {nameKey(tune.key)}
                  </button>
                </span>
              </p>
            )
          );
        })}
        {tune.recordingKey && (
          <ul className="mt-1 text-[13px] text-ink-soft">
            {settings.map(({ level, key }) => (
              <li key={level}>
                {LEVEL_NAMES[level]}: {tune.recordingKey && recordingText(key, tune.recordingKey)}.
              </li>
            ))}
          </ul>
        )}
      </section>
      <Outside work={work} infos={infos} onSelect={onSelect} onRemedy={setRemedy} />
      <section aria-label="Accompanist" className="mt-4 border-t border-line pt-3">
        <div className="mb-1 flex items-center justify-between">
          <h3 className="font-semibold">Tell your accompanist</h3>
          <button
            type="button"
            aria-label="Copy all sentences"
            title="Copy"
            className="flex size-7 items-center justify-center rounded text-ink-soft hover:bg-cane-pale"
            onClick={() =>
              void navigator.clipboard.writeText(sentences.map(({ who, text }) => `${who}: ${text}`).join('\n')).then(
                () => tell('Copied.'),
                () => tell('The browser did not let it be copied.'),
              )
            }
          >
            <Copy size={14} aria-hidden="true" />
          </button>
        </div>
        <ul>
          {sentences.map(({ level, who, text }, index) => (
            <li key={index} className="flex gap-1.5 py-1 text-[13px] leading-[18px]">
              <LevelSign level={level} size={15} />
              <span>
                <b>{who}:</b> “{text}”
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
});

/** Each player's sentence; players who would say the same share it. */
function sentencesFor(
  work: Work,
  group: Group | undefined,
  settings: readonly Parameters<typeof playTogether>[0][number][],
) {
  const sentences: { level: Level; who: string; text: string }[] = [];
  for (const setting of settings) {
    const players = group?.players.filter(({ level }) => level === setting.level) ?? [];
    const readers = group
      ? players.flatMap((player) => {
          const instrument = instrumentOfPlayer(player);
          return instrument ? [{ name: player.name || instrument.shortName, instrument }] : [];
        })
      : [{ name: LEVEL_NAMES[setting.level], instrument: instrumentOf(recipesOf(work)[setting.level]) }];
    for (const { name, instrument } of readers) {
      const text = accompanistText(setting, instrument);
      const same = sentences.find((one) => one.level === setting.level && one.text === text);
      if (same) same.who += `, ${name}`;
      else sentences.push({ level: setting.level, who: name, text });
    }
  }
  return sentences;
}

/** Notes that a level does not have, with what can be done about each; decisions taken, to take back. */
function Outside({
  work,
  infos,
  onSelect,
  onRemedy,
}: {
  readonly work: Work;
  readonly infos: readonly LaneInfo[];
  readonly onSelect: (selection: Selection) => void;
  readonly onRemedy: (level: Level, event: string, remedy: Remedy | undefined) => void;
}) {
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
        const moved = info?.changes.filter(({ what }) => /octave/.test(what)) ?? [];
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

/** The key that the levels in question share, if they do. */
export function sharedKey(work: Work, scope: KeyScope) {
  const keys = (scope === 'all' ? LEVELS : [scope]).map(
    (level) => recipesOf(work)[level].setting?.key ?? work.tune.key,
  );
  const [first] = keys;
  return first && keys.every((key) => sameKey(key, first)) ? first : undefined;
}
