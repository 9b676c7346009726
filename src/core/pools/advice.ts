import { profileOf } from '../instruments';
import { nameChord, nameScale } from '../harmony';
import { type Key, nameKey, namePitchClass } from '../pitch';
import type { ChordPools, LevelPools } from './poolsOf';
import type { WholeFormSet } from './wholeForm';

/** Words for pupils and teachers about sets and chords. The rules stand elsewhere; the sentences are all made here. */

/** `1–4, 7, 9–12`. */
function barRanges(bars: readonly number[]): string {
  const runs: [number, number][] = [];
  for (const bar of bars) {
    const last = runs.at(-1);
    if (last && bar <= last[1] + 1) last[1] = bar;
    else runs.push([bar, bar]);
  }
  return runs.map(([from, to]) => (from === to ? String(from) : `${from}–${to}`)).join(', ');
}

/**
 * How a set sits on the form, with where to listen: `D minor pentatonic rests on 11 of 16 bars; it rubs in 5–6, where C
 * leans on B`. Each note is told with the bars in which it rubs, and no others.
 */
export function coverageWords(set: WholeFormSet): string {
  const { scale, restsIn, rubsIn, bars } = set;
  const name = nameScale(scale);
  if (bars === 0) return name;
  if (restsIn.length === bars) return `${name} rests on every bar`;
  const rests = restsIn.length === 0 ? 'leans somewhere in every bar' : `rests on ${restsIn.length} of ${bars} bars`;
  const rubs = rubsByBars(rubsIn);
  const told = rubs.slice(0, MAX_RUBS);
  const seen = new Set(told.flatMap(({ bars: where }) => where));
  const others = [...new Set(rubs.flatMap(({ bars: where }) => where))].filter((bar) => !seen.has(bar));
  const places = [
    ...told.map(({ notes, bars: where }) => `in ${barRanges(where)}, where ${notes.join(' and ')}`),
    ...(others.length > 0 ? [`in ${barRanges(others.toSorted((a, b) => a - b))} too`] : []),
  ];
  const barWord = rubs.length === 1 && rubs[0]?.bars.length === 1 ? 'bar' : 'bars';
  return `${name} ${rests}; it rubs ${places.join('; ').replace(/^in /, `in ${barWord} `)}`;
}

/** So many rubs are told by their notes; of more only the bars. */
const MAX_RUBS = 2;

/** Which notes lean on which, with the bars in which they do, those of most bars first. */
function rubsByBars(rubsIn: WholeFormSet['rubsIn']) {
  const byNote = new Map<string, Set<number>>();
  for (const { bar, note, wayOut } of rubsIn) {
    const words = `${namePitchClass(note)} leans on ${namePitchClass(wayOut)}`;
    byNote.set(words, (byNote.get(words) ?? new Set()).add(bar));
  }
  const byBars = new Map<string, { readonly notes: string[]; readonly bars: readonly number[] }>();
  for (const [words, found] of byNote) {
    const bars = [...found].toSorted((a, b) => a - b);
    const known = byBars.get(bars.join());
    if (known) known.notes.push(words.replace('leans ', ''));
    else byBars.set(bars.join(), { notes: [words], bars });
  }
  return [...byBars.values()].toSorted((a, b) => b.bars.length - a.bars.length || (a.bars[0] ?? 0) - (b.bars[0] ?? 0));
}

/** What a player does about the notes that rub: `F over C: let it fall to E`. */
export function rubWords({ reading, pools }: ChordPools): readonly string[] {
  const { symbol } = reading.chord;
  const said = new Map<string, string>();
  for (const { notes } of pools)
    for (const { note, role, wayOut } of notes) {
      if (role !== 'rub' || !wayOut) continue;
      const name = namePitchClass(note);
      const falls = isBelow(wayOut, note);
      said.set(
        name,
        `${name} over ${nameChord(symbol)}: let it ${falls ? 'fall' : 'rise'} to ${namePitchClass(wayOut)}`,
      );
    }
  return [...said.values()];
}

function isBelow(
  to: { readonly step: string; readonly alter: number },
  from: { readonly step: string; readonly alter: number },
): boolean {
  const height = (one: typeof to) => 'C D EF G A B'.indexOf(one.step) + one.alter;
  return (height(from) - height(to) + 24) % 12 <= 6;
}

/** What to ask an accompanist or a backing for, in the key that sounds. */
export function backingWords(concert: Key, perMinute: number): string {
  return `ask for a backing in concert ${nameKey(concert)}, ${perMinute} beats a minute`;
}

/** The steps of learning a set by heart. */
export const MEMORY_STEPS = ['look', 'say the names aloud', 'finger silently', 'play'] as const;

/** A sentence or two for the head of a pupil's sheet. */
export function sheetAdvice({ level, overall, chords, kinds }: LevelPools): readonly string[] {
  const [set] = overall;
  const lines: string[] = [];
  if (kinds.includes('whole') && set) lines.push(`${coverageWords(set)}.`);
  if (kinds.includes('bent')) {
    const bends = chords.flatMap(({ pools, index }) =>
      pools.flatMap(({ bends: here }) =>
        here.map(({ from, to }) => ({ index, words: `let ${namePitchClass(from)} become ${namePitchClass(to)}` })),
      ),
    );
    const byWords = new Map<string, number[]>();
    for (const { words, index } of bends) byWords.set(words, [...(byWords.get(words) ?? []), index]);
    for (const [words, indices] of [...byWords].slice(0, 3))
      lines.push(`${indices.length === 1 ? 'Once' : `${indices.length} times`}: ${words}.`);
  }
  if (profileOf(level).pools.hasApproaches)
    lines.push('Into every chord tone: from a half step below, from the scale step above, or from both.');
  return lines;
}
