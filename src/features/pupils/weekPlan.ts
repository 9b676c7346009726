import {
  dateOfDay,
  knownDay,
  type LogEntry,
  mondayOf,
  type Pin,
  type Plan,
  type PlanDay,
  type PlanItem,
  type Pupil,
  PUPIL_LIMITS,
  weekdayOf,
} from '../../core/planning';

/** An item of a day. */
export interface ChosenItem {
  readonly date: string;
  readonly item: PlanItem;
}

export const minutesOf = (items: readonly PlanItem[]) => items.reduce((sum, { minutes }) => sum + minutes, 0);

/** A day of the week on screen: what is planned, or, where it has gone by, what was practised. */
export interface WeekDay extends PlanDay {
  readonly isPast: boolean;
  readonly isOff: boolean;
  /** Minutes in the log. */
  readonly practised: number;
}

/** The seven days of a week. @param ahead weeks from the present one */
export function weekOf(
  pupil: Pupil,
  plan: Plan | undefined,
  log: readonly LogEntry[],
  today: string,
  ahead: number,
): readonly WeekDay[] {
  const monday = mondayOf(knownDay(today)) + 7 * ahead;
  return Array.from({ length: 7 }, (_, k): WeekDay => {
    const date = dateOfDay(monday + k);
    const planned = plan?.days.find((day) => day.date === date);
    const isOff = pupil.off.some(({ from, to }) => date >= from && date <= to);
    const weekday = weekdayOf(monday + k);
    return {
      date,
      weekday,
      available: planned?.available ?? (isOff ? 0 : (pupil.practice[weekday] ?? 0)),
      lesson: pupil.lesson?.weekday === weekday,
      items: planned?.items ?? [],
      isPast: date < today,
      isOff,
      practised: log.reduce((sum, entry) => sum + (entry.date === date ? entry.minutes : 0), 0),
    };
  });
}

/** Dates before today say nothing any more. */
function withPins(pupil: Pupil, pins: readonly Pin[], today: string): Pupil {
  return { ...pupil, pins: pins.filter(({ date }) => date >= today).slice(-PUPIL_LIMITS.pins) };
}

const isOf = (pin: Pin, date: string, work: string) => pin.date === date && pin.work === work;

/** A work's items of one day on another day. */
export function movedTo(pupil: Pupil, item: PlanItem, from: string, to: string, today: string): Pupil {
  if (from === to) return pupil;
  const kept = pupil.pins.filter((pin) => !isOf(pin, from, item.work) && !isOf(pin, to, item.work));
  return withPins(
    pupil,
    [
      ...kept,
      { date: from, work: item.work, minutes: 0 },
      { date: to, work: item.work, step: item.step, minutes: item.minutes },
    ],
    today,
  );
}

/** A work is not worked at on a day. */
export function struck(pupil: Pupil, item: PlanItem, date: string, today: string): Pupil {
  const kept = pupil.pins.filter((pin) => !isOf(pin, date, item.work));
  return withPins(pupil, [...kept, { date, work: item.work, minutes: 0 }], today);
}

/** An item stays where it is, whatever is planned anew. */
export function pinned(pupil: Pupil, item: PlanItem, date: string, today: string): Pupil {
  const kept = pupil.pins.filter((pin) => !isOf(pin, date, item.work));
  return withPins(pupil, [...kept, { date, work: item.work, step: item.step, minutes: item.minutes }], today);
}

/** So many minutes of a work on a day, at the step that is due. */
export function added(pupil: Pupil, work: string, date: string, minutes: number, today: string): Pupil {
  const kept = pupil.pins.filter((pin) => !isOf(pin, date, work));
  return withPins(pupil, [...kept, { date, work, minutes }], today);
}

/** Nothing is said of a work on a day any more: the plan decides. */
export function freed(pupil: Pupil, work: string, date: string): Pupil {
  return { ...pupil, pins: pupil.pins.filter((pin) => !isOf(pin, date, work)) };
}

export function pinOf(pupil: Pupil, work: string, date: string): Pin | undefined {
  return pupil.pins.find((pin) => isOf(pin, date, work));
}

/** A day off, or practised on again. A day inside of longer days off divides them. */
export function dayOffToggled(pupil: Pupil, date: string): Pupil {
  const isOff = pupil.off.some(({ from, to }) => date >= from && date <= to);
  if (!isOff) return { ...pupil, off: [...pupil.off, { from: date, to: date }] };
  const day = knownDay(date);
  const off = pupil.off.flatMap(({ from, to }) => {
    if (date < from || date > to) return [{ from, to }];
    return [
      ...(from < date ? [{ from, to: dateOfDay(day - 1) }] : []),
      ...(to > date ? [{ from: dateOfDay(day + 1), to }] : []),
    ];
  });
  return { ...pupil, off };
}
