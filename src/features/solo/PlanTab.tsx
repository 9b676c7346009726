'use client';

import { useState } from 'react';
import { givenFrom, type SoloPart } from '../../core/levels/soloPart';
import type { Tune } from '../../core/score/tune';
import {
  cutPhrase,
  editablePlan,
  joinedPhrase,
  movedPhrase,
  withKind,
  withPhrase,
  type EditedPlan,
} from '../../core/solos/planEdit';
import type { GivenPhrase, SoloWishes } from '../../core/solos/wishes';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { BorrowSheet } from '../work/BorrowSheet';
import type { SetSolo } from './soloChange';
import { PhraseNotes } from './PhraseNotes';
import { PlanList } from './PlanList';

interface Props {
  readonly tune: Tune;
  readonly made: SoloPart;
  readonly wishes: SoloWishes;
  /** The takes in view, and what each has made. */
  readonly seeds: readonly number[];
  readonly takeOf: (seed: number) => SoloPart | undefined;
  readonly onWishes: SetSolo;
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
export function PlanTab({ tune, made, wishes, seeds, takeOf, onWishes, onVary, onLift }: Props) {
  const [picked, setPicked] = useState<number>(0);
  const [isBorrowing, setBorrowing] = useState(false);
  const [letsGo, setLetsGo] = useState<number>();
  const edited = editablePlan(wishes, made.solo);
  const spans = made.solo.phrases.map(({ start, end }): readonly [number, number] => [
    made.solo.bars.findIndex((bar) => bar.start === start) + 1,
    made.solo.bars.findLastIndex((bar) => bar.start < end) + 1,
  ]);
  const setPlan = (what: string, { plan, given }: EditedPlan) => onWishes(what, { plan, given });
  const setGiven = (what: string, given: SoloWishes['given']) => onWishes(what, { given });
  const phraseNow = (index: number): GivenPhrase => edited.given[String(index)] ?? givenFrom(made, tune, index);
  const keep = (index: number, isLocked: boolean) => {
    const { [String(index)]: before, ...rest } = edited.given;
    if (isLocked)
      return setGiven(`Phrase ${index + 1} kept`, { ...rest, [String(index)]: givenFrom(made, tune, index) });
    // What somebody wrote is not thrown away by one press.
    if (before?.isOwn) return setLetsGo(index);
    return setGiven(`Phrase ${index + 1} composed anew`, rest);
  };
  const varyAlone = (index: number) => {
    const { [String(index)]: _, ...kept } = edited.given;
    const others = edited.plan.flatMap((phrase, k) =>
      k === index || phrase.kind === 'rest' || kept[String(k)] ? [] : [[String(k), givenFrom(made, tune, k)] as const],
    );
    setGiven(`Phrase ${index + 1} alone varied`, { ...kept, ...Object.fromEntries(others) });
    onVary();
  };
  const phrase = edited.plan[picked];
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
          setPlan(
            `Phrase ${index + 1}: ${kind}`,
            withKind({ ...edited, given: without(edited.given, index) }, index, kind, of),
          )
        }
        onMove={(a, b) => setPlan('Phrases in another order', movedPhrase(edited, a, b))}
        onLock={keep}
      />
      {letsGo !== undefined && (
        <p role="alert" className="mt-1 border border-warn bg-warn-pale p-2 text-[13px]">
          Phrase {letsGo + 1} holds notes of your own. Composing it anew takes them out.{' '}
          <span className="flex gap-1.5 pt-1">
            <Button
              className="min-h-8 px-2"
              onClick={() => {
                setGiven(`Phrase ${letsGo + 1} composed anew`, without(edited.given, letsGo));
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
      {wishes.plan && (
        <Button
          className="mt-2 min-h-8 px-2"
          onClick={() => onWishes('The plan as the level goes', { plan: undefined })}
        >
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
                setPlan(
                  `Phrase ${picked + 1}: ${HEIGHT_WORDS[value]}`,
                  withPhrase(edited, picked, { height: HEIGHTS[value] }),
                )
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
                  : setPlan(`Phrase ${picked + 1}: its own rhythm`, withPhrase(edited, picked, { rhythm: undefined }))
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
                      setGiven(`Phrase ${picked + 1} from take ${seed}`, {
                        ...edited.given,
                        [String(picked)]: givenFrom(other, tune, picked),
                      });
                  }}
                  className="mr-1 min-h-7 rounded border border-[#8f8d7c] bg-paper px-2 text-[13px] hover:bg-cane-pale"
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
              disabled={edited.plan[picked + 1] === undefined}
              onClick={() =>
                setPlan(
                  `Phrases ${picked + 1} and ${picked + 2} joined`,
                  joinedPhrase({ ...edited, given: without(edited.given, picked) }, picked),
                )
              }
            >
              Join with the next
            </Button>
            <Button
              className="min-h-8 px-2"
              disabled={phrase.bars < 2}
              onClick={() => setPlan(`Phrase ${picked + 1} cut in two`, cutPhrase(edited, picked))}
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
              setGiven(`Phrase ${picked + 1}: notes changed`, {
                ...edited.given,
                [String(picked)]: { notes, isOwn: true },
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
            setPlan(
              `Phrase ${picked + 1}: the rhythm of ${title}`,
              withPhrase({ ...edited, given: without(edited.given, picked) }, picked, {
                rhythm: { lengths, from: title || 'a tune' },
              }),
            );
          }}
        />
      )}
    </div>
  );
}

function without(given: EditedPlan['given'], index: number): EditedPlan['given'] {
  const { [String(index)]: _, ...rest } = given;
  return rest;
}
