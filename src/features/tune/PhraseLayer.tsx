'use client';

import { useLayoutEffect, useRef, useState } from 'react';
import type { TuneAnalysis } from '../../core/analysis';
import { soundingNotes, type Tune } from '../../core/score';
import type { EngravedRow } from '../../engrave/engraver';
import { eventBoxes, type EventBox } from '../work/eventBoxes';
import { PHRASE_TINTS, tintOf } from './phraseTints';

/** Lies under a row of the tune: a light ground for each phrase, its letter where it begins. */
export function PhraseLayer({
  tune,
  analysis,
  row,
}: {
  readonly tune: Tune;
  readonly analysis: TuneAnalysis;
  readonly row: EngravedRow;
}) {
  const layer = useRef<HTMLDivElement>(null);
  const [measured, setMeasured] = useState<{ readonly boxes: ReadonlyMap<string, EventBox>; readonly width: number }>();
  useLayoutEffect(() => {
    const music = layer.current?.parentElement;
    if (!music) return undefined;
    const measure = () => setMeasured({ boxes: eventBoxes(music, 'tune'), width: music.clientWidth });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(music);
    return () => observer.disconnect();
  }, [row]);
  const notes = soundingNotes(tune);
  const scale = measured ? measured.width / row.geometry.width : 1;
  const staff = row.geometry.staves[0];
  const first = row.geometry.bars[0];
  const last = row.geometry.bars.at(-1);
  const [rowLeft, rowRight] = [(first?.x ?? 0) * scale, ((last?.x ?? 0) + (last?.width ?? 0)) * scale];
  const firstInRow = notes.find(({ bar }) => bar >= row.from);
  const startOf = (index: number, isEdgeOfOther = false): number | undefined => {
    const note = notes[analysis.phrases[index]?.notes.from ?? -1];
    if (!note) return undefined;
    if (note.bar < row.from) return rowLeft;
    if (note.bar >= row.to) return rowRight;
    // Clef and signature at the head of a row belong to no phrase.
    if (isEdgeOfOther && note === firstInRow) return rowLeft;
    const box = measured?.boxes.get(note.first.id);
    return box ? box.left - 9 : undefined;
  };
  return (
    <div ref={layer} aria-hidden="true" className="no-print pointer-events-none absolute inset-0">
      {measured &&
        analysis.phrases.map((phrase, index) => {
          const left = startOf(index);
          const right = index + 1 < analysis.phrases.length ? startOf(index + 1, true) : rowRight;
          if (left === undefined || right === undefined || right - left < 4) return null;
          const tint = PHRASE_TINTS[tintOf(phrase.label)];
          const begins = (notes[phrase.notes.from]?.bar ?? -1) >= row.from;
          return (
            <span
              key={phrase.notes.from}
              className="absolute rounded-sm"
              style={{
                left,
                width: right - left - 2,
                top: ((staff?.top ?? 0) - 7) * scale,
                height: ((staff?.bottom ?? 0) - (staff?.top ?? 0) + 14) * scale,
                backgroundColor: tint?.ground,
                borderLeft: begins ? `2px solid ${tint?.line}` : undefined,
              }}
            >
              {begins && (
                <span className="absolute -bottom-[15px] left-0 rounded-sm bg-paper/90 px-0.5 font-serif text-[12px] leading-[14px] font-bold text-ink">
                  {phrase.label}
                </span>
              )}
            </span>
          );
        })}
    </div>
  );
}
