import { profileOf } from '../instruments';
import { intervalBetweenTonics, namePitchClass, type Pitch, readableInterval, semitones } from '../pitch';
import { chordTones } from '../harmony';
import { formIn, formOf, type LevelPools, poolsFor, withProposedChords } from '../pools';
import { type Bar, mapNotes, metersOf, type Tune } from '../score';
import { formBarsOf, type SoloNote, soloTune } from '../solos';
import { beatsOf, spellRestLength, type Ticks, TICKS_PER_QUARTER } from '../time';
import { pageRequest } from './page/pageRequest';
import { partOfLine, type Part } from './parts/part';
import type { Recipe } from '../work';
import type { SoloPart } from './parts/soloPart';

/**
 * What a solo is practised by, beside itself: its rhythm on one note; call and answer, the answers left empty; the same
 * line landing on the beat and an eighth early; and an empty chorus for the pupil's own.
 */
export const SOLO_PAGES = ['syllables', 'rhythm', 'call', 'early', 'own'] as const;
export type SoloPage = (typeof SOLO_PAGES)[number];

export const SOLO_PAGE_NAMES: Readonly<Record<SoloPage, string>> = {
  syllables: 'with rhythm syllables',
  rhythm: 'its rhythm on one note',
  call: 'call and answer',
  early: 'on the beat, then an eighth early',
  own: 'an empty chorus for your own',
};

const EIGHTH: Ticks = TICKS_PER_QUARTER / 2;

/** A page of a level's solo. `undefined` for the early page where no note can come early. */
export function soloPage(tune: Tune, made: SoloPart, recipe: Recipe, page: SoloPage): Part | undefined {
  switch (page) {
    case 'syllables':
      return said(made, made.tune, recipe, made.part.title);
    case 'rhythm':
      return said(made, onOneNote(made), recipe, `The rhythm of the ${lower(made.part.title)}`);
    case 'call':
      return callAndAnswer(tune, made, recipe);
    case 'early':
      return earlyAndNot(made, recipe);
    case 'own':
      return ownChorus(tune, made, recipe);
  }
}

const lower = (title: string) => `${title.charAt(0).toLowerCase()}${title.slice(1)}`;

/** A line for the player of the solo, with syllables of the recipe's school under it. */
function said({ part }: SoloPart, line: Tune, recipe: Recipe, title: string, hasSyllables = true): Part {
  const { level, instrument, tempo } = part;
  const syllables = recipe.page?.syllables;
  const page = pageRequest(
    { aids: hasSyllables ? { syllables: 'stays' } : {}, marks: 'none', ...(syllables && { syllables }) },
    instrument,
    level,
  );
  return partOfLine({ ...line, title }, { level, instrument, keyAndTempo: { perMinute: tempo.perMinute }, page });
}

/** All notes on the home note that lies nearest to the middle of the solo. */
function onOneNote({ solo, tune }: SoloPart): Tune {
  const heights = solo.notes.map(({ concert }) => semitones(concert)).toSorted((a, b) => a - b);
  const middle = heights[Math.floor(heights.length / 2)] ?? 0;
  const homes = [1, 2, 3, 4, 5, 6].map((octave): Pitch => ({ ...tune.key.tonic, octave }));
  const home = homes.reduce((best, next) =>
    Math.abs(semitones(next) - middle) < Math.abs(semitones(best) - middle) ? next : best,
  );
  return { ...tune, bars: mapNotes(tune.bars, (note) => ({ ...note, pitch: home })) };
}

/** The first phrase is printed, the next left empty, and so on: the answers are the pupil's. */
function callAndAnswer(tune: Tune, made: SoloPart, recipe: Recipe): Part {
  const { solo, part } = made;
  const answers = new Set(
    solo.bars.flatMap(({ start }, index) => {
      const phrase = solo.phrases.findIndex((one) => start >= one.start && start < one.end);
      return phrase % 2 === 1 ? [index] : [];
    }),
  );
  // A call is heard to its end: a note that begins in it may be held into the answer's bar.
  const calls = solo.notes.filter(({ at }) => {
    const bar = solo.bars.findLastIndex(({ start }) => start <= at);
    return !answers.has(bar);
  });
  const cut = calls.map((note): SoloNote => {
    const end =
      solo.phrases.find((phrase) => note.at >= phrase.start && note.at < phrase.end)?.end ?? note.at + note.length;
    return { ...note, length: Math.min(note.length, end - note.at) };
  });
  const line = lineOf(made, tune, cut, recipe);
  return {
    ...blanked(said(made, line, recipe, `Call and answer on ${tune.title || 'a tune'}`, false), answers),
    words: new Map([...answers].filter((bar) => !answers.has(bar - 1)).map((bar) => [bar, 'answer'])),
    lead: [`Play what is written, and answer it in the empty bars. ${poolSentence(tune, part, recipe)}`],
  };
}

/** The same notes twice: each change of chord met on its beat, and an eighth before it. */
function earlyAndNot(made: SoloPart, recipe: Recipe): Part | undefined {
  const { solo, tune } = made;
  const starts = new Set(chordStarts(tune));
  const late = solo.notes.map((note, k): SoloNote => {
    const next = solo.notes[k + 1];
    const length =
      next?.device === 'anticipation' && next.at === note.at + note.length ? note.length + EIGHTH : note.length;
    return note.device === 'anticipation'
      ? { ...note, at: note.at + EIGHTH, length: length - EIGHTH }
      : { ...note, length };
  });
  const early = comingEarly(late, starts);
  if (early.every((note, k) => note.at === late[k]?.at)) return undefined;
  const [onBeat, before] = [late, early].map((notes) => barsOf(made, notes));
  const second = (before ?? []).map((bar, k): Bar => ({
    ...bar,
    id: `${bar.id}.early`,
    events: bar.events.map((event) => ({ ...event, id: `${event.id}.early` })),
    ...(k === 0 && { section: 'An eighth early' }),
  }));
  const first = (onBeat ?? []).map((bar, k, all): Bar => ({
    ...bar,
    ...(k === 0 && { section: 'On the beat' }),
    ...(k === all.length - 1 && { barline: 'double' as const }),
  }));
  return said(made, { ...tune, bars: [...first, ...second] }, recipe, `${made.part.title}, early and not`);
}

/**
 * The same notes with those on a change of chord an eighth early. Eighths that lead into such a note come earlier with
 * it, as far back as a rest or a note of a quarter and more makes room.
 */
function comingEarly(late: readonly SoloNote[], starts: ReadonlySet<Ticks>): readonly SoloNote[] {
  const made = [...late];
  for (const [k, note] of late.entries()) {
    if (!starts.has(note.at) || note.isTriplet) continue;
    let first = k;
    let before = made[first - 1];
    while (before && before.length === EIGHTH && !before.isTriplet && before.at + EIGHTH === made[first]?.at) {
      first -= 1;
      before = made[first - 1];
    }
    const start = made[first]?.at ?? 0;
    const end = before ? before.at + before.length : 0;
    const isLong = before !== undefined && end === start && before.length >= TICKS_PER_QUARTER && !before.isTriplet;
    if (end > start - EIGHTH && !isLong) continue;
    if (before && isLong) made[first - 1] = { ...before, length: before.length - EIGHTH };
    for (let moved = first; moved <= k; moved += 1) {
      const one = made[moved];
      if (one) made[moved] = { ...one, at: one.at - EIGHTH, length: one.length + (moved === k ? EIGHTH : 0) };
    }
  }
  return made;
}

/** Moments at which a chord begins, from the start of the line. */
function chordStarts({ bars, meter }: Tune): readonly Ticks[] {
  let at = 0;
  return bars.flatMap(({ chords, events }) => {
    const start = at;
    at += events.reduce((sum, { length }) => sum + length, 0) || (meter.count * 4 * TICKS_PER_QUARTER) / meter.unit;
    return chords.map((chord) => start + chord.at);
  });
}

/** An empty chorus with its chords, what may be played over each, and what to do. */
function ownChorus(tune: Tune, made: SoloPart, recipe: Recipe): Part {
  const { part, solo } = made;
  const line = lineOf(made, tune, [], recipe);
  const pools = poolsOf(tune, part, recipe);
  const words = new Map<number, string>();
  if (profileOf(part.level).solo.notes !== 'scale')
    for (const { reading } of pools.chords) {
      const { symbol, bar } = reading.chord;
      const tones = chordTones(symbol).map(({ pitchClass }) => namePitchClass(pitchClass));
      if (tones.length > 0) words.set(bar, [words.get(bar), tones.join(' ')].filter(Boolean).join('  ·  '));
    }
  const all = new Set(solo.bars.map((_, index) => index));
  return {
    ...blanked(said(made, line, recipe, `My chorus on ${tune.title || 'a tune'}`, false), all),
    ...(words.size > 0 && { words }),
    lead: [...BRIEFS[part.level], poolSentence(tune, part, recipe)],
  };
}

/** What is asked of a pupil's own chorus, a line each. */
const BRIEFS: Readonly<Record<Part['level'], readonly string[]>> = {
  beginner: ['Say something in two bars, say it again, answer it.', 'Leave a rest between. End on the home note.'],
  intermediate: [
    'Start each phrase after the beat. Land on a third or a seventh where the chord changes.',
    'End on a tone of the home chord.',
  ],
  advanced: [
    'One idea through the whole chorus. Lead into thirds by half steps from below and above.',
    'Once in double time; once a long rest.',
  ],
};

/** Bars to be written into: they rest beat by beat, which gives them room, and nothing of that is printed. */
function blanked(part: Part, blank: ReadonlySet<number>): Part {
  const meters = metersOf(part);
  const empty = (bar: Bar, index: number): Bar => {
    if (!blank.has(index)) return bar;
    const events = beatsOf(meters[index] ?? part.meter).flatMap(({ length }, beat) =>
      spellRestLength(0, length, meters[index] ?? part.meter).map((piece, k): Bar['events'][number] => ({
        kind: 'rest',
        id: `${bar.id}.${beat}.${k}`,
        length: piece,
      })),
    );
    return { ...bar, events };
  };
  return { ...part, blank, bars: part.bars.map(empty), soundingBars: part.soundingBars.map(empty) };
}

function poolSentence(tune: Tune, part: Part, recipe: Recipe): string {
  const [set] = poolsOf(tune, part, recipe).overall;
  return set ? `Your notes: ${set.scale.notes.map(namePitchClass).join(' ')}.` : '';
}

function formFor(tune: Tune, recipe: Recipe) {
  const key = recipe.keyAndTempo?.key ?? tune.key;
  return formIn(formOf(withProposedChords(tune)), intervalBetweenTonics(tune.key.tonic, key.tonic));
}

function poolsOf(tune: Tune, { instrument, level }: Part, recipe: Recipe): LevelPools {
  const form = formFor(tune, recipe);
  return poolsFor(formIn(form, readableInterval(form.key, instrument.transposition)), level);
}

/** Other notes over the same chords. */
function lineOf(made: SoloPart, tune: Tune, notes: readonly SoloNote[], recipe: Recipe): Tune {
  const { title, tempo, swing } = made.tune;
  return soloTune({ ...made.solo, notes }, { form: formFor(tune, recipe), title, tempo, ...(swing && { swing }) });
}

function barsOf(made: SoloPart, notes: readonly SoloNote[]): readonly Bar[] {
  const { solo, tune } = made;
  const laid = soloTune(
    { ...solo, notes },
    {
      form: { ...formOf(tune), bars: solo.bars.map((_, index) => index + 1) },
      title: tune.title,
      tempo: tune.tempo,
    },
  );
  return laid.bars;
}

/** An empty chorus in the tune's own key, to be written on screen and read back. */
export function emptyChorus(tune: Tune): Tune {
  const harmonised = withProposedChords(tune);
  const form = formOf(harmonised);
  const { tempo, swing, rights } = tune;
  const title = `My chorus on ${tune.title || 'a tune'}`;
  return {
    ...soloTune({ notes: [], bars: formBarsOf(harmonised) }, { form, title, tempo, ...(swing && { swing }) }),
    rights,
  };
}
