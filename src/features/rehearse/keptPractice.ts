import { z } from 'zod';
import type { LadderPlace, LadderPlan } from '../../core/rehearsal';

const tempo = z.number().int().min(1).max(999);
const keptSchema = z.object({
  plan: z.object({ start: tempo, step: tempo, goal: tempo, rounds: z.number().int().min(1).max(9) }),
  place: z.object({
    perMinute: tempo,
    good: z.number().int().min(0).max(99),
    again: z.number().int().min(0).max(99),
    isDone: z.boolean(),
  }),
  practised: z.enum(['whole', 'form', 'chunk', 'forward', 'backward']),
  picked: z.number().int().min(0).max(999),
  round: z.number().int().min(0).max(9_999),
});

/** Where somebody stopped practising a part, kept in their own browser. */
export interface KeptPractice {
  readonly plan: LadderPlan;
  readonly place: LadderPlace;
  readonly practised: z.infer<typeof keptSchema>['practised'];
  readonly picked: number;
  readonly round: number;
}

const nameOf = (part: string) => `reed-practice/${part}`;

/** What was kept of a part; none where nothing was, or it cannot be read any more. */
export function keptPractice(part: string): KeptPractice | undefined {
  try {
    const text = localStorage.getItem(nameOf(part));
    return text === null ? undefined : keptSchema.safeParse(JSON.parse(text)).data;
  } catch {
    // A browser that keeps nothing (a private window) or a damaged note: practising begins anew.
    return undefined;
  }
}

export function keepPractice(part: string, practice: KeptPractice): void {
  try {
    localStorage.setItem(nameOf(part), JSON.stringify(practice));
  } catch {
    // Full, or forbidden: it is only forgotten when the page is closed.
  }
}
