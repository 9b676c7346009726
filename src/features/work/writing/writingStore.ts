'use client';

import { createStore } from 'zustand';
import {
  type Caret,
  type Clip,
  compareCarets,
  type EditResult,
  eventAt,
  eventsIn,
  moveCaret,
  nearestPitch,
  onSecondPart,
  pitchBefore,
  settled,
  type Stretch,
  writeAt,
} from '../../../core/score/edit';
import { type Bar, type EventId, hasSecondPart, keysOf, secondPartBars, type Tune } from '../../../core/score';
import { type Letter, type Pitch, spellInKey } from '../../../core/pitch';
import { type NoteType, type Ticks, valueTicks } from '../../../core/time';
import { becoming, type Work } from '../../../core/work';
import type { Dispatch } from '../workStore';

export type WritingLane = 'tune' | 'second';

/** Whoever keeps the work and its history. */
export interface WorkHolder {
  readonly getState: () => {
    readonly document: Work;
    readonly dispatch: Dispatch;
  };
}

/** Which small field stands open at the caret. */
export type OpenField = 'chord' | 'word' | 'section' | 'marks' | 'bar' | undefined;

export interface WritingState {
  readonly on: boolean;
  readonly lane: WritingLane;
  readonly caret: Caret;
  /** The other end of the selection; none when only the caret stands. */
  readonly anchor: Caret | undefined;
  /** Notes just written: what follows (raise, lengthen, mark) means them. */
  readonly touched: readonly EventId[];
  readonly type: NoteType;
  readonly dotted: boolean;
  readonly verse: number;
  readonly clip: Clip | undefined;
  readonly field: OpenField;
  readonly keyboard: boolean;
  readonly chordRow: boolean;
  /** What could not be done, or what else had to give way. */
  readonly message: string;
}

export const WRITTEN_TYPES: readonly NoteType[] = ['whole', 'half', 'quarter', 'eighth', '16th', '32nd'];

/**
 * The state of writing on the bench and the actions that all of its doors share: keys, mouse, keyboard on screen, MIDI.
 */
export class Writing {
  readonly store = createStore<WritingState>()(() => ({
    on: false,
    lane: 'tune',
    caret: { bar: 0, at: 0 },
    anchor: undefined,
    touched: [],
    type: 'quarter',
    dotted: false,
    verse: 1,
    clip: undefined,
    field: undefined,
    keyboard: false,
    chordRow: false,
    message: '',
  }));

  constructor(private readonly bench: WorkHolder) {}

  get tune(): Tune {
    return this.bench.getState().document.tune;
  }

  get state(): WritingState {
    return this.store.getState();
  }

  set(part: Partial<WritingState>): void {
    this.store.setState(part);
  }

  /** The bars of the line that is written on. */
  get bars(): readonly Bar[] {
    return lineBars(this.tune, this.state.lane);
  }

  /** The caret, on a place that exists in the tune as it is now. */
  get caret(): Caret {
    return settled(this.bars, this.state.caret);
  }

  get length(): Ticks {
    return valueTicks({ type: this.state.type, dots: this.state.dotted ? 1 : 0 });
  }

  get stretch(): Stretch | undefined {
    return stretchOf(this.state, this.bars);
  }

  /** What the next action means: the selection, else the notes just written, else the event at the caret. */
  get targets(): readonly EventId[] {
    const { stretch } = this;
    if (stretch) return eventsIn(this.bars, stretch).map(({ event }) => event.id);
    const { touched } = this.state;
    if (touched.length > 0) return touched;
    const here = eventAt(this.bars, this.caret);
    return here ? [here.event.id] : [];
  }

  start(caret?: Caret): void {
    const lane = hasSecondPart(this.tune) ? this.state.lane : 'tune';
    this.set({ on: true, lane, message: '', ...(caret && { caret, anchor: undefined, touched: [] }) });
  }

  stop(): void {
    this.set({ on: false, anchor: undefined, touched: [], field: undefined, message: '' });
  }

  /** Makes an edit on the line and puts it into the history; a refusal is said and changes nothing. */
  run(
    make: (tune: Tune, caret: Caret) => EditResult,
    options: { readonly merge?: string; readonly keepSelection?: boolean; readonly touches?: boolean } = {},
  ): boolean {
    const { lane } = this.state;
    const before = this.caret;
    const result = lane === 'second' ? onSecondPart(this.tune, (tune) => make(tune, before)) : make(this.tune, before);
    if (!result.ok) {
      this.set({ message: result.problem.text });
      return false;
    }
    const { tune, caret, name, messages: said } = result.value;
    this.bench.getState().dispatch((present) => becoming(name, present, { ...present, tune }), options.merge);
    const bars = lineBars(tune, lane);
    const written = options.touches
      ? eventsIn(bars, { from: before, to: compareCarets(caret, before) > 0 ? caret : before }).map(
          ({ event }) => event.id,
        )
      : this.state.touched;
    this.set({
      caret,
      message: said.join('; '),
      touched: written,
      ...(!options.keepSelection && { anchor: undefined }),
    });
    return true;
  }

  move(direction: 1 | -1, extend: boolean): void {
    const { anchor } = this.state;
    let { caret } = this;
    let start = anchor;
    if (
      extend &&
      start &&
      direction === 1 &&
      compareCarets(caret, start) < 0 &&
      eventsIn(this.bars, { from: caret, to: start }).length === 1
    ) {
      // A clicked note is selected with the caret before it; going on to the right grows the selection.
      [caret, start] = [start, caret];
    }
    this.set({
      caret: moveCaret(this.bars, caret, direction),
      anchor: extend ? (start ?? caret) : undefined,
      touched: [],
      message: '',
    });
  }

  moveTo(caret: Caret, extend = false): void {
    this.set({
      caret: settled(this.bars, caret),
      anchor: extend ? (this.state.anchor ?? this.caret) : undefined,
      touched: [],
      message: '',
    });
  }

  /** Selects one event, the caret before it. */
  pick(lane: WritingLane, id: EventId): void {
    this.set({ lane });
    for (const [bar, { events }] of this.bars.entries()) {
      let at = 0;
      for (const event of events) {
        if (event.id === id) {
          this.set({
            caret: { bar, at },
            anchor: settled(this.bars, { bar, at: at + event.length }),
            touched: [],
            message: '',
          });
          return;
        }
        at += event.length;
      }
    }
  }

  writeLetter(step: Letter, octaveUp: boolean): void {
    const pitch = nearestPitch(step, this.keyHere(), pitchBefore({ bars: this.bars }, this.caret));
    this.writePitch(octaveUp ? { ...pitch, octave: pitch.octave + 1 } : pitch);
  }

  /** A key of a keyboard, spelled in the key that stands there. */
  writeKey(number: number): void {
    if (!this.state.on) this.start();
    this.writePitch(spellInKey(number, this.keyHere()));
  }

  writeRest(): void {
    const { length } = this;
    this.run((tune, caret) => writeAt(tune, caret, { length }));
  }

  private writePitch(pitch: Pitch): void {
    const { length } = this;
    this.run((tune, caret) => writeAt(tune, caret, { pitch, length }), { touches: true });
  }

  private keyHere() {
    return keysOf(this.tune)[this.caret.bar] ?? this.tune.key;
  }
}

export function lineBars(tune: Tune, lane: WritingLane): readonly Bar[] {
  return lane === 'second' && hasSecondPart(tune) ? secondPartBars(tune.bars) : tune.bars;
}

export function stretchOf(
  { caret, anchor }: Pick<WritingState, 'caret' | 'anchor'>,
  bars: readonly Bar[],
): Stretch | undefined {
  if (!anchor) return undefined;
  const [a, b] = [settled(bars, caret), settled(bars, anchor)];
  const order = compareCarets(a, b);
  if (order === 0) return undefined;
  return order < 0 ? { from: a, to: b } : { from: b, to: a };
}
