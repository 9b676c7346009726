'use client';

import { useEffect, useState, type RefObject } from 'react';

/** The size of an element, CSS pixels, followed as it changes; 0 until it is known. */
export function useSize(frame: RefObject<HTMLElement | null>): { readonly width: number; readonly height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    const watch = new ResizeObserver(() =>
      setSize({ width: Math.floor(element.clientWidth), height: Math.floor(element.clientHeight) }),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, [frame]);
  return size;
}
