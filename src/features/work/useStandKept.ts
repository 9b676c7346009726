'use client';

import { useEffect, useState } from 'react';

/** How long the stand waits for its keeper before it goes on without. */
const PATIENCE = 2_500;

/**
 * Keeps the stand in the browser, so that it opens without a network. `isReady` is true once everything that is fetched
 * from now on is kept, or where this browser cannot keep anything; `isKept` once what was fetched before is kept too.
 */
export function useStandKept(): { readonly isReady: boolean; readonly isKept: boolean } {
  const [isReady, setReady] = useState(false);
  const [isKept, setKept] = useState(false);
  useEffect(() => {
    const container = 'serviceWorker' in navigator ? navigator.serviceWorker : undefined;
    const goOn = setTimeout(() => setReady(true), container ? PATIENCE : 0);
    if (!container) return () => clearTimeout(goOn);
    const onMessage = ({ data }: MessageEvent<unknown>) => {
      if (typeof data === 'object' && data !== null && 'kept' in data) setKept(true);
    };
    const begin = () => {
      clearTimeout(goOn);
      const loaded = performance.getEntriesByType('resource').map(({ name }) => name);
      container.controller?.postMessage({ keep: [location.href, '/api/sounds', '/hearing-worklet.js', ...loaded] });
      setReady(true);
    };
    container.addEventListener('message', onMessage);
    container.addEventListener('controllerchange', begin, { once: true });
    // Where it may not be kept (a private window, a full disk) the stand works all the same, with the network.
    container.register('/stand-sw.js').then(
      () => container.controller && begin(),
      () => setReady(true),
    );
    return () => {
      clearTimeout(goOn);
      container.removeEventListener('message', onMessage);
      container.removeEventListener('controllerchange', begin);
    };
  }, []);
  return { isReady, isKept };
}
