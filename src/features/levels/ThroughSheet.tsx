'use client';

import { useEffect, useRef, useState } from 'react';
import type { Level } from '../../core/instruments';
import type { Work } from '../../core/work';
import type { EngravedRow } from '../../engrave/engraver';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { Sheet } from '../../ui/Sheet';
import type { Draws } from '../work/useEngraving';

/** A level as it is gone through: what the lane shows once, every time of it. */
export function ThroughSheet({
  work,
  level,
  draws,
  onClose,
}: {
  readonly work: Work;
  readonly level: Level;
  readonly draws: Draws;
  readonly onClose: () => void;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const [rows, setRows] = useState<readonly EngravedRow[]>();
  useEffect(() => {
    let isNewest = true;
    void draws.through(work, level, Math.max(300, (frame.current?.clientWidth ?? 700) - 16)).then((drawn) => {
      if (isNewest) setRows(drawn);
    });
    return () => {
      isNewest = false;
    };
  }, [work, level, draws]);
  return (
    <Sheet
      open
      onClose={onClose}
      title={`${LEVEL_NAMES[level]}, all the way through`}
      description="As it is printed and played; the lane on the bench shows it once."
      width="max-w-4xl"
    >
      <div
        ref={frame}
        tabIndex={0}
        role="group"
        aria-label="The part, all the way through"
        aria-busy={!rows}
        className="min-h-32 overflow-auto rounded bg-paper p-2"
      >
        {rows?.map((row) => (
          <div key={row.from} aria-hidden="true" className="music mb-2" dangerouslySetInnerHTML={{ __html: row.svg }} />
        ))}
        {!rows && <p className="text-ink-soft">Drawing …</p>}
      </div>
    </Sheet>
  );
}
