import type { Phrase } from '../analysis';
import { pageRequest, type Part, partOfLine } from '../levels';
import { barNumbers, type TogetherNotes, type Tune } from '../score';
import type { Ensemble, EnsembleVoice } from './arranged';
import { hasForm, performed } from './form';
import { sectionAt } from './ground';
import { notesIn } from './line';
import { type BarReason, barReason } from './words';

/** With what is printed to help the player, or without it, as in a score. */
type PageKind = 'helped' | 'bare';

/** A player's part as it is read, once through, with what is printed to help, and what it is bar by bar. */
export function partOfVoice(
  ensemble: Ensemble,
  index: number,
  page: PageKind = 'helped',
): { readonly part: Part; readonly reasons: readonly BarReason[] } {
  const voice = ensemble.voices[index];
  if (!voice) throw new RangeError(`no player ${index}`);
  const part = playersPart(ensemble, voice, voice.tune, voice.phrases, page);
  return { part, reasons: reasonsOf(ensemble, index, part) };
}

/** A player's part through the form in which it is played; `source` says which bar of the tune each bar stands for. */
export function performedPart(
  ensemble: Ensemble,
  index: number,
  notes: TogetherNotes,
  page: PageKind = 'helped',
): { readonly part: Part; readonly source: readonly (number | undefined)[] } {
  const voice = ensemble.voices[index];
  if (!voice) throw new RangeError(`no player ${index}`);
  const { tune, words, source } = performed(ensemble, voice, notes);
  const part = playersPart(ensemble, voice, tune, hasForm(notes) ? undefined : voice.phrases, page);
  const all = new Map([...(part.words ?? []), ...words]);
  return { part: all.size > 0 ? { ...part, words: all } : part, source };
}

function playersPart(
  { perMinute }: Ensemble,
  { player }: EnsembleVoice,
  tune: Tune,
  phrases: readonly Phrase[] | undefined,
  kind: PageKind,
): Part {
  const { instrument, level, recipe, name } = player;
  const page = kind === 'bare' ? {} : pageRequest(recipe?.page ?? {}, instrument, level);
  const part = partOfLine(tune, { level, instrument, keyAndTempo: { perMinute }, page }, phrases);
  return { ...part, ...(name && { playerName: name }) };
}

function reasonsOf({ ground, sections, voices, measures }: Ensemble, index: number, part: Part): readonly BarReason[] {
  const voice = voices[index];
  if (!voice) return [];
  const numbers = barNumbers(ground.tune);
  const tune = sections.flatMap(({ from, to }, k) => {
    const leader = voices.find(({ cells }) => cells[k] === 'tune');
    const [begin, end] = [ground.spans[from]?.start ?? 0, ground.spans[to]?.start ?? ground.end];
    return notesIn(leader?.line ?? [], begin, end);
  });
  const told = { ground, line: voice.line, tune, written: part.written };
  const bars = ground.tune.bars.map((_, barIndex) =>
    barReason(told, barIndex, numbers[barIndex] ?? 0, voice.cells[sectionAt(sections, barIndex)] ?? 'out'),
  );
  const parallels = measures.parallels.flatMap(({ parts: [a, b], slot, interval }): readonly BarReason[] => {
    if (a !== index && b !== index) return [];
    const barIndex = ground.slots[slot]?.bar ?? 0;
    const other = voices[a === index ? b : a];
    const what = `parallel ${interval} with ${nameOfVoice(other)}`;
    return [{ bar: numbers[barIndex] ?? 0, barIndex, what, why: 'nothing else was in reach' }];
  });
  const crossings = measures.crossings.flatMap(({ part: at, bar, kind }): readonly BarReason[] =>
    at === index
      ? [
          {
            bar: numbers[bar] ?? 0,
            barIndex: bar,
            what: `lies ${kind} here`,
            why: 'an octave lower is beyond the level',
          },
        ]
      : [],
  );
  return [...bars, ...parallels, ...crossings].toSorted((a, b) => a.barIndex - b.barIndex);
}

function nameOfVoice(voice: EnsembleVoice | undefined): string {
  return voice ? (voice.player.name ?? voice.player.instrument.name) : 'another part';
}
