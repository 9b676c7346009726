'use client';

import { useEffect, useRef } from 'react';
import { Button } from '../../ui/Button';

/** The end of what is loaded: more comes when it comes near, or at a press. */
export function MoreTunes({
  isLoading,
  trouble,
  onMore,
}: {
  readonly isLoading: boolean;
  readonly trouble: string;
  readonly onMore: () => void;
}) {
  const end = useRef<HTMLDivElement>(null);
  const more = useRef(onMore);
  useEffect(() => {
    more.current = onMore;
  });
  useEffect(() => {
    const element = end.current;
    if (!element) return undefined;
    const watcher = new IntersectionObserver(
      (entries) => {
        if (entries.some(({ isIntersecting }) => isIntersecting)) more.current();
      },
      // Before it is seen: who scrolls does not wait.
      { root: element.closest('main'), rootMargin: '800px' },
    );
    watcher.observe(element);
    return () => watcher.disconnect();
  }, [isLoading]);
  return (
    <div ref={end} className="flex items-center justify-center gap-3 py-4 text-[13px] text-ink-soft">
      {trouble && <span role="alert">{trouble}</span>}
      <Button onClick={onMore} disabled={isLoading}>
        {isLoading ? 'Loading more tunes …' : 'Show more tunes'}
      </Button>
    </div>
  );
}
