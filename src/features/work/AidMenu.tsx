'use client';

import { type Aid, AIDS } from '../../core/work';
import { TickItem, TickList } from '../../ui/MultiSelect';

const AID_WORDS: Readonly<Record<Aid, string>> = {
  names: 'names',
  degrees: 'degrees',
  syllables: 'syllables',
  counts: 'counts',
  breaths: 'breaths',
  bowing: 'bows',
};

/** Which aids a player wants printed; none set leaves it to the level. */
export function AidMenu({
  who,
  aids,
  onChange,
}: {
  readonly who: string;
  readonly aids: readonly Aid[] | undefined;
  readonly onChange: (aids: readonly Aid[] | undefined) => void;
}) {
  const text =
    aids === undefined ? 'as the level' : aids.length === 0 ? 'none' : aids.map((aid) => AID_WORDS[aid]).join(', ');
  const has = (aid: Aid) => aids?.includes(aid) ?? false;
  return (
    <TickList
      label={`Aids of ${who}: ${text}`}
      text={text}
      look="min-h-8 w-full min-w-24 rounded border border-transparent px-1.5 text-left hover:border-edge"
      align="start"
    >
      <TickItem isOn={aids === undefined} closes onToggle={() => onChange(aids === undefined ? [] : undefined)}>
        as the level
      </TickItem>
      {AIDS.map((aid) => (
        <TickItem
          key={aid}
          isOn={has(aid)}
          onToggle={() => onChange(AIDS.filter((one) => (one === aid ? !has(aid) : has(one))))}
        >
          {AID_WORDS[aid]}
        </TickItem>
      ))}
    </TickList>
  );
}
