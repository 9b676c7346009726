'use client';

import Link from 'next/link';
import { useEffect, useMemo, useState } from 'react';
import { z } from 'zod';
import { tuneSchema } from '../../core/work/stored';
import { formOf, withProposedChords } from '../../core/pools';
import type { Tune } from '../../core/score';
import { formBarsOf, lickAt, lickFacts, type LickPlace, lickPlaces, spreadLicks } from '../../core/solos';
import { DrawnPicture } from '../../ui/DrawnPicture';
import { useToast } from '../../ui/Toast';
import { send } from '../work/send';

const PLACE = 'min-h-7 rounded border border-edge bg-paper px-2 hover:bg-cane-pale';
const licksSchema = z.object({ licks: z.array(z.object({ id: z.string(), tune: tuneSchema })) });
type KnownLick = z.infer<typeof licksSchema>['licks'][number];

/** A lick where it is put. */
export interface PutLick {
  readonly lick: Tune;
  readonly place: LickPlace;
  readonly notes: ReturnType<typeof lickAt>;
}

/** The studio's licks that fit the tune, each with its places; a press puts one there. */
export function LickTab({
  tune,
  hasOwnChoice,
  kept,
  onPut,
}: {
  readonly tune: Tune;
  /** Offers to choose licks and places by itself. */
  readonly hasOwnChoice: boolean;
  /** Bars where phrases are kept already: only a press on a place puts a lick there. */
  readonly kept: readonly Pick<LickPlace, 'from' | 'to'>[];
  readonly onPut: (put: readonly PutLick[]) => void;
}) {
  const [turn, setTurn] = useState(0);
  const [licks, setLicks] = useState<readonly KnownLick[]>();
  const [problem, setProblem] = useState<string>();
  const tell = useToast();
  useEffect(() => {
    let isNewest = true;
    void send('/api/licks', licksSchema, { method: 'GET' }).then((answer) => {
      if (!isNewest) return;
      if (answer.ok) setLicks(answer.value.licks);
      else setProblem(answer.problem.message);
    });
    return () => {
      isNewest = false;
    };
  }, []);
  const found = useMemo(() => {
    const harmonised = withProposedChords(tune);
    const [form, bars] = [formOf(harmonised), formBarsOf(harmonised)];
    return (licks ?? [])
      .map((lick) => ({ ...lick, facts: lickFacts(lick.tune), places: lickPlaces(lick.tune, form, bars) }))
      .toSorted((a, b) => Number(b.places.length > 0) - Number(a.places.length > 0));
  }, [licks, tune]);
  if (problem)
    return (
      <p role="alert" className="text-warn">
        {problem}
      </p>
    );
  if (!licks) return <p className="text-[13px] text-ink-soft">Looking through the licks …</p>;
  if (found.length === 0)
    return (
      <p className="text-[13px] text-ink-soft">
        There are no licks yet. Keep a phrase of a solo as one, on the Plan tab, or some bars of the tune.
      </p>
    );
  const fitting = found.filter(({ places }) => places.length > 0);
  const spread = (count: number) => {
    const bars = formBarsOf(tune).length;
    const put = spreadLicks(
      fitting.map(({ tune: lick, places }) => ({ lick, places })),
      bars,
      count,
      turn,
      kept,
    );
    // Another press begins with another lick.
    setTurn(turn + 1);
    if (put.length > 0) onPut(put.map(({ lick, place }) => ({ lick, place, notes: lickAt(lick, place) })));
    else tell('No lick fits between the first idea and the last two bars; put one in by hand');
  };
  return (
    <>
      {hasOwnChoice && fitting.length > 0 && (
        <p className="mb-2 flex flex-wrap items-center gap-1 text-[13px]">
          Put in, spread over the chorus:
          {[1, 2, 3].map((count) => (
            <button key={count} type="button" className={PLACE} onClick={() => spread(count)}>
              {count === 1 ? 'one lick' : `${count} licks`}
            </button>
          ))}
        </p>
      )}
      <ul aria-label="Licks" className="space-y-2">
        {found.map(({ id, tune: lick, facts, places }) => (
          <li key={id} className="border-b border-line pb-2 text-[13px]">
            <Link
              href={`/tunes/${id}/lick`}
              prefetch={false}
              className="font-serif text-[15px] font-semibold hover:underline"
            >
              {lick.title}
            </Link>{' '}
            <span className="text-ink-soft">{facts?.fits}</span>
            <DrawnPicture
              src={`/api/tunes/${id}/files/opening.svg`}
              alt={`Opening of ${lick.title}`}
              loading="lazy"
              width={280}
              height={44}
              className="h-11 w-full object-contain object-left"
            />
            {places.length === 0 ? (
              <p className="text-ink-soft">Its chords do not come in this tune.</p>
            ) : (
              <p className="flex flex-wrap items-center gap-1">
                Put it in
                {places.map((place) => (
                  <button
                    key={`${place.from} ${place.stretch}`}
                    type="button"
                    onClick={() => onPut([{ place, lick, notes: lickAt(lick, place) }])}
                    className={PLACE}
                  >
                    bar {place.from + 1}
                    {place.stretch === 0.5 ? ', twice as fast' : place.stretch === 2 ? ', half as fast' : ''}
                  </button>
                ))}
              </p>
            )}
            {(lick.lick?.pupils?.length ?? 0) > 0 && (
              <p className="text-ink-soft">{lick.lick?.pupils?.join(', ')}: already in their fingers</p>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
