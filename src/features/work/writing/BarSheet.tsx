'use client';

import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import { toSounding } from '../../../core/instruments';
import { type Part, soundingEvents } from '../../../core/levels';
import { nameKey } from '../../../core/pitch';
import { uncapitalised } from '../../../core/plainText';
import { isNote, keysOf, metersOf, type ScoreEvent, type Tune } from '../../../core/score';
import type { EngravedRow } from '../../../engrave/engraver';
import { Button } from '../../../ui/Button';
import { Sheet } from '../../../ui/Sheet';
import { historyKey, isTyping } from '../useKeys';
import { createWorkStore } from '../workStore';
import type { Draws } from '../useEngraving';
import { CaretFields } from './CaretFields';
import { press } from './commands';
import { WritingBar } from './WritingBar';
import { caretText, WritingLayer } from './WritingLayer';
import { Writing } from './writingStore';

interface Props {
  readonly tune: Tune;
  /** The part that the bar is of. */
  readonly part: Part;
  readonly bar: number;
  readonly number: number;
  readonly draws: Draws;
  readonly onClose: () => void;
  /** What was written, as it sounds. */
  readonly onKeep: (events: readonly ScoreEvent[]) => void;
}

/** Width of the bar on the sheet, CSS pixels. */
const WIDTH = 620;

/** One bar of a part written by hand, with the tools of the Tune step, as its player reads it. */
export function BarSheet({ tune: whole, part, bar, number, draws, onClose, onKeep }: Props) {
  const [store] = useState(() => createWorkStore({ tune: barAlone(whole, part, bar), recipes: {} }, 'sounding'));
  const [writing] = useState(() => new Writing(store));
  const surface = useRef<HTMLDivElement>(null);
  const { tune } = useStore(store, ({ document }) => document);
  const { past } = useStore(store);
  const { caret, message: said } = useStore(writing.store);
  const [row, setRow] = useState<EngravedRow>();
  useEffect(() => {
    writing.start({ bar: 0, at: 0 });
  }, [writing]);
  useEffect(() => {
    let isNewest = true;
    void draws.line(tune, part.instrument.clef, WIDTH).then((drawn) => {
      if (isNewest) setRow(drawn);
    });
    return () => {
      isNewest = false;
    };
  }, [tune, part, draws]);
  const onKey = (event: KeyboardEvent<HTMLDivElement>) => {
    if (isTyping(event.target)) return;
    const { key, ctrlKey, metaKey, altKey, shiftKey } = event;
    const history = historyKey(event);
    if (history) store.getState()[history]();
    // Escape closes the sheet, as everywhere.
    else if (
      key === 'Escape' ||
      !press(writing, { key, ctrlKey, metaKey, altKey, shiftKey, isAltGraph: event.getModifierState('AltGraph') })
    )
      return;
    event.preventDefault();
    event.stopPropagation();
  };
  // The place is told by its beat: there is one bar, whatever its number in the tune.
  const isOneBar = tune.bars.length === 1;
  const keep = () => {
    const [written] = tune.bars;
    if (!written) return;
    onKeep(soundingEvents(written, tune.key, toSounding(part.instrument)));
  };
  const focus = () => surface.current?.focus({ preventScroll: true });
  return (
    <Sheet
      open
      onClose={onClose}
      title={`Bar ${number}, written by hand`}
      description={`As ${uncapitalised(part.instrument.name)} reads it, in ${nameKey(part.writtenKey)}. Letters write notes; all keys are on the help sheet.`}
      width="max-w-3xl"
      focusFirst={() => surface.current?.focus({ preventScroll: true })}
    >
      <WritingBar writing={writing} tune={tune} onFocus={focus} isOneBar />
      <div
        ref={surface}
        role="application"
        aria-label={`Bar ${number}, being written`}
        tabIndex={0}
        onKeyDown={onKey}
        className="bg-paper px-2 py-3 outline-none focus-visible:shadow-[inset_3px_0_0_var(--color-cane)]"
      >
        {row ? (
          <div className="music relative" data-row={0} style={{ maxWidth: WIDTH }}>
            <div aria-hidden="true" dangerouslySetInnerHTML={{ __html: row.svg }} />
            <WritingLayer writing={writing} bench={store} row={row} hasSecond={false} onTouch={focus} />
          </div>
        ) : (
          <p aria-busy="true" className="text-ink-soft">
            Drawing the bar …
          </p>
        )}
      </div>
      <CaretFields writing={writing} tune={tune} onFocus={focus} />
      <p aria-live="polite" className="mt-2 min-h-5 text-[13px] text-ink-soft">
        {caret && caretText(writing).replace(/bar \d+, /, '')}{' '}
        {said && <span className="font-semibold text-warn">{said}</span>}
      </p>
      {!isOneBar && (
        <p role="alert" className="text-[13px] text-warn">
          This editor is for one bar; remove the others (Shift Backspace).
        </p>
      )}
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button kind="main" disabled={!isOneBar || past.length === 0} onClick={keep}>
          Use in bar {number}
        </Button>
      </div>
    </Sheet>
  );
}

/** One bar of a part as a tune of its own. */
function barAlone(tune: Tune, part: Part, index: number): Tune {
  const meter = metersOf({ bars: part.bars, meter: part.meter })[index] ?? part.meter;
  const key = keysOf({ bars: part.bars, key: part.writtenKey })[index] ?? part.writtenKey;
  const bar = part.bars[index];
  const { swing: _, recordingKey: _key, ...plain } = tune;
  const events = (bar?.events ?? []).map(plainEvent);
  return {
    ...plain,
    title: '',
    key,
    meter,
    tempo: part.tempo,
    bars: [
      {
        id: bar?.id ?? 'b1',
        events,
        chords: bar?.chords ?? [],
        ...(bar?.partial !== undefined && { partial: bar.partial }),
      },
    ],
  };
}

/** Without aids, what joins it to other bars, and the marks of passages: those are not what is written here. */
function plainEvent(event: ScoreEvent): ScoreEvent {
  const { optional: _o, ...rest } = event;
  if (!isNote(event)) return rest as ScoreEvent;
  const { kind, id, length, pitch, tuplet, tied, graces, articulations, ornaments, fermata, dynamic } = event;
  return {
    kind,
    id,
    length,
    pitch,
    ...(tuplet && { tuplet }),
    ...(tied && { tied }),
    ...(graces && { graces }),
    ...(articulations && { articulations }),
    ...(ornaments && { ornaments }),
    ...(fermata && { fermata }),
    ...(dynamic && { dynamic }),
  };
}
