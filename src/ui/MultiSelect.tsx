'use client';

import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

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

/** An underlined word in a sentence that opens a list to tick. */
export function MultiSelect<Value extends string>({ label, text, options, chosen, least = 0, onChange }: Props<Value>) {
  return (
    <TickList
      label={`${label}, ${text}`}
      text={text}
      look="inline-flex min-h-7 items-end rounded-t border-b-2 border-cane px-0.5 leading-5 font-semibold hover:bg-cane-pale"
      align="end"
    >
      {options.map(({ value, label: words }) => {
        const isOn = chosen.includes(value);
        const toggled = (one: Value) => (one === value ? !isOn : chosen.includes(one));
        return (
          <TickItem
            key={value}
            isOn={isOn}
            isFixed={isOn && chosen.length <= least}
            onToggle={() => onChange(options.flatMap((one) => (toggled(one.value) ? [one.value] : [])))}
          >
            {words}
          </TickItem>
        );
      })}
    </TickList>
  );
}

/**
 * A text that opens a list to tick. What lies around stays reachable: nothing that takes the focus is hidden from those
 * who hear the page.
 */
export function TickList({
  label,
  text,
  look,
  align,
  children,
}: {
  readonly label: string;
  readonly text: string;
  /** Classes of the text. */
  readonly look: string;
  readonly align: 'start' | 'end';
  readonly children: ReactNode;
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger aria-label={label} className={look}>
        {text}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          align={align}
          className="z-50 rounded border border-edge bg-paper py-1 shadow-lg"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** A line of the list. The list stays open while somebody ticks, unless this line decides for all. */
export function TickItem({
  isOn,
  isFixed = false,
  closes = false,
  onToggle,
  children,
}: {
  readonly isOn: boolean;
  /** It cannot be taken away now. */
  readonly isFixed?: boolean;
  readonly closes?: boolean;
  readonly onToggle: () => void;
  readonly children: ReactNode;
}) {
  return (
    <DropdownMenu.CheckboxItem
      checked={isOn}
      disabled={isFixed}
      onSelect={(event) => {
        if (!closes) event.preventDefault();
      }}
      onCheckedChange={onToggle}
      className="flex min-h-7 cursor-default items-center gap-2 py-0.5 pr-4 pl-2 outline-none data-[disabled]:text-ink-soft data-[highlighted]:bg-cane-pale"
    >
      <span aria-hidden="true" className="w-4 text-cane">
        {isOn ? '✓' : ''}
      </span>
      {children}
    </DropdownMenu.CheckboxItem>
  );
}
