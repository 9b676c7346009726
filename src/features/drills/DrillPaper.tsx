'use client';

import { dateAt } from '../../core/planning';
import { BookOpen, FileText, ListChecks, Printer, Users } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { type Level, LEVELS } from '../../core/instruments';
import type { DrillIdea } from '../../core/score';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import type { Bench } from '../work/step';
import { BookSheet } from './BookSheet';

const BUTTON =
  'flex min-h-8 flex-1 items-center justify-center gap-1.5 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale';

/**
 * What of a drill is printed: each level's pages, with names covered, with the three steps before the music, with
 * dates; a group's parts; a book.
 */
export function DrillPaper({
  bench,
  idea,
  onIdea,
}: {
  readonly bench: Bench;
  readonly idea: DrillIdea;
  readonly onIdea: (what: string, idea: DrillIdea) => void;
}) {
  const selection = useStore(bench.store, (state) => state.selection);
  const [level, setLevel] = useState<Level>(LEVELS.find((one) => one === selection?.lane) ?? 'beginner');
  const [paper, setPaper] = useState<'a4' | 'letter'>('a4');
  const [isCovered, setCovered] = useState(false);
  const [isAll, setAll] = useState(false);
  const [isBook, setBook] = useState(false);
  const name = `${level}.pdf?paper=${paper}${isCovered ? '&names=covered' : ''}${isAll ? '&keys=all' : ''}`;
  const { dates } = idea;
  return (
    <section aria-label="Paper">
      <p className="leading-8">
        The{' '}
        <Select
          look="word"
          label="Level"
          value={level}
          options={LEVELS.map((value) => ({ value, label: LEVEL_NAMES[value].toLowerCase() }))}
          onChange={setLevel}
        />{' '}
        pages on{' '}
        <Select
          look="word"
          label="Paper"
          value={paper}
          options={[
            { value: 'a4', label: 'A4' },
            { value: 'letter', label: 'Letter' },
          ]}
          onChange={setPaper}
        />
        , names of the keys{' '}
        <Select
          look="word"
          label="Names of the keys"
          value={isCovered ? 'covered' : 'printed'}
          options={[
            { value: 'printed', label: 'printed' },
            { value: 'covered', label: 'covered, to be said' },
          ]}
          onChange={(value) => setCovered(value === 'covered')}
        />
        , in{' '}
        <Select
          look="word"
          label="Keys on paper"
          value={isAll ? 'all' : 'level'}
          options={[
            { value: 'level', label: 'the keys of the level' },
            { value: 'all', label: 'all twelve keys' },
          ]}
          onChange={(value) => setAll(value === 'all')}
        />
        .
      </p>
      <div className="mb-3 flex gap-1.5">
        <button type="button" className={BUTTON} onClick={() => bench.openFile(name, false)}>
          <Printer size={15} aria-hidden="true" />
          Print
        </button>
        <button type="button" className={BUTTON} onClick={() => bench.openFile(name, true)}>
          <FileText size={15} aria-hidden="true" />
          PDF
        </button>
      </div>
      <div className="mb-3 flex">
        <button
          type="button"
          className={BUTTON}
          onClick={() => bench.openFile(`${level}.sheets.pdf?paper=${paper}${isAll ? '&keys=all' : ''}`, false)}
        >
          <ListChecks size={15} aria-hidden="true" />A sheet a scale: say, finger, play
        </button>
      </div>
      <p className="border-t border-line pt-2 leading-8">
        Three steps before the music (say the names, finger silently, play):{' '}
        <Select
          look="word"
          label="Three steps"
          value={idea.spoken ? 'yes' : 'no'}
          options={[
            { value: 'yes', label: 'printed' },
            { value: 'no', label: 'not printed' },
          ]}
          onChange={(value) => onIdea('Three steps before the music', { ...idea, spoken: value === 'yes' })}
        />
        .
      </p>
      <p className="leading-8">
        <Select
          look="word"
          label="Dates"
          value={dates?.every ?? 'none'}
          options={[
            { value: 'none' as const, label: 'No dates' },
            { value: 'day' as const, label: 'A key a day' },
            { value: 'week' as const, label: 'A key a week' },
          ]}
          onChange={(every) => {
            const { dates: _, ...rest } = idea;
            onIdea(
              'Dates',
              every === 'none' ? rest : { ...idea, dates: { every, from: dates?.from ?? dateAt(new Date()) } },
            );
          }}
        />
        {dates && (
          <>
            {' from '}
            <input
              type="date"
              aria-label="First day"
              value={dates.from}
              onChange={({ target }) =>
                /^\d{4}-\d{2}-\d{2}$/.test(target.value) &&
                onIdea('First day', { ...idea, dates: { ...dates, from: target.value } })
              }
              className="min-h-8 rounded border border-edge bg-paper px-1"
            />
          </>
        )}
        {dates ? '' : ' over the keys'}.
      </p>
      <div className="mt-2 flex flex-col gap-1.5 border-t border-line pt-3">
        {bench.group && bench.groupId && (
          <button type="button" className={BUTTON} onClick={() => bench.openPage(`group/${bench.groupId}`)}>
            <Users size={15} aria-hidden="true" />
            Parts for {bench.group.name}
          </button>
        )}
        <button type="button" className={BUTTON} onClick={() => setBook(true)}>
          <BookOpen size={15} aria-hidden="true" />A book of drills
        </button>
      </div>
      {isBook && <BookSheet id={bench.id} level={level} paper={paper} onClose={() => setBook(false)} />}
    </section>
  );
}
