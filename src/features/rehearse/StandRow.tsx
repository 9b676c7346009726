'use client';

import { memo } from 'react';
import type { EngravedRow } from '../../engrave/engraver';

/** What of a part is covered: nothing, all notes, or every second bar. */
export type Hidden = 'nothing' | 'notes' | 'every-second';

/** Above the top line of the staff what is covered reaches, CSS pixels: chord symbols stay. */
const COVER = { above: 18, below: 40 } as const;

/** One row on the stand: bars to be tapped, the one that sounds lit, the chunk marked, and what is hidden covered. */
export const StandRow = memo(function StandRow({
  row,
  numbers,
  hidden,
  bar,
  range,
  onBar,
}: {
  readonly row: EngravedRow;
  /** Of all bars, as printed. */
  readonly numbers: readonly number[];
  readonly hidden: Hidden;
  /** The bar that sounds. */
  readonly bar: number | undefined;
  /** Bars that are practised. */
  readonly range: { readonly from: number; readonly to: number } | undefined;
  readonly onBar: (bar: number) => void;
}) {
  const { svg, geometry, from } = row;
  const [staff] = geometry.staves;
  const top = (staff?.top ?? 0) - COVER.above;
  const height = (staff?.bottom ?? geometry.height) - top + COVER.below;
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
      <Picture svg={svg} />
      {geometry.bars.map(({ x, width }, k) => {
        const index = from + k;
        const isCovered = hidden === 'notes' || (hidden === 'every-second' && index % 2 === 1);
        return (
          isCovered && (
            <span
              key={`over ${index}`}
              aria-hidden="true"
              className="absolute border-x border-line bg-paper"
              style={{ left: x, width, top, height }}
            />
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

const Picture = memo(function Picture({ svg }: { readonly svg: string }) {
  return <div className="relative" dangerouslySetInnerHTML={{ __html: svg }} />;
});
