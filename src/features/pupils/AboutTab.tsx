'use client';

import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { type CustomInstrument, LEVELS } from '../../core/instruments';
import { WANTED_MARKS } from '../../core/keys';
import { type Playing, PUPIL_LIMITS, type School, WEEKDAYS, type Weekday } from '../../core/planning';
import { printNotes, printPitch } from '../../core/pitch';
import { Button } from '../../ui/Button';
import { TextInput, WORD_FIELD } from '../../ui/Field';
import { InstrumentSelect } from '../../ui/InstrumentSelect';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { Select } from '../../ui/Select';
import { Sheet } from '../../ui/Sheet';
import { AidMenu } from '../work/AidMenu';
import { MARKS_TEXT, readKnown, readLimit } from '../work/playerFields';
import { freshId } from './openPupil';
import { OwnLink } from './OwnLink';
import { type Taught, TaughtBy } from './TaughtBy';
import type { PupilOnScreen } from './usePupil';
import { DateField } from './WorkTab';

const DAY_NAMES = Object.fromEntries(
  WEEKDAYS.map((day) => [day, day.charAt(0).toUpperCase() + day.slice(1)]),
) as Readonly<Record<Weekday, string>>;
const USUAL_LESSON = { weekday: 'thursday', time: '16:00', minutes: 30 } as const;

/** Who the pupil is, when they practise, and how their steps are taken. */
export function AboutTab({
  screen,
  custom,
  taught,
  onRemove,
  onDelete,
}: {
  readonly screen: PupilOnScreen;
  readonly custom: readonly CustomInstrument[];
  readonly taught?: Taught | undefined;
  readonly onRemove: () => void;
  readonly onDelete: () => void;
}) {
  const { pupil, open, update } = screen;
  const [isDeleting, setDeleting] = useState(false);
  const setPlaying = (id: string, change: (one: Playing) => Playing) =>
    update('instrument', (now) => ({ ...now, playing: now.playing.map((one) => (one.id === id ? change(one) : one)) }));
  return (
    <div className="overflow-auto px-4 py-3 md:px-6">
      <div className="max-w-3xl">
        <h2 className="font-serif text-base font-semibold">Plays</h2>
        <ul className="mb-4">
          {pupil.playing.map((one) => (
            <PlayingRow
              key={one.id}
              playing={one}
              name={pupil.name}
              custom={custom}
              onChange={(change) => setPlaying(one.id, change)}
              onRemove={
                pupil.playing.length > 1
                  ? () =>
                      update('remove an instrument', (now) => ({
                        ...now,
                        playing: now.playing.filter(({ id }) => id !== one.id),
                      }))
                  : undefined
              }
            />
          ))}
          <li>
            <Button
              disabled={pupil.playing.length >= PUPIL_LIMITS.playing}
              onClick={() =>
                update('add an instrument', (now) => ({
                  ...now,
                  playing: [...now.playing, { id: freshId(), instrument: 'flute', level: 'beginner' }],
                }))
              }
            >
              <Plus size={14} aria-hidden="true" />
              Another instrument
            </Button>
          </li>
        </ul>

        <h2 className="font-serif text-base font-semibold">Lesson</h2>
        <p className="mb-4 leading-8">
          <Select<Weekday | 'none'>
            label="Weekday of the lesson"
            look="word"
            value={pupil.lesson?.weekday ?? 'none'}
            options={[
              { value: 'none', label: 'No weekly lesson' },
              ...WEEKDAYS.map((day) => ({ value: day, label: DAY_NAMES[day] })),
            ]}
            onChange={(weekday) =>
              update('lesson', ({ lesson = USUAL_LESSON, ...now }) =>
                weekday === 'none' ? now : { ...now, lesson: { ...lesson, weekday } },
              )
            }
          />
          {pupil.lesson && (
            <>
              {' '}
              at{' '}
              <input
                type="time"
                aria-label="Time of the lesson"
                className={`${WORD_FIELD} min-h-7`}
                value={pupil.lesson.time}
                onChange={({ target }) => {
                  if (/^\d\d:\d\d$/.test(target.value))
                    update('lesson', (now) =>
                      now.lesson ? { ...now, lesson: { ...now.lesson, time: target.value } } : now,
                    );
                }}
              />
              , for{' '}
              <Select
                label="Length of the lesson"
                look="word"
                value={String(pupil.lesson.minutes)}
                options={[...new Set([20, 30, 40, 45, 60, 90, pupil.lesson.minutes])].map((minutes) => ({
                  value: String(minutes),
                  label: `${minutes} minutes`,
                }))}
                onChange={(minutes) =>
                  update('lesson', (now) =>
                    now.lesson ? { ...now, lesson: { ...now.lesson, minutes: Number(minutes) } } : now,
                  )
                }
              />
              .
            </>
          )}
        </p>

        <h2 className="font-serif text-base font-semibold">Practice</h2>
        <p className="mb-1 text-[13px] text-ink-soft">Minutes a day; a day is never planned above them.</p>
        <ul className="mb-2 flex flex-wrap gap-2">
          {WEEKDAYS.map((day) => (
            <li key={day}>
              <label className="block text-[12.5px] text-ink-soft">
                {DAY_NAMES[day].slice(0, 3)}
                <MinutesField
                  label={`Minutes on ${DAY_NAMES[day]}`}
                  value={pupil.practice[day] ?? 0}
                  onChange={(minutes) =>
                    update(`minutes on ${DAY_NAMES[day]}`, (now) => ({
                      ...now,
                      practice: { ...now.practice, [day]: minutes },
                    }))
                  }
                />
              </label>
            </li>
          ))}
        </ul>
        <p className="mb-4 leading-8">
          <Select<School>
            label="How steps are taken"
            look="word"
            value={pupil.school}
            options={[
              { value: 'mastered', label: 'Each step is mastered first' },
              { value: 'revisited', label: 'All steps are revisited in turn' },
            ]}
            onChange={(school) => update('how steps are taken', (now) => ({ ...now, school }))}
          />
          ; planned until{' '}
          <DateField
            label="Planned until"
            value={pupil.until}
            onChange={(until) =>
              update('end of the term', ({ until: _, ...now }) => (until === undefined ? now : { ...now, until }))
            }
          />
          .
        </p>

        <h2 className="font-serif text-base font-semibold">Days off</h2>
        <DaysOff screen={screen} />

        <h2 className="mt-5 font-serif text-base font-semibold">At home</h2>
        <OwnLink pupil={open.id} name={pupil.name} />
        {taught && <TaughtBy pupil={open.id} taught={taught} />}

        <h2 className="mt-5 font-serif text-base font-semibold">Privacy</h2>
        <p className="mb-2 text-[13px] text-ink-soft">
          A first name and what is practised: nothing else is kept. All of it is in one file, and can be deleted whole.
        </p>
        <span className="flex flex-wrap gap-2">
          <a
            className="inline-flex min-h-8 items-center rounded border border-edge bg-paper px-2.5 font-medium hover:bg-cane-pale"
            href={`/api/pupils/${open.id}/files/pupil.json`}
          >
            Export everything
          </a>
          <Button onClick={onRemove}>Remove (30 days in the bin)</Button>
          <Button onClick={() => setDeleting(true)}>Delete for good …</Button>
        </span>
      </div>
      <Sheet
        open={isDeleting}
        onClose={() => setDeleting(false)}
        title={`Delete ${pupil.name} for good?`}
        description="The pupil, the whole practice log and the lesson notes are deleted at once, and the name goes from every group. This cannot be undone."
        width="max-w-md"
      >
        <span className="flex justify-end gap-2">
          <Button onClick={() => setDeleting(false)}>Cancel</Button>
          <Button kind="main" onClick={onDelete}>
            Delete for good
          </Button>
        </span>
      </Sheet>
    </div>
  );
}

/** What a pupil plays, with what holds for them on it; written pitches. */
function PlayingRow({
  playing,
  name,
  custom,
  onChange,
  onRemove,
}: {
  readonly playing: Playing;
  readonly name: string;
  readonly custom: readonly CustomInstrument[];
  readonly onChange: (change: (playing: Playing) => Playing) => void;
  readonly onRemove: (() => void) | undefined;
}) {
  const [problem, setProblem] = useState('');
  const limit = (end: 'low' | 'high', text: string) => {
    const read = readLimit(playing, end, text);
    setProblem(read.ok ? '' : read.problem);
    if (read.ok) onChange((now) => without({ ...now, [end]: read.value }));
  };
  const known = (text: string) => {
    const read = readKnown(text);
    setProblem(read.ok ? '' : read.problem);
    if (read.ok) onChange((now) => without({ ...now, known: read.value }));
  };
  return (
    <li className="py-1">
      <span className="flex flex-wrap items-center gap-2">
        <InstrumentSelect
          label="Instrument"
          className={BOX}
          value={playing.custom?.id ?? playing.instrument}
          custom={custom}
          chosen={playing.custom}
          onChange={(instrument, chosen) => onChange((now) => without({ ...now, instrument, custom: chosen }))}
        />
        <LevelSign level={playing.level} size={17} />
        <select
          aria-label="Level"
          className={BOX}
          value={playing.level}
          onChange={({ target }) => {
            const level = LEVELS.find((one) => one === target.value);
            if (level) onChange((now) => ({ ...now, level }));
          }}
        >
          {LEVELS.map((level) => (
            <option key={level} value={level}>
              {LEVEL_NAMES[level]}
            </option>
          ))}
        </select>
        <label className="text-[12.5px] text-ink-soft">
          lowest{' '}
          <TextInput
            label="Lowest note"
            value={playing.low ? printPitch(playing.low) : ''}
            maxLength={5}
            className={`${BOX} w-14`}
            onCommit={(text) => limit('low', text)}
          />
        </label>
        <label className="text-[12.5px] text-ink-soft">
          highest{' '}
          <TextInput
            label="Highest note"
            value={playing.high ? printPitch(playing.high) : ''}
            maxLength={5}
            className={`${BOX} w-14`}
            onCommit={(text) => limit('high', text)}
          />
        </label>
        <label className="text-[12.5px] text-ink-soft">
          known notes{' '}
          <TextInput
            label="Known notes"
            value={printNotes(playing.known ?? [])}
            maxLength={200}
            className={`${BOX} w-36`}
            onCommit={known}
          />
        </label>
        <label className="text-[12.5px] text-ink-soft">
          finger marks{' '}
          <select
            aria-label="Finger marks"
            className={BOX}
            value={playing.marks ?? 'level'}
            onChange={({ target }) => {
              const marks = WANTED_MARKS.find((one) => one === target.value);
              onChange((now) => without({ ...now, marks: marks === 'level' ? undefined : marks }));
            }}
          >
            {WANTED_MARKS.map((one) => (
              <option key={one} value={one}>
                {MARKS_TEXT[one]}
              </option>
            ))}
          </select>
        </label>
        <span className="flex items-center gap-1 text-[12.5px] text-ink-soft">
          aids
          <AidMenu who={name} aids={playing.aids} onChange={(aids) => onChange((now) => without({ ...now, aids }))} />
        </span>
        {onRemove && (
          <Button kind="quiet" aria-label="Remove this instrument" onClick={onRemove}>
            <Trash2 size={14} aria-hidden="true" />
          </Button>
        )}
      </span>
      {problem && (
        <p role="alert" className="text-[12.5px] text-warn">
          {problem}
        </p>
      )}
    </li>
  );
}

const BOX = 'min-h-8 rounded border border-edge bg-paper px-1 text-ink';

/** Without the fields that were emptied. */
function without(playing: { readonly [Field in keyof Playing]: Playing[Field] | undefined }): Playing {
  return Object.fromEntries(Object.entries(playing).filter(([, value]) => value !== undefined)) as unknown as Playing;
}

function MinutesField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: number;
  readonly onChange: (minutes: number) => void;
}) {
  return (
    <TextInput
      label={label}
      value={String(value)}
      maxLength={3}
      className="block min-h-8 w-14 rounded border border-edge bg-paper px-2 text-ink tabular-nums"
      onCommit={(text) => {
        if (/^\d{1,3}$/.test(text.trim())) onChange(Math.min(PUPIL_LIMITS.dayMinutes, Number(text)));
      }}
    />
  );
}

function DaysOff({ screen }: { readonly screen: PupilOnScreen }) {
  const { pupil, today, update } = screen;
  const [from, setFrom] = useState<string>();
  const [to, setTo] = useState<string>();
  const isTurned = from !== undefined && to !== undefined && to < from;
  const add = () => {
    if (from === undefined || isTurned) return;
    update('days off', (now) => ({ ...now, off: [...now.off, { from, to: to ?? from }] }));
    setFrom(undefined);
    setTo(undefined);
  };
  return (
    <>
      <ul>
        {pupil.off
          .filter((one) => one.to >= today)
          .toSorted((a, b) => a.from.localeCompare(b.from))
          .map((one) => (
            <li key={`${one.from}${one.to}`} className="flex items-center gap-2 text-[13px]">
              {one.from === one.to ? one.from : `${one.from} to ${one.to}`}
              <Button
                kind="quiet"
                aria-label={`Remove the days off from ${one.from}`}
                onClick={() =>
                  update('days off', (now) => ({
                    ...now,
                    off: now.off.filter((other) => other.from !== one.from || other.to !== one.to),
                  }))
                }
              >
                <Trash2 size={13} aria-hidden="true" />
              </Button>
            </li>
          ))}
      </ul>
      <p className="flex flex-wrap items-center gap-2 text-[13px]">
        from <DateField label="First day off" value={from} onChange={setFrom} />
        to <DateField label="Last day off" value={to} onChange={setTo} />
        <Button disabled={from === undefined || isTurned} onClick={add}>
          Add days off
        </Button>
        {isTurned && (
          <span role="alert" className="text-warn">
            The last day comes before the first.
          </span>
        )}
      </p>
    </>
  );
}
