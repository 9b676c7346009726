import type { Pitch } from '../pitch';
import type { Ticks } from '../time';
import type { PhraseKind } from './soloNote';
import type { SoloDevice } from './soloNote';

/** How much a solo does of something: nothing, little, as its level goes, much. */
export const AMOUNTS = [0, 1, 2, 3] as const;
export type Amount = (typeof AMOUNTS)[number];
export const USUAL: Amount = 2;

/**
 * What a solo may do more or less of: rests inside its phrases; notes an eighth before their chord; notes off the beat;
 * triplets; triplets grouped in fours; sixteenths; half steps into chord tones.
 */
export const SOLO_TOOLS = ['space', 'early', 'off-beat', 'triplets', 'fours', 'double-time', 'ways-in'] as const;
export type SoloTool = (typeof SOLO_TOOLS)[number];

/**
 * Names a phrase for as long as it is there, wherever it is taken. Of a plan that nobody changed they go by place:
 * `p1`, `p2` … (`placeId`).
 */
export type PhraseId = string;

/** The name of a phrase of a plan that nobody changed. @param place from 0 */
export function placeId(place: number): PhraseId {
  return `p${place + 1}`;
}

/** A phrase of a plan that a teacher made. */
export interface PhraseWish {
  readonly id: PhraseId;
  /** Bars, 1 to 8. */
  readonly bars: number;
  readonly kind: PhraseKind;
  /** The phrase that it goes back to; none for what is new. */
  readonly of?: PhraseId;
  /** How high it lies, 0 to 1; on the curve of the chorus by default. */
  readonly height?: number;
  /** A rhythm that is borrowed: lengths that come round, negative ones as rests; and from where. */
  readonly rhythm?: { readonly lengths: readonly Ticks[]; readonly from: string };
}

/** A note of a phrase that is kept as it is. */
export interface GivenNote {
  /** From the start of its phrase; an early note stands before it. */
  readonly at: Ticks;
  readonly length: Ticks;
  /** Concert, in the tune's own key. */
  readonly pitch: Pitch;
  readonly device?: SoloDevice;
  readonly isTriplet?: true;
  readonly isEarly?: true;
}

/** A phrase that is kept: locked, picked from another take, or written by the teacher. */
export interface GivenPhrase {
  readonly notes: readonly GivenNote[];
  /** Somebody changed its notes: it is never composed anew without asking. */
  readonly isOwn?: true;
  /** The lick that it is. */
  readonly lick?: string;
  /** Kept with the whole take: other takes do not have it. */
  readonly isTake?: true;
}

/** A degree of the sounding chord on which the first note of a bar lands. */
export const TARGET_DEGREES = [1, 3, 5, 7, 9] as const;
export interface SoloTarget {
  /** Bar of the solo, from 1. */
  readonly bar: number;
  readonly degree: (typeof TARGET_DEGREES)[number];
}

/** What was decided about a level's example solo. Absent means as its level goes. */
export interface SoloWishes {
  /** Which of the solos that can be composed, from 1; it stands in the level's form. */
  readonly seed?: number;
  readonly plan?: readonly PhraseWish[];
  readonly given?: Readonly<Record<PhraseId, GivenPhrase>>;
  readonly tools?: Readonly<Partial<Record<SoloTool, Amount>>>;
  readonly targets?: readonly SoloTarget[];
  /** The plan is the kept take's and nobody's wish: other takes have their own. */
  readonly isPlanOfTake?: true;
}

/** The wishes that hold for a take: of the kept one all, of others what is not that one's own. */
export function wishesForTake(wishes: SoloWishes, seed: number): SoloWishes {
  if (wishes.seed === seed || wishes.seed === undefined) return wishes;
  return withoutTake(wishes);
}

/** The wishes without what was kept with a whole take. */
export function withoutTake({ plan, given, isPlanOfTake, ...rest }: SoloWishes): SoloWishes {
  const own = Object.entries(given ?? {}).filter(([, phrase]) => !phrase.isTake);
  return {
    ...rest,
    ...(plan && !isPlanOfTake && { plan }),
    ...(own.length > 0 && { given: Object.fromEntries(own) }),
  };
}

/** How much more often a tool is taken than its level does by itself. */
const TIMES: Readonly<Record<Amount, number>> = { 0: 0, 1: 0.4, 2: 1, 3: 2.4 };

export function timesOf(tools: SoloWishes['tools'], tool: SoloTool): number {
  return TIMES[tools?.[tool] ?? USUAL];
}

/** More phrases, notes of a kept phrase and targets than a solo has. */
export const SOLO_LIMITS = { phrases: 256, bars: 8, notes: 256, targets: 64, rhythm: 64 } as const;
