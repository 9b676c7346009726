'use client';

import { DropdownMenu } from 'radix-ui';
import { type Aid, AIDS } from '../../core/levels/recipe/groups';

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
  const item =
    'flex min-h-7 cursor-default items-center gap-2 py-0.5 pr-4 pl-2 outline-none data-[highlighted]:bg-cane-pale';
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`Aids of ${who}: ${text}`}
        className="min-h-8 w-full min-w-24 rounded border border-transparent px-1.5 text-left hover:border-[#8f8d7c]"
      >
        {text}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          align="start"
          className="z-50 rounded border border-[#8f8d7c] bg-paper py-1 shadow-lg"
        >
          <DropdownMenu.CheckboxItem
            className={item}
            checked={aids === undefined}
            onCheckedChange={() => onChange(aids === undefined ? [] : undefined)}
          >
            <span aria-hidden="true" className="w-4 text-cane">
              {aids === undefined ? '✓' : ''}
            </span>
            as the level
          </DropdownMenu.CheckboxItem>
          {AIDS.map((aid) => {
            const isOn = aids?.includes(aid) ?? false;
            return (
              <DropdownMenu.CheckboxItem
                key={aid}
                className={item}
                checked={isOn}
                onSelect={(event) => event.preventDefault()}
                onCheckedChange={() => onChange(AIDS.filter((one) => (one === aid ? !isOn : aids?.includes(one))))}
              >
                <span aria-hidden="true" className="w-4 text-cane">
                  {isOn ? '✓' : ''}
                </span>
                {AID_WORDS[aid]}
              </DropdownMenu.CheckboxItem>
            );
          })}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
