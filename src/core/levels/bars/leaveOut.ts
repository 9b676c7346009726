import { type Bar, barLength, barOffset, isNote, metersOf, type Rest, type Tune, withTrueTies } from '../../score';
import { spellRestLength } from '../../time';

/** A run of whole bars, `from` up to but without `to`. */
export interface BarRun {
  readonly from: number;
  readonly to: number;
}

/** Runs of bars of which every event may be left out, and which sound at all. */
export function runsLeftOut(bars: readonly Bar[]): readonly BarRun[] {
  const runs: { from: number; to: number }[] = [];
  bars.forEach(({ events }, index) => {
    if (!events.every(({ optional }) => optional) || !events.some(isNote)) return;
    const last = runs.at(-1);
    // A repeat or an ending in between would be counted through otherwise than it is read.
    if (
      last?.to === index &&
      !bars[index]?.repeatStart &&
      !bars[index]?.ending &&
      bars[index - 1]?.repeatEnd === undefined
    )
      last.to = index + 1;
    else runs.push({ from: index, to: index + 1 });
  });
  return runs;
}

/** The bars with rests for the runs. */
export function withRests(line: Pick<Tune, 'bars' | 'meter'>, runs: readonly BarRun[]): readonly Bar[] {
  if (runs.length === 0) return line.bars;
  const meters = metersOf(line);
  const bars = line.bars.map((bar, index): Bar => {
    if (!runs.some(({ from, to }) => index >= from && index < to)) return bar;
    const meter = meters[index] ?? line.meter;
    return {
      ...bar,
      events: spellRestLength(barOffset(line, index, meter), barLength(bar, meter), meter).map((length, k): Rest => ({
        kind: 'rest',
        id: `${bar.id}.l${k}`,
        length,
      })),
    };
  });
  return withTrueTies(bars).bars;
}

/**
 * Puts the last bar of each run there in small notes, as others play it, so that the player hears when to come in.
 * @param cue the bars of the tune as this player reads them
 */
export function withCues(bars: readonly Bar[], runs: readonly BarRun[], cue: readonly Bar[]): readonly Bar[] {
  return bars.map((bar, index) => {
    const others = runs.some(({ to }) => to - 1 === index) ? cue[index] : undefined;
    if (!others) return bar;
    const events = others.events.map((event) => {
      if (!isNote(event)) return { ...event, id: `${event.id}.q` };
      const { pitch, length, tuplet, tied } = event;
      return {
        kind: 'note' as const,
        id: `${event.id}.q`,
        pitch,
        length,
        cue: true as const,
        ...(tuplet && { tuplet }),
        ...(tied && { tied }),
      };
    });
    const last = events.at(-1);
    // A tie out of the bar leads to what the player does not play.
    const closed =
      last && isNote(last) && last.tied ? [...events.slice(0, -1), (({ tied: _, ...note }) => note)(last)] : events;
    return { ...bar, events: closed };
  });
}
