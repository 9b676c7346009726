'use client';

import { useEffect } from 'react';
import { useStore } from 'zustand';
import type { WorkStore } from '../workStore';
import { caretText } from './WritingLayer';
import type { Writing } from './writingStore';

interface Props {
  readonly writing: Writing;
  readonly bench: WorkStore;
}

/** Keeps the caret in view as it moves. */
export function CaretFollower({ writing, bench }: Props) {
  const caret = useStore(writing.store, (one) => one.caret);
  const tune = useStore(bench, ({ document }) => document.tune);
  useEffect(() => {
    const timer = requestAnimationFrame(() =>
      document.querySelector('[data-caret]')?.scrollIntoView({ block: 'nearest' }),
    );
    return () => cancelAnimationFrame(timer);
  }, [caret, tune]);
  return null;
}

/** Where the caret stands, what comes next, and what could not be done. */
export function WritingStatus({ writing, bench }: Props) {
  const { message: said } = useStore(writing.store);
  const isEmpty = useStore(bench, ({ document }) => document.tune.bars.length === 0);
  return (
    <span className="flex min-w-0 gap-3">
      <span id="writing-place" aria-live="polite" className="truncate">
        {!isEmpty && caretText(writing)}
      </span>
      {said && (
        <span role="alert" className="truncate font-semibold text-[#ffd9a0]">
          {said}
        </span>
      )}
    </span>
  );
}
