import type { PhraseKind } from './soloNote';
import type { SoloPhrase } from './soloNote';
import type { FormBar } from './rhythm';
import { SOLO_LIMITS, type GivenPhrase, type PhraseWish, type SoloWishes } from './wishes';

/** A plan with the phrases that are kept in it; both go by the phrases' places and change together. */
export interface EditedPlan {
  readonly plan: readonly PhraseWish[];
  readonly given: Readonly<Record<string, GivenPhrase>>;
}

/** The plan of a solo as a teacher can change it: what was wished for, else as it was composed. */
export function editablePlan(
  { plan, given = {} }: Pick<SoloWishes, 'plan' | 'given'>,
  { phrases, bars }: { readonly phrases: readonly SoloPhrase[]; readonly bars: readonly FormBar[] },
): EditedPlan {
  const composed = phrases.map(({ start, end, kind, of }): PhraseWish => ({
    bars: Math.min(SOLO_LIMITS.bars, bars.filter((bar) => bar.start >= start && bar.start < end).length),
    kind,
    ...(of !== undefined && { of }),
  }));
  // A plan that was wished for is shown as wished, at the length that the form has for it.
  return { plan: composed.map((phrase, k) => ({ ...(plan?.[k] ?? phrase), bars: phrase.bars })), given };
}

/** What a phrase does, and to which earlier one it goes back. */
export function withKind(edited: EditedPlan, index: number, kind: PhraseKind, of?: number): EditedPlan {
  return {
    ...edited,
    plan: edited.plan.map((phrase, k) => {
      if (k !== index) return phrase;
      const { of: _, ...rest } = phrase;
      return { ...rest, kind, ...(of !== undefined && { of }) };
    }),
  };
}

/** A phrase changed in other ways: its height, its borrowed rhythm. A field that is `undefined` goes. */
export function withPhrase(
  edited: EditedPlan,
  index: number,
  change: { readonly [Field in 'height' | 'rhythm']?: PhraseWish[Field] | undefined },
): EditedPlan {
  return {
    ...edited,
    plan: edited.plan.map((phrase, k) => {
      if (k !== index) return phrase;
      const entries = Object.entries({ ...phrase, ...change }).filter(([, value]) => value !== undefined);
      return Object.fromEntries(entries) as unknown as PhraseWish;
    }),
  };
}

/** Takes a phrase to another place; what goes back to a phrase still does, as long as that is before it. */
export function movedPhrase(edited: EditedPlan, from: number, to: number): EditedPlan {
  const order = edited.plan.map((_, k) => k);
  const [taken] = order.splice(from, 1);
  if (taken === undefined) return edited;
  order.splice(to, 0, taken);
  return inOrder(edited, order);
}

/** Joins a phrase with the one after it, as long as both are short enough; kept notes of the first stay. */
export function joinedPhrase(edited: EditedPlan, index: number): EditedPlan {
  const [one, next] = [edited.plan[index], edited.plan[index + 1]];
  if (!one || !next || one.bars + next.bars > SOLO_LIMITS.bars) return edited;
  const order = edited.plan.map((_, k) => k).filter((k) => k !== index + 1);
  return inOrder(
    {
      ...edited,
      plan: edited.plan.map((phrase, k) => (k === index ? { ...phrase, bars: one.bars + next.bars } : phrase)),
    },
    order,
  );
}

/** Cuts a phrase of two bars and more in two; its kept notes go, for they are no longer one phrase. */
export function cutPhrase({ plan, given }: EditedPlan, index: number): EditedPlan {
  const phrase = plan[index];
  if (!phrase || phrase.bars < 2) return { plan, given };
  const first = Math.ceil(phrase.bars / 2);
  const { [String(index)]: _, ...kept } = given;
  const halves: readonly PhraseWish[] = [
    { ...phrase, bars: first },
    { bars: phrase.bars - first, kind: 'answer' },
  ];
  const place = (k: number) => (k > index ? k + 1 : k);
  return {
    plan: [...plan.slice(0, index), ...halves, ...plan.slice(index + 1)].map((one) =>
      one.of === undefined ? one : { ...one, of: place(one.of) },
    ),
    given: Object.fromEntries(Object.entries(kept).map(([k, value]) => [String(place(Number(k))), value])),
  };
}

/** A phrase of its own from one bar up to but without another, both from 0: what lay there is cut, and what is kept there goes. */
export function withSpan({ plan, given }: EditedPlan, from: number, to: number, phrase: GivenPhrase): EditedPlan {
  const pieces: { readonly wish: PhraseWish; readonly was?: number }[] = [];
  let at = 0;
  let place = 0;
  const own: PhraseWish = { bars: to - from, kind: 'idea' };
  const spans = plan.map((wish, was) => {
    const start = at;
    at += wish.bars;
    return { wish, was, start, end: at };
  });
  for (const { wish, was, start, end } of spans) {
    if (start < from) pieces.push(piece(wish, was, Math.min(end, from) - start, end <= from));
    if (start <= from && from < end) {
      place = pieces.length;
      pieces.push({ wish: own });
    }
    if (end > to) pieces.push(piece(wish, was, end - Math.max(start, to), start >= to));
  }
  const newPlace = new Map(pieces.flatMap(({ was }, k) => (was === undefined ? [] : [[was, k] as const])));
  return {
    plan: pieces.map(({ wish }) => {
      const { of, ...rest } = wish;
      const back = of === undefined ? undefined : newPlace.get(of);
      return back === undefined
        ? of === undefined
          ? wish
          : { ...rest, kind: 'answer' as const }
        : { ...rest, of: back };
    }),
    given: {
      ...Object.fromEntries(
        Object.entries(given).flatMap(([k, value]) => {
          const now = newPlace.get(Number(k));
          return now === undefined ? [] : [[String(now), value] as const];
        }),
      ),
      [String(place)]: phrase,
    },
  };
}

/** What is left of a phrase: whole it keeps its place, cut it is a phrase of its own. */
function piece(wish: PhraseWish, was: number, bars: number, isWhole: boolean) {
  return isWhole
    ? { wish, was }
    : { wish: { bars, kind: wish.kind === 'rest' ? ('rest' as const) : ('answer' as const) } };
}

/** The phrases of a plan by their old places, in a new order. */
function inOrder({ plan, given }: EditedPlan, order: readonly number[]): EditedPlan {
  const place = new Map(order.map((was, k) => [was, k]));
  return {
    plan: order.flatMap((was, k) => {
      const phrase = plan[was];
      if (!phrase) return [];
      const { of, ...rest } = phrase;
      const back = of === undefined ? undefined : place.get(of);
      if (of === undefined) return [phrase];
      return back !== undefined && back < k ? [{ ...rest, of: back }] : [{ ...rest, kind: 'idea' as const }];
    }),
    given: Object.fromEntries(
      Object.entries(given).flatMap(([was, phrase]) => {
        const now = place.get(Number(was));
        return now === undefined ? [] : [[String(now), phrase] as const];
      }),
    ),
  };
}
