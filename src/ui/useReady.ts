'use client';

import { useEffect, useSyncExternalStore } from 'react';

const never = () => () => undefined;

/**
 * Whether the page answers yet: what the server sent is seen before its script runs, and a choice made in between would
 * be lost. The document carries the same word, for whoever drives the page from outside, as a test does.
 */
export function useReady(): boolean {
  useEffect(() => {
    document.documentElement.dataset['ready'] = '';
  }, []);
  return useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
}
