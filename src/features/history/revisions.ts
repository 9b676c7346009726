import { z } from 'zod';
import { versionedWorkSchema } from '../work/tuneRemote';
import { nothing, send } from '../work/send';
import { LEVELS, profileOf } from '../../core/instruments';
import type { Work } from '../../core/work';
import { nameKey } from '../../core/pitch';
import { barNumbers, type Difference, differences, type Tune } from '../../core/score';
import { printMeter } from '../../core/time';
import { dequal } from 'dequal';

const revisionSchema = z.object({
  revision: z.int(),
  version: z.int(),
  kind: z.enum(['saved', 'refused']),
  name: z.string(),
  what: z.string(),
  savedAt: z.string(),
});
const listSchema = z.object({ revisions: z.array(revisionSchema) });
const workSchema = z.object({ work: versionedWorkSchema.shape.work });

/** A version of a tune in the list. */
export type Revision = Readonly<z.infer<typeof revisionSchema>>;

export function listRevisions(id: string) {
  return send(`/api/tunes/${id}/history`, listSchema, { method: 'GET' });
}

export function openRevision(id: string, revision: number) {
  return send(`/api/tunes/${id}/history/${revision}`, workSchema, { method: 'GET' });
}

export function nameRevision(id: string, revision: number, name: string) {
  return send(`/api/tunes/${id}/history/${revision}`, nothing, { method: 'PUT', json: { name } });
}

const pictureSchema = z.object({ svg: z.string() });

/** The picture of some bars as a version had them; indices from 0, `to` after the last one. @param width CSS pixels */
export function barsPicture(
  id: string,
  revision: number,
  { from, to }: { readonly from: number; readonly to: number },
  width: number,
) {
  return send(`/api/tunes/${id}/history/${revision}/bars?from=${from}&to=${to}&width=${width}`, pictureSchema, {
    method: 'GET',
  });
}

/** The language of the screens, with the clock of 24 hours that rehearsal plans are written in. */
const LOCALE = 'en-GB';

export function timeText(iso: string): string {
  return new Intl.DateTimeFormat(LOCALE, { hour: '2-digit', minute: '2-digit' }).format(new Date(iso));
}

export function momentText(iso: string): string {
  return new Intl.DateTimeFormat(LOCALE, { dateStyle: 'long', timeStyle: 'short' }).format(new Date(iso));
}

/** Versions by the day on which they were saved, newest first. */
export function byDay(
  revisions: readonly Revision[],
): readonly { readonly day: string; readonly revisions: readonly Revision[] }[] {
  const words = new Intl.DateTimeFormat(LOCALE, { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' });
  const days: { day: string; revisions: Revision[] }[] = [];
  for (const revision of revisions) {
    const day = words.format(new Date(revision.savedAt));
    const last = days.at(-1);
    if (last?.day === day) last.revisions.push(revision);
    else days.push({ day, revisions: [revision] });
  }
  return days;
}

/** What a version was, in a line. */
export function revisionText({ kind, what, version }: Revision): string {
  const words = what || (version === 1 ? 'begun' : 'saved');
  return kind === 'refused' ? `not taken, since somebody else had saved: ${words}` : words;
}

/** How two versions differ: what stands at the head and in the levels in words, the bars by their places. */
export interface Comparison {
  readonly words: readonly string[];
  readonly bars: readonly (Difference & { readonly text: string })[];
}

export function compare(before: Work, after: Work): Comparison {
  const [a, b] = [headOf(before.tune), headOf(after.tune)];
  const words = Object.keys(a).flatMap((field) => {
    const [was, is] = [a[field] ?? '', b[field] ?? ''];
    return was === is ? [] : [`${field}: ${was || 'none'} → ${is || 'none'}`];
  });
  const levels = LEVELS.filter((level) => !dequal(before.recipes[level], after.recipes[level]));
  const numbers = { before: barNumbers(before.tune), after: barNumbers(after.tune) };
  return {
    words: [
      ...words,
      ...levels.map((level) => {
        const [was, is] = [before.recipes[level], after.recipes[level]];
        return `${profileOf(level).name.toLowerCase()} level: ${was && is ? 'another recipe' : is ? 'set' : 'no longer set'}`;
      }),
    ],
    bars: differences(before.tune, after.tune).map((one) => ({ ...one, text: placeText(one, numbers) })),
  };
}

function headOf(tune: Tune): Readonly<Record<string, string>> {
  return {
    title: tune.title,
    composer: tune.composer ?? '',
    source: tune.source ?? '',
    rights: tune.rights,
    key: nameKey(tune.key),
    meter: printMeter(tune.meter),
    tempo: String(tune.tempo.perMinute),
    swing: tune.swing ? `${tune.swing.unit} ${tune.swing.ratio}` : '',
  };
}

function placeText(
  { before, after }: Difference,
  numbers: { readonly before: readonly number[]; readonly after: readonly number[] },
): string {
  const span = (list: readonly number[], { from, to }: Difference['before']) => {
    const [first, last] = [list[from] ?? from + 1, list[to - 1] ?? to];
    return first === last ? `bar ${first}` : `bars ${first} to ${last}`;
  };
  if (before.from === before.to) return `${span(numbers.after, after)} put in`;
  if (after.from === after.to) return `${span(numbers.before, before)} taken out`;
  return `${span(numbers.before, before)} changed`;
}
