'use client';

import { memo, useLayoutEffect, useRef } from 'react';
import type { BarRun } from '../../core/levels';
import type { EngravedRow } from '../../engrave/engraver';

/** What of a part is covered: nothing; all notes, until they are learned by ear; all notes; every second bar. */
export type Hidden = 'nothing' | 'ear' | 'notes' | 'every-second';

/** Above and below the staff what is lit and pressed reaches, CSS pixels. */
const REACH = { above: 18, below: 40 } as const;

/** One row on the stand: bars to be tapped, the one that sounds lit, the chunk marked, and what is hidden covered. */
export const StandRow = memo(function StandRow({
  row,
  numbers,
  hidden,
  shown,
  words,
  bar,
  range,
  onBar,
}: {
  readonly row: EngravedRow;
  /** Of all bars, as printed. */
  readonly numbers: readonly number[];
  readonly hidden: Hidden;
  /** Bars that are seen by ear as well. */
  readonly shown: BarRun | 'all' | undefined;
  /** A word under a bar, by its index. */
  readonly words: ReadonlyMap<number, string> | undefined;
  /** The bar that sounds. */
  readonly bar: number | undefined;
  /** Bars that are practised. */
  readonly range: { readonly from: number; readonly to: number } | undefined;
  readonly onBar: (bar: number) => void;
}) {
  const { svg, geometry, from } = row;
  const covered = geometry.bars
    .map((_, k) => {
      const index = from + k;
      const isShown = shown === 'all' || (shown !== undefined && index >= shown.from && index < shown.to);
      if (hidden === 'notes' || (hidden === 'ear' && !isShown)) return 1;
      return hidden === 'every-second' && index % 2 === 1 ? 1 : 0;
    })
    .join('');
  const [staff] = geometry.staves;
  const top = (staff?.top ?? 0) - REACH.above;
  const height = (staff?.bottom ?? geometry.height) - top + REACH.below;
  return (
    <div className="music relative" style={{ height: geometry.height }}>
      {geometry.bars.map(({ x, width }, k) => {
        const index = from + k;
        const isIn = range !== undefined && index >= range.from && index < range.to;
        return (
          <span
            key={`under ${index}`}
            aria-hidden="true"
            className={`absolute rounded ${index === bar ? 'bg-cane/25' : isIn ? 'bg-cane-pale' : ''}`}
            style={{ left: x, width, top, height }}
          />
        );
      })}
      <Picture svg={svg} covered={covered} />
      {words &&
        geometry.bars.map(({ x, width }, k) => {
          const word = words.get(from + k);
          return (
            word && (
              <span
                key={`word ${from + k}`}
                className="absolute text-center font-serif text-[15px]"
                style={{ left: x, width, top: (staff?.bottom ?? 0) + 10 }}
              >
                {word}
              </span>
            )
          );
        })}
      {geometry.bars.map(({ x, width }, k) => (
        <button
          key={`bar ${from + k}`}
          type="button"
          aria-label={`Practise the chunk of bar ${numbers[from + k] ?? from + k + 1}`}
          onClick={() => onBar(from + k)}
          className="absolute rounded focus-visible:outline-2 focus-visible:outline-cane"
          style={{ left: x, width, top, height }}
        />
      ))}
    </div>
  );
});

/** @param covered a digit a bar: 1 where only staff, chords and barlines are seen */
const Picture = memo(function Picture({ svg, covered }: { readonly svg: string; readonly covered: string }) {
  const own = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    own.current?.querySelectorAll('.measure').forEach((bar, k) => bar.classList.toggle('covered', covered[k] === '1'));
  }, [svg, covered]);
  return <div ref={own} className="relative" dangerouslySetInnerHTML={{ __html: svg }} />;
});
