import { derived } from '../derived';
import { joinChoruses } from '../levels';
import {
  type Bar,
  barLength,
  hasPickup,
  isNote,
  metersOf,
  type ScoreEvent,
  type TogetherNotes,
  type Tune,
  unfold,
} from '../score';
import { barTicks, beatsOf, spellRestLength } from '../time';
import type { Ensemble, EnsembleVoice } from './arranged';
import { sectionAt } from './ground';
import { ROLE_NAMES } from './words';

/** A part through the form in which it is played: what comes before, between and after, with words over its bars. */
export interface Performed {
  readonly tune: Tune;
  readonly words: ReadonlyMap<number, string>;
  /** For each bar, the bar of the tune it stands for; none for bars of counting. */
  readonly source: readonly (number | undefined)[];
}

/** What a time through consists of: bars of the tune, and who plays in them. */
interface Chorus {
  readonly name: string;
  readonly kind: 'count' | 'intro' | 'thin' | 'whole' | 'solos' | 'tag';
}

/** Whether a tune is played otherwise than once from its first bar to its last. */
export function hasForm({ intro, closing, thinFirst, solos }: TogetherNotes): boolean {
  return (intro ?? closing ?? thinFirst ?? solos) !== undefined;
}

/**
 * A player's part through the form: bars of counting or an introduction made of the last phrase; a first time with
 * leader and bass alone; solos over pads and bass; the last bars again, held, or slower.
 */
export function performed(ensemble: Ensemble, voice: EnsembleVoice, notes: TogetherNotes): Performed {
  const choruses = chorusesOf(notes);
  const written = choruses.map((chorus) => barsOf(ensemble, voice, chorus, notes));
  const formed =
    choruses.length === 1
      ? { bars: voice.tune.bars, source: voice.tune.bars.map((_, bar) => ({ chorus: 0, bar })) }
      : joined(ensemble, voice, notes, { merged: seamsOf(ensemble, notes) });
  const source = formed.source.map(({ chorus, bar }) => written[chorus]?.from[bar]);
  const bars = notes.closing === 'held' || notes.closing === 'slowed' ? withFermata(formed.bars) : formed.bars;
  const words = new Map<number, string>();
  formed.source.forEach(({ chorus, bar }, page) => {
    const kind = choruses[chorus]?.kind;
    if (kind === 'solos' && bar === 0) words.set(page, 'solos');
    if (kind === 'whole' || kind === 'thin') {
      const word = leadWord(ensemble, voice, source[page] ?? 0);
      if (word !== undefined) words.set(page, word);
    }
  });
  if (notes.closing === 'slowed') words.set(Math.max(0, bars.length - 2), 'rit.');
  return { tune: { ...voice.tune, bars }, words, source };
}

function joined(
  ensemble: Ensemble,
  voice: EnsembleVoice,
  notes: TogetherNotes,
  like?: { readonly merged: readonly boolean[] },
): ReturnType<typeof joinChoruses> {
  const choruses = chorusesOf(notes).map((chorus) => ({
    bars: barsOf(ensemble, voice, chorus, notes).bars,
    name: chorus.name,
  }));
  return joinChoruses(choruses, { meter: voice.tune.meter, key: voice.tune.key }, like);
}

/**
 * For each time through, whether its pickup goes into the bar before: for all parts alike, since they are read together.
 * Where some part can have it there the others give way, unless a tuplet would be cut.
 */
const seamsOf = derived(
  (ensemble: Ensemble, notes: TogetherNotes): readonly boolean[] => {
    const all = ensemble.voices.map((voice) => joined(ensemble, voice, notes));
    const count = Math.max(...all.map(({ merged }) => merged.length));
    const hasTuplets = ensemble.voices.some(({ tune }) =>
      tune.bars.slice(-4).some(({ events }) => events.some(({ tuplet }) => tuplet !== undefined)),
    );
    return Array.from({ length: count }, (_, k) => !hasTuplets && all.some(({ merged }) => merged[k] === true));
  },
  { by: (ensemble, { intro, closing, thinFirst, solos }) => [ensemble, intro, closing, thinFirst, solos] },
);

function chorusesOf({ intro, closing, thinFirst, solos }: TogetherNotes): readonly Chorus[] {
  const whole = (name: string): Chorus => ({ name, kind: 'whole' });
  return [
    ...(intro === 'count' ? [{ name: 'Count', kind: 'count' as const }] : []),
    ...(intro === 'two' || intro === 'four' ? [{ name: 'Introduction', kind: 'intro' as const }] : []),
    ...(thinFirst ? [{ name: 'First time', kind: 'thin' as const }] : []),
    whole(thinFirst ? 'Second time, all' : 'Tune'),
    ...(solos ? [{ name: 'Solos', kind: 'solos' as const }, whole('Tune again')] : []),
    ...(closing === 'tag' ? [{ name: 'Ending', kind: 'tag' as const }] : []),
  ];
}

/** A chorus's bars for a player, and which bars of the tune they are. */
function barsOf(
  ensemble: Ensemble,
  voice: EnsembleVoice,
  { kind }: Chorus,
  notes: TogetherNotes,
): { readonly bars: readonly Bar[]; readonly from: readonly (number | undefined)[] } {
  const { bars, meter } = voice.tune;
  const all = bars.map((_, index) => index);
  switch (kind) {
    case 'count':
      return { bars: [countBar(voice.tune)], from: [undefined] };
    case 'intro':
      return lastBars(voice.tune, notes.intro === 'four' ? 4 : 2);
    case 'tag':
      return lastBars(voice.tune, 2);
    case 'thin':
      return {
        bars: bars.map((bar, index) => (isThere(ensemble, voice, index) ? bar : rests(bar, voice.tune, index))),
        from: all,
      };
    case 'solos': {
      const plays = (index: number) => {
        const cell = voice.cells[sectionAt(ensemble.sections, index)];
        return cell === 'bass' || cell === 'pad' || cell === 'rhythm';
      };
      // The pickup leads into the tune, and there is none here.
      const from = hasPickup({ bars, meter }) ? all.slice(1) : all;
      return {
        bars: from.flatMap((index) => {
          const bar = bars[index];
          return bar ? [plays(index) ? bar : rests(bar, voice.tune, index)] : [];
        }),
        from,
      };
    }
    case 'whole':
      return { bars, from: all };
  }
}

/** Who plays the first time: whoever leads, and the bass. */
function isThere({ sections }: Ensemble, { cells }: EnsembleVoice, bar: number): boolean {
  const cell = cells[sectionAt(sections, bar)];
  return cell === 'tune' || cell === 'bass';
}

function rests(bar: Bar, tune: Tune, index: number): Bar {
  const meter = metersOf(tune)[index] ?? tune.meter;
  const length = barLength(bar, meter);
  const offset = index === 0 ? barTicks(meter) - length : 0;
  return {
    ...bar,
    events: spellRestLength(offset, length, meter).map((piece, k): ScoreEvent => ({
      kind: 'rest',
      id: `${bar.id}.s${k}`,
      length: piece,
    })),
  };
}

/** A bar of rests with its beats to be counted aloud. */
function countBar({ meter }: Tune): Bar {
  return {
    id: 'count',
    chords: [],
    events: spellRestLength(0, barTicks(meter), meter).map((length, k): ScoreEvent => ({
      kind: 'rest',
      id: `count.${k}`,
      length,
    })),
    counts: beatsOf(meter).map(({ start }, k) => ({ at: start, text: String(k + 1) })),
  };
}

/** The last so many bars as they are played, without repeats. */
function lastBars(
  tune: Tune,
  count: number,
): { readonly bars: readonly Bar[]; readonly from: readonly (number | undefined)[] } {
  const from = unfold(tune.bars).order.slice(-count);
  const bars = from.flatMap((index): readonly Bar[] => {
    const bar = tune.bars[index];
    if (!bar) return [];
    const {
      repeatStart: _s,
      repeatEnd: _e,
      ending: _n,
      endingStops: _x,
      jumps: _j,
      section: _t,
      barline: _b,
      ...plain
    } = bar;
    return [plain];
  });
  return { bars, from };
}

/** The last note of all is held. */
function withFermata(bars: readonly Bar[]): readonly Bar[] {
  const bar = bars.findLastIndex(({ events }) => events.some(isNote));
  return bars.map((one, index) => {
    if (index !== bar) return one;
    const last = one.events.findLastIndex(isNote);
    return {
      ...one,
      events: one.events.map((event, k) => (k === last ? { ...event, fermata: true as const } : event)),
    };
  });
}

/** A word where a player takes the tune, and where they give it away; none for who has it always or never. */
function leadWord({ sections }: Ensemble, { cells, role }: EnsembleVoice, bar: number): string | undefined {
  const section = sections.findIndex(({ from }) => from === bar);
  const cell = cells[section];
  if (section < 0 || cell === undefined || cell === 'out' || !cells.includes('tune')) return undefined;
  if (cells.every((one) => one === 'tune')) return undefined;
  const before = cells[section - 1];
  if (before === cell) return undefined;
  return cell === 'tune' ? ROLE_NAMES.tune : ROLE_NAMES[cell === role ? role : cell];
}
