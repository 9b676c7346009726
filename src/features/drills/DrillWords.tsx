'use client';

import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { capitalised } from '../../core/plainText';
import { isOverForm, patternName } from '../../core/drills/drill';
import { ALL_TONICS } from '../../core/drills/keyOrder';
import { groupSize, parsePattern, PATTERNS, patternProblemText } from '../../core/drills/pattern';
import { nameOfSet, scaleDegrees } from '../../core/harmony/scales';
import { ALL_SCALE_NAMES } from '../../core/harmony/scaleDictionary';
import { alterOf, isStep, namePitchClass, printPitchClass, type PitchClass } from '../../core/pitch/pitch';
import {
  DRILL_ARTICULATIONS,
  DRILL_DIRECTIONS,
  DRILL_EXTENTS,
  DRILL_LIMITS,
  DRILL_RHYTHMS,
  KEY_ORDERS,
  type DrillIdea,
  type DrillStep,
  type KeyOrder,
} from '../../core/score/drillIdea';
import { Choice, type Option } from '../../ui/Choice';
import { TextInput } from '../../ui/Field';
import { ARTICULATION_WORDS, DIRECTION_WORDS, EXTENT_WORDS, ORDER_WORDS, RHYTHM_WORDS } from './words';

interface Props {
  readonly idea: DrillIdea;
  readonly onIdea: (what: string, idea: DrillIdea) => void;
  /** Tonics that suit the chosen group best; none without a group. */
  readonly friendly: { readonly name: string; readonly find: () => readonly PitchClass[] } | undefined;
  /** Whether anybody who plays it has frets. */
  readonly hasFrets: boolean;
  readonly onBorrow: () => void;
}

const OWN_CELL = 'own';
const WORD_INPUT =
  'min-h-7 rounded-t border-b-2 border-cane bg-transparent px-0.5 leading-5 font-semibold hover:bg-cane-pale';
const ICON = 'flex size-7 items-center justify-center rounded hover:bg-cane-pale disabled:text-[#a9a896]';

/** One chord a key: there are other ways from inversion to inversion. */
function hasPaths({ set, pattern }: DrillStep): boolean {
  const parsed = parsePattern(pattern);
  return parsed.ok && parsed.value.kind === 'stack' && scaleDegrees(set).length < 5;
}

/** A longer ladder opens its sentences when asked: the music is the screen. */
const SHOWN_OPEN = 2;

/** A drill as sentences: one for each exercise, one for its keys, and for a ladder when to go on. */
export function DrillWords({ idea, onIdea, friendly, hasFrets, onBorrow }: Props) {
  const isLadder = idea.steps.length > 1;
  const setStep = (index: number, what: string, change: Partial<DrillStep>) => {
    const steps = idea.steps.map((step, k) => (k === index ? cleaned({ ...step, ...change }) : step));
    onIdea(what, withSteps(idea, steps));
  };
  const exercises = (
    <ol aria-label="Exercises">
      {idea.steps.map((step, index) => (
        <li key={index} className="flex flex-wrap items-center gap-x-2">
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
            <span className="flex">
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
        <KeyWords idea={idea} onIdea={onIdea} friendly={friendly} />
        {', '}
        <Choice
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

function StepWords({
  step,
  hasForm,
  formTitle,
  hasFrets,
  number,
  onSet,
}: {
  readonly step: DrillStep;
  readonly hasForm: boolean;
  readonly formTitle: string | undefined;
  readonly hasFrets: boolean;
  readonly number: number | undefined;
  readonly onSet: (what: string, change: Partial<DrillStep>) => void;
}) {
  const [problem, setProblem] = useState<string>();
  const at = number === undefined ? '' : `, exercise ${number}`;
  const isOwn = step.pattern.startsWith('cell:');
  const isOver = isOverForm(step.pattern);
  const patterns: readonly Option<string>[] = [
    ...PATTERNS.filter(({ pattern }) => hasForm || (pattern.kind !== 'chords' && pattern.kind !== 'guide-tones')).map(
      ({ id, name, group }) => ({
        value: id,
        label: capitalised(name),
        hint: group.toLowerCase(),
      }),
    ),
    { value: OWN_CELL, label: 'A cell of my own', hint: 'as degrees' },
  ];
  const setCell = (text: string) => {
    const pattern = `cell:${text}`;
    const parsed = parsePattern(pattern);
    setProblem(parsed.ok ? undefined : patternProblemText(parsed.problem));
    if (parsed.ok) onSet(`Cell ${text}`, { pattern });
  };
  return (
    <span>
      <Choice
        look="word"
        label={`Pattern${at}`}
        value={isOwn ? OWN_CELL : step.pattern}
        options={patterns}
        onChange={(value) => onSet('Pattern', { pattern: value === OWN_CELL ? 'cell:1 2 3 5' : value })}
      />
      {isOwn && (
        <>
          {' '}
          <TextInput
            label={`Degrees of the cell${at}`}
            value={step.pattern.replace(/^cell:\s*/, '')}
            maxLength={60}
            onCommit={setCell}
            className={`${WORD_INPUT} w-28 tabular-nums`}
          />
        </>
      )}
      {isOver ? (
        <> over {formTitle || 'the form'}</>
      ) : (
        <>
          {' through '}
          <Choice
            look="word"
            label={`Set${at}`}
            value={step.set}
            options={ALL_SCALE_NAMES.map((value) => ({ value, label: nameOfSet(value) }))}
            onChange={(set) => onSet(`Set: ${nameOfSet(set)}`, { set })}
          />
        </>
      )}
      {', '}
      <Choice
        look="word"
        label={`Direction${at}`}
        value={step.direction ?? 'up-down'}
        options={DRILL_DIRECTIONS.filter((one) => one !== 'nearest' || step.pattern === 'chords').map((value) => ({
          value,
          label: DIRECTION_WORDS[value],
        }))}
        onChange={(direction) => onSet(`Direction: ${DIRECTION_WORDS[direction]}`, { direction })}
      />
      {!isOver && (
        <>
          {', '}
          <Choice
            look="word"
            label={`How far${at}`}
            value={step.extent ?? 'level'}
            options={[
              { value: 'level' as const, label: 'as far as each level goes' },
              ...DRILL_EXTENTS.map((value) => ({ value, label: EXTENT_WORDS[value] })),
            ]}
            onChange={(extent) =>
              onSet(`How far: ${extent === 'level' ? 'by level' : EXTENT_WORDS[extent]}`, {
                extent: extent === 'level' ? undefined : extent,
              } as Partial<DrillStep>)
            }
          />
        </>
      )}
      {!isOver && (hasFrets || step.hand) && (
        <>
          {', on frets '}
          <Choice
            look="word"
            label={`Hand${at}`}
            value={step.hand ?? 'free'}
            options={[
              { value: 'free' as const, label: 'wherever the hand lies best' },
              { value: 'shape' as const, label: 'in one shape, moved from key to key' },
            ]}
            onChange={(hand) =>
              onSet(`Hand: ${hand === 'shape' ? 'one shape' : 'where it lies best'}`, {
                hand: hand === 'shape' ? hand : undefined,
              } as Partial<DrillStep>)
            }
          />
        </>
      )}
      {', in '}
      <Choice
        look="word"
        label={`Rhythm${at}`}
        value={step.rhythm ?? 'level'}
        options={[
          { value: 'level' as const, label: 'the rhythm of each level' },
          ...DRILL_RHYTHMS.map((value) => ({ value, label: RHYTHM_WORDS[value] })),
        ]}
        onChange={(rhythm) =>
          onSet(`Rhythm: ${rhythm === 'level' ? 'by level' : RHYTHM_WORDS[rhythm]}`, {
            rhythm: rhythm === 'level' ? undefined : rhythm,
          } as Partial<DrillStep>)
        }
      />
      .
      {problem && (
        <span role="alert" className="ml-2 text-[12.5px] text-warn">
          {problem}
        </span>
      )}
    </span>
  );
}

function KeyWords({ idea, onIdea, friendly }: Pick<Props, 'idea' | 'onIdea' | 'friendly'>) {
  const [problem, setProblem] = useState<string>();
  const isList = typeof idea.keys === 'object';
  const value: KeyOrder | 'level' | 'list' | 'friendly' = isList
    ? 'list'
    : typeof idea.keys === 'string'
      ? idea.keys
      : 'level';
  const options: readonly Option<KeyOrder | 'level' | 'list' | 'friendly'>[] = [
    { value: 'level', label: idea.over ? 'in its own key' : 'in as many keys as each level has' },
    ...KEY_ORDERS.map((order) => ({ value: order, label: ORDER_WORDS[order] })),
    ...(friendly ? [{ value: 'friendly' as const, label: `in keys that suit ${friendly.name}` }] : []),
    { value: 'list', label: 'in the keys' },
  ];
  const set = (next: KeyOrder | 'level' | 'list' | 'friendly') => {
    const { keys: _, ...rest } = idea;
    if (next === 'level') onIdea('Keys by level', rest);
    else if (next === 'list') onIdea('Keys chosen', { ...idea, keys: isList ? idea.keys : FIRST_KEYS });
    else if (next === 'friendly')
      onIdea(`Keys for ${friendly?.name ?? ''}`, { ...idea, keys: friendly?.find() ?? FIRST_KEYS });
    else onIdea(`Keys: ${ORDER_WORDS[next]}`, { ...idea, keys: next });
  };
  const setList = (text: string) => {
    const tonics = text
      .split(/[\s,]+/)
      .filter(Boolean)
      .map(tonicOf);
    const wrong =
      tonics.some((tonic) => tonic === undefined) || tonics.length === 0 || tonics.length > DRILL_LIMITS.keys;
    setProblem(wrong ? `Give 1 to ${DRILL_LIMITS.keys} concert tonics, like C F B♭.` : undefined);
    if (!wrong) onIdea('Keys chosen', { ...idea, keys: tonics.filter((tonic) => tonic !== undefined) });
  };
  const start = idea.start ? printPitchClass(idea.start) : 'level';
  return (
    <>
      It goes <Choice look="word" label="Keys" value={value} options={options} onChange={set} />
      {typeof idea.keys === 'object' && (
        <>
          {' '}
          <TextInput
            label="Concert tonics"
            value={idea.keys.map(namePitchClass).join(' ')}
            maxLength={120}
            onCommit={setList}
            className={`${WORD_INPUT} w-36`}
          />
        </>
      )}
      {!isList && !(idea.over && idea.keys === undefined) && (
        <>
          {' from '}
          <Choice
            look="word"
            label="First key, concert"
            value={start}
            options={[
              { value: 'level', label: 'the easiest key of the level' },
              ...ALL_TONICS.map((tonic) => ({ value: printPitchClass(tonic), label: namePitchClass(tonic) })),
            ]}
            onChange={(next) => {
              const { start: _, ...rest } = idea;
              const tonic = tonicOf(next);
              onIdea('First key', next === 'level' || !tonic ? rest : { ...idea, start: tonic });
            }}
          />
        </>
      )}
      {problem && (
        <span role="alert" className="ml-2 text-[12.5px] text-warn">
          {problem}
        </span>
      )}
    </>
  );
}

const FIRST_KEYS: readonly PitchClass[] = [
  { step: 'C', alter: 0 },
  { step: 'F', alter: 0 },
  { step: 'G', alter: 0 },
];

function tonicOf(text: string): PitchClass | undefined {
  const [, letter, signs = ''] = /^([A-Ga-g])([#♯]|[b♭])?$/.exec(text.trim()) ?? [];
  const step = letter?.toUpperCase();
  return isStep(step) ? { step, alter: alterOf(signs) } : undefined;
}

function MovingOnWords({ idea, onIdea }: Pick<Props, 'idea' | 'onIdea'>) {
  const { when, rounds } = idea.movingOn ?? { when: 'mastered', rounds: 2 };
  return (
    <p className="text-[13.5px]">
      A pupil goes on to the next step{' '}
      <Choice
        look="word"
        label="When to go on"
        value={when}
        options={[
          { value: 'mastered', label: 'once this one is mastered' },
          { value: 'in-turn', label: 'each time: all steps in turn' },
        ]}
        onChange={(next) => onIdea('When to go on', { ...idea, movingOn: { when: next, rounds } })}
      />
      {when === 'mastered' && (
        <>
          {': '}
          <Choice
            look="word"
            label="Rounds without a mistake"
            value={String(rounds)}
            options={['1', '2', '3', '4', '5'].map((value) => ({
              value,
              label: value === '1' ? 'one round' : `${value} rounds`,
            }))}
            onChange={(next) =>
              onIdea('Rounds without a mistake', { ...idea, movingOn: { when, rounds: Number(next) } })
            }
          />{' '}
          without a mistake at the tempo of the level
        </>
      )}
      .
    </p>
  );
}

function withSteps(idea: DrillIdea, steps: readonly DrillStep[]): DrillIdea {
  const [first, ...rest] = steps;
  return first ? { ...idea, steps: [first, ...rest] } : idea;
}

/** Without fields that are `undefined`: a document holds what was decided. */
function cleaned(step: DrillStep): DrillStep {
  return Object.fromEntries(Object.entries(step).filter(([, value]) => value !== undefined)) as unknown as DrillStep;
}

function swapped(steps: readonly DrillStep[], a: number, b: number): readonly DrillStep[] {
  const [one, other] = [steps[a], steps[b]];
  return one && other ? steps.map((step, k) => (k === a ? other : k === b ? one : step)) : steps;
}

/** The rungs of a ladder in the order of their demand. */
const DEMAND = [
  'scale',
  'thirds',
  'up-two-down-one',
  '1-2-3-5',
  'triads',
  'sevenths',
  'fourths',
  'sixths',
  'ninths',
  'thirteenths',
];

function nextStep(idea: DrillIdea): DrillStep {
  const last = idea.steps.at(-1) ?? idea.steps[0];
  const at = DEMAND.indexOf(last.pattern);
  const pattern = DEMAND[Math.min(DEMAND.length - 1, at + 1)] ?? 'scale';
  const parsed = parsePattern(pattern);
  return cleaned({
    ...last,
    pattern,
    ...(parsed.ok && groupSize(parsed.value) === 3 && { rhythm: 'triplet' as const }),
  });
}
