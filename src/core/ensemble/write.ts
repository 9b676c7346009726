import type { Phrase } from '../analysis';
import { derived } from '../derived';
import { phrased } from '../levels';
import { byOctaves } from '../pitch';
import {
  type Bar,
  type Dynamic,
  isNote,
  mapNotes,
  type Note,
  type ScoreEvent,
  soundingNotes,
  type Tune,
  withPairedHairpins,
  withPairedSlurs,
  withTrueTies,
} from '../score';
import { spellNoteLength, spellRestLength, type Ticks } from '../time';
import type { PhrasingStyle } from '../work';
import type { Ground } from './ground';
import { notesIn, type VoiceLine } from './line';
import type { LeadSpan } from './move';
import { type EnsemblePlayer, isFirstYear } from './player';

/** What a player's bars are written from. */
export interface WriteRequest {
  readonly ground: Ground;
  readonly player: EnsemblePlayer;
  readonly line: VoiceLine;
  readonly style: PhrasingStyle;
  readonly leads: readonly LeadSpan[];
  /** The player's bars of the tune, with their marks. */
  readonly leadBars: readonly Bar[];
  /** Events of bars that were written by hand, by index. */
  readonly own: ReadonlyMap<number, readonly ScoreEvent[]>;
  /** Bars of rest, and bars in another octave, by index. The line has them already; bars of the tune have not. */
  readonly choices: ReadonlyMap<number, 'rest' | 'octave-up' | 'octave-down'>;
}

/** A player's line as a tune in concert pitch, with what they would pencil in, and the phrases in it. */
export function writtenTune(request: WriteRequest): { readonly tune: Tune; readonly phrases: readonly Phrase[] } {
  const { ground, player, style, own } = request;
  const bars = withTrueTies(ground.tune.bars.map((bar, index) => writtenBar(request, bar, index))).bars;
  const plain: Tune = { ...ground.tune, bars };
  const phrases = phrasesIn(plain, ground);
  const { tune } = phrased(plain, phrases, sourceOf(ground), {
    style,
    level: player.level,
    instrument: player.instrument,
    isSpoken: false,
    adorns: false,
    closed: [...own.keys()],
  });
  const balanced = withPairedHairpins(withPairedSlurs(withLoudness(tune, request)).bars).bars;
  return { tune: { ...tune, bars: balanced }, phrases };
}

/** The phrases of the tune among the notes of another line; each has a note at least. */
function phrasesIn(line: Tune, { phraseStarts }: Ground): readonly Phrase[] {
  const notes = soundingNotes(line);
  const starts = [...phraseStarts].toSorted((a, b) => a - b);
  const from = [...new Set(starts.map((at) => notes.findIndex(({ start }) => start >= at)))].filter((at) => at >= 0);
  if (from[0] !== 0) from.unshift(0);
  return notes.length === 0
    ? []
    : [...new Set(from)].map((at, k, all) => ({ from: at, to: all[k + 1] ?? notes.length }));
}

const sourceOf = derived(({ tune, notes, phraseStarts }: Ground) => {
  const starts = notes.flatMap(({ start }, k) => (phraseStarts.has(start) ? [k] : []));
  return { tune, phrases: starts.map((from, k) => ({ from, to: starts[k + 1] ?? notes.length })) };
});

function writtenBar(request: WriteRequest, bar: Bar, index: number): Bar {
  const { ground, line, leads, leadBars, own } = request;
  const span = ground.spans[index];
  const { second: _, ...plain } = bar;
  if (!span) return plain;
  const byHand = own.get(index);
  if (byHand) return { ...plain, events: byHand };
  const [from, to] = [span.start, span.start + span.length];
  const choice = request.choices.get(index);
  if (leads.some((lead) => lead.from <= from && lead.to >= to) && choice !== 'rest')
    return { ...plain, events: inOctave(leadBars[index]?.events ?? [], choice) };
  const lead = choice === 'rest' ? undefined : leads.find((one) => one.from < to && one.to > from);
  const events: ScoreEvent[] = [];
  let at: Ticks = from;
  const name = () => `${bar.id}.p${at - from}`;
  const rest = (until: Ticks) => {
    for (const length of spellRestLength(span.offset + at - from, until - at, span.meter)) {
      events.push({ kind: 'rest', id: name(), length });
      at += length;
    }
  };
  const accompanied = lead ? [Math.max(from, lead.from), Math.min(to, lead.to)] : undefined;
  for (const note of notesIn(line, from, to)) {
    const begin = Math.max(from, note.from);
    if (accompanied && begin >= (accompanied[0] ?? 0) && begin < (accompanied[1] ?? 0)) continue;
    if (begin > at) rest(begin);
    const end = Math.min(to, note.to);
    const pieces = spellNoteLength(span.offset + begin - from, end - begin, span.meter);
    pieces.forEach((length, k) => {
      const goesOn = k < pieces.length - 1 || note.to > to;
      events.push({ kind: 'note', id: name(), pitch: note.pitch, length, ...(goesOn && { tied: true as const }) });
      at += length;
    });
  }
  if (lead && accompanied) {
    const [begin = to, end = to] = accompanied;
    if (begin > at) rest(begin);
    const own = eventsBetween(leadBars[index], begin - from, end - from);
    if (own) {
      events.push(...inOctave(own.events, choice));
      at = from + own.to;
    }
  }
  if (at < to) rest(to);
  return { ...plain, events };
}

function inOctave(
  events: readonly ScoreEvent[],
  choice: 'rest' | 'octave-up' | 'octave-down' | undefined,
): readonly ScoreEvent[] {
  if (choice === undefined || choice === 'rest') return events;
  const by = choice === 'octave-up' ? 1 : -1;
  return events.map((event) => (isNote(event) ? { ...event, pitch: byOctaves(event.pitch, by) } : event));
}

/** The events of a bar from one place to another, where they are cut there. */
function eventsBetween(
  bar: Bar | undefined,
  from: Ticks,
  to: Ticks,
): { readonly events: readonly ScoreEvent[]; readonly to: Ticks } | undefined {
  let at = 0;
  const events: ScoreEvent[] = [];
  for (const event of bar?.events ?? []) {
    if (at >= from && at + event.length <= to) events.push(event);
    at += event.length;
  }
  const length = events.reduce((sum, event) => sum + event.length, 0);
  return events.length === 0 ? undefined : { events, to: from + length };
}

const SOFTER: Readonly<Partial<Record<Dynamic, Dynamic>>> = { fff: 'f', ff: 'f', f: 'mf', mf: 'mp', mp: 'p' };

/** Whoever has the tune is as loud as the tune says, all others a step softer; hairpins are the tune's. */
function withLoudness(tune: Tune, { ground, leads, player }: WriteRequest): readonly Bar[] {
  const isLead = (at: Ticks) => leads.some(({ from, to }) => at >= from && at < to);
  const leadsAnywhere = leads.length > 0;
  let said: Dynamic | undefined;
  let last: Dynamic | undefined;
  const starts = new Map(soundingNotes(tune).map(({ first, start }) => [first.id, start]));
  const once = isFirstYear(player);
  return mapNotes(tune.bars, (note): Note => {
    const at = starts.get(note.id);
    if (at === undefined) return note;
    const { dynamic, hairpin, hairpinEnds, ...plain } = note;
    last = dynamic ?? last ?? opening(ground);
    const leadsHere = isLead(at);
    const wanted = leadsHere || (once && leadsAnywhere) ? last : (SOFTER[last] ?? last);
    const isNew = wanted !== said && !(once && said !== undefined);
    if (isNew) said = wanted;
    if (!isNew && dynamic === undefined && hairpin === undefined && !hairpinEnds) return note;
    return {
      ...plain,
      ...(isNew && { dynamic: wanted }),
      ...(leadsHere && hairpin && { hairpin }),
      ...(leadsHere && hairpinEnds && { hairpinEnds }),
    };
  });
}

function opening({ tune }: Ground): Dynamic {
  for (const { events } of tune.bars)
    for (const event of events) if (isNote(event) && event.dynamic) return event.dynamic;
  return 'mf';
}
