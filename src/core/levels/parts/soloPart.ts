import { derived } from '../../derived';
import type { Instrument, Level, WrittenRange } from '../../instruments';
import {
  alterInKey,
  byOctaves,
  type Interval,
  intervalBetweenTonics,
  type Key,
  namePitchClass,
  readableInterval,
  semitones,
  signatureOf,
  transpose,
} from '../../pitch';
import { formIn, formOf, type ImprovisingForm, withProposedChords } from '../../pools';
import type { Phrase } from '../../analysis';
import {
  type Bar,
  hasPickup,
  type Note,
  quartersPerMinute,
  soundingNotes,
  type Swing,
  type Tempo,
  type Tune,
} from '../../score';
import { type Ticks, TICKS_PER_QUARTER } from '../../time';
import { phrased } from '../phrasing/phrasing';
import { phrasingOf } from '../phrasing/styles';
import {
  composeSolo,
  editablePlan,
  formBarsOf,
  type GivenNote,
  type GivenPhrase,
  type HeldNote,
  type PhraseKind,
  placedGiven,
  placedPlan,
  readSolo,
  type ReadSolo,
  type Solo,
  type SoloNote,
  soloTune,
  type SoloWishes,
  wishesForTake,
} from '../../solos';
import { pageRequest, type PageRequest } from '../page/pageRequest';
import { partOfLine, type Part } from './part';
import { levelTempo, type Phrasing, type Recipe } from '../../work';

/** An example solo of a level: what was composed, and as a part to be read. */
export interface SoloPart {
  readonly solo: Solo;
  readonly part: Part;
  /** In concert pitch, chords over it: to be heard. */
  readonly tune: Tune;
  /** The chords were proposed: the tune has none. */
  readonly isProposed: boolean;
}

/** Takes are counted from here; a recipe that keeps one says which. */
export const FIRST_TAKE = 1;

/**
 * The example solo of a level over a tune's chords, in the level's key; `undefined` where no solo comes home over them.
 */
export function soloOf(
  tune: Tune,
  recipe: Recipe,
  level: Level,
  instrument: Instrument,
  seed = recipe.solo?.seed ?? FIRST_TAKE,
): SoloPart | undefined {
  return composedSolo(tune, recipe, level, instrument, seed);
}

/**
 * Drawn, heard and printed a solo is composed once. So many of a tune: three takes at three levels, and some tried
 * before.
 */
const composedSolo = derived(freshSolo, {
  most: 24,
  by: (tune, { keyAndTempo, articulation = {}, solo = {} }, level, instrument, seed) => {
    const { seed: _, ...wishes } = wishesForTake(solo, seed);
    return [tune, instrument, level, seed, JSON.stringify([keyAndTempo, articulation.phrasing, wishes])];
  },
});

function freshSolo(
  tune: Tune,
  recipe: Recipe,
  level: Level,
  instrument: Instrument,
  seed: number,
): SoloPart | undefined {
  const harmonised = withProposedChords(tune);
  const key = recipe.keyAndTempo?.key ?? tune.key;
  const toKey = intervalBetweenTonics(tune.key.tonic, key.tonic);
  const form = formIn(formOf(harmonised), toKey);
  const { plan, given, tools, targets } = wishesForTake(recipe.solo ?? {}, seed);
  const written = readableInterval(form.key, instrument.transposition);
  const held = [...placedGiven({ ...(plan && { plan }), ...(given && { given }) })].map(
    ([place, phrase]) => [place, heldNotes(phrase, toKey, written, instrument.range[level])] as const,
  );
  const tempo = soloTempo(tune, level, recipe.keyAndTempo?.perMinute);
  const solo = composeSolo({
    form,
    shortest: shortestSpoken(tempo, level, instrument),
    bars: formBarsOf(harmonised),
    level,
    instrument,
    seed,
    ...(plan && { plan: placedPlan(plan) }),
    ...(held.length > 0 && { given: new Map(held) }),
    ...(tools && { tools }),
    ...(targets && { targets }),
  });
  if (!solo) return undefined;
  const page = pageRequest({ aids: {}, marks: 'none' }, instrument, level);
  const made = soloAsPart(solo, {
    form,
    title: `Solo on ${tune.title || 'a tune'}`,
    tempo,
    ...(tune.swing && { swing: tune.swing }),
    level,
    instrument,
    page,
    ...(recipe.articulation?.phrasing && { phrasing: recipe.articulation.phrasing }),
  });
  return { solo, ...made, isProposed: harmonised !== tune };
}

/** The tempo of a level's solo: as of its part, but a slow tune is not played slower still. */
export function soloTempo(tune: Pick<Tune, 'tempo'>, level: Level, perMinute: number | undefined): Tempo {
  const tempo = levelTempo(tune, level, perMinute);
  const own = quartersPerMinute(tune.tempo);
  return perMinute === undefined && own <= SLOW ? tune.tempo : tempo;
}

/** Quarters a minute up to which a tune is slow. */
const SLOW = 72;

/** Notes a second that a level speaks in a solo; a slide fewer. Rules of thumb, as for what is added to a tune. */
const SPOKEN: Readonly<Record<Level, number>> = { beginner: 3, intermediate: 6.5, advanced: 9 };
const SPOKEN_BY_SLIDE = 6;

/** The shortest note of a solo at a tempo. */
export function shortestSpoken(tempo: Tempo, level: Level, { mechanism }: Pick<Instrument, 'mechanism'>): Ticks {
  const most = mechanism.kind === 'slide' ? Math.min(SPOKEN_BY_SLIDE, SPOKEN[level]) : SPOKEN[level];
  return (quartersPerMinute(tempo) * TICKS_PER_QUARTER) / 60 / most;
}

/** A composed solo as a part: with its chords, phrased as its style is, in the signature that spares naturals. */
export function soloAsPart(
  solo: Pick<Solo, 'notes' | 'bars' | 'phrases'>,
  request: {
    readonly form: ImprovisingForm;
    readonly title: string;
    readonly tempo: Tempo;
    readonly swing?: Swing;
    readonly level: Level;
    readonly instrument: Instrument;
    readonly page: PageRequest;
    readonly phrasing?: Phrasing;
  },
): { readonly part: Part; readonly tune: Tune } {
  const { form, title, tempo, swing, level, instrument, page, phrasing } = request;
  const key = keyWithFewNaturals(solo.notes, form.key);
  const plain = soloTune(solo, { form: { ...form, key }, title, tempo, ...(swing && { swing }) });
  const phrases = phrasesOfSolo(solo, plain);
  const isClosed = { isSpoken: false, adorns: false, closed: [] };
  const line =
    phrasing === 'none'
      ? plain
      : phrased(
          plain,
          phrases,
          { tune: plain, phrases },
          { style: phrasing ?? phrasingOf(plain), level, instrument, ...isClosed },
        ).tune;
  const part = partOfLine(line, { level, instrument, keyAndTempo: { perMinute: tempo.perMinute }, page }, phrases);
  return { part, tune: line };
}

/** From this share of naturals on, that the signature alters, another mode of the same tonic is written. */
const MANY_NATURALS = 0.25;
const MODES = ['major', 'minor', 'dorian', 'mixolydian', 'lydian', 'phrygian'] as const;

/** The key that a solo is written in: its form's, or another mode on the tonic where that one is cancelled all the time. */
function keyWithFewNaturals(notes: readonly SoloNote[], key: Key): Key {
  const signs = (one: Key) =>
    notes.filter(({ concert }) => alterInKey(concert.step, one) !== concert.alter).length / Math.max(1, notes.length);
  const naturals = notes.filter(({ concert }) => concert.alter === 0 && alterInKey(concert.step, key) !== 0).length;
  if (naturals < MANY_NATURALS * notes.length) return key;
  return MODES.map((mode): Key => ({ tonic: key.tonic, mode }))
    .filter((one) => Math.abs(signatureOf(one)) <= 6)
    .reduce((best, one) => (signs(one) < signs(best) ? one : best), key);
}

/** The phrases of a solo as runs of its notes. */
function phrasesOfSolo({ phrases, bars }: Pick<Solo, 'phrases' | 'bars'>, line: Tune): readonly Phrase[] {
  const notes = soundingNotes(line);
  const offset = bars[0]?.start ?? 0;
  const starts = phrases.map(({ start }) => start - offset);
  const runs: { from: number; to: number }[] = [];
  let from = 0;
  starts.forEach((_, index) => {
    const next = starts[index + 1] ?? Infinity;
    let to = from;
    // One that comes an eighth early belongs to what it leads into.
    while (to < notes.length && (notes[to]?.start ?? 0) < next - TICKS_PER_QUARTER / 2) to += 1;
    if (to > from) runs.push({ from, to });
    from = to;
  });
  const last = runs.at(-1);
  if (last && last.to < notes.length) last.to = notes.length;
  return runs;
}

/**
 * A kept phrase as the player reads it: in the level's key, moved by octaves where that brings more of it into the
 * range.
 */
function heldNotes(
  { notes }: GivenPhrase,
  toKey: Interval,
  written: Interval,
  { low, high }: WrittenRange,
): readonly HeldNote[] {
  const read = notes.map(({ pitch, ...note }) => ({ ...note, pitch: transpose(transpose(pitch, toKey), written) }));
  const outside = (octaves: number) =>
    read.filter(({ pitch }) => {
      const height = semitones(pitch) + 12 * octaves;
      return height < semitones(low) || height > semitones(high);
    }).length;
  const octaves = [0, 1, -1, 2, -2, 3, -3].reduce((best, next) => (outside(next) < outside(best) ? next : best), 0);
  return octaves === 0 ? read : read.map((note) => ({ ...note, pitch: byOctaves(note.pitch, octaves) }));
}

/**
 * A whole take as it is kept: its plan and the notes of every phrase, so that whatever is changed afterwards, nothing
 * but that sounds otherwise. Phrases that were kept before stay as they are.
 */
export function keptTake(made: SoloPart, tune: Pick<Tune, 'key'>, wishes: SoloWishes, seed: number): SoloWishes {
  const { plan, given } = editablePlan(wishes, made.solo);
  const phrases = plan.flatMap(({ id, kind }, index) =>
    kind === 'rest' || given[id] ? [] : [[id, { ...givenFrom(made, tune, index), isTake: true as const }] as const],
  );
  return {
    ...wishes,
    seed,
    plan,
    given: { ...given, ...Object.fromEntries(phrases) },
    ...(!wishes.plan && { isPlanOfTake: true as const }),
  };
}

/** A phrase of a take, to be kept: concert, in the tune's own key. */
export function givenFrom({ solo, part }: SoloPart, tune: Pick<Tune, 'key'>, index: number): GivenPhrase {
  const phrase = solo.phrases[index];
  if (!phrase) return { notes: [] };
  const back = intervalBetweenTonics(part.concertKey.tonic, tune.key.tonic);
  return {
    notes: notesOfPhrase(solo, index).map(({ at, length, concert, device, isTriplet }): GivenNote => ({
      at: at - phrase.start,
      length,
      pitch: transpose(concert, back),
      ...(device && { device }),
      ...(isTriplet && { isTriplet }),
      ...(device === 'anticipation' && { isEarly: true as const }),
    })),
  };
}

/** The notes of a phrase; one that comes an eighth early stands before its phrase and belongs to it. */
export function notesOfPhrase({ phrases, notes }: Pick<Solo, 'phrases' | 'notes'>, index: number): readonly SoloNote[] {
  const phrase = phrases[index];
  if (!phrase) return [];
  const start = ({ at, device, length }: SoloNote) =>
    device === 'anticipation' && at < phrase.start && at + length > phrase.start ? phrase.start : at;
  return notes.filter((note) => {
    const from = start(note);
    const isNext = note.device === 'anticipation' && note.at < phrase.end && note.at + note.length > phrase.end;
    return from >= phrase.start && from < phrase.end && !isNext;
  });
}

const KIND_WORDS: Readonly<Record<PhraseKind, string>> = {
  idea: 'idea',
  same: 'same again',
  varied: 'another ending',
  moved: 'moved with the chord',
  answer: 'answer',
  rest: 'rest',
};

/** What a phrase does, in words: `another ending (1)`. */
export function phraseWords({ kind, of }: Pick<Solo['phrases'][number], 'kind' | 'of'>): string {
  return of === undefined ? KIND_WORDS[kind] : `${KIND_WORDS[kind]} (${of + 1})`;
}

/**
 * The same part with its phrases numbered over the bars as in the plan, and under the notes what degree of its chord
 * each is.
 */
export function analysed({ solo, part }: SoloPart): Part {
  return { ...part, bars: withAnalysis(part.bars, solo, 0) };
}

/** A tune that is a solo itself, with the same over and under it; as it is where it has no chords. */
export function analysedTune(tune: Tune): { readonly tune: Tune; readonly read: ReadSolo } | undefined {
  const read = readSolo(tune);
  return read && { tune: { ...tune, bars: withAnalysis(tune.bars, read, hasPickup(tune) ? 1 : 0) }, read };
}

/** @param from index of the bar with which the solo begins */
function withAnalysis(
  all: readonly Bar[],
  solo: Pick<Solo, 'phrases' | 'bars' | 'notes'>,
  from: number,
): readonly Bar[] {
  const begins = new Map<number, string>();
  for (const [index, phrase] of solo.phrases.entries()) {
    const bar = solo.bars.findIndex(({ start }) => start === phrase.start);
    if (bar >= 0) begins.set(bar + from, String(index + 1));
  }
  let next = 0;
  let isTied = false;
  return all.map((bar, index): Bar => {
    const events = bar.events.map((event) => {
      if (event.kind !== 'note') {
        isTied = false;
        return event;
      }
      const goesOn = isTied;
      isTied = event.tied === true;
      if (goesOn || index < from) return event;
      const note = solo.notes[next];
      next += 1;
      return note ? ({ ...event, lyrics: [{ verse: 1, text: degreeText(note) }] } satisfies Note) : event;
    });
    const section = begins.get(index);
    return { ...bar, events, ...(section !== undefined && { section }) };
  });
}

/** A leaning note in brackets. */
function degreeText({ degree, role }: SoloNote): string {
  return role === 'rub' || role === 'outside' ? `(${degree})` : degree;
}

const DEVICE_WORDS: Readonly<Record<NonNullable<SoloNote['device']>, string>> = {
  passing: 'passes on',
  neighbour: 'steps away and comes back',
  approach: 'leads by step into',
  enclosure: 'is one of two that close in on',
  anticipation: 'comes an eighth before its chord',
  lick: 'belongs to a lick',
  blue: 'is a blue note',
};

/** What lands: where a new chord is met on its third or seventh, by bar. */
export function landings({
  notes,
  bars,
}: Pick<Solo, 'notes' | 'bars'>): readonly { readonly bar: number; readonly text: string }[] {
  return notes.flatMap((note, k) => {
    const before = notes[k - 1];
    const isChange = before !== undefined && before.chord !== note.chord;
    const number = /[37]$/.exec(note.degree)?.[0];
    if (!isChange || note.role !== 'home' || !number || /1[37]$/.test(note.degree)) return [];
    const bar = bars.findLastIndex(({ start }) => start <= note.at) + 1;
    return [{ bar, text: `${namePitchClass(note.pitch)}, the ${number === '3' ? 'third' : 'seventh'}` }];
  });
}

/** What single notes do, in words, by their bar: those that lean, come from outside or come early. */
export function deviceWords(
  solo: Pick<Solo, 'notes' | 'bars'>,
): readonly { readonly bar: number; readonly text: string }[] {
  return solo.notes.flatMap((note, k) => {
    const bar = solo.bars.findLastIndex(({ start }) => start <= note.at);
    const isLeft = !note.device && (note.role === 'rub' || note.role === 'outside');
    if (isLeft)
      return [{ bar: bar + 1, text: `${namePitchClass(note.pitch)} rubs and is left by a leap: let it go on by step` }];
    if (!note.device) return [];
    const goal = solo.notes[note.device === 'enclosure' && solo.notes[k + 1]?.device === 'enclosure' ? k + 2 : k + 1];
    const names = note.device === 'approach' || note.device === 'enclosure';
    const to = names && goal ? ` ${namePitchClass(goal.pitch)}` : '';
    return [{ bar: bar + 1, text: `${namePitchClass(note.pitch)} ${DEVICE_WORDS[note.device]}${to}` }];
  });
}

/**
 * A level's solo in the place that its form keeps free for one: bars of the tune with the solo's notes, a pickup
 * resting.
 */
export function inSoloSpace(
  space: readonly Bar[],
  solo: Part['bars'],
  tune: Pick<Tune, 'bars' | 'meter'>,
): readonly Bar[] {
  const from = hasPickup(tune) ? 1 : 0;
  return space.map((bar, index) => {
    const made = solo[index - from];
    return index < from || !made
      ? bar
      : { ...bar, events: made.events.map((event) => ({ ...event, id: `${event.id}.solo` })) };
  });
}
