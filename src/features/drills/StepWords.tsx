'use client';

import { useState } from 'react';
import { capitalised } from '../../core/plainText';
import { groupSize, isOverForm, parsePattern, patternProblemText, PATTERNS } from '../../core/drills';
import { ALL_SCALE_NAMES, nameOfSet } from '../../core/harmony';
import { DRILL_DIRECTIONS, DRILL_EXTENTS, DRILL_RHYTHMS, type DrillDirection, type Exercise } from '../../core/score';
import { Select, type Option } from '../../ui/Select';
import { TextInput, WORD_FIELD } from '../../ui/Field';
import { DIRECTION_WORDS, EXTENT_WORDS, RHYTHM_WORDS, TURN_WORDS } from './words';

/** Patterns whose degrees a teacher writes; by the word before the degrees. */
const OWN = {
  cell: { label: 'A cell of my own', hint: 'as degrees', usual: 'cell:1 2 3 5' },
  group: { label: 'A group of my own, once in each key', hint: 'as degrees', usual: 'group:1 3 5 1' },
} as const;
type OwnKind = keyof typeof OWN;

/** Coming down natural is for melodic minor, the nearest tone for the chords of a form. */
function suits(direction: DrillDirection, { set, pattern }: Exercise): boolean {
  if (direction === 'melodic') return set === 'melodic minor';
  return direction !== 'nearest' || pattern === 'chords';
}

/** Whether there are groups of several notes on each step, which could be turned round. */
function hasGroups(text: string): boolean {
  const parsed = parsePattern(text);
  return parsed.ok && ['cell', 'stack', 'interval'].includes(parsed.value.kind) && groupSize(parsed.value) > 1;
}

/** One exercise as a sentence: its pattern, its set, its direction, how far it goes and in which rhythm. */
export function StepWords({
  step,
  hasForm,
  formTitle,
  hasFrets,
  number,
  onSet,
}: {
  readonly step: Exercise;
  readonly hasForm: boolean;
  readonly formTitle: string | undefined;
  readonly hasFrets: boolean;
  readonly number: number | undefined;
  readonly onSet: (what: string, change: Partial<Exercise>) => void;
}) {
  const [problem, setProblem] = useState<string>();
  const at = number === undefined ? '' : `, exercise ${number}`;
  const isListed = PATTERNS.some(({ id }) => id === step.pattern);
  const own = isListed ? undefined : (['cell', 'group'] as const).find((kind) => step.pattern.startsWith(`${kind}:`));
  const isOver = isOverForm(step.pattern);
  const patterns: readonly Option<string>[] = [
    ...PATTERNS.filter(({ pattern }) => hasForm || (pattern.kind !== 'chords' && pattern.kind !== 'guide-tones')).map(
      ({ id, name, group }) => ({
        value: id,
        label: capitalised(name),
        hint: group.toLowerCase(),
      }),
    ),
    ...(Object.keys(OWN) as OwnKind[]).map((kind) => ({ value: kind, label: OWN[kind].label, hint: OWN[kind].hint })),
  ];
  const setDegrees = (kind: OwnKind, text: string) => {
    const pattern = `${kind}:${text}`;
    const parsed = parsePattern(pattern);
    setProblem(parsed.ok ? undefined : patternProblemText(parsed.problem));
    if (parsed.ok) onSet(`${kind === 'cell' ? 'Cell' : 'Group'} ${text}`, { pattern });
  };
  return (
    <span className="min-w-0 flex-1">
      <Select
        look="word"
        label={`Pattern${at}`}
        value={own ?? step.pattern}
        options={patterns}
        onChange={(value) =>
          onSet('Pattern', { pattern: value === 'cell' || value === 'group' ? OWN[value].usual : value })
        }
      />
      {own && (
        <>
          {' '}
          <TextInput
            label={`Degrees of the ${own}${at}`}
            value={step.pattern.replace(/^(?:cell|group):\s*/, '')}
            maxLength={60}
            onCommit={(text) => setDegrees(own, text)}
            className={`${WORD_FIELD} min-h-7 w-28 tabular-nums`}
          />
        </>
      )}
      {isOver ? (
        <> over {formTitle || 'the form'}</>
      ) : (
        <>
          {' through '}
          <Select
            look="word"
            label={`Set${at}`}
            value={step.set}
            options={ALL_SCALE_NAMES.map((value) => ({ value, label: nameOfSet(value) }))}
            onChange={(set) => onSet(`Set: ${nameOfSet(set)}`, { set })}
          />
        </>
      )}
      {', '}
      <Select
        look="word"
        label={`Direction${at}`}
        value={step.direction ?? 'up-down'}
        options={DRILL_DIRECTIONS.filter((one) => suits(one, step)).map((value) => ({
          value,
          label: DIRECTION_WORDS[value],
        }))}
        onChange={(direction) => onSet(`Direction: ${DIRECTION_WORDS[direction]}`, { direction })}
      />
      {!isOver && (
        <>
          {', '}
          <Select
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
              } as Partial<Exercise>)
            }
          />
        </>
      )}
      {!isOver && hasGroups(step.pattern) && (
        <>
          {', '}
          <Select
            look="word"
            label={`Groups${at}`}
            value={step.mirrored === undefined ? 'pattern' : step.mirrored ? 'mirrored' : 'same'}
            options={(['pattern', 'same', 'mirrored'] as const).map((value) => ({ value, label: TURN_WORDS[value] }))}
            onChange={(value) =>
              onSet(`Groups: ${TURN_WORDS[value]}`, {
                mirrored: value === 'pattern' ? undefined : value === 'mirrored',
              } as Partial<Exercise>)
            }
          />
        </>
      )}
      {!isOver && (hasFrets || step.hand) && (
        <>
          {', on frets '}
          <Select
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
              } as Partial<Exercise>)
            }
          />
        </>
      )}
      {', in '}
      <span className="whitespace-nowrap">
        <Select
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
            } as Partial<Exercise>)
          }
        />
        .
      </span>
      {problem && (
        <span role="alert" className="ml-2 text-[12.5px] text-warn">
          {problem}
        </span>
      )}
    </span>
  );
}
