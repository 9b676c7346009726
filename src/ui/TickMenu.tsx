'use client';

import { DropdownMenu } from 'radix-ui';

interface Props<Value extends string> {
  readonly label: string;
  /** What the underlined word says of the ticks. */
  readonly text: string;
  readonly options: readonly { readonly value: Value; readonly label: string }[];
  readonly chosen: readonly Value[];
  /** How many stay ticked at least; none by default. */
  readonly least?: number;
  /** Is given the ticked ones in the order of the options. */
  readonly onChange: (chosen: readonly Value[]) => void;
}

/** An underlined word in a sentence that opens a list to tick. The list stays open while somebody ticks. */
export function TickMenu<Value extends string>({ label, text, options, chosen, least = 0, onChange }: Props<Value>) {
  return (
    // What lies around stays reachable: nothing that takes the focus is hidden from those who hear the page.
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={`${label}, ${text}`}
        className="inline-flex min-h-7 items-end rounded-t border-b-2 border-cane px-0.5 leading-5 font-semibold hover:bg-cane-pale"
      >
        {text}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          align="end"
          className="z-50 rounded border border-[#8f8d7c] bg-paper py-1 shadow-lg"
        >
          {options.map(({ value, label: words }) => {
            const isOn = chosen.includes(value);
            return (
              <DropdownMenu.CheckboxItem
                key={value}
                checked={isOn}
                disabled={isOn && chosen.length <= least}
                onSelect={(event) => event.preventDefault()}
                onCheckedChange={() =>
                  onChange(
                    options.flatMap((one) =>
                      (one.value === value ? !isOn : chosen.includes(one.value)) ? [one.value] : [],
                    ),
                  )
                }
                className="flex min-h-7 cursor-default items-center gap-2 py-0.5 pr-4 pl-2 outline-none data-[disabled]:text-ink-soft data-[highlighted]:bg-cane-pale"
              >
                <span aria-hidden="true" className="w-4 text-cane">
                  {isOn ? '✓' : ''}
                </span>
                {words}
              </DropdownMenu.CheckboxItem>
            );
          })}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
