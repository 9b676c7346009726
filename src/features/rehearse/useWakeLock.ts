'use client';

import { useEffect } from 'react';

/** Keeps the screen lit while it is wanted, where the browser can; asked for again when the page comes back to view. */
export function useWakeLock(isWanted: boolean): void {
  useEffect(() => {
    if (!isWanted || !('wakeLock' in navigator)) return undefined;
    let lock: WakeLockSentinel | undefined;
    let isOpen = true;
    const ask = () => {
      if (document.visibilityState !== 'visible') return;
      // A browser may refuse, with a battery that runs low: then the screen goes dark as it always did.
      navigator.wakeLock.request('screen').then(
        (granted) => {
          if (isOpen) lock = granted;
          else void granted.release();
        },
        () => undefined,
      );
    };
    ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      isOpen = false;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }, [isWanted]);
}
