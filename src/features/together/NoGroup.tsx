'use client';

import Link from 'next/link';
import type { Group } from '../../core/keys';
import { Select } from '../../ui/Select';

/** Where no group is chosen, or the chosen one is empty. */
export function NoGroup({
  groups,
  isEmpty,
  onGroup,
}: {
  readonly groups: readonly { readonly id: string; readonly group: Group }[];
  readonly isEmpty: boolean;
  readonly onGroup: (id: string) => void;
}) {
  return (
    <div className="mx-auto max-w-xl px-6 py-10">
      <h2 className="font-serif text-[19px] font-semibold">
        {isEmpty ? 'Nobody is in this group yet' : 'Who plays together?'}
      </h2>
      <p className="mt-2 leading-7">
        A tune is arranged here for the players of a group: who has the tune, who a second voice under it, who the bass,
        and who long notes that are worth holding.
      </p>
      {groups.length > 0 && (
        <p className="mt-2 leading-8">
          Arrange it for{' '}
          <Select
            look="word"
            label="Group"
            value="none"
            options={[
              { value: 'none', label: 'choose a group' },
              ...groups.map(({ id, group }) => ({ value: id, label: group.name })),
            ]}
            onChange={onGroup}
          />
          .
        </p>
      )}
      <p className="mt-2">
        <Link href="/groups" className="text-cane underline underline-offset-2">
          {groups.length === 0 ? 'Make a group' : isEmpty ? 'Add players' : 'Groups and their players'}
        </Link>
      </p>
    </div>
  );
}
