import { type Instrument, type Level, profileOf } from '../../instruments';
import { alterInKey, type Key, namePitchClass, type Pitch, stepIndex } from '../../pitch';
import {
  type Articulation,
  type Bar,
  barSpans,
  type EventId,
  type Lyric,
  mapNotes,
  type PlacedCount,
  type SoundingNote,
  soundingNotes,
} from '../../score';
import { beatsOf, type Meter } from '../../time';
import { bowStrokes } from './bowing';
import type { BreathContext, Breaths } from './breaths';
import { syllablesOf } from './syllables';
import { type Aid, AIDS, type AidWishes, type BarAids, type Fade, LINE_AIDS, type SyllableSchool } from '../../work';

/** Families that breathe through what they play. */
const BLOWN: ReadonlySet<Instrument['family']> = new Set(['woodwind', 'brass', 'voice', 'free-reed']);

/** Aids that mean something on an instrument. */
export function aidsFor({ family }: Pick<Instrument, 'family'>): readonly Aid[] {
  return AIDS.filter((aid) => (aid === 'breaths' ? BLOWN.has(family) : aid === 'bowing' ? family === 'strings' : true));
}

/**
 * What a level prints when nobody says otherwise: held notes counted for beginners, breaths, and bows as long as they
 * are new. Rule: breath marks are music and do not fade.
 */
export function usualAids(instrument: Pick<Instrument, 'family'>, level: Level): AidWishes {
  const { counts, bows } = profileOf(level).aids;
  return {
    ...(counts && { counts: 'stays' as const }),
    ...(BLOWN.has(instrument.family) && { breaths: 'stays' as const }),
    ...(bows && instrument.family === 'strings' && { bowing: 'stays' as const }),
  };
}

export interface AidContext extends BreathContext {
  readonly key: Key;
  /** Where the player breathes; none for one who does not, or where nobody asked. */
  readonly breaths?: Breaths | undefined;
  readonly syllables: SyllableSchool;
  /** Bars with aids of their own; none by default. */
  readonly barAids?: BarAids;
}

/**
 * Written bars with the aids on them: a line of text under the notes as a further verse, breaths and bows as signs. A
 * bar whose aids were chosen by hand has those, unfaded, and no others.
 */
export function withAids(bars: readonly Bar[], wishes: AidWishes, context: AidContext): readonly Bar[] {
  const meant = new Set(aidsFor(context.instrument));
  const notes = soundingNotes({ bars, meter: context.meter });
  if (notes.length === 0) return bars;
  const hands = new Set(Object.values(context.barAids ?? {}).flat());
  const isIn = (aid: Aid) => meant.has(aid) && (wishes[aid] !== undefined || hands.has(aid));
  const ownOf = (bar: number) => context.barAids?.[bars[bar]?.id ?? ''];
  const barOf = new Map(notes.map(({ first, bar }) => [first.id, bar]));
  /** As the part has it where a bar says nothing; where one does, all of it or nothing. */
  const placed = <Value extends string>(aid: Aid, all: ReadonlyMap<EventId, Value>, fade: Fade | undefined) => {
    const usual = fade ? faded(all, fade, notes, bars.length) : new Map<EventId, Value>();
    return new Map([...all].filter(([id]) => ownOf(barOf.get(id) ?? -1)?.includes(aid) ?? usual.has(id)));
  };
  // One line of text stands under the notes of the part, and of a bar.
  const below = LINE_AIDS.find((aid) => wishes[aid]);
  const line = new Map<EventId, string>();
  for (const aid of LINE_AIDS)
    if (isIn(aid)) {
      const texts = placed(aid, textsOf(aid, notes, bars, context), aid === below ? wishes[aid] : undefined);
      for (const [id, text] of texts) if (!line.has(id)) line.set(id, text);
    }
  const counts = isIn('counts')
    ? countsIn(notes, bars, context.meter, (texts) =>
        placed('counts', texts, below === 'syllables' ? undefined : wishes.counts),
      )
    : NO_COUNTS;
  const signs = new Map<EventId, Articulation>();
  const add = (aid: 'breaths' | 'bowing', wanted: ReadonlyMap<EventId, Articulation>) => {
    const fade = wishes[aid] === 'first-time' ? 'stays' : wishes[aid];
    for (const [id, sign] of placed(aid, wanted, fade)) signs.set(id, sign);
  };
  if (isIn('breaths'))
    add('breaths', new Map([...(context.breaths?.after ?? [])].map((id) => [id, 'breath' as const])));
  const slurStarts = new Set<EventId>();
  const slurEnds = new Set<EventId>();
  if (isIn('bowing')) {
    // Where the line is slurred as its style has it, the bow follows; else two single notes may go under one.
    const mayJoin =
      profileOf(context.level).phrasing === 'first' || !notes.some(({ first }) => first.slurStarts !== undefined);
    const { marks, slurs } = bowStrokes(notes, bars, context.meter, mayJoin);
    add('bowing', marks);
    // Slurs are music, not an aid: they do not fade, and no bar is without them. Where bows are printed in some bars
    // alone, they are in those.
    const isBowed = (id: EventId) => wishes.bowing !== undefined || ownOf(barOf.get(id) ?? -1)?.includes('bowing');
    for (const [from, to] of slurs) {
      if (!isBowed(from) || !isBowed(to)) continue;
      slurStarts.add(from);
      slurEnds.add(to);
    }
  }
  if (line.size === 0 && counts.size === 0 && signs.size === 0 && slurStarts.size === 0) return bars;
  const verse = 1 + Math.max(0, ...notes.flatMap(({ first }) => (first.lyrics ?? []).map((lyric) => lyric.verse)));
  const counted =
    counts.size === 0
      ? bars
      : bars.map((bar, index): Bar => {
          const here = counts.get(index);
          return here ? { ...bar, counts: here } : bar;
        });
  return mapNotes(counted, (note) => {
    const text = line.get(note.id) ?? '';
    const sign = signs.get(note.id);
    const isNew = sign !== undefined && !(note.articulations ?? []).includes(sign);
    const [starts, ends] = [slurStarts.has(note.id), slurEnds.has(note.id)];
    if (text === '' && !isNew && !starts && !ends) return note;
    const lyric: Lyric = { verse, text };
    return {
      ...note,
      ...(starts && { slurStarts: 1 }),
      ...(ends && { slurEnds: 1 }),
      ...(text !== '' && { lyrics: [...(note.lyrics ?? []), lyric] }),
      ...(isNew && { articulations: [...(note.articulations ?? []), sign] }),
    };
  });
}

/**
 * Takes away what a fade leaves out. A text is for the first time where neither it nor its pitch came in the eight bars
 * before.
 */
function faded<Value extends string>(
  all: ReadonlyMap<EventId, Value>,
  fade: Fade,
  notes: readonly SoundingNote[],
  bars: number,
): ReadonlyMap<EventId, Value> {
  if (fade === 'stays') return all;
  const lastBar = new Map<string, number>();
  return new Map(
    notes.flatMap(({ first, bar }): readonly (readonly [EventId, Value])[] => {
      const value = all.get(first.id);
      if (value === undefined) return [];
      if (fade === 'first-half') return bar < bars / 2 ? [[first.id, value]] : [];
      const last = lastBar.get(value);
      lastBar.set(value, bar);
      return last === undefined || bar - last > REMEMBERED_BARS ? [[first.id, value]] : [];
    }),
  );
}

/** After so many bars a name is said again. Ours. */
const REMEMBERED_BARS = 8;

function textsOf(
  aid: (typeof LINE_AIDS)[number],
  notes: readonly SoundingNote[],
  bars: readonly Bar[],
  { key, meter, syllables }: AidContext,
): ReadonlyMap<EventId, string> {
  if (aid === 'syllables') return syllablesOf(syllables, notes, { bars, meter });
  return new Map(
    notes.map(({ first, pitch }) => [first.id, aid === 'names' ? namePitchClass(pitch) : degreeOf(pitch, key)]),
  );
}

/** The degree of the written key: 1 to 7, with a sign where the note is not the key's own. */
function degreeOf(pitch: Pick<Pitch, 'step' | 'alter'>, key: Key): string {
  const degree = ((stepIndex(pitch.step) - stepIndex(key.tonic.step) + 7) % 7) + 1;
  const bent = pitch.alter - alterInKey(pitch.step, key);
  return `${bent > 0 ? '♯'.repeat(bent) : '♭'.repeat(-bent)}${degree}`;
}

const NO_COUNTS: ReadonlyMap<number, readonly PlacedCount[]> = new Map();

/**
 * The beats that go by while a note is held, each at its own place: 2, 3 and 4 under a whole note in 4/4. Counted in
 * the meter's own beats, over barlines anew; by the index of their bar.
 */
function countsIn(
  notes: readonly SoundingNote[],
  bars: readonly Bar[],
  meter: Meter,
  placed: (texts: ReadonlyMap<EventId, string>) => ReadonlyMap<EventId, string>,
): ReadonlyMap<number, readonly PlacedCount[]> {
  const spans = barSpans({ bars, meter });
  const beats = spans.map((span) =>
    beatsOf(span.meter)
      .map(({ start }, index) => ({ at: span.start - span.offset + start, number: index + 1 }))
      .filter(({ at }) => at >= span.start && at < span.start + span.length),
  );
  const passing = new Map(
    notes.map(({ first, start, length, bar }) => {
      const found: { readonly bar: number; readonly at: number; readonly number: number }[] = [];
      for (let index = bar; index < spans.length && (spans[index]?.start ?? Infinity) < start + length; index += 1)
        for (const { at, number } of beats[index] ?? [])
          if (at > start && at < start + length)
            found.push({ bar: index, at: at - (spans[index]?.start ?? 0), number });
      return [first.id, found] as const;
    }),
  );
  const texts = new Map(
    [...passing].flatMap(([id, found]) =>
      found.length > 0 ? [[id, found.map(({ number }) => number).join(' ')] as const] : [],
    ),
  );
  const counts = new Map<number, PlacedCount[]>();
  for (const id of placed(texts).keys())
    for (const { bar, at, number } of passing.get(id) ?? [])
      counts.set(bar, [...(counts.get(bar) ?? []), { at, text: String(number) }]);
  return counts;
}
