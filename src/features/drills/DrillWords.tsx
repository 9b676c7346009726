'use client';

import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { patternName } from '../../core/drills';
import { DRILL_ARTICULATIONS, DRILL_LIMITS, type Exercise } from '../../core/score';
import { TextInput, WORD_FIELD } from '../../ui/Field';
import { Select } from '../../ui/Select';
import { cleaned, hasPaths, nextStep, swapped, withSteps } from './drillSteps';
import { KeyWords, MovingOnWords, type IdeaWords, type Reader } from './KeyWords';
import { StepWords } from './StepWords';
import { ARTICULATION_WORDS } from './words';

interface Props extends IdeaWords {
  /** Whether anybody who plays it has frets. */
  readonly hasFrets: boolean;
  readonly onBorrow: () => void;
  /** Instruments that read other notes than sound, of those who play it. */
  readonly readers: readonly Reader[];
  readonly title: string;
  readonly onTitle: (title: string) => void;
}

const ICON = 'flex size-7 items-center justify-center rounded hover:bg-cane-pale disabled:text-[#a9a896]';

/** A longer ladder opens its sentences when asked: the music is the screen. */
const SHOWN_OPEN = 2;

/** A drill as sentences: one for each exercise, one for its keys, and for a ladder when to go on. */
export function DrillWords({ idea, onIdea, friendly, hasFrets, onBorrow, readers, title, onTitle }: Props) {
  const isLadder = idea.steps.length > 1;
  const setStep = (index: number, what: string, change: Partial<Exercise>) => {
    const steps = idea.steps.map((step, k) => (k === index ? cleaned({ ...step, ...change }) : step));
    onIdea(what, withSteps(idea, steps));
  };
  const exercises = (
    <ol aria-label="Exercises">
      {idea.steps.map((step, index) => (
        <li key={index} className="flex items-start gap-x-2">
          {isLadder && <span className="tabular-nums text-ink-soft">{index + 1}.</span>}
          <StepWords
            step={step}
            hasForm={idea.over !== undefined}
            formTitle={idea.over?.title}
            hasFrets={hasFrets}
            number={isLadder ? index + 1 : undefined}
            onSet={(what, change) =>
              change.rhythm === 'borrowed' && !idea.borrowed ? onBorrow() : setStep(index, what, change)
            }
          />
          {isLadder && (
            <span className="flex shrink-0">
              <button
                type="button"
                className={ICON}
                aria-label={`Move exercise ${index + 1} up`}
                disabled={index === 0}
                onClick={() => onIdea('Move an exercise', withSteps(idea, swapped(idea.steps, index, index - 1)))}
              >
                <ArrowUp size={15} aria-hidden="true" />
              </button>
              <button
                type="button"
                className={ICON}
                aria-label={`Move exercise ${index + 1} down`}
                disabled={index === idea.steps.length - 1}
                onClick={() => onIdea('Move an exercise', withSteps(idea, swapped(idea.steps, index, index + 1)))}
              >
                <ArrowDown size={15} aria-hidden="true" />
              </button>
              <button
                type="button"
                className={ICON}
                aria-label={`Remove exercise ${index + 1}`}
                onClick={() =>
                  onIdea(
                    'Remove an exercise',
                    withSteps(
                      idea,
                      idea.steps.filter((_, k) => k !== index),
                    ),
                  )
                }
              >
                <Trash2 size={15} aria-hidden="true" />
              </button>
            </span>
          )}
        </li>
      ))}
    </ol>
  );
  return (
    <div className="no-print border-b border-line bg-panel px-4 py-2 leading-8">
      <p>
        <label htmlFor="drill-title" className="text-ink-soft">
          Called{' '}
        </label>
        <TextInput
          id="drill-title"
          value={title}
          onCommit={(text) => text.trim() !== '' && onTitle(text.trim())}
          className={`${WORD_FIELD} min-h-7 w-full max-w-120 font-semibold`}
        />
      </p>
      {isLadder ? (
        <details open={idea.steps.length <= SHOWN_OPEN}>
          <summary className="min-h-7 cursor-pointer">
            A ladder of {idea.steps.length} steps:{' '}
            <span className="text-ink-soft">{idea.steps.map(({ pattern }) => patternName(pattern)).join(' · ')}</span>
          </summary>
          {exercises}
        </details>
      ) : (
        exercises
      )}
      <p>
        <KeyWords idea={idea} onIdea={onIdea} friendly={friendly} readers={readers} />
        {', '}
        <Select
          look="word"
          label="Articulation"
          value={idea.articulation ?? 'plain'}
          options={DRILL_ARTICULATIONS.map((value) => ({ value, label: ARTICULATION_WORDS[value] }))}
          onChange={(articulation) =>
            onIdea(`Articulation: ${ARTICULATION_WORDS[articulation]}`, { ...idea, articulation })
          }
        />
        .{' '}
        {idea.steps.some(hasPaths) && (
          <button
            type="button"
            onClick={() => onIdea('Another path', { ...idea, seed: (idea.seed ?? 0) + 1 })}
            className="inline-flex min-h-7 items-center rounded px-1 text-[13px] text-cane hover:bg-cane-pale"
          >
            Another path through the inversions
          </button>
        )}
        <button
          type="button"
          disabled={idea.steps.length >= DRILL_LIMITS.steps}
          onClick={() => onIdea('Add an exercise', withSteps(idea, [...idea.steps, nextStep(idea)]))}
          className="inline-flex min-h-7 items-center gap-1 rounded px-1 text-[13px] text-cane hover:bg-cane-pale"
        >
          <Plus size={14} aria-hidden="true" />
          {isLadder ? 'Another step' : 'Make a ladder: another step'}
        </button>
      </p>
      {isLadder && <MovingOnWords idea={idea} onIdea={onIdea} />}
    </div>
  );
}
