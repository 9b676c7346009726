import { notatedTicks, spellNoteLength, spellRestLength, type Ticks, type Tuplet, valueOfTicks } from '../../time';
import { asPieces } from '../splitNote';
import { barNumbers, barOffset, isNote, type Rest, type ScoreEvent, type Tune } from '../tune';
import { edited, refused, type EditResult } from './edited';
import { compareCarets, eventAt, eventsIn, type Caret, type Stretch } from './place';
import { draftOf, mergedRests, meterAt } from './write';

/** `actual` notes in the time of `normal`: 3 in 2, 5 in 4. */
export interface Ratio {
  readonly actual: number;
  readonly normal: number;
}

/**
 * Makes a tuplet. One note is divided: it keeps its pitch on the first part, the others rest, ready to be written over.
 * Several selected notes become the group's notes and take less time; what they leave rests.
 */
export function makeTuplet(tune: Tune, caret: Caret, stretch: Stretch | undefined, ratio: Ratio): EditResult {
  const found =
    stretch && compareCarets(stretch.from, stretch.to) < 0
      ? eventsIn(tune.bars, stretch)
      : [eventAt(tune.bars, caret)].filter((one) => one !== undefined);
  const [first, last] = [found[0], found.at(-1)];
  if (!first || !last) return refused('nothing-here', 'There is no note to divide here.');
  if (first.bar !== last.bar)
    return refused(
      'tuplet-over-barline',
      `The notes lie in bars ${barNumbers(tune)[first.bar]} and ${barNumbers(tune)[last.bar]}; a tuplet stays in one bar.`,
    );
  if (found.some(({ event }) => event.tuplet))
    return refused('not-possible', 'There is a tuplet already; take it away first (Shift U).');
  const draft = draftOf(tune);
  const bar = draft.bars[first.bar];
  if (!bar) return refused('nothing-here', 'There is no note to divide here.');
  const tuplet: Tuplet = { id: draft.ids.tuplet(), ...ratio };
  const total = found.reduce((sum, { event }) => sum + event.length, 0);
  const made =
    found.length === 1
      ? divided(first.event, total, tuplet, draft.ids.event)
      : squeezed(
          found.map(({ event }) => event),
          tuplet,
        );
  if (!made) return refused('too-short', `This length cannot be divided into ${ratio.actual}.`);
  const meter = meterAt(draft, first.bar);
  const offset = barOffset(tune, first.bar, meter);
  const used = made.reduce((sum, { length }) => sum + length, 0);
  if (used % SHORTEST !== 0) return refused('too-short', `These notes do not fill a group of ${ratio.actual}.`);
  const rests =
    used < total
      ? spellRestLength(offset + first.start + used, total - used, meter).map((length): Rest => ({
          kind: 'rest',
          id: draft.ids.event(),
          length,
        }))
      : [];
  const events = [...bar.events.slice(0, first.index), ...made, ...rests, ...bar.events.slice(last.index + 1)];
  draft.bars[first.bar] = { ...bar, events: mergedRests(events, offset, meter, draft.ids) };
  return edited(
    tune,
    draft.bars,
    found.length === 1 ? { bar: first.bar, at: first.start + (made[0]?.length ?? 0) } : caret,
    `Group of ${ratio.actual}`,
  );
}

/** A 128th: what a group leaves must be a length that a rest can show. */
const SHORTEST: Ticks = 315;

function divided(
  event: ScoreEvent,
  total: Ticks,
  tuplet: Tuplet,
  freshId: () => string,
): readonly ScoreEvent[] | undefined {
  const length = total / tuplet.actual;
  if (!Number.isInteger(length) || !valueOfTicks(total / tuplet.normal)) return undefined;
  return Array.from({ length: tuplet.actual }, (_, k): ScoreEvent => {
    if (k > 0 || !isNote(event)) return { kind: 'rest', id: k === 0 ? event.id : freshId(), length, tuplet };
    const { tied: _tied, ...note } = event;
    return { ...note, length, tuplet };
  });
}

function squeezed(events: readonly ScoreEvent[], tuplet: Tuplet): readonly ScoreEvent[] | undefined {
  const made = events.map((event) => ({ ...event, length: (event.length * tuplet.normal) / tuplet.actual, tuplet }));
  return made.every(({ length }) => Number.isInteger(length)) ? made : undefined;
}

/**
 * Takes the tuplet at the caret away: its notes get their printed lengths as far as the group's time reaches; the
 * others go.
 */
export function removeTuplet(tune: Tune, caret: Caret): EditResult {
  const found = eventAt(tune.bars, caret);
  const tuplet = found?.event.tuplet;
  const bar = found && tune.bars[found.bar];
  if (!found || !tuplet || !bar) return refused('nothing-here', 'There is no tuplet at the caret.');
  const draft = draftOf(tune);
  const root = (one: Tuplet): string => (one.outer ? root(one.outer) : one.id);
  const from = bar.events.findIndex((event) => event.tuplet && root(event.tuplet) === root(tuplet));
  const group = bar.events.filter((event) => event.tuplet && root(event.tuplet) === root(tuplet));
  const total = group.reduce((sum, { length }) => sum + length, 0);
  const meter = meterAt(draft, found.bar);
  const offset = barOffset(tune, found.bar, meter);
  const start = bar.events.slice(0, from).reduce((sum, { length }) => sum + length, 0);
  const plain: ScoreEvent[] = [];
  let at = 0;
  let left = 0;
  for (const event of group) {
    const notated = notatedTicks(event.length, event.tuplet);
    const length = Math.min(notated, total - at);
    if (length <= 0) {
      left += isNote(event) ? 1 : 0;
      continue;
    }
    const lengths = isNote(event)
      ? spellNoteLength(offset + start + at, length, meter)
      : spellRestLength(offset + start + at, length, meter);
    plain.push(...asPieces(event, lengths, draft.ids.event));
    at += length;
  }
  if (at < total)
    plain.push(
      ...spellRestLength(offset + start + at, total - at, meter).map((length): Rest => ({
        kind: 'rest',
        id: draft.ids.event(),
        length,
      })),
    );
  const events = [...bar.events.slice(0, from), ...plain, ...bar.events.slice(from + group.length)];
  draft.bars[found.bar] = { ...bar, events: mergedRests(events, offset, meter, draft.ids) };
  return edited(
    tune,
    draft.bars,
    { bar: found.bar, at: start },
    'No group',
    left > 0 ? [`${left === 1 ? 'a note' : `${left} notes`} of the group had no room and went`] : [],
  );
}
