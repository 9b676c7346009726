import { derived } from '../../derived';
import { pitchClassOf, semitones } from '../../pitch';
import { beatNumberAt, beatsOf } from '../../time';
import type { Phrase } from '../../analysis';
import { type Instrument, type Level, profileOf } from '../../instruments';
import {
  type Articulation,
  barNumbers,
  barSpans,
  type EventId,
  isNote,
  mapNotes,
  type Note,
  quartersPerMinute,
  soundingNotes,
  type Tune,
  withPairedHairpins,
} from '../../score';
import type { Change, PhrasingStyle } from '../../work';
import { dynamicsFor, type Loudness } from './dynamics';
import { barsOfPhrase, middleNoteOf } from './joints';
import { type LineView, type Slur, viewOf } from './lineView';
import { marksFor } from './marks';
import { lastEvents, slursIn } from './ownSlurs';
import { slursFor, type Touch } from './slurs';
import { PHRASING_TABLES } from './styles';

/** How an instrument joins notes; none where every note is struck by itself, or has a syllable of its own. */
function touchOf({ family, mechanism }: Pick<Instrument, 'family' | 'mechanism'>): Touch | undefined {
  if (family === 'voice' || family === 'percussion' || mechanism.kind === 'bars') return undefined;
  return mechanism.kind === 'bowed' ? 'bow' : family === 'fretted' ? 'plucked' : 'breath';
}

export interface Phrased {
  readonly tune: Tune;
  readonly changes: readonly Change[];
}

/** The tune that a line was made of: how loud it is does not depend on what was added or left out in one bar. */
interface Phrasable {
  readonly tune: Tune;
  readonly phrases: readonly Phrase[];
}

/** What is phrased in which way. */
export interface PhrasingRequest {
  readonly style: PhrasingStyle;
  readonly level: Level;
  readonly instrument: Pick<Instrument, 'family' | 'mechanism'>;
  /** Slurs and dots were chosen by hand: only loudness is added. */
  readonly isSpoken: boolean;
  /** The level adorns: a cadence may have its trill. */
  readonly adorns: boolean;
  /** Bars that a teacher wrote, by index: they have the marks that they were written with. */
  readonly closed: readonly number[];
}

/**
 * A line with what a player would pencil in: slurs and dots by the style, where the tune has none of its own in the
 * bar, and loudness, where the tune says nothing of it. The tune's own marks stand. First-year parts have one loudness,
 * and of slurs the tune's own of two notes.
 */
export function phrased(tune: Tune, phrases: readonly Phrase[], source: Phrasable, request: PhrasingRequest): Phrased {
  const { style, level, instrument, isSpoken, adorns, closed } = request;
  const { phrasing } = profileOf(level);
  const made = phrasedLine(tune, phrases, source, style, phrasing, touchOf(instrument), isSpoken, closed.join());
  return adorns && PHRASING_TABLES[style].trills ? withTrill(made, phrases) : made;
}

/** Quarters a minute up to which a singing tune grows broader at its end. */
const SLOW_END = 76;

/** Whether the end of a part grows broader: in slow airs and songs, above the first year. */
export function broadens(tune: Tune, style: PhrasingStyle, level: Level): boolean {
  if (profileOf(level).phrasing === 'first' || !PHRASING_TABLES[style].broadens) return false;
  return quartersPerMinute(tune.tempo) <= SLOW_END && tune.bars.length > 4 && tune.tempo.words === undefined;
}

/** Players of one family have the same line in other octaves. */
const phrasedLine = derived(freshlyPhrased, { most: 12 });

function freshlyPhrased(
  tune: Tune,
  phrases: readonly Phrase[],
  source: Phrasable,
  style: PhrasingStyle,
  extent: 'first' | 'whole',
  touch: Touch | undefined,
  isSpoken: boolean,
  closed: string,
): Phrased {
  const table = PHRASING_TABLES[style];
  const notes = soundingNotes(tune);
  if (notes.length === 0) return { tune, changes: [] };
  const isLoud = notes.some(({ first }) => first.dynamic !== undefined || first.hairpin !== undefined);
  if (extent === 'first') {
    const short = isSpoken ? tune : withShortSlurs(tune);
    const opening: Loudness = isLoud && notes[0]?.first.dynamic !== undefined ? {} : { dynamic: table.first.beginner };
    const bars = withMarks(short, [], new Map(), new Map(isLoud && notes[0]?.first.dynamic ? [] : [[0, opening]]));
    return { tune: { ...tune, bars }, changes: [] };
  }
  const view = viewOf(tune, jointsOf(tune, phrases));
  const own = new Set([...ownBars(view), ...(closed === '' ? [] : closed.split(',').map(Number))]);
  const isOpen = (k: number) => !own.has(notes[k]?.bar ?? -1);
  const wanted = isSpoken || !touch ? [] : slursFor(view, table.slurs, touch);
  const slurs = wanted.filter(([from, to]) => isOpen(from) && isOpen(to));
  const marks = isSpoken ? new Map<number, Articulation>() : marksFor(view, table.marks, slurs);
  const dots = new Map([...marks].filter(([k]) => isOpen(k)));
  const loudness = isLoud ? openingOf(view, table.first.others) : loudnessIn(view, source, style);
  const bars = withPairedHairpins(withMarks(tune, slurs, dots, loudness)).bars;
  const said = slurs.length + dots.size > 0 || (touch === undefined && !isSpoken);
  const first = tune.bars.findIndex(({ events }) => events.some(isNote));
  const change: Change = {
    bar: barNumbers(tune)[first] ?? 0,
    barIndex: first,
    events: [],
    detail: { kind: 'phrased', style, ...(touch === undefined && { unslurred: true as const }) },
  };
  return { tune: { ...tune, bars }, changes: said ? [change] : [] };
}

/** The trill before the last note of all, where it is long enough and falls or rises to it by step. */
const withTrill = derived((made: Phrased, phrases: readonly Phrase[]): Phrased => {
  const { tune } = made;
  const notes = soundingNotes(tune);
  const last = (phrases.at(-1)?.to ?? 0) - 1;
  const [note, end] = [notes[last - 1], notes[last]];
  const meter = note && (barSpans(tune)[note.bar]?.meter ?? tune.meter);
  if (!note || !end || !meter || note.first.ornaments || note.first.graces) return made;
  const distance = Math.abs(semitones(note.pitch) - semitones(end.pitch));
  const isLong = note.length >= (beatsOf(meter)[0]?.length ?? Infinity);
  if (!isLong || distance === 0 || distance > 2) return made;
  const bars = mapNotes(tune.bars, (one): Note => (one.id === note.first.id ? { ...one, ornaments: ['trill'] } : one));
  const change: Change = {
    bar: barNumbers(tune)[note.bar] ?? 0,
    barIndex: note.bar,
    events: [note.first.id],
    detail: {
      kind: 'embellished',
      device: 'turn',
      at: pitchClassOf(note.pitch),
      added: [],
      beat: beatNumberAt(meter, note.inBar),
      ornament: 'trill',
    },
  };
  return { tune: { ...tune, bars }, changes: [...made.changes, change] };
});

/** The loudness of the tune at the notes of a line: where one is missing, at its neighbour. */
function loudnessIn({ notes }: LineView, source: Phrasable, style: PhrasingStyle): ReadonlyMap<number, Loudness> {
  const byId = new Map(notes.map(({ first }, k) => [first.id, k]));
  const found = new Map<number, Loudness>();
  for (const { id, start, hairpinEnds, ...begins } of sourceLoudness(source.tune, source.phrases, style)) {
    const put = (index: number, mark: Loudness) => {
      if (index >= 0) found.set(index, { ...found.get(index), ...mark });
    };
    const own = byId.get(id);
    if (hairpinEnds) put(own ?? notes.findLastIndex((note) => note.start <= start), { hairpinEnds });
    if (begins.dynamic ?? begins.hairpin) put(own ?? notes.findIndex((note) => note.start >= start), begins);
  }
  return found;
}

const sourceLoudness = derived((tune: Tune, phrases: readonly Phrase[], style: PhrasingStyle) => {
  const view = viewOf(tune, new Set());
  return [...dynamicsFor(view, phrases, PHRASING_TABLES[style])].flatMap(([k, mark]) => {
    const note = view.notes[k];
    return note ? [{ id: note.first.id, start: note.start, ...mark }] : [];
  });
});

/** The beginning says how loud it is, whatever the tune says later. */
function openingOf({ notes }: LineView, dynamic: NonNullable<Loudness['dynamic']>): ReadonlyMap<number, Loudness> {
  return new Map(notes[0]?.first.dynamic === undefined ? [[0, { dynamic }]] : []);
}

/** Notes after which a phrase, or its half, is over: no slur goes on there. */
function jointsOf(tune: Tune, phrases: readonly Phrase[]): ReadonlySet<number> {
  const notes = soundingNotes(tune);
  const spans = barSpans(tune);
  return new Set(
    phrases.flatMap((phrase) => {
      const isLong = (barsOfPhrase(phrase, notes, spans)?.bars ?? 0) > 2;
      const middle = isLong ? middleNoteOf(phrase, notes, spans, () => true) : undefined;
      return middle === undefined ? [phrase.to - 1] : [middle, phrase.to - 1];
    }),
  );
}

/** Bars in which the tune has slurs, dots or accents of its own. */
function ownBars({ tune, notes }: LineView): ReadonlySet<number> {
  const own = new Set<number>();
  for (const [from, to] of slursIn(tune, notes))
    for (let bar = notes[from]?.bar ?? 0; bar <= (notes[to]?.bar ?? -1); bar += 1) own.add(bar);
  notes.forEach(({ first, bar }) => {
    if ((first.articulations ?? []).some((one) => one !== 'breath')) own.add(bar);
  });
  return own;
}

function withMarks(
  tune: Tune,
  slurs: readonly Slur[],
  dots: ReadonlyMap<number, Articulation>,
  loudness: ReadonlyMap<number, Loudness>,
): Tune['bars'] {
  const notes = soundingNotes(tune);
  const last = lastEvents(tune);
  const idOf = (k: number): EventId => notes[k]?.first.id ?? '';
  const starts = new Set(slurs.map(([from]) => idOf(from)));
  const ends = new Set(slurs.map(([, to]) => last.get(idOf(to)) ?? idOf(to)));
  const marked = new Map([...dots].map(([k, mark]) => [idOf(k), mark]));
  const loud = new Map([...loudness].map(([k, mark]) => [idOf(k), mark]));
  if (starts.size + marked.size + loud.size === 0) return tune.bars;
  return mapNotes(tune.bars, (note): Note => {
    const mark = marked.get(note.id);
    const level = loud.get(note.id);
    if (!mark && !level && !starts.has(note.id) && !ends.has(note.id)) return note;
    return {
      ...note,
      ...(mark && { articulations: [...(note.articulations ?? []), mark] }),
      ...level,
      ...(starts.has(note.id) && { slurStarts: (note.slurStarts ?? 0) + 1 }),
      ...(ends.has(note.id) && { slurEnds: (note.slurEnds ?? 0) + 1 }),
    };
  });
}

/** A line with the slurs of two notes alone: longer ones are for later. */
function withShortSlurs(tune: Tune): Tune {
  const notes = soundingNotes(tune);
  const long = slursIn(tune, notes).filter(([from, to]) => to - from > 1);
  if (long.length === 0) return tune;
  const last = lastEvents(tune);
  const less = (ids: readonly EventId[]) =>
    ids.reduce((counts, id) => counts.set(id, (counts.get(id) ?? 0) + 1), new Map<EventId, number>());
  const starts = less(long.map(([from]) => notes[from]?.first.id ?? ''));
  const ends = less(long.map(([, to]) => last.get(notes[to]?.first.id ?? '') ?? ''));
  const bars = mapNotes(tune.bars, (note): Note => {
    const { slurStarts = 0, slurEnds = 0, ...plain } = note;
    const [begin, end] = [slurStarts - (starts.get(note.id) ?? 0), slurEnds - (ends.get(note.id) ?? 0)];
    if (begin === slurStarts && end === slurEnds) return note;
    return { ...plain, ...(begin > 0 && { slurStarts: begin }), ...(end > 0 && { slurEnds: end }) };
  });
  return { ...tune, bars };
}
