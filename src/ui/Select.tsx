'use client';

import { getNonce } from 'get-nonce';
import { Check, ChevronDown } from 'lucide-react';
import { Select as RadixSelect } from 'radix-ui';
import { useState } from 'react';

export interface Option<Value extends string> {
  readonly value: Value;
  readonly label: string;
  /** A word beside the label in the list alone. */
  readonly hint?: string;
}

const LOOKS = {
  box: 'flex w-full min-h-8 items-center justify-between rounded border border-edge bg-paper px-2 text-left',
  word: 'inline-flex min-h-7 items-end rounded-t border-b-2 border-cane bg-transparent px-0.5 leading-5 font-semibold hover:bg-cane-pale',
  dark: 'inline-flex min-h-7 items-end rounded-t border-b-2 border-cane-bright bg-transparent px-0.5 leading-5 font-semibold text-white hover:bg-white/10',
} as const;

/**
 * A choice among values: in a form as a box, in a sentence as an underlined word, which may stand on a dark ground. The
 * list is made when somebody comes to it, so that a page of sentences need not hold hundreds of lines that nobody sees.
 */
export function Select<Value extends string>({
  label,
  value,
  options,
  onChange,
  look = 'box',
}: {
  readonly label: string;
  readonly value: Value;
  readonly options: readonly Option<Value>[];
  readonly onChange: (value: Value) => void;
  readonly look?: keyof typeof LOOKS;
}) {
  const [isOpen, setOpen] = useState(false);
  // Letters typed on a closed choice go through its lines too.
  const [isNear, setNear] = useState(false);
  return (
    <RadixSelect.Root
      open={isOpen}
      onOpenChange={setOpen}
      value={value}
      onValueChange={(next) => {
        const chosen = options.find((option) => option.value === next);
        if (chosen) onChange(chosen.value);
      }}
    >
      <RadixSelect.Trigger
        aria-label={label}
        className={LOOKS[look]}
        onFocus={() => setNear(true)}
        onBlur={() => setNear(false)}
      >
        <RadixSelect.Value>{options.find((option) => option.value === value)?.label}</RadixSelect.Value>
        {look === 'box' && (
          <RadixSelect.Icon>
            <ChevronDown size={13} aria-hidden="true" />
          </RadixSelect.Icon>
        )}
      </RadixSelect.Trigger>
      <RadixSelect.Portal>
        <RadixSelect.Content
          position="popper"
          sideOffset={4}
          className="z-50 rounded border border-edge bg-paper shadow-lg"
        >
          {/* Keys go through what lies in the viewport alone. It hides its scrollbar, by a style of its own; a long list shows one here. */}
          <RadixSelect.Viewport nonce={getNonce()} className="max-h-80 py-1" style={{ scrollbarWidth: 'thin' }}>
            {(isOpen || isNear) &&
              options.map((option) => (
                <RadixSelect.Item
                  key={option.value}
                  value={option.value}
                  className="flex min-h-7 cursor-default items-center gap-2 py-0.5 pr-4 pl-7 outline-none data-[highlighted]:bg-cane-pale"
                >
                  <RadixSelect.ItemIndicator className="absolute left-2">
                    <Check size={13} aria-hidden="true" />
                  </RadixSelect.ItemIndicator>
                  <RadixSelect.ItemText>{option.label}</RadixSelect.ItemText>
                  {option.hint && <span className="text-[12.5px] text-ink-soft">{option.hint}</span>}
                </RadixSelect.Item>
              ))}
          </RadixSelect.Viewport>
        </RadixSelect.Content>
      </RadixSelect.Portal>
    </RadixSelect.Root>
  );
}
