import { unreachable } from '../result';
import type { PlacedWish } from './plan';
import type { FormBar } from './rhythm';
import type { PhraseKind, SoloPhrase } from './soloNote';
import { placeId, SOLO_LIMITS, type GivenPhrase, type PhraseId, type PhraseWish, type SoloWishes } from './wishes';

/** A plan with the phrases that are kept in it; both go by the phrases' names. */
export interface EditedPlan {
  readonly plan: readonly PhraseWish[];
  readonly given: Readonly<Record<PhraseId, GivenPhrase>>;
}

/**
 * A change of a plan as a value. It names the phrases it means, so that it does what was meant whatever was done to the
 * plan since, and nothing where they are gone. Done twice it is done once.
 */
export type PlanEdit =
  /** What a phrase does, and to which one it goes back; kept notes go. */
  | { readonly kind: 'does'; readonly phrase: PhraseId; readonly does: PhraseKind; readonly of?: PhraseId | undefined }
  /** `undefined`: on the curve of the chorus. */
  | { readonly kind: 'height'; readonly phrase: PhraseId; readonly height: number | undefined }
  /** A borrowed rhythm, for which kept notes go; `undefined`: one of its own. */
  | { readonly kind: 'rhythm'; readonly phrase: PhraseId; readonly rhythm: PhraseWish['rhythm'] | undefined }
  /** To the place before another phrase; to the end without one. */
  | { readonly kind: 'move'; readonly phrase: PhraseId; readonly before: PhraseId | undefined }
  /** With the phrase after it, as long as both are short enough; kept notes of both go. */
  | { readonly kind: 'join'; readonly phrase: PhraseId; readonly next: PhraseId }
  /** In two, the second under a new name; kept notes go. */
  | { readonly kind: 'cut'; readonly phrase: PhraseId; readonly second: PhraseId }
  /** A phrase of its own from one bar up to but without another, both from 0. */
  | {
      readonly kind: 'put';
      readonly from: number;
      readonly to: number;
      readonly id: PhraseId;
      readonly given: GivenPhrase;
    }
  | { readonly kind: 'keep'; readonly phrase: PhraseId; readonly given: GivenPhrase }
  | { readonly kind: 'release'; readonly phrase: PhraseId };

/** The plan of a solo as a teacher can change it: what was wished for, else as it was composed. */
export function editablePlan(
  { plan, given = {} }: Pick<SoloWishes, 'plan' | 'given'>,
  { phrases, bars }: { readonly phrases: readonly SoloPhrase[]; readonly bars: readonly FormBar[] },
): EditedPlan {
  const names: PhraseId[] = [];
  for (const place of phrases.keys())
    names.push(plan?.[place]?.id ?? unusedId([...(plan ?? []), ...names.map((id) => ({ id }))], place));
  const nameAt = (place: number) => names[place] ?? placeId(place);
  const composed = phrases.map(({ start, end, kind, of }, place): PhraseWish => ({
    id: nameAt(place),
    bars: Math.min(SOLO_LIMITS.bars, bars.filter((bar) => bar.start >= start && bar.start < end).length),
    kind,
    ...(of !== undefined && { of: nameAt(of) }),
  }));
  // A plan that was wished for is shown at the length that the form has for it, and with what each phrase came to do.
  return {
    plan: composed.map(({ bars: length, kind, of, ...phrase }, k) => {
      const { of: _, ...wished }: Partial<PhraseWish> & Pick<PhraseWish, 'id'> = plan?.[k] ?? phrase;
      return { ...wished, bars: length, kind, ...(of !== undefined && { of }) };
    }),
    given,
  };
}

/** A name that no phrase of a plan has. @param place the number it begins to look from */
export function unusedId(plan: readonly Pick<PhraseWish, 'id'>[], place = plan.length): PhraseId {
  const taken = new Set(plan.map(({ id }) => id));
  let number = place;
  while (taken.has(placeId(number))) number += 1;
  return placeId(number);
}

/** The first place from which on no phrase of a plan has a name (`placeId`). */
export function unusedPlace(plan: readonly Pick<PhraseWish, 'id'>[]): number {
  return Math.max(plan.length, ...plan.map(({ id }) => Number(id.slice(1))));
}

/**
 * The wishes of a plan by their places, as a solo is composed by them; what goes back to a phrase that is gone is new.
 */
export function placedPlan(plan: readonly PhraseWish[]): readonly PlacedWish[] {
  const places = new Map(plan.map(({ id }, place) => [id, place]));
  return plan.map(({ id: _, of, ...rest }) => {
    const back = of === undefined ? undefined : places.get(of);
    return { ...rest, ...(back !== undefined && { of: back }) };
  });
}

/**
 * The place of each kept phrase in a plan; in one that nobody changed names go by place. Kept phrases without a place
 * are left out.
 */
export function placedGiven({
  plan,
  given = {},
}: Pick<SoloWishes, 'plan' | 'given'>): ReadonlyMap<number, GivenPhrase> {
  const placeOf = plan
    ? (id: PhraseId) => plan.findIndex((phrase) => phrase.id === id)
    : (id: PhraseId) => Number(id.slice(1)) - 1;
  return new Map(
    Object.entries(given)
      .map(([id, phrase]) => [placeOf(id), phrase] as const)
      .filter(([place]) => place >= 0),
  );
}

/** The plan with an edit made in it; as it was where the phrases that the edit means are not there. */
export function withPlanEdit(edited: EditedPlan, edit: PlanEdit): EditedPlan {
  const { plan, given } = edited;
  if (edit.kind === 'put') return withPut(edited, edit);
  const phrase = plan.find(({ id }) => id === edit.phrase);
  if (!phrase) return edited;
  const changed = (next: PhraseWish) => plan.map((one) => (one === phrase ? next : one));
  switch (edit.kind) {
    case 'does': {
      const { of: _, ...rest } = phrase;
      const next = { ...rest, kind: edit.does, ...(edit.of !== undefined && { of: edit.of }) };
      return { plan: changed(next), given: without(given, phrase.id) };
    }
    case 'height': {
      const { height: _, ...rest } = phrase;
      return {
        plan: changed({ ...rest, ...(edit.height !== undefined && { height: edit.height }) }),
        // Kept notes lie where they lie; those of a take are composed anew for it.
        given: given[phrase.id]?.isTake ? without(given, phrase.id) : given,
      };
    }
    case 'rhythm': {
      const { rhythm: _, ...rest } = phrase;
      return edit.rhythm
        ? { plan: changed({ ...rest, rhythm: edit.rhythm }), given: without(given, phrase.id) }
        : { plan: changed(rest), given };
    }
    case 'move':
      return { plan: withNewAsNew(movedPlan(plan, phrase, edit.before)), given };
    case 'join':
      return joined(edited, phrase, edit.next);
    case 'cut':
      return cut(edited, phrase, edit.second);
    case 'keep':
      return { plan, given: { ...given, [phrase.id]: edit.given } };
    case 'release':
      return { plan, given: without(given, phrase.id) };
    default:
      return unreachable(edit);
  }
}

function movedPlan(plan: readonly PhraseWish[], phrase: PhraseWish, before: PhraseId | undefined) {
  const others = plan.filter((one) => one !== phrase);
  const place = before === undefined ? others.length : others.findIndex(({ id }) => id === before);
  return place < 0 ? plan : [...others.slice(0, place), phrase, ...others.slice(place)];
}

function joined({ plan, given }: EditedPlan, phrase: PhraseWish, nextId: PhraseId): EditedPlan {
  const next = plan[plan.indexOf(phrase) + 1];
  if (next?.id !== nextId || phrase.bars + next.bars > SOLO_LIMITS.bars) return { plan, given };
  const line = plan
    .filter((one) => one !== next)
    .map((one) => (one === phrase ? { ...phrase, bars: phrase.bars + next.bars } : one));
  return { plan: withNewAsNew(line), given: without(given, phrase.id, nextId) };
}

function cut({ plan, given }: EditedPlan, phrase: PhraseWish, second: PhraseId): EditedPlan {
  if (phrase.bars < 2 || plan.some(({ id }) => id === second)) return { plan, given };
  const first = Math.ceil(phrase.bars / 2);
  const halves: readonly PhraseWish[] = [
    { ...phrase, bars: first },
    { id: second, bars: phrase.bars - first, kind: 'answer' },
  ];
  return { plan: plan.flatMap((one) => (one === phrase ? halves : [one])), given: without(given, phrase.id) };
}

/** What lay where a phrase is put is cut, and what is kept there goes; a phrase that is left whole keeps its name. */
function withPut(
  { plan, given }: EditedPlan,
  { from, to, id, given: phrase }: Extract<PlanEdit, { kind: 'put' }>,
): EditedPlan {
  if (plan.some((one) => one.id === id)) return { plan, given };
  const pieces: PhraseWish[] = [];
  const take = (wish: PhraseWish, bars: number, isWhole: boolean) =>
    pieces.push(
      isWhole
        ? wish
        : { id: unusedId([...plan, ...pieces, own]), bars, kind: wish.kind === 'rest' ? 'rest' : 'answer' },
    );
  const own: PhraseWish = { id, bars: to - from, kind: 'idea' };
  let end = 0;
  for (const wish of plan) {
    const start = end;
    end += wish.bars;
    if (start < from) take(wish, Math.min(end, from) - start, end <= from);
    if (start <= from && from < end) pieces.push(own);
    if (end > to) take(wish, end - Math.max(start, to), start >= to);
  }
  const isLeft = (one: PhraseId | undefined) => pieces.some((piece) => piece.id === one);
  return {
    plan: pieces.map((wish) => {
      const { of, ...rest } = wish;
      return of === undefined || isLeft(of) ? wish : { ...rest, kind: 'answer' as const };
    }),
    given: { ...Object.fromEntries(Object.entries(given).filter(([name]) => isLeft(name))), [id]: phrase },
  };
}

/** Phrases that go back to one that is not before them any more are new. */
function withNewAsNew(plan: readonly PhraseWish[]): readonly PhraseWish[] {
  return plan.map((phrase, k) => {
    const { of, ...rest } = phrase;
    return of === undefined || plan.slice(0, k).some(({ id }) => id === of)
      ? phrase
      : { ...rest, kind: 'idea' as const };
  });
}

function without(given: EditedPlan['given'], ...ids: readonly PhraseId[]): EditedPlan['given'] {
  return Object.fromEntries(Object.entries(given).filter(([id]) => !ids.includes(id)));
}
