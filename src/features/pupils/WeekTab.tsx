'use client';

import { DndContext, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from '@dnd-kit/core';
import { CalendarOff, ChevronLeft, ChevronRight, Pin, Umbrella } from 'lucide-react';
import { useState } from 'react';
import { dateWords, knownDay, type PlanItem } from '../../core/planning';
import { Button } from '../../ui/Button';
import { ItemPanel, KIND_WORDS } from './ItemPanel';
import { shortWeekday } from './pupilRow';
import type { PupilOnScreen } from './usePupil';
import { type ChosenItem, dayOffToggled, minutesOf, movedTo, pinOf, weekOf, type WeekDay } from './weekPlan';

/** The week as a line of days with what stands on them. */
export function WeekTab({
  screen,
  onLog,
}: {
  readonly screen: PupilOnScreen;
  readonly onLog: (item: PlanItem) => void;
}) {
  const { pupil, plan, log, today, update } = screen;
  const [ahead, setAhead] = useState(0);
  const [chosen, setChosen] = useState<ChosenItem>();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const week = weekOf(pupil, plan, log, today, ahead);
  const [first] = week;
  const last = week.at(-1);
  const planned = week.reduce((sum, { items }) => sum + minutesOf(items), 0);
  const move = (one: ChosenItem, to: string) => {
    update(`move to ${dateWords(knownDay(to))}`, (now) => movedTo(now, one.item, one.date, to, today));
    setChosen(undefined);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
      <section aria-label="Week" className="min-w-0 flex-1 overflow-auto px-4 py-3 md:px-6">
        <div className="mb-2 flex flex-wrap items-center gap-2">
          <Button aria-label="The week before" onClick={() => setAhead(ahead - 1)}>
            <ChevronLeft size={15} aria-hidden="true" />
          </Button>
          <h2 className="font-serif text-base font-semibold">
            {first && dateWords(knownDay(first.date))} to {last && dateWords(knownDay(last.date))}
          </h2>
          <Button aria-label="The week after" onClick={() => setAhead(ahead + 1)}>
            <ChevronRight size={15} aria-hidden="true" />
          </Button>
          {ahead !== 0 && <Button onClick={() => setAhead(0)}>This week</Button>}
          <span className="text-[13px] text-ink-soft">
            {planned} minutes planned
            {week.some(({ practised }) => practised > 0) &&
              `, ${week.reduce((sum, { practised }) => sum + practised, 0)} practised`}
          </span>
        </div>
        <DndContext
          id="week"
          sensors={sensors}
          onDragEnd={({ active, over }) => {
            const dragged = active.data.current as ChosenItem | undefined;
            if (dragged && over && String(over.id) >= today) move(dragged, String(over.id));
          }}
        >
          <ol className="grid gap-2 md:grid-cols-7 max-md:gap-1">
            {week.map((day) => (
              <DayColumn
                key={day.date}
                day={day}
                isToday={day.date === today}
                screen={screen}
                chosen={chosen}
                onChoose={setChosen}
                onDayOff={() =>
                  update(day.isOff ? 'practise on a day off' : 'day off', (now) => dayOffToggled(now, day.date))
                }
              />
            ))}
          </ol>
        </DndContext>
        {!plan && (
          <p className="py-4 text-warn">The instrument is not in the catalogue any more: choose another under About.</p>
        )}
        {plan && plan.work.length === 0 && (
          <p className="py-4 text-ink-soft">Nothing is on the stand yet: add it under Work.</p>
        )}
        {plan?.warnings.filter((text) => text.startsWith('practice')).length ? (
          <p className="py-4 text-ink-soft">No practice days are set: say under About on which days, and how long.</p>
        ) : null}
      </section>
      <aside
        aria-label="Item"
        tabIndex={0}
        className="shrink-0 border-line bg-panel p-4 max-lg:border-t lg:w-72 lg:overflow-auto lg:border-l"
      >
        <ItemPanel
          screen={screen}
          chosen={chosen}
          week={week}
          onMove={move}
          onLog={onLog}
          onGone={() => setChosen(undefined)}
        />
      </aside>
    </div>
  );
}

function DayColumn({
  day,
  isToday,
  screen,
  chosen,
  onChoose,
  onDayOff,
}: {
  readonly day: WeekDay;
  readonly isToday: boolean;
  readonly screen: PupilOnScreen;
  readonly chosen: ChosenItem | undefined;
  readonly onChoose: (item: ChosenItem) => void;
  readonly onDayOff: () => void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: day.date });
  const { date, items, lesson, isPast, isOff, practised } = day;
  return (
    <li
      ref={setNodeRef}
      className={`min-w-0 rounded border px-1.5 py-1 md:min-h-72 ${isOver ? 'border-cane bg-cane-pale' : isToday ? 'border-cane bg-paper' : isPast ? 'border-line bg-panel' : 'border-line bg-paper'}`}
    >
      <div className="flex items-center justify-between">
        <span className={`text-[13px] ${isToday ? 'font-bold' : 'font-semibold'}`}>
          {shortWeekday(date)} {Number(date.slice(8))}
          {isToday && <span className="sr-only"> (today)</span>}
        </span>
        {!isPast && (
          <button
            type="button"
            onClick={onDayOff}
            aria-pressed={isOff}
            aria-label={`Day off, ${dateWords(knownDay(date))}`}
            title={isOff ? 'A day off: press to practise' : 'Make it a day off'}
            className={`flex size-6 items-center justify-center rounded hover:bg-cane-pale ${isOff ? 'text-cane' : 'text-ink-soft'}`}
          >
            {isOff ? <Umbrella size={14} aria-hidden="true" /> : <CalendarOff size={13} aria-hidden="true" />}
          </button>
        )}
      </div>
      <p className="text-[12px] text-ink-soft">
        {[
          lesson ? 'lesson' : '',
          isOff ? 'day off' : '',
          practised > 0 ? `${practised} min practised` : '',
          items.length > 0 ? `${minutesOf(items)} min` : '',
          isPast && practised === 0 && day.available > 0 ? 'nothing logged' : '',
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      <ul>
        {items.map((item, k) => (
          <Item
            key={`${item.work}${item.step}${item.kind}${k}`}
            date={date}
            item={item}
            title={titleOf(screen, item.work)}
            place={k}
            isChosen={chosen?.date === date && chosen.item === item}
            isPinned={(pinOf(screen.pupil, item.work, date)?.minutes ?? 0) > 0}
            onChoose={() => onChoose({ date, item })}
          />
        ))}
      </ul>
    </li>
  );
}

const titleOf = ({ pupil }: PupilOnScreen, id: string) => pupil.work.find((work) => work.id === id)?.title ?? '';

/** What an item says after its title. */
function stepWords({ what }: PlanItem, title: string): string {
  const rest = what.startsWith(`${title}: `) ? what.slice(title.length + 2) : what;
  return rest.charAt(0).toUpperCase() + rest.slice(1);
}

const LOOKS: Readonly<Record<PlanItem['kind'], string>> = {
  'warm-up': 'border-line bg-panel',
  new: 'border-cane bg-cane-pale',
  moved: 'border-intermediate bg-panel',
  own: 'border-advanced bg-panel',
  repeat: 'border-edge bg-white',
  recall: 'border-dashed border-edge bg-paper',
};

function Item({
  date,
  item,
  title,
  place,
  isChosen,
  isPinned,
  onChoose,
}: {
  readonly date: string;
  readonly item: PlanItem;
  readonly title: string;
  readonly place: number;
  readonly isChosen: boolean;
  readonly isPinned: boolean;
  readonly onChoose: () => void;
}) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: `${date}/${place}`,
    data: { date, item } satisfies ChosenItem,
    disabled: item.kind === 'warm-up',
  });
  return (
    <li>
      <button
        ref={setNodeRef}
        type="button"
        onClick={onChoose}
        aria-pressed={isChosen}
        {...listeners}
        style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
        className={`mt-1 block w-full touch-none rounded border-l-[3px] px-1.5 py-1 text-left text-[12.5px] leading-4 ${LOOKS[item.kind]} ${isChosen ? 'outline-2 outline-cane' : ''} ${isDragging ? 'relative z-20 shadow-lg' : ''}`}
      >
        <span className="flex items-center justify-between font-semibold tabular-nums">
          {item.minutes} min
          <span className="flex items-center gap-1 font-normal text-ink-soft">
            {isPinned && <Pin size={11} aria-label="pinned" />}
            {KIND_WORDS[item.kind]}
          </span>
        </span>
        {item.kind === 'warm-up' ? (
          <span className="line-clamp-2">{item.what}</span>
        ) : (
          <>
            <span className="block truncate text-ink-soft">{title}</span>
            <span className="line-clamp-2">{stepWords(item, title)}</span>
          </>
        )}
      </button>
    </li>
  );
}
