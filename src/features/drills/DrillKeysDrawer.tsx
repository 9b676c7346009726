'use client';

import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useState } from 'react';
import { tonicsInOrder } from '../../core/drills';
import { chroma, namePitchClass, type PitchClass, printPitchClass } from '../../core/pitch';
import { KEY_ORDERS, type KeyOrder } from '../../core/score';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import type { Bench } from '../work/step';
import { ORDER_WORDS } from './words';

interface Props {
  readonly bench: Bench;
  /** In their order; none where each level has its own. */
  readonly chosen: readonly PitchClass[] | undefined;
  readonly isByLevel: boolean;
  /** A drill over a form stays in the form's key where nobody chose others. */
  readonly isOverForm: boolean;
  /** All twelve, the easiest for everybody first. */
  readonly ranked: readonly PitchClass[];
  readonly onKeys: (what: string, keys: readonly PitchClass[]) => void;
  readonly onByLevel: () => void;
}

const COUNTS = ['1', '2', '3', '4', '5', '6', '8', '10', '12'] as const;
const ICON = 'flex size-7 items-center justify-center rounded hover:bg-cane-pale disabled:text-[#a9a896]';

/** Whose keys they are, which are taken, and in which order they come. */
export function DrillKeysDrawer({ bench, chosen, isByLevel, isOverForm, ranked, onKeys, onByLevel }: Props) {
  const [count, setCount] = useState<(typeof COUNTS)[number]>('4');
  const who = bench.group?.name ?? 'the three lanes';
  const order = (how: KeyOrder) => {
    const [first] = chosen ?? [];
    if (!chosen || !first) return;
    const all = how === 'easiest' ? ranked : tonicsInOrder(how, first);
    onKeys(
      `Keys ${ORDER_WORDS[how]}`,
      all.filter((tonic) => chosen.some((one) => chroma(one) === chroma(tonic))),
    );
  };
  const move = (from: number, to: number) => {
    if (!chosen) return;
    const [one, other] = [chosen[from], chosen[to]];
    if (one && other)
      onKeys(
        'Keys in another order',
        chosen.map((tonic, k) => (k === from ? other : k === to ? one : tonic)),
      );
  };
  return (
    <div>
      <p className="leading-8">
        For{' '}
        <Select
          look="word"
          label="Group"
          value={bench.groupId}
          options={[
            ...bench.studio.groups.map(({ id, group }) => ({ value: id, label: group.name })),
            { value: 'lanes', label: 'the three lanes' },
          ]}
          onChange={bench.chooseGroup}
        />
        , the{' '}
        <Select
          look="word"
          label="How many keys"
          value={count}
          options={COUNTS.map((value) => ({ value, label: value === '1' ? 'one key' : `${value} keys` }))}
          onChange={setCount}
        />{' '}
        that are easiest:{' '}
        <span className="font-semibold">{ranked.slice(0, Number(count)).map(namePitchClass).join(' ')}</span>
      </p>
      <Button
        className="mt-1 min-h-8 px-3"
        disabled={ranked.length === 0}
        onClick={() => onKeys(`The ${count} easiest keys for ${who}`, ranked.slice(0, Number(count)))}
      >
        Take these keys
      </Button>
      <h3 className="mt-4 font-semibold">Order</h3>
      {chosen ? (
        <>
          <ol aria-label="Keys in their order" className="mt-1">
            {chosen.map((tonic, place) => {
              const name = namePitchClass(tonic);
              return (
                <li key={`${printPitchClass(tonic)} ${place}`} className="flex items-center gap-1">
                  <span className="w-6 text-right text-[13px] text-ink-soft tabular-nums">{place + 1}.</span>
                  <span className="w-9 font-serif text-[15px] font-semibold">{name}</span>
                  <button
                    type="button"
                    className={ICON}
                    aria-label={`${name} earlier`}
                    disabled={place === 0}
                    onClick={() => move(place, place - 1)}
                  >
                    <ArrowUp size={15} aria-hidden="true" />
                  </button>
                  <button
                    type="button"
                    className={ICON}
                    aria-label={`${name} later`}
                    disabled={place === chosen.length - 1}
                    onClick={() => move(place, place + 1)}
                  >
                    <ArrowDown size={15} aria-hidden="true" />
                  </button>
                  <button
                    type="button"
                    className={ICON}
                    aria-label={`Take ${name} out`}
                    disabled={chosen.length === 1}
                    onClick={() =>
                      onKeys(
                        `Key taken out: ${name}`,
                        chosen.filter((_, k) => k !== place),
                      )
                    }
                  >
                    <X size={15} aria-hidden="true" />
                  </button>
                </li>
              );
            })}
          </ol>
          <p className="mt-1 text-[13px] text-ink-soft">In order:</p>
          <p className="flex flex-wrap gap-1">
            {KEY_ORDERS.map((how) => (
              <button
                key={how}
                type="button"
                onClick={() => order(how)}
                className="min-h-8 rounded border border-edge bg-paper px-2 text-[13px] hover:bg-cane-pale"
              >
                {ORDER_WORDS[how]}
              </button>
            ))}
          </p>
        </>
      ) : (
        <p className="mt-1 text-[13.5px]">
          {isByLevel && isOverForm
            ? 'The drill stays in the key of its form.'
            : 'Each level goes through its own keys, the easiest first.'}{' '}
          Press a key in the table, or take those above, to choose keys for all levels.
        </p>
      )}
      {!isByLevel && (
        <Button className="mt-4 min-h-8 px-3" onClick={onByLevel}>
          {isOverForm ? 'Its own key alone' : 'Let each level have its own keys'}
        </Button>
      )}
      <p className="mt-4 text-[13px] text-ink-soft">
        A figure says how hard the drill is in that key for that player; a sign of exclamation, that something is left
        out or played an octave away there.
      </p>
    </div>
  );
}
