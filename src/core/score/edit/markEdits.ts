import { cutText, plainText } from '../../plainText';
import { alterInKey, naturalAt, staffPosition } from '../../pitch';
import {
  isNote,
  keysOf,
  mapNotes,
  type Articulation,
  type Bar,
  type Dynamic,
  type EventId,
  type Hairpin,
  type Lyric,
  type Note,
  type Ornament,
  type PhraseMark,
  type ScoreEvent,
  type Tune,
} from '../tune';
import { edited, refused, type EditResult } from './edited';
import { tieChain, type Caret } from './place';

/** A mark that notes may carry. */
export type NoteMark =
  | { readonly kind: 'articulation'; readonly value: Articulation }
  | { readonly kind: 'ornament'; readonly value: Ornament }
  | { readonly kind: 'dynamic'; readonly value: Dynamic }
  | { readonly kind: 'fermata' }
  | { readonly kind: 'grace' };

const NO_NOTE = 'There is no note here to carry it.';

/** Puts a mark on all of the notes; where all have it already, it is taken off. */
export function toggleMark(tune: Tune, ids: readonly EventId[], mark: NoteMark, caret: Caret): EditResult {
  const wanted = new Set(ids);
  const notes = tune.bars.flatMap(({ events }) =>
    events.filter((event): event is Note => isNote(event) && wanted.has(event.id)),
  );
  if (notes.length === 0) return refused('nothing-here', NO_NOTE);
  const off = notes.every((note) => has(note, mark));
  const keys = keysOf(tune);
  const bars = mapNotes(tune.bars, (note, bar) => {
    if (!wanted.has(note.id) || has(note, mark) !== off) return note;
    return off ? without(note, mark) : withMark(note, mark, (step) => alterInKey(step, keys[bar] ?? tune.key));
  });
  const name = 'value' in mark ? mark.value.replaceAll('-', ' ') : mark.kind === 'grace' ? 'grace note' : mark.kind;
  return edited(tune, bars, caret, off ? `No ${name}` : name[0]?.toUpperCase() + name.slice(1));
}

function has(note: Note, mark: NoteMark): boolean {
  switch (mark.kind) {
    case 'articulation':
      return note.articulations?.includes(mark.value) === true;
    case 'ornament':
      return note.ornaments?.includes(mark.value) === true;
    case 'dynamic':
      return note.dynamic === mark.value;
    case 'fermata':
      return note.fermata === true;
    case 'grace':
      return note.graces !== undefined;
  }
}

function withMark(note: Note, mark: NoteMark, alterOf: (step: Note['pitch']['step']) => number): Note {
  switch (mark.kind) {
    case 'articulation':
      return { ...note, articulations: [...(note.articulations ?? []), mark.value] };
    case 'ornament':
      return { ...note, ornaments: [...(note.ornaments ?? []), mark.value] };
    case 'dynamic':
      return { ...note, dynamic: mark.value };
    case 'fermata':
      return { ...note, fermata: true };
    case 'grace': {
      // A step above, the usual first grace; it can be moved in the text.
      const above = naturalAt(staffPosition(note.pitch) + 1);
      return { ...note, graces: [{ pitch: { ...above, alter: alterOf(above.step) }, slashed: true }] };
    }
  }
}

function without(note: Note, mark: NoteMark): Note {
  const { articulations, ornaments, dynamic, fermata, graces, ...plain } = note;
  const fewer = {
    articulations: mark.kind === 'articulation' ? articulations?.filter((one) => one !== mark.value) : articulations,
    ornaments: mark.kind === 'ornament' ? ornaments?.filter((one) => one !== mark.value) : ornaments,
  };
  return {
    ...plain,
    ...(fewer.articulations && fewer.articulations.length > 0 && { articulations: fewer.articulations }),
    ...(fewer.ornaments && fewer.ornaments.length > 0 && { ornaments: fewer.ornaments }),
    ...(dynamic && mark.kind !== 'dynamic' && { dynamic }),
    ...(fermata && mark.kind !== 'fermata' && { fermata }),
    ...(graces && mark.kind !== 'grace' && { graces }),
  };
}

/** A slur from the first to the last of the notes; taken off where it is there already. */
export function toggleSlur(tune: Tune, ids: readonly EventId[], caret: Caret): EditResult {
  const ends = outerNotes(tune, ids);
  if (!ends) return refused('too-short', 'A slur needs two notes: select them first (Shift with the arrow keys).');
  const [first, last] = ends;
  const isThere = (first.slurStarts ?? 0) > 0 && (last.slurEnds ?? 0) > 0;
  const bars = mapNotes(tune.bars, (note) => {
    const starts = (note.slurStarts ?? 0) + (note.id === first.id ? (isThere ? -1 : 1) : 0);
    const stops = (note.slurEnds ?? 0) + (note.id === last.id ? (isThere ? -1 : 1) : 0);
    if (starts === (note.slurStarts ?? 0) && stops === (note.slurEnds ?? 0)) return note;
    const { slurStarts: _s, slurEnds: _e, ...plain } = note;
    return { ...plain, ...(starts > 0 && { slurStarts: starts }), ...(stops > 0 && { slurEnds: stops }) };
  });
  return edited(tune, bars, caret, isThere ? 'No slur' : 'Slur');
}

/** A hairpin under the notes; the same one again takes it off. */
export function toggleHairpin(tune: Tune, ids: readonly EventId[], kind: Hairpin, caret: Caret): EditResult {
  const ends = outerNotes(tune, ids);
  if (!ends) return refused('too-short', 'A hairpin needs two notes: select them first (Shift with the arrow keys).');
  const [first, last] = ends;
  const isThere = first.hairpin === kind && last.hairpinEnds === true;
  const bars = mapNotes(tune.bars, (note) => {
    if (note.id !== first.id && note.id !== last.id) return note;
    const { hairpin, hairpinEnds, ...plain } = note;
    const begins = note.id === first.id ? (isThere ? undefined : kind) : hairpin;
    const stops = note.id === last.id ? !isThere : hairpinEnds;
    return { ...plain, ...(begins && { hairpin: begins }), ...(stops && { hairpinEnds: true as const }) };
  });
  return edited(tune, bars, caret, isThere ? `No ${kind}` : kind === 'crescendo' ? 'Crescendo' : 'Diminuendo');
}

function outerNotes(tune: Tune, ids: readonly EventId[]): readonly [Note, Note] | undefined {
  const wanted = new Set(ids);
  const notes = tune.bars.flatMap(({ events }) =>
    events.filter((event): event is Note => isNote(event) && wanted.has(event.id)),
  );
  const [first, last] = [notes[0], notes.at(-1)];
  return first && last && first !== last ? [first, last] : undefined;
}

/** Brackets a passage that may be left out, or takes the bracket away where all of it is bracketed. */
export function toggleOptional(tune: Tune, ids: readonly EventId[], caret: Caret): EditResult {
  const wanted = new Set(ids.flatMap((id) => [id, ...tieChain(tune.bars, id).map((note) => note.id)]));
  const found = tune.bars.flatMap(({ events }) => events.filter(({ id }) => wanted.has(id)));
  if (found.length === 0) return refused('nothing-here', 'Select the passage that may be left out first.');
  const off = found.every(({ optional }) => optional);
  const bars = mapEvents(tune.bars, (event) => {
    if (!wanted.has(event.id) || (event.optional === true) !== off) return event;
    const { optional: _, ...plain } = event;
    return off ? plain : { ...plain, optional: true };
  });
  return edited(tune, bars, caret, off ? 'No bracket' : 'Bracket: may be left out');
}

function mapEvents(bars: readonly Bar[], change: (event: ScoreEvent) => ScoreEvent): readonly Bar[] {
  return bars.map((bar) => {
    const events = bar.events.map(change);
    return events.every((event, k) => event === bar.events[k]) ? bar : { ...bar, events };
  });
}

/** The teacher's word on whether a phrase begins with a note; `undefined` leaves it to the analysis again. */
export function setPhraseMark(tune: Tune, id: EventId, mark: PhraseMark | undefined, caret: Caret): EditResult {
  let isThere = false;
  const bars = mapNotes(tune.bars, (note) => {
    if (note.id !== id) return note;
    isThere = true;
    const { phrase: _, ...plain } = note;
    return mark ? { ...plain, phrase: mark } : plain;
  });
  if (!isThere) return refused('nothing-here', 'A phrase begins with a note; put the caret on one.');
  return edited(
    tune,
    bars,
    caret,
    mark === 'begins' ? 'Phrase begins here' : mark === 'goes-on' ? 'Phrase goes on here' : 'Phrase as found',
  );
}

/**
 * The syllable of a note, as typed: a hyphen at its end goes on with the next note's, an underscore holds it. An empty
 * text takes it away.
 */
export function setLyric(tune: Tune, id: EventId, verse: number, typed: string, caret: Caret): EditResult {
  const match = /^\s*(.*?)\s*(-|_)?\s*$/.exec(cutText(plainText(typed), 80));
  const text = match?.[1] ?? '';
  let isThere = false;
  const bars = mapNotes(tune.bars, (note) => {
    if (note.id !== id) return note;
    isThere = true;
    const { lyrics, ...plain } = note;
    const others = (lyrics ?? []).filter((lyric) => lyric.verse !== verse);
    const own: Lyric[] = text
      ? [
          {
            verse,
            text,
            ...(match?.[2] === '-' && { hyphen: true as const }),
            ...(match?.[2] === '_' && { extend: true as const }),
          },
        ]
      : [];
    const all = [...others, ...own].toSorted((a, b) => a.verse - b.verse);
    return all.length > 0 ? { ...plain, lyrics: all } : plain;
  });
  if (!isThere) return refused('nothing-here', 'Words go under notes; put the caret on one.');
  return edited(tune, bars, caret, text ? `Word ${text}` : 'No word');
}
