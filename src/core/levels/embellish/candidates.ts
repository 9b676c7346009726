import { chordTonesAt, chordTonesUnder, type Phrase } from '../../analysis';
import { chanceFrom, type Chance } from '../../chance';
import { chroma, type Key, type Pitch, type PitchClass, pitchClassOf, scaleStep, staffPosition } from '../../pitch';
import {
  type Bar,
  barSpans,
  type EventId,
  isNote,
  keysOf,
  type Note,
  type Rest,
  soundingNotes,
  type Style,
  type Tune,
} from '../../score';
import {
  beatNumberAt,
  beatsOf,
  isCompound,
  spellRestLength,
  type Ticks,
  TICKS_PER_QUARTER,
  weightAt,
} from '../../time';
import type { Device } from '../../work';
import { isParted, middleNoteOf } from '../phrasing/joints';
import { beatsRead } from '../simplify/slots';
import { figuresOf, type Spot } from './devices';
import { judgeAnticipation, judgeFigure, judgeRunIn, mannersOf, wants, type FigurePlace, type Manners } from './judge';
import {
  addedBy,
  addedId,
  anticipation,
  figureAt,
  isAdded,
  isSeam,
  readWell,
  type EventPlace,
  type Placed,
} from './events';

/** A figure that may be made of an event. */
export interface Candidate {
  readonly event: EventId;
  readonly device: Device;
  /** Index of the bar, and of the phrase that it belongs to. */
  readonly bar: number;
  readonly phrase: number;
  /** What the judge says of it; the better, the higher. */
  readonly score: number;
  /** Breaks ties, from 0 up to 1. */
  readonly dice: number;
  /** What would be added, concert. */
  readonly added: readonly Pitch[];
  /** Some of it belongs neither to the key nor to the chord. */
  readonly isForeign: boolean;
  /** What kind of figure it is: its device, where in the bar, in which rhythm; the same upwards and downwards. */
  readonly figure: string;
  readonly make: () => Placed;
}

/** What the candidates of a line depend on, beside the line. */
export interface CandidateWishes {
  readonly devices: readonly Device[];
  readonly units: readonly Ticks[];
  readonly quickest: Ticks;
  readonly isPressed: boolean;
  /** The devices were chosen by hand: then the style forbids none of them. */
  readonly isAsked: boolean;
  readonly style: Style;
  readonly varies: boolean;
  readonly leans: boolean;
  /** Notes as long as this are not quick at the tempo. */
  readonly unhurried: Ticks;
  readonly round: number;
  readonly seed: number;
  /** Bars with a seed of their own. */
  readonly own: ReadonlyMap<number, number>;
}

/** Up to so many notes a second nothing is quick. */
export const UNHURRIED = 5;

/** Spreads one throw over several figures. */
const GOLDEN = 0.618;

/** Everything that could be added to a line, judged; the same for all players, who then take what they have. */
export function candidatesOf(
  tune: Tune,
  phrases: readonly Phrase[],
  wishes: CandidateWishes,
  silent: ReadonlySet<EventId>,
): readonly Candidate[] {
  const notes = soundingNotes(tune);
  const spans = barSpans(tune);
  const keys = keysOf(tune);
  const tones = chordTonesUnder(tune, notes);
  const ends = new Set(phrases.map(({ to }) => to - 1));
  const phraseOf = phraseIndices(phrases, notes.length);
  const byEvent = new Map(notes.map((note, index) => [note.first.id, index]));
  const seen = new Map<string, number>();
  const manners = mannersOf(wishes.style, notes);
  const secondsPerTick = 1 / (UNHURRIED * wishes.unhurried);
  const cadences = new Set(
    phrases.flatMap((phrase) => [
      ...cadenceOf(phrase),
      // Where a phrase is parted for a breath, that note stays as well.
      ...(isParted(phrase, notes, spans, secondsPerTick) ? [middleNoteOf(phrase, notes, spans, () => true) ?? -1] : []),
    ]),
  );
  const tonesAt = chordTonesAt(tune);
  return tune.bars.flatMap((bar, index): readonly Candidate[] => {
    const span = spans[index];
    const key = keys[index] ?? tune.key;
    if (!span || bar.events.length === 0) return [];
    const words = barWords(bar, tune.bars[index + 1], key);
    const times = (seen.get(words) ?? 0) + 1;
    seen.set(words, times);
    const own = wishes.own.get(index);
    const chance = chanceFrom(
      `${wishes.round}/${own ?? wishes.seed}/${wishes.varies && own === undefined ? times : 1}/${words}`,
    );
    return candidatesIn({
      tune,
      bar,
      index,
      span,
      spans,
      key,
      notes,
      tones,
      ends,
      phrases,
      phraseOf,
      byEvent,
      chance,
      wishes,
      silent,
      manners,
      cadences,
      nearby: alterationsNear(tune, index),
      tonesAt: (inBar) => tonesAt(span.start - span.offset + inBar) ?? [],
    });
  });
}

/** Of so many notes each, a phrase keeps as many at its end as it is: its cadence. */
const NOTES_TO_A_CADENCE_NOTE = 3;
const LONGEST_CADENCE = 3;

/** The last notes of a phrase, up to three: they are where the ear rests, and stay. */
function cadenceOf({ from, to }: Phrase): readonly number[] {
  const count = Math.max(1, Math.min(LONGEST_CADENCE, Math.floor((to - from) / NOTES_TO_A_CADENCE_NOTE)));
  return Array.from({ length: count }, (_, k) => to - 1 - k);
}

/** Letters that the tune alters in one way alone in a bar and its neighbours: so they are spelled in between as well. */
function alterationsNear({ bars }: Tune, index: number): readonly PitchClass[] {
  const found = new Map<Pitch['step'], number | undefined>();
  for (const bar of bars.slice(Math.max(0, index - 1), index + 2))
    for (const event of bar.events) {
      if (!isNote(event)) continue;
      const { step, alter } = event.pitch;
      found.set(step, found.has(step) && found.get(step) !== alter ? undefined : alter);
    }
  return [...found].flatMap(([step, alter]) => (alter === undefined ? [] : [{ step, alter }]));
}

function phraseIndices(phrases: readonly Phrase[], count: number): readonly number[] {
  const indices = Array<number>(count).fill(0);
  phrases.forEach(({ from, to }, phrase) => indices.fill(phrase, from, to));
  return indices;
}

/** What a bar is made of, whatever its key and octave, with the note it leads to. */
function barWords(bar: Bar, next: Bar | undefined, { tonic }: Key): string {
  const home = staffPosition({ ...tonic, octave: 4 });
  let before: number | undefined;
  const words = [...bar.events, ...(next?.events.slice(0, 1) ?? [])].map((event) => {
    if (!isNote(event)) return `z${event.length}`;
    const height = staffPosition(event.pitch);
    const step = before === undefined ? (((height - home) % 7) + 7) % 7 : height - before;
    before = height;
    return `${step}:${(chroma(event.pitch) - chroma(tonic) + 12) % 12}:${event.length}${event.tied ? '~' : ''}`;
  });
  return words.join(' ');
}

interface BarPlace extends EventPlace {
  readonly bar: Bar;
  readonly key: Key;
  readonly tones: readonly (readonly PitchClass[] | undefined)[];
  readonly phrases: readonly Phrase[];
  /** Of each sounding note. */
  readonly phraseOf: readonly number[];
  readonly byEvent: ReadonlyMap<EventId, number>;
  readonly chance: Chance;
  readonly wishes: CandidateWishes;
  readonly silent: ReadonlySet<EventId>;
  readonly manners: Manners;
  /** Indices of the notes that end their phrases, with what leads to the very last. */
  readonly cadences: ReadonlySet<number>;
  /** How the tune itself spells letters hereabouts. */
  readonly nearby: readonly PitchClass[];
  readonly tonesAt: (inBar: Ticks) => readonly PitchClass[];
}

/** What might be done in a bar. */
function candidatesIn(place: BarPlace): readonly Candidate[] {
  const { bar, span, tune, index } = place;
  let start = span.offset;
  let continues = isTiedOn(tune.bars[index - 1]);
  return bar.events.flatMap((event, k): readonly Candidate[] => {
    const inBar = start;
    start += event.length;
    const isContinued = continues;
    continues = isNote(event) && event.tied === true;
    if ((event.tuplet && !place.wishes.isPressed) || event.optional || isContinued) return [];
    return isNote(event) ? figuresAt(place, event, inBar) : runIns(place, event, k, inBar);
  });
}

function isTiedOn(bar: Bar | undefined): boolean {
  const last = bar?.events.at(-1);
  return last !== undefined && isNote(last) && last.tied === true;
}

function figuresAt(place: BarPlace, event: Note, inBar: Ticks): readonly Candidate[] {
  const { notes, ends, byEvent, wishes, span, key, tones } = place;
  const note = byEvent.get(event.id);
  const struck = note === undefined ? undefined : notes[note];
  // What was added is nobody's structure: nothing is added to it, nor between it and the note it was added to.
  if (note === undefined || !struck || event.fermata || isAdded(event.id)) return [];
  const after = notes[note + 1];
  if (after && isAdded(after.first.id)) return [];
  const home = beatsRead(span.meter).findLast((beat) => beat.start <= inBar);
  const beat = home?.length ?? TICKS_PER_QUARTER;
  // The end of a phrase is where the ear rests, and everybody breathes: signs alone, if anything.
  const isEnd = ends.has(note) || (place.cadences.has(note) && !wishes.isAsked && !wishes.isPressed);
  const isWhole = !event.tied && !event.tuplet && !isEnd;
  if (!isWhole && !wishes.isPressed) return [];
  const spot: Spot = {
    event,
    next: after?.first,
    isJoined:
      after !== undefined &&
      after.start === struck.start + struck.length &&
      !(after.bar !== struck.bar && isSeam(place.tune.bars[struck.bar], place.tune.bars[after.bar])),
    isOnBeat: weightAt(span.meter, inBar) >= 0.5,
    beat,
    key,
    tones: tones[note] ?? [],
    spelling: [...(tones[note] ?? []), ...place.nearby],
    style: wishes.style,
    varies: wishes.varies,
    isCompound: isCompound(span.meter),
    units: wishes.units,
    quickest: wishes.quickest,
    isPressed: wishes.isPressed,
  };
  const isWanted = (device: Device) => isWhole || device === 'grace' || device === 'turn';
  return figuresFor(wishes.devices.filter(isWanted), place, note, spot, inBar);
}

/** What devices make of a struck note, judged. */
function figuresFor(
  devices: readonly Device[],
  place: BarPlace,
  note: number,
  spot: Spot,
  inBar: Ticks,
): readonly Candidate[] {
  const { notes, chance, wishes, span, index, phraseOf } = place;
  const at = figurePlace(place, note, inBar, spot);
  const [bar, phrase, event] = [index, phraseOf[note] ?? 0, spot.event.id];
  const isGracedNext = notes[note + 1]?.first.graces !== undefined;
  const found: Candidate[] = [];
  for (const device of devices) {
    if (device === 'run-in') continue;
    // One throw a device: in another key a figure may be missing, and the others keep theirs.
    const thrown = chance();
    if (device === 'anticipation') {
      const score = judgeAnticipation(at);
      const made = score === undefined ? undefined : anticipation(place, note, spot);
      if (score === undefined || !made) continue;
      const figure = `${device}/${inBar}`;
      found.push({
        event,
        device,
        bar,
        phrase,
        score,
        dice: thrown,
        added: [],
        isForeign: false,
        figure,
        make: () => made,
      });
      continue;
    }
    figuresOf(device, spot).forEach((figure, k) => {
      // A grace before the next note would come in the way of what leads to it.
      if (figure.kind === 'pieces' && (isGracedNext || !readWell(figure.pieces, inBar, span, wishes))) return;
      const added = addedBy(figure);
      if (added.some(({ alter }) => Math.abs(alter) > 1)) return;
      const judged = judgeFigure(device, figure, at);
      if (!judged) return;
      const { score, isForeign } = judged;
      const dice = (thrown + k * GOLDEN) % 1;
      const make = () => figureAt(place, device, figure, spot, inBar);
      // Named one by one: a copy with fields added is made many times more slowly, and there are thousands.
      const name = `${device}/${inBar}/${figure.kind === 'pieces' ? figure.pieces.map(({ length }) => length).join('+') : ''}`;
      found.push({ event, device, bar, phrase, score, dice, added, isForeign, figure: name, make });
    });
  }
  return found;
}

/** All that the judge asks of a place. */
function figurePlace(place: BarPlace, note: number, inBar: Ticks, spot: Spot): FigurePlace {
  const { notes, spans, span, manners, wishes, tones, tonesAt } = place;
  const after = notes[note + 1];
  const nextSpan = after && spans[after.bar];
  const { meter } = span;
  const isLast = place.index === spans.length - 1;
  // Named one by one: a copy with fields added is made many times more slowly.
  return {
    spot,
    meter,
    tonesAt,
    wanted: wants({ spot, meter, isLast }),
    inBar,
    nextTones: (after && tones[note + 1]) ?? [],
    nextWeight: after && nextSpan ? weightAt(nextSpan.meter, after.inBar) : 0,
    isAsked: wishes.isAsked,
    isPressed: wishes.isPressed,
    manners,
    unhurried: wishes.unhurried,
  };
}

/** The end of a rest walks into the note after it; enough of the rest is left to breathe. */
function runIns(place: BarPlace, event: Rest, k: number, inBar: Ticks): readonly Candidate[] {
  const { bar, span, key, wishes, index, chance, byEvent, tune, silent } = place;
  const unit = wishes.units[0];
  if (!wishes.devices.includes('run-in') || !unit || event.fermata || event.tuplet || silent.has(event.id)) return [];
  const next = bar.events[k + 1] ?? (isSeam(bar, tune.bars[index + 1]) ? undefined : tune.bars[index + 1]?.events[0]);
  if (!next || !isNote(next) || next.graces || next.tuplet || isAdded(next.id)) return [];
  const rest = event.length - 2 * unit;
  const beat = beatsOf(span.meter)[0]?.length ?? TICKS_PER_QUARTER;
  // A whole bar of rest is a player's own: it is left; and of any a beat, to breathe.
  if (rest < (wishes.isAsked ? unit : beat) || (bar.events.length === 1 && event.length === span.length)) return [];
  const note = byEvent.get(next.id);
  const to = inBar + rest;
  const under = place.tonesAt(to);
  const thrown = chance();
  return [1, -1].flatMap((side, turn): readonly Candidate[] => {
    const pitches = [2, 1].map((steps) => scaleStep(next.pitch, -side * steps, key, [...under, ...place.nearby]));
    const pieces = pitches.map((pitch) => ({ pitch, length: unit }));
    const dice = (thrown + turn * GOLDEN) % 1;
    if (pitches.some(({ alter }) => Math.abs(alter) > 1) || !readWell(pieces, to, span, wishes)) return [];
    const make = (): Placed => {
      const rests = spellRestLength(inBar, rest, span.meter).map((length, part): Rest => ({
        kind: 'rest',
        id: part === 0 ? event.id : addedId(event.id, wishes.round, part + 4),
        length,
      }));
      const added = pieces.map(({ pitch, length }, part): Note => ({
        kind: 'note',
        id: addedId(event.id, wishes.round, part),
        pitch,
        length,
      }));
      return {
        bars: [index],
        marked: added.map(({ id }) => id),
        instead: new Map([[event.id, [...rests, ...added]]]),
        detail: {
          kind: 'embellished',
          device: 'run-in',
          at: pitchClassOf(next.pitch),
          added: pitches.map(pitchClassOf),
          beat: beatNumberAt(span.meter, to),
        },
      };
    };
    return [
      {
        event: event.id,
        device: 'run-in',
        bar: index,
        phrase: place.phraseOf[note ?? -1] ?? 0,
        score: judgeRunIn(pieces, to, { meter: span.meter, style: wishes.style }, under),
        figure: `run-in/${to}`,
        dice,
        added: pitches,
        isForeign: false,
        make,
      },
    ];
  });
}
