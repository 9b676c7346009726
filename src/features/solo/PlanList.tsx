'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, Lock, LockOpen } from 'lucide-react';
import { phraseWords } from '../../core/levels';
import type { EditedPlan, PhraseKind } from '../../core/solos';
import { Select, type Option } from '../../ui/Select';

interface Props {
  readonly edited: EditedPlan;
  /** First and last bar of each phrase, from 1. */
  readonly spans: readonly (readonly [number, number])[];
  readonly picked: number | undefined;
  readonly onPick: (index: number) => void;
  readonly onKind: (index: number, kind: PhraseKind, of?: number) => void;
  readonly onMove: (from: number, to: number) => void;
  readonly onLock: (index: number, isLocked: boolean) => void;
}

/**
 * The phrases of a solo in their order: what each does, where it lies, whether it is kept as it is. Dragged into
 * another order.
 */
export function PlanList({ edited, spans, picked, onPick, onKind, onMove, onLock }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = edited.plan.map(({ id }) => id);
  // What is read aloud while one is dragged.
  const names = ids.map((_, index) => `phrase ${index + 1}`);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const [from, to] = [names.indexOf(String(active.id)), over ? names.indexOf(String(over.id)) : -1];
    if (from >= 0 && to >= 0 && from !== to) onMove(from, to);
  };
  return (
    <DndContext id="plan" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={names} strategy={verticalListSortingStrategy}>
        <ol aria-label="Phrases" className="text-[13px]">
          {edited.plan.map((phrase, index) => (
            <PhraseRow
              key={phrase.id}
              id={names[index] ?? ''}
              index={index}
              value={`${phrase.kind}${phrase.of === undefined ? '' : ` ${ids.indexOf(phrase.of)}`}`}
              span={spans[index]}
              isPicked={picked === index}
              isLocked={edited.given[phrase.id] !== undefined}
              isOwn={edited.given[phrase.id]?.isOwn === true}
              lick={edited.given[phrase.id]?.lick}
              onPick={onPick}
              onKind={onKind}
              onLock={onLock}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

function PhraseRow({
  id,
  index,
  value,
  span,
  isPicked,
  isLocked,
  isOwn,
  lick,
  onPick,
  onKind,
  onLock,
}: {
  readonly id: string;
  readonly index: number;
  readonly value: string;
  readonly span: readonly [number, number] | undefined;
  readonly isPicked: boolean;
  readonly isLocked: boolean;
  readonly isOwn: boolean;
  readonly lick: string | undefined;
} & Pick<Props, 'onPick' | 'onKind' | 'onLock'>) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  const number = index + 1;
  const [from, to] = span ?? [0, 0];
  const bars = from === to ? `bar ${from}` : `bars ${from}–${to}`;
  const kept = lick ? `the lick ${lick}` : isOwn ? 'your own notes' : isLocked ? 'kept' : '';
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`flex flex-wrap items-center gap-x-1 border-b border-line py-0.5 ${isPicked ? 'bg-cane-pale' : ''} ${isDragging ? 'relative z-10 bg-paper shadow' : ''}`}
    >
      <button
        type="button"
        aria-label={`Move phrase ${number}`}
        className="flex h-8 w-6 cursor-grab items-center justify-center text-ink-soft"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={14} aria-hidden="true" />
      </button>
      <button
        type="button"
        aria-pressed={isPicked}
        onClick={() => onPick(index)}
        className="min-h-8 rounded px-1 text-left hover:bg-cane-pale"
      >
        <b className="font-semibold">{number}</b> <span className="text-ink-soft">{bars}</span>
      </button>
      <span className="flex-1">
        <Select
          look="word"
          label={`What phrase ${number} does`}
          value={value}
          options={kindsAt(index)}
          onChange={(next) => {
            const [kind, of] = next.split(' ');
            onKind(index, kind as PhraseKind, of === undefined ? undefined : Number(of));
          }}
        />
      </span>
      <button
        type="button"
        aria-pressed={isLocked}
        aria-label={isLocked ? `Let phrase ${number} be composed anew` : `Keep phrase ${number} as it is`}
        onClick={() => onLock(index, !isLocked)}
        className={`flex size-8 items-center justify-center rounded hover:bg-cane-pale ${isLocked ? 'text-cane' : 'text-ink-soft'}`}
      >
        {isLocked ? <Lock size={15} aria-hidden="true" /> : <LockOpen size={15} aria-hidden="true" />}
      </button>
      {kept && <span className="w-full pl-7 text-[12.5px] text-cane">{kept}</span>}
    </li>
  );
}

/** What a phrase can do: something new, or something with a phrase before it. */
function kindsAt(index: number): readonly Option<string>[] {
  const back = Array.from({ length: index }, (_, of) => of).flatMap((of) =>
    (['same', 'varied', 'moved'] as const).map((kind) => ({
      value: `${kind} ${of}`,
      label: phraseWords({ kind, of }),
    })),
  );
  const fresh = (['idea', 'answer', 'rest'] as const).map((kind) => ({ value: kind, label: phraseWords({ kind }) }));
  return [...fresh, ...back];
}
