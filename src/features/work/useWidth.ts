'use client';

import { useEffect, useState, type RefObject } from 'react';

/** The width of an element, CSS pixels, followed as it changes; 0 until it is known. */
export function useWidth(frame: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setWidth(Math.floor(entry.contentRect.width));
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, [frame]);
  return width;
}
