import { type ChordSymbol, transposeChord } from '../../harmony';
import {
  addIntervals,
  type Interval,
  isStep,
  type Key,
  keyWithSignature,
  MODES,
  octaves,
  type Pitch,
  readableInterval,
  transposeKey,
  transposeReadably,
  UNISON,
} from '../../pitch';
import { type Jump, MAX_BARS, type PlacedTempo, type Tempo } from '../../score';
import {
  barTicks,
  isMeterUnit,
  type Meter,
  NOTE_TYPES,
  type NoteType,
  soundingTicks,
  type Ticks,
  TICKS_PER_QUARTER,
  valueOfTicks,
  valueTicks,
} from '../../time';
import type { RawEvent } from '../assemble';
import { cutText } from '../../plainText';
import type { FormatProblem, Place } from '../problem';
import { readDirection, soundTempo } from './directions';
import { isDynamic } from './marks';
import { readNotations } from './notations';
import { OpenSlurs } from './openSlurs';
import { OpenTuplets } from './openTuplets';
import { readBarline } from './readBarline';
import { HarmonyReader } from './readHarmony';
import type { MeasureFound, PlacedRaw, Wedge } from './voices';
import { child, childrenOf, numberIn, textOf, type XmlElement } from './xmlTree';

export interface MeasuresRead {
  readonly measures: readonly MeasureFound[];
  /** How many there were, read or not. */
  readonly count: number;
  /** Of the first one in the file. */
  readonly line: number;
  readonly warnings: readonly FormatProblem[];
  /** At the head of the part. */
  readonly tempo?: Tempo;
  readonly problems: readonly FormatProblem[];
  /** A small staff with other versions of bars: no line of its own. */
  readonly isOssia: boolean;
}

/** Takes the measures of one part as they come, all voices of it. */
export class PartReader {
  readonly warnings: FormatProblem[] = [];
  private readonly reader = new MeasureReader(this.warnings);
  private readonly found: MeasureFound[] = [];
  private count = 0;
  private line = 0;

  add(measure: XmlElement): void {
    this.count += 1;
    if (this.count === 1) this.line = measure.line;
    // What is too long will be refused as a whole; it need not be held.
    if (this.count <= MAX_BARS) this.found.push(this.reader.measure(measure, this.count - 1));
  }

  result(): MeasuresRead {
    return {
      measures: this.found,
      count: this.count,
      line: this.line,
      warnings: this.warnings,
      ...(this.reader.tempo && { tempo: this.reader.tempo }),
      problems: this.reader.problems,
      isOssia: this.reader.isOssia,
    };
  }
}

type Draft = { -readonly [K in keyof MeasureFound]: MeasureFound[K] } & {
  placed: PlacedRaw[];
  wedges: Wedge[];
  tempos: PlacedTempo[];
  chords: { at: Ticks; symbol: ChordSymbol }[];
};

/** Where in a measure reading stands, and what waits there. */
interface Here {
  readonly bar: number;
  now: Ticks;
  graces: NonNullable<RawEvent['graces']>[number][];
  dynamic: string | undefined;
  readonly jumps: Jump[];
}

const MAX_TEMPO_WORDS = 60;

/** Reads measure after measure; what carries over from one to the next lives here. */
class MeasureReader {
  tempo: Tempo | undefined;
  isOssia = false;
  readonly problems: FormatProblem[] = [];

  private divisions = 1;
  private toConcert: Interval = UNISON;
  private spelling: Interval = UNISON;
  private meter: Meter | undefined;
  private isStart = true;
  private readonly tuplets = new OpenTuplets();
  private readonly slurs = new OpenSlurs();
  private readonly harmonies = new HarmonyReader();
  private readonly said = new Set<string>();

  constructor(private readonly warnings: FormatProblem[]) {}

  /** One warning a kind of thing; a score has hundreds of each. */
  private notKept(what: string, place: Place): void {
    if (this.said.has(what)) return;
    this.said.add(what);
    this.warnings.push({ code: 'left-out', place, found: what });
  }

  private wrong(element: XmlElement, bar: number, right: string): void {
    this.problems.push({
      code: 'unreadable-element',
      place: { line: element.line, bar },
      found: `<${element.name}>`,
      right,
    });
  }

  private ticks(duration: number | undefined): Ticks {
    return duration === undefined ? 0 : Math.round((duration * TICKS_PER_QUARTER) / this.divisions);
  }

  measure(measure: XmlElement, index: number): MeasureFound {
    const barNumber = Number.parseInt(measure.attributes['number'] ?? '', 10);
    const bar = Number.isNaN(barNumber) ? index + 1 : barNumber;
    const found: Draft = { placed: [], wedges: [], tempos: [], place: { line: measure.line }, end: 0, chords: [] };
    if (measure.attributes['implicit'] === 'yes') found.declaredPartial = true;
    const here: Here = { bar, now: 0, graces: [], dynamic: undefined, jumps: [] };
    this.tuplets.clear();
    for (const element of measure.children) {
      this.element(element, found, here);
      found.end = Math.max(found.end, here.now);
    }
    if (here.jumps.length > 0) found.jumps = here.jumps;
    return found;
  }

  private element(element: XmlElement, found: Draft, here: Here): void {
    switch (element.name) {
      case 'attributes': {
        if (textOf(element, 'staff-details', 'staff-type') === 'ossia') this.isOssia = true;
        const { key, meter } = this.attributes(element, here.bar);
        if (key) found.key = key;
        if (meter) found.meter = meter;
        return;
      }
      case 'note':
        return this.note(element, found, here);
      case 'backup':
        here.now = Math.max(0, here.now - this.ticks(numberIn(element, 'duration')));
        return;
      case 'forward':
        here.now += this.ticks(numberIn(element, 'duration'));
        return;
      case 'harmony': {
        const symbol = this.harmony(element, here.bar, here.now);
        const at = Math.max(0, here.now + this.ticks(numberIn(element, 'offset')));
        if (symbol) found.chords.push({ at, symbol });
        return;
      }
      case 'direction':
        return this.direction(element, found, here);
      case 'sound':
        return this.soundAlone(element, here.bar);
      case 'barline':
        return readBarline(element, found);
      case 'print':
      case 'bookmark':
      case 'link':
      case 'grouping':
        return;
      default:
        this.notKept(`<${element.name}>`, { bar: here.bar });
    }
  }

  /** A note, a rest, a grace note that waits for its note, or one more note of a chord. */
  private note(element: XmlElement, found: Draft, here: Here): void {
    const { bar } = here;
    const voice = `${textOf(element, 'voice') ?? '1'}/${textOf(element, 'staff') ?? '1'}`;
    const grace = child(element, 'grace');
    if (child(element, 'cue')) {
      this.notKept('a cue note', { bar });
      if (!grace) here.now += this.ticks(numberIn(element, 'duration'));
      return;
    }
    const pitch = this.pitch(element, bar);
    if (grace) {
      if (pitch && !child(element, 'chord'))
        here.graces.push({ pitch, ...(grace.attributes['slash'] === 'yes' && { slashed: true as const }) });
      return;
    }
    if (child(element, 'chord')) return this.addToChord(found.placed, voice, pitch, bar);
    const event = this.event(element, pitch, voice, bar);
    if (!event) return;
    found.placed.push({ voice, start: here.now, event: event.pitch ? withWaiting(event, here) : event });
    here.now += event.length;
    this.isStart = false;
  }

  private attributes(element: XmlElement, bar: number): { readonly key?: Key; readonly meter?: Meter } {
    const divisions = numberIn(element, 'divisions');
    if (divisions !== undefined) {
      if (divisions >= 1 && divisions <= 1_000_000) this.divisions = divisions;
      else this.wrong(element, bar, 'divisions go from 1 to 1,000,000');
    }
    const transpose = child(element, 'transpose');
    if (transpose) {
      const chromatic = numberIn(transpose, 'chromatic') ?? 0;
      const diatonic = numberIn(transpose, 'diatonic') ?? Math.round((chromatic * 7) / 12);
      if (Math.abs(chromatic) > 48 || Math.abs(diatonic) > 28)
        this.wrong(transpose, bar, 'a transposition of four octaves at most');
      else this.toConcert = addIntervals({ diatonic, chromatic }, octaves(numberIn(transpose, 'octave-change') ?? 0));
    }
    const keyElement = child(element, 'key');
    const key = keyElement ? this.key(keyElement, bar) : undefined;
    const time = child(element, 'time');
    const meter = time ? this.time(time, bar) : undefined;
    return { ...(key && { key }), ...(meter && { meter }) };
  }

  private key(element: XmlElement, bar: number): Key | undefined {
    const fifths = numberIn(element, 'fifths');
    if (fifths === undefined || Math.abs(fifths) > 7) {
      this.wrong(element, bar, 'a key has −7 to 7 fifths');
      return undefined;
    }
    const modeText = textOf(element, 'mode') ?? 'major';
    const mode = MODES.find((known) => known === modeText) ?? 'major';
    const written = keyWithSignature(fifths, mode);
    // A part in five sharps for an alto may sound in a key of eight: then the whole goes to the other spelling.
    this.spelling = readableInterval(written, this.toConcert);
    return transposeKey(written, this.spelling);
  }

  private time(element: XmlElement, bar: number): Meter | undefined {
    const beats = textOf(element, 'beats') ?? '';
    const unit = Number(textOf(element, 'beat-type'));
    const count = /^\d{1,2}(\+\d{1,2})*$/.test(beats)
      ? beats.split('+').reduce((sum, part) => sum + Number(part), 0)
      : 0;
    if (!isMeterUnit(unit) || count < 1 || count > 32) {
      this.wrong(
        element,
        bar,
        child(element, 'senza-misura') ? 'music without meter cannot be barred: give it one' : 'a meter like 4 over 4',
      );
      return undefined;
    }
    const symbol = element.attributes['symbol'];
    this.meter = { count, unit, ...(symbol === 'common' || symbol === 'cut' ? { sign: symbol } : {}) };
    return this.meter;
  }

  private pitch(element: XmlElement, bar: number): Pitch | undefined {
    const found = child(element, 'pitch');
    if (!found) {
      if (child(element, 'unpitched')) this.notKept('an unpitched note (as a rest)', { bar });
      return undefined;
    }
    const step = textOf(found, 'step');
    const octave = numberIn(found, 'octave');
    const alter = numberIn(found, 'alter') ?? 0;
    if (!isStep(step) || octave === undefined || octave < 0 || octave > 9 || !Number.isInteger(octave)) {
      this.wrong(found, bar, 'a pitch has a step A–G and an octave 0–9');
      return undefined;
    }
    if (!Number.isInteger(alter) || Math.abs(alter) > 3) {
      this.wrong(found, bar, 'alterations are whole semitones; quarter tones cannot be held');
      return undefined;
    }
    const interval = this.spelling.chromatic === this.toConcert.chromatic ? this.spelling : this.toConcert;
    return interval.chromatic === 0 && interval.diatonic === 0 && Math.abs(alter) < 3
      ? { step, alter, octave }
      : transposeReadably({ step, alter, octave }, interval);
  }

  private addToChord(placed: PlacedRaw[], voice: string, pitch: Pitch | undefined, bar: number): void {
    const last = placed.findLastIndex((one) => one.voice === voice);
    const below = placed[last];
    this.notKept('the lower notes of chords', { bar });
    if (!below || !pitch || !below.event.pitch) return;
    const height = (one: Pitch) => one.octave * 7 + 'CDEFGAB'.indexOf(one.step);
    if (height(pitch) > height(below.event.pitch)) placed[last] = { ...below, event: { ...below.event, pitch } };
  }

  private event(element: XmlElement, pitch: Pitch | undefined, voice: string, bar: number): RawEvent | undefined {
    const duration = this.ticks(numberIn(element, 'duration'));
    if (duration <= 0 || duration > 128 * TICKS_PER_QUARTER) {
      this.wrong(element, bar, 'a note needs a duration above zero');
      return undefined;
    }
    const wholeBar = child(element, 'rest')?.attributes['measure'] === 'yes';
    if (wholeBar && this.meter) return { length: Math.min(duration, barTicks(this.meter)) };
    const isMarked = child(element, 'notations') !== undefined;
    const marks =
      isMarked || child(element, 'lyric') ? readNotations(element, (what) => this.notKept(what, { bar })) : undefined;
    if (isMarked && this.slurs.follow(element, voice))
      this.notKept('the crossing of two slurs (they are nested)', { bar });
    const tuplet = this.tuplets.of(element, voice);
    const typeText = textOf(element, 'type');
    const type = NOTE_TYPES.find((known): known is NoteType => known === typeText);
    const dots = Math.min(3, childrenOf(element, 'dot').length) as 0 | 1 | 2 | 3;
    const printed = type ? soundingTicks(valueTicks({ type, dots }), tuplet) : undefined;
    // The printed value wins where the duration was rounded (a triplet in 256 divisions).
    const length =
      printed !== undefined && Math.abs(printed - duration) <= TICKS_PER_QUARTER / this.divisions ? printed : duration;
    if (!tuplet && !valueOfTicks(length) && length % 315 !== 0) {
      this.wrong(element, bar, 'its duration fits no printed note; divisions or <time-modification> are missing');
      return undefined;
    }
    const tied =
      childrenOf(element, 'tie').some((tie) => tie.attributes['type'] === 'start') ||
      childrenOf(child(element, 'notations'), 'tied').some((tie) => tie.attributes['type'] === 'start');
    // Built step by step: a score has tens of thousands of these, and each spread would make another object.
    const event: { -readonly [Field in keyof RawEvent]: RawEvent[Field] } = { length };
    if (pitch) event.pitch = pitch;
    if (tuplet) event.tuplet = tuplet;
    if (tied && pitch) event.tied = true;
    if (marks) event.marks = marks;
    return event;
  }

  /** The chord as it sounds; one that cannot be read is told. */
  private harmony(element: XmlElement, bar: number, now: Ticks): ChordSymbol | undefined {
    const read = this.harmonies.read(element);
    if (read.ok) return transposeChord(read.value, this.spelling);
    this.problems.push({
      code: 'unreadable-chord',
      place: { line: element.line, bar, beat: 1 + Math.floor(now / TICKS_PER_QUARTER) },
      found: read.problem,
      right: 'a <root> and a known <kind> are needed',
    });
    return undefined;
  }

  /** Marks at a place. A dynamic waits for its note. */
  private direction(element: XmlElement, found: Draft, here: Here): void {
    const { bar } = here;
    const read = readDirection(element);
    const at = Math.max(0, here.now + this.ticks(numberIn(element, 'offset')));
    if (read.section !== undefined) found.section = read.section;
    here.jumps.push(...read.jumps);
    for (const type of read.wedges) found.wedges.push({ at, type });
    for (const what of read.left) this.notKept(what, { bar });
    const words = read.words.join(' ');
    const tempo = read.tempo ?? this.tempoOfSound(child(element, 'sound'), words !== '', bar);
    if (tempo) this.setTempo(words === '' ? tempo : { ...tempo, words: cutText(words, MAX_TEMPO_WORDS) }, found, at);
    else if (words !== '') this.notKept(`the words "${words}"`, { bar });
    if (read.dynamic === undefined) return;
    here.dynamic = read.dynamic;
    if (!isDynamic(read.dynamic)) this.notKept(`the dynamic ${read.dynamic}`, { bar });
  }

  /** A tempo for playing is one to print at the head of the music, or under words. */
  private tempoOfSound(sound: XmlElement | undefined, hasWords: boolean, bar: number): Tempo | undefined {
    const tempo = soundTempo(sound);
    if (!tempo || hasWords || this.isStart) return tempo;
    this.notKept('a tempo for playing alone, without a mark', { bar });
    return undefined;
  }

  private setTempo(tempo: Tempo, found: Draft, at: Ticks): void {
    if (this.isStart && at === 0) this.tempo = tempo;
    else found.tempos.push({ at, tempo });
  }

  /** A `<sound>` outside any direction gives the first tempo where there is no other. */
  private soundAlone(element: XmlElement, bar: number): void {
    const tempo = this.tempoOfSound(element, false, bar);
    if (tempo) this.tempo ??= tempo;
  }
}

/** A note with the graces and the dynamic that waited for it. */
function withWaiting(event: RawEvent, here: Here): RawEvent {
  const { graces, dynamic } = here;
  here.dynamic = undefined;
  if (graces.length > 0) here.graces = [];
  const marked = dynamic && isDynamic(dynamic) ? { ...event, marks: { ...event.marks, dynamic } } : event;
  return graces.length > 0 ? { ...marked, graces } : marked;
}
