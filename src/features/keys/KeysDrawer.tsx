'use client';

import Link from 'next/link';
import { memo } from 'react';
import { type Level, LEVELS } from '../../core/instruments';
import { type Group, type KeyPlayer, type RankedKey, suffererText, sufferersIn } from '../../core/keys';
import { recipesOf, type Work } from '../../core/work';
import { nameKey, printKey, sameKey } from '../../core/pitch';
import type { LaneInfo } from '../../engrave/lanes';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import type { Selection, Dispatch } from '../work/workStore';
import { keyOf, keyOptions } from '../work/keyOptions';
import { AccompanistWords } from './AccompanistWords';
import type { KeyOrder } from './KeysGrid';
import { levelSettings } from './levelSettings';
import { OutOfReach } from './OutOfReach';
import { TogetherWords } from './TogetherWords';

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
  /** All keys for the same players. */
  readonly ranking: readonly RankedKey[];
  readonly onKey: (key: RankedKey['key']) => void;
  readonly onDispatch: Dispatch;
  readonly onSelect: (selection: Selection) => void;
}

/**
 * The drawer of the Keys step: for whom, in which order, against which recording; who can play together, and what to
 * tell the accompanist.
 */
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
  ranking,
  onKey,
  onDispatch,
  onSelect,
}: Props) {
  const { tune } = work;
  const group = groups.find(({ id }) => id === groupId)?.group;
  const settings = levelSettings(work);
  const suffering = best ? sufferersIn(ranking, best) : [];
  return (
    <div>
      <p className="leading-8">
        For{' '}
        <Select
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
        <Select<KeyScope>
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
        <Select<KeyOrder>
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
        <Select
          look="word"
          label="Key of the recording"
          value={tune.recordingKey ? printKey(tune.recordingKey) : 'none'}
          options={[
            { value: 'none', label: 'no known key' },
            ...keyOptions(tune.key.mode, tune.recordingKey ? [tune.recordingKey] : []),
          ]}
          onChange={(value) =>
            onDispatch({
              kind: 'details',
              words: 'Key of the recording',
              details: { recordingKey: value === 'none' ? undefined : keyOf(value) },
            })
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
          {suffering.length > 0 && (
            <p className="mt-1 text-[13px] leading-5">
              Not happy in it: {suffering.map(suffererText).join('; ')}. Each level can have its own key instead, but
              then they do not play together.
            </p>
          )}
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
      <TogetherWords work={work} settings={settings} players={players} onDispatch={onDispatch} />
      <OutOfReach work={work} infos={infos} onSelect={onSelect} onDispatch={onDispatch} />
      <AccompanistWords work={work} group={group} settings={settings} />
    </div>
  );
});

/** The key that the levels in question share, if they do. */
export function sharedKey(work: Work, scope: KeyScope) {
  const keys = (scope === 'all' ? LEVELS : [scope]).map(
    (level) => recipesOf(work)[level].keyAndTempo?.key ?? work.tune.key,
  );
  const [first] = keys;
  return first && keys.every((key) => sameKey(key, first)) ? first : undefined;
}
