'use client';

import { useState, type KeyboardEvent } from 'react';

const LOWEST = 48;
const HIGHEST = 84;
const NAMES = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'];
const BLACK = new Set([1, 3, 6, 8, 10]);

const keyName = (number: number) => `${NAMES[number % 12]}${Math.floor(number / 12) - 1}`;

/** Three octaves of keys in concert pitch. Arrow keys go from key to key, Enter or Space presses. */
export function PianoKeys({ onKey }: { readonly onKey: (number: number) => void }) {
  const [stop, setStop] = useState(60);
  const numbers = Array.from({ length: HIGHEST - LOWEST + 1 }, (_, k) => LOWEST + k);
  const whites = numbers.filter((number) => !BLACK.has(number % 12));
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    event.stopPropagation();
    if (step === undefined) return;
    event.preventDefault();
    const next = Math.max(LOWEST, Math.min(HIGHEST, stop + step));
    setStop(next);
    event.currentTarget.querySelector<HTMLElement>(`[data-key="${next}"]`)?.focus();
  };
  return (
    <div
      role="group"
      aria-label="Keyboard, concert pitch"
      className="relative mx-auto h-[74px] w-full max-w-[860px] touch-none select-none"
      onKeyDown={onKeyDown}
    >
      {numbers.map((number) => {
        const isBlack = BLACK.has(number % 12);
        const before = whites.filter((white) => white < number).length;
        const width = 100 / whites.length;
        return (
          <button
            key={number}
            type="button"
            data-key={number}
            aria-label={keyName(number)}
            tabIndex={number === stop ? 0 : -1}
            onPointerDown={(event) => {
              event.preventDefault();
              onKey(number);
            }}
            onClick={(event) => {
              if (event.detail === 0) onKey(number);
            }}
            className={
              isBlack
                ? 'absolute top-0 z-10 h-[46px] rounded-b-[3px] border border-reed bg-reed hover:bg-reed-soft active:bg-cane'
                : 'absolute top-0 h-full rounded-b-[4px] border border-edge bg-paper hover:bg-cane-pale active:bg-cane-bright'
            }
            style={
              isBlack
                ? { left: `${before * width - width * 0.3}%`, width: `${width * 0.6}%` }
                : { left: `${before * width}%`, width: `${width}%` }
            }
          >
            {number % 12 === 0 && (
              <span
                aria-hidden="true"
                className="absolute bottom-1 left-1/2 -translate-x-1/2 text-[10px] text-ink-soft"
              >
                {keyName(number)}
              </span>
            )}
          </button>
        );
      })}
    </div>
  );
}
