import type { Work } from '../core/work';
import type { WantedNote } from '../core/rehearsal';
import { type EventId, quartersPerMinute } from '../core/score';
import { planPlaying, type PlayPlan, type PlayWishes } from './playPlan';

/** A note of the page that should be played, with where it stands. */
interface PageNote extends WantedNote {
  readonly id: EventId;
  /** Index of its bar on the page. */
  readonly bar: number;
}

/** What a player should play, once through what is played. */
export interface WantedTake {
  /** In seconds from the end of the count-in. */
  readonly notes: readonly PageNote[];
  /** How long once through lasts. */
  readonly seconds: number;
  /** Count-in before it. */
  readonly lead: number;
  /** Seconds of a quarter. */
  readonly beat: number;
}

/** Graces and the first turn of an ornament come so soon after the beat, seconds. */
const AT_ONCE = 0.2;

/**
 * The notes of a lane as they should be played with the same wishes, heard or not; in an answer, those of the answer.
 */
export function wantedNotes(work: Work, wishes: PlayWishes): WantedTake {
  const { band: _, ...own } = wishes;
  const plan = planPlaying(work, { ...own, isSilent: false, backing: 'none', click: false, isAnswering: true });
  return {
    notes: notesOf(plan),
    seconds: plan.seconds - plan.lead,
    lead: plan.lead,
    beat: 60 / quartersPerMinute(plan.tempo),
  };
}

function notesOf({ voices, marks, bars, lead }: PlayPlan): readonly PageNote[] {
  const sounded = voices[0]?.channel === 9 ? [] : (voices[0]?.notes ?? []);
  let place = 0;
  return marks.flatMap(({ id, start, end }): readonly PageNote[] => {
    while (place < sounded.length && (sounded[place]?.start ?? 0) < start - 1e-4) place += 1;
    const window = Math.min(AT_ONCE, (end - start) / 2);
    const here = sounded.slice(place, place + 12).filter((note) => note.start <= start + window);
    // Of graces, an ornament or a chord the one that lasts is the note that is read.
    const main = here.reduce<(typeof here)[number] | undefined>(
      (best, note) => (!best || note.end - note.start > best.end - best.start + 1e-6 ? note : best),
      undefined,
    );
    if (!main) return [];
    const bar = bars.findLast((one) => one.start <= start + 1e-6)?.bar ?? 0;
    return [{ id, bar, start: main.start - lead, end: main.end - lead, key: main.key }];
  });
}
