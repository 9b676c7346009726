'use client';

import { useState } from 'react';
import { givenFrom, type SoloPart } from '../../core/levels';
import type { Tune } from '../../core/score';
import { type EditedPlan, type GivenPhrase, type PlanEdit, unusedId } from '../../core/solos';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { BorrowSheet } from '../work/BorrowSheet';
import type { EditPlan } from './soloChange';
import { PhraseNotes } from './PhraseNotes';
import { PlanList } from './PlanList';

interface Props {
  readonly tune: Tune;
  readonly made: SoloPart;
  /** The plan as it is shown, and what is kept in it. */
  readonly edited: EditedPlan;
  /** Somebody changed it. */
  readonly hasOwnPlan: boolean;
  /** The takes in view, and what each has made. */
  readonly seeds: readonly number[];
  readonly takeOf: (seed: number) => SoloPart | undefined;
  readonly onPlan: EditPlan;
  /** Back to the plan of the level. */
  readonly onUsual: () => void;
  readonly onVary: () => void;
  readonly onLift: (from: number, to: number) => void;
}

const HEIGHTS = { curve: undefined, low: 0.15, middle: 0.5, high: 0.95 } as const;
type Height = keyof typeof HEIGHTS;
const HEIGHT_WORDS: Readonly<Record<Height, string>> = {
  curve: 'where the curve of the chorus has it',
  low: 'low',
  middle: 'in the middle',
  high: 'high',
};

/** The plan of a solo: phrases in their order, and for the picked one its height, rhythm, notes and takes. */
export function PlanTab({ tune, made, edited, hasOwnPlan, seeds, takeOf, onPlan, onUsual, onVary, onLift }: Props) {
  const [picked, setPicked] = useState<number>(0);
  const [isBorrowing, setBorrowing] = useState(false);
  const [letsGo, setLetsGo] = useState<number>();
  const spans = made.solo.phrases.map(({ start, end }): readonly [number, number] => [
    made.solo.bars.findIndex((bar) => bar.start === start) + 1,
    made.solo.bars.findLastIndex((bar) => bar.start < end) + 1,
  ]);
  const idOf = (index: number) => edited.plan[index]?.id ?? '';
  const phraseNow = (index: number): GivenPhrase => edited.given[idOf(index)] ?? givenFrom(made, tune, index);
  const keep = (index: number, isLocked: boolean) => {
    if (isLocked)
      return onPlan(`Phrase ${index + 1} kept`, {
        kind: 'keep',
        phrase: idOf(index),
        given: givenFrom(made, tune, index),
      });
    // What somebody wrote is not thrown away by one press.
    if (edited.given[idOf(index)]?.isOwn) return setLetsGo(index);
    return onPlan(`Phrase ${index + 1} composed anew`, { kind: 'release', phrase: idOf(index) });
  };
  const varyAlone = (index: number) => {
    const edits = edited.plan.flatMap(({ id, kind }, k): readonly PlanEdit[] => {
      if (k === index) return [{ kind: 'release', phrase: id }];
      const given = edited.given[id];
      // What was kept with the whole take goes into the other takes as well, or more than one phrase would vary.
      return kind === 'rest' || (given && !given.isTake)
        ? []
        : [{ kind: 'keep', phrase: id, given: givenFrom(made, tune, k) }];
    });
    onPlan(`Phrase ${index + 1} alone varied`, ...edits);
    onVary();
  };
  const phrase = edited.plan[picked];
  const next = edited.plan[picked + 1];
  const [from, to] = spans[picked] ?? [1, 1];
  const height = (Object.keys(HEIGHTS) as Height[]).find((one) => HEIGHTS[one] === phrase?.height) ?? 'curve';
  const takes = seeds.filter((seed) => takeOf(seed) !== undefined);
  return (
    <div>
      <PlanList
        edited={edited}
        spans={spans}
        picked={picked}
        onPick={setPicked}
        onKind={(index, kind, of) =>
          onPlan(`Phrase ${index + 1}: ${kind}`, {
            kind: 'does',
            phrase: idOf(index),
            does: kind,
            of: of === undefined ? undefined : idOf(of),
          })
        }
        onMove={(from, to) =>
          onPlan('Phrases in another order', {
            kind: 'move',
            phrase: idOf(from),
            before: edited.plan[from < to ? to + 1 : to]?.id,
          })
        }
        onLock={keep}
      />
      {letsGo !== undefined && (
        <p role="alert" className="mt-1 border border-warn bg-warn-pale p-2 text-[13px]">
          Phrase {letsGo + 1} holds notes of your own. Composing it anew takes them out.{' '}
          <span className="flex gap-1.5 pt-1">
            <Button
              className="min-h-8 px-2"
              onClick={() => {
                onPlan(`Phrase ${letsGo + 1} composed anew`, { kind: 'release', phrase: idOf(letsGo) });
                setLetsGo(undefined);
              }}
            >
              Compose it anew
            </Button>
            <Button className="min-h-8 px-2" onClick={() => setLetsGo(undefined)}>
              Keep my notes
            </Button>
          </span>
        </p>
      )}
      {hasOwnPlan && (
        <Button className="mt-2 min-h-8 px-2" onClick={onUsual}>
          Back to the plan of the level
        </Button>
      )}
      {phrase && (
        <section aria-label={`Phrase ${picked + 1}`} className="mt-3 border-t border-line pt-2 text-[13.5px]">
          <h3 className="font-semibold">
            Phrase {picked + 1}, {from === to ? `bar ${from}` : `bars ${from} to ${to}`}
          </h3>
          <p className="leading-8">
            It lies{' '}
            <Select
              look="word"
              label="Height of the phrase"
              value={height}
              options={(Object.keys(HEIGHTS) as Height[]).map((value) => ({ value, label: HEIGHT_WORDS[value] }))}
              onChange={(value) =>
                onPlan(`Phrase ${picked + 1}: ${HEIGHT_WORDS[value]}`, {
                  kind: 'height',
                  phrase: phrase.id,
                  height: HEIGHTS[value],
                })
              }
            />
            , in{' '}
            <Select
              look="word"
              label="Rhythm of the phrase"
              value={phrase.rhythm ? 'borrowed' : 'own'}
              options={[
                { value: 'own', label: 'a rhythm of its own' },
                {
                  value: 'borrowed',
                  label: phrase.rhythm ? `the rhythm of ${phrase.rhythm.from}` : 'a borrowed rhythm …',
                },
              ]}
              onChange={(value) =>
                value === 'borrowed'
                  ? setBorrowing(true)
                  : onPlan(`Phrase ${picked + 1}: its own rhythm`, {
                      kind: 'rhythm',
                      phrase: phrase.id,
                      rhythm: undefined,
                    })
              }
            />
            .
          </p>
          {takes.length > 1 && (
            <p className="leading-8">
              Take it from{' '}
              {takes.map((seed) => (
                <button
                  key={seed}
                  type="button"
                  onClick={() => {
                    const other = takeOf(seed);
                    if (other)
                      onPlan(`Phrase ${picked + 1} from take ${seed}`, {
                        kind: 'keep',
                        phrase: phrase.id,
                        given: givenFrom(other, tune, picked),
                      });
                  }}
                  className="mr-1 min-h-7 rounded border border-edge bg-paper px-2 text-[13px] hover:bg-cane-pale"
                >
                  take {seed}
                </button>
              ))}
            </p>
          )}
          <p className="flex flex-wrap gap-1.5 py-1">
            <Button className="min-h-8 px-2" onClick={() => varyAlone(picked)}>
              Vary it alone
            </Button>
            <Button
              className="min-h-8 px-2"
              disabled={next === undefined}
              onClick={() =>
                next &&
                onPlan(`Phrases ${picked + 1} and ${picked + 2} joined`, {
                  kind: 'join',
                  phrase: phrase.id,
                  next: next.id,
                })
              }
            >
              Join with the next
            </Button>
            <Button
              className="min-h-8 px-2"
              disabled={phrase.bars < 2}
              onClick={() =>
                onPlan(`Phrase ${picked + 1} cut in two`, {
                  kind: 'cut',
                  phrase: phrase.id,
                  second: unusedId(edited.plan),
                })
              }
            >
              Cut in two
            </Button>
            <Button className="min-h-8 px-2" onClick={() => onLift(from, to)}>
              Keep as a lick …
            </Button>
          </p>
          <h4 className="font-semibold">
            Its notes <span className="font-normal text-ink-soft">as they sound in the tune&apos;s key</span>
          </h4>
          <PhraseNotes
            notes={phraseNow(picked).notes}
            tonality={tune.key}
            number={picked + 1}
            length={(made.solo.phrases[picked]?.end ?? 0) - (made.solo.phrases[picked]?.start ?? 0)}
            onNotes={(notes) =>
              onPlan(`Phrase ${picked + 1}: notes changed`, {
                kind: 'keep',
                phrase: phrase.id,
                given: { notes, isOwn: true },
              })
            }
          />
        </section>
      )}
      {isBorrowing && (
        <BorrowSheet
          onClose={() => setBorrowing(false)}
          onTake={(lengths, title) => {
            setBorrowing(false);
            onPlan(`Phrase ${picked + 1}: the rhythm of ${title}`, {
              kind: 'rhythm',
              phrase: idOf(picked),
              rhythm: { lengths, from: title || 'a tune' },
            });
          }}
        />
      )}
    </div>
  );
}
