import { derived } from '../../derived';
import type { Phrase } from '../../analysis';
import { staffPosition } from '../../pitch';
import type { SoundingNote, Tune } from '../../score';
import { type SlotChoice } from './chooseNotes';
import { type Slot } from './slots';

/**
 * What every slot plays, equal phrases and equal bars alike: where the free choice differs between them (by what stands before or
 * after), the first of them decides for all. Where a phrase would lose its end by that (its model's stands in the next
 * phrase's first slot), it goes its own way. Rule (hard): equal phrases stay equal.
 * @param mustKeep indices of notes that may not be lost
 */
export function chosenAlike(
  tune: Tune,
  notes: readonly SoundingNote[],
  phrases: readonly Phrase[],
  slots: readonly Slot[],
  mustKeep: ReadonlySet<number>,
  choose: (set: ReadonlyMap<Slot, SlotChoice>) => readonly SlotChoice[],
): readonly SlotChoice[] {
  const free = choose(new Map());
  const lostBy = (choices: readonly SlotChoice[]) => {
    const struck = new Set(choices);
    return [...mustKeep].filter((index) => !struck.has(index));
  };
  const lostAnyhow = new Set(lostBy(free));
  let groups = groupsAlike(notes, phrases);
  for (;;) {
    const set = setAlike(groups, notes, slots, free);
    if (!set) return free;
    const choices = choose(set);
    const lost = lostBy(choices).filter((index) => !lostAnyhow.has(index));
    const rest = groups.filter((alike) => !alike.some(({ from, to }) => lost.some((at) => at >= from && at < to)));
    if (lost.length === 0) return choices;
    if (rest.length === groups.length) return free;
    groups = rest;
  }
}

/** Bars and phrases that have their like; phrases last, since they decide. */
const groupsAlike = derived((notes: readonly SoundingNote[], phrases: readonly Phrase[]) =>
  [...equalPhrases(notes, barRuns(notes)), ...equalPhrases(notes, phrases)].filter((alike) => alike.length > 1),
);

/** A bar of fewer notes may be what its neighbours make of it. */
const FEWEST_NOTES = 3;

/** The notes of each bar that begins with one. */
function barRuns(notes: readonly SoundingNote[]): readonly Phrase[] {
  const runs: Phrase[] = [];
  for (let from = 0; from < notes.length;) {
    let to = from + 1;
    while (notes[to]?.bar === notes[from]?.bar) to += 1;
    if (notes[from]?.inBar === 0 && to - from >= FEWEST_NOTES) runs.push({ from, to });
    from = to;
  }
  return runs;
}

/** What the first of equal phrases plays in each slot, for all of them; `undefined` where they play alike as it is. */
function setAlike(
  groups: readonly (readonly Phrase[])[],
  notes: readonly SoundingNote[],
  slots: readonly Slot[],
  free: readonly SlotChoice[],
): ReadonlyMap<Slot, SlotChoice> | undefined {
  const set = new Map<Slot, SlotChoice>();
  let differ = false;
  const relative = (choice: SlotChoice | undefined, from: number) =>
    typeof choice === 'number' ? choice - from : choice;
  for (const alike of groups) {
    const placed = alike.map(({ from, to }) => ({ from, count: to - from, slots: slotsFrom(slots, notes, from, to) }));
    const [model] = placed;
    if (!model) continue;
    for (const other of placed)
      for (let k = 0; k < Math.min(model.slots.length, other.slots.length); k += 1) {
        const [theirs, mine] = [model.slots[k] ?? 0, other.slots[k] ?? 0];
        const [wanted, here] = [relative(free[theirs], model.from), relative(free[mine], other.from)];
        const slot = slots[mine];
        // What reaches beyond the passage belongs to what comes after it.
        const reaches = typeof wanted === 'number' && (wanted < 0 || wanted >= model.count);
        if (!slot || wanted === undefined || reaches) continue;
        set.set(slot, typeof wanted === 'number' ? wanted + other.from : wanted);
        differ ||= wanted !== here;
      }
  }
  return differ ? set : undefined;
}

/**
 * Phrases of the same notes in the same rhythm at the same places of the bar; the last note may be longer in one of
 * them.
 */
function equalPhrases(notes: readonly SoundingNote[], phrases: readonly Phrase[]): readonly (readonly Phrase[])[] {
  const byWords = new Map<string, Phrase[]>();
  for (const phrase of phrases) {
    const run = notes.slice(phrase.from, phrase.to);
    const start = run[0]?.start ?? 0;
    const words = `${run[0]?.inBar ?? 0} ${run
      .map(
        ({ first, pitch, start: at, length }, k) =>
          `${staffPosition(pitch)}/${pitch.alter}:${at - start}${k < run.length - 1 ? `:${length}` : ''}${first.graces ? '`' : ''}`,
      )
      .join(' ')}`;
    const known = byWords.get(words) ?? [];
    known.push(phrase);
    byWords.set(words, known);
  }
  return [...byWords.values()];
}

/**
 * Indices of the slots in which a phrase sounds: from the one in which it begins to the one in which its last note is
 * struck.
 */
function slotsFrom(
  slots: readonly Slot[],
  notes: readonly SoundingNote[],
  from: number,
  to: number,
): readonly number[] {
  const begins = notes[from]?.start ?? 0;
  const ends = notes[to - 1]?.start ?? 0;
  let [low, high] = [0, slots.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    const slot = slots[middle];
    if (slot && slot.start + slot.length > begins) high = middle;
    else low = middle + 1;
  }
  const found: number[] = [];
  for (let index = low; index < slots.length && (slots[index]?.start ?? Infinity) <= ends; index += 1)
    found.push(index);
  return found;
}
