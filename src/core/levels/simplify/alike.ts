import { type Phrase } from '../../analysis/phrases';
import { staffPosition } from '../../pitch/pitch';
import { type SoundingNote } from '../../score/sounding';
import { type Tune } from '../../score/tune';
import { type SlotChoice } from './chooseNotes';
import { type Slot } from './slots';

/**
 * What every slot plays, equal phrases alike: where the free choice differs between them (by what stands before or after), the first of them
 * decides for all.
 * Rule (hard): equal phrases stay equal.
 */
export function chosenAlike(
  tune: Tune,
  notes: readonly SoundingNote[],
  phrases: readonly Phrase[],
  slots: readonly Slot[],
  choose: (set: ReadonlyMap<Slot, SlotChoice>) => readonly SlotChoice[],
): readonly SlotChoice[] {
  const free = choose(new Map());
  const set = new Map<Slot, SlotChoice>();
  let differ = false;
  for (const alike of equalPhrases(notes, phrases)) {
    const [model, ...others] = alike.map(({ from, to }) => ({ from, slots: slotsFrom(slots, notes, from, to) }));
    if (!model || others.length === 0) continue;
    const relative = (choice: SlotChoice | undefined, from: number) =>
      typeof choice === 'number' ? choice - from : choice;
    for (const other of [model, ...others])
      for (let k = 0; k < Math.min(model.slots.length, other.slots.length); k += 1) {
        const [theirs, mine] = [model.slots[k] ?? 0, other.slots[k] ?? 0];
        const [wanted, here] = [relative(free[theirs], model.from), relative(free[mine], other.from)];
        const slot = slots[mine];
        if (!slot || wanted === undefined) continue;
        set.set(slot, typeof wanted === 'number' ? wanted + other.from : wanted);
        differ ||= wanted !== here;
      }
  }
  return differ ? choose(set) : free;
}

/** Phrases of the same notes in the same rhythm at the same places of the bar; the last note may be longer in one of them. */
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

/** Indices of the slots in which a phrase sounds: from the one in which it begins to the one in which its last note is struck. */
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
