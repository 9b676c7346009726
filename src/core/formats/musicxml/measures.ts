import type { ChordSymbol } from '../../harmony/chordSymbol';
import { transposeChord } from '../../harmony/chordSymbol';
import { addIntervals, octaves, UNISON, type Interval } from '../../pitch/interval';
import { keyWithSignature, MODES, type Key } from '../../pitch/key';
import { isStep, type Pitch, type PitchClass } from '../../pitch/pitch';
import { readableInterval, transposeReadably } from '../../pitch/respell';
import { transposeKey } from '../../pitch/key';
import type { Jump, Tempo } from '../../score/tune';
import { barTicks, isMeterUnit, type Meter } from '../../time/meter';
import { NOTE_TYPES, soundingTicks, valueOfTicks, valueTicks, type NoteType, type Tuplet } from '../../time/noteValue';
import { TICKS_PER_QUARTER, type Ticks } from '../../time/ticks';
import type { RawBar, RawEvent } from '../assemble';
import type { FormatProblem, Place } from '../problem';
import { kindOfHarmony, type HarmonyDegree } from './chordKinds';
import { isDynamic, jumpOfWords } from './marks';
import { readNotations } from './notations';
import { child, childrenOf, numberIn, textOf, type XmlElement } from './xmlTree';

export interface MeasuresRead {
  readonly bars: readonly RawBar[];
  readonly tempo?: Tempo;
  readonly problems: readonly FormatProblem[];
}

/** Something at a place in a measure, in the voice it belongs to. */
interface Placed {
  readonly voice: string;
  readonly start: Ticks;
  readonly event: RawEvent;
}

/** What a measure holds before a voice is chosen. */
interface MeasureFound extends Omit<RawBar, 'events'> {
  readonly placed: readonly Placed[];
  readonly end: Ticks;
}

/** Works through the measures of one part. The most used voice is kept; its gaps become rests. */
export function readMeasures(measures: readonly XmlElement[], warnings: FormatProblem[]): MeasuresRead {
  const reader = new MeasureReader(warnings);
  const found = measures.map((measure, index) => reader.measure(measure, index));
  const counts = new Map<string, number>();
  for (const { voice, event } of found.flatMap(({ placed }) => placed)) {
    counts.set(voice, (counts.get(voice) ?? 0) + (event.pitch ? 1 : 0));
  }
  const chosen = [...counts].reduce<readonly [string, number]>((best, next) => (next[1] > best[1] ? next : best), ['1/1', -1])[0];
  const sounding = [...counts.values()].filter((notes) => notes > 0).length;
  if (sounding > 1) warnings.push({ code: 'other-voices', place: {}, found: `${sounding} voices`, right: `the one with most notes (voice ${chosen.split('/')[0]}) was taken` });
  return {
    bars: found.map((measure) => toRawBar(measure, chosen)),
    ...(reader.tempo && { tempo: reader.tempo }),
    problems: reader.problems,
  };
}

function toRawBar({ placed, end, ...bar }: MeasureFound, voice: string): RawBar {
  const events: RawEvent[] = [];
  let position = 0;
  for (const one of placed.filter((candidate) => candidate.voice === voice)) {
    if (one.start > position) events.push({ length: one.start - position });
    events.push(one.event);
    position = one.start + one.event.length;
  }
  if (end > position) events.push({ length: end - position });
  return { ...bar, events };
}

/** Reads measure after measure; what carries over from one to the next lives here. */
class MeasureReader {
  tempo: Tempo | undefined;
  readonly problems: FormatProblem[] = [];

  private divisions = 1;
  private toConcert: Interval = UNISON;
  private spelling: Interval = UNISON;
  private meter: Meter | undefined;
  private tuplets = 0;
  private tuplet: { readonly mark: Tuplet; readonly voice: string; notated: Ticks; readonly declared: boolean } | undefined;
  private readonly said = new Set<string>();

  constructor(private readonly warnings: FormatProblem[]) {}

  /** One warning a kind of thing; a score has hundreds of each. */
  private notKept(what: string, place: Place): void {
    if (this.said.has(what)) return;
    this.said.add(what);
    this.warnings.push({ code: 'not-kept', place, found: what });
  }

  private wrong(element: XmlElement, bar: number, right: string): void {
    this.problems.push({ code: 'unreadable-element', place: { line: element.line, bar }, found: `<${element.name}>`, right });
  }

  private ticks(duration: number | undefined): Ticks {
    return duration === undefined ? 0 : Math.round((duration * TICKS_PER_QUARTER) / this.divisions);
  }

  measure(measure: XmlElement, index: number): MeasureFound {
    const barNumber = Number.parseInt(measure.attributes['number'] ?? '', 10);
    const bar = Number.isNaN(barNumber) ? index + 1 : barNumber;
    const place: Place = { line: measure.line };
    const found: { -readonly [K in keyof MeasureFound]: MeasureFound[K] } & { placed: Placed[] } = { placed: [], chords: [], place, end: 0 };
    const jumps: Jump[] = [];
    const chords: { at: Ticks; symbol: ChordSymbol }[] = [];
    if (measure.attributes['implicit'] === 'yes') found.declaredPartial = true;
    let now: Ticks = 0;
    let graces: NonNullable<RawEvent['graces']>[number][] = [];
    let dynamic: string | undefined;
    this.tuplet = undefined;
    for (const element of measure.children) {
      switch (element.name) {
        case 'attributes': {
          const { key, meter } = this.attributes(element, bar);
          if (key) found.key = key;
          if (meter) found.meter = meter;
          break;
        }
        case 'note': {
          const voice = `${textOf(element, 'voice') ?? '1'}/${textOf(element, 'staff') ?? '1'}`;
          if (child(element, 'cue')) { this.notKept('a cue note', { bar }); if (!child(element, 'grace')) now += this.ticks(numberIn(element, 'duration')); break; }
          const pitch = this.pitch(element, bar);
          if (child(element, 'grace')) {
            if (pitch && !child(element, 'chord')) graces.push({ pitch, ...(child(element, 'grace')?.attributes['slash'] === 'yes' && { slashed: true as const }) });
            break;
          }
          if (child(element, 'chord')) {
            this.addToChord(found.placed, voice, pitch, bar);
            break;
          }
          const event = this.event(element, pitch, voice, bar);
          if (!event) break;
          const marks = dynamic && isDynamic(dynamic) && event.pitch ? { ...event.marks, dynamic } : event.marks;
          if (event.pitch) dynamic = undefined;
          found.placed.push({ voice, start: now, event: { ...event, ...(marks && { marks }), ...(graces.length > 0 && event.pitch && { graces }) } });
          if (event.pitch) graces = [];
          now += event.length;
          break;
        }
        case 'backup': now = Math.max(0, now - this.ticks(numberIn(element, 'duration'))); break;
        case 'forward': now += this.ticks(numberIn(element, 'duration')); break;
        case 'harmony': {
          const symbol = this.harmony(element, bar, now);
          if (symbol) chords.push({ at: Math.max(0, now + this.ticks(numberIn(element, 'offset'))), symbol });
          break;
        }
        case 'direction': dynamic = this.direction(element, found, jumps, bar) ?? dynamic; break;
        case 'sound': this.soundTempo(element); break;
        case 'barline': this.barline(element, found); break;
        case 'print': case 'bookmark': case 'link': case 'grouping': break;
        default: this.notKept(`<${element.name}>`, { bar });
      }
      found.end = Math.max(found.end, now);
    }
    found.chords = chords;
    if (jumps.length > 0) found.jumps = jumps;
    return found;
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
      if (Math.abs(chromatic) > 48 || Math.abs(diatonic) > 28) this.wrong(transpose, bar, 'a transposition of four octaves at most');
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
    const count = /^\d{1,2}(\+\d{1,2})*$/.test(beats) ? beats.split('+').reduce((sum, part) => sum + Number(part), 0) : 0;
    if (!isMeterUnit(unit) || count < 1 || count > 32) {
      this.wrong(element, bar, child(element, 'senza-misura') ? 'music without meter cannot be barred: give it one' : 'a meter like 4 over 4');
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
    return transposeReadably({ step, alter, octave }, interval);
  }

  private addToChord(placed: Placed[], voice: string, pitch: Pitch | undefined, bar: number): void {
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
    const marks = readNotations(element, (what) => this.notKept(what, { bar }));
    const tuplet = this.tupletFor(element, voice);
    const type = NOTE_TYPES.find((known): known is NoteType => known === textOf(element, 'type'));
    const dots = Math.min(3, childrenOf(element, 'dot').length) as 0 | 1 | 2 | 3;
    const printed = type ? soundingTicks(valueTicks({ type, dots }), tuplet) : undefined;
    // The printed value wins where the duration was rounded (a triplet in 256 divisions).
    const length = printed !== undefined && Math.abs(printed - duration) <= TICKS_PER_QUARTER / this.divisions ? printed : duration;
    if (!tuplet && !valueOfTicks(length) && length % 315 !== 0) {
      this.wrong(element, bar, 'its duration fits no printed note; divisions or <time-modification> are missing');
      return undefined;
    }
    const tied = childrenOf(element, 'tie').some((tie) => tie.attributes['type'] === 'start') || childrenOf(child(element, 'notations'), 'tied').some((tie) => tie.attributes['type'] === 'start');
    return { length, ...(pitch && { pitch }), ...(tuplet && { tuplet }), ...(tied && pitch && { tied }), ...(marks && { marks }) };
  }

  /** Groups notes under one tuplet: by the file's own marks, else until the group fills whole normal notes. */
  private tupletFor(element: XmlElement, voice: string): Tuplet | undefined {
    const actual = numberIn(element, 'time-modification', 'actual-notes');
    const normal = numberIn(element, 'time-modification', 'normal-notes');
    if (!actual || !normal || actual === normal || actual > 64 || normal > 64) {
      this.tuplet = undefined;
      return undefined;
    }
    const marks = childrenOf(child(element, 'notations'), 'tuplet');
    const starts = marks.some((mark) => mark.attributes['type'] === 'start');
    const current = this.tuplet;
    const continues = current && current.voice === voice && current.mark.actual === actual && current.mark.normal === normal && !starts;
    if (!continues) {
      this.tuplets += 1;
      this.tuplet = { mark: { id: `t${this.tuplets}`, actual, normal }, voice, notated: 0, declared: starts };
    }
    const group = this.tuplet;
    if (!group) return undefined;
    const type = NOTE_TYPES.find((known) => known === textOf(element, 'type')) ?? 'eighth';
    group.notated += valueTicks({ type, dots: Math.min(3, childrenOf(element, 'dot').length) as 0 | 1 | 2 | 3 });
    const stops = marks.some((mark) => mark.attributes['type'] === 'stop');
    const isFull = !group.declared && group.notated % (actual * valueTicks({ type, dots: 0 })) === 0;
    if (stops || isFull) this.tuplet = undefined;
    return group.mark;
  }

  private harmony(element: XmlElement, bar: number, now: Ticks): ChordSymbol | undefined {
    const kindElement = child(element, 'kind');
    const kind = kindElement?.text.trim() ?? '';
    if (kind === 'none') return { kind: 'no chord' };
    const unreadable = (found: string) => {
      this.problems.push({ code: 'unreadable-chord', place: { line: element.line, bar, beat: 1 + Math.floor(now / TICKS_PER_QUARTER) }, found, right: 'a <root> and a known <kind> are needed' });
      return undefined;
    };
    const root = pitchClassIn(child(element, 'root'), 'root');
    if (!root) return unreadable(textOf(element, 'function') ?? 'no root');
    const degrees = childrenOf(element, 'degree').map((degree): HarmonyDegree => {
      const type = textOf(degree, 'degree-type');
      return {
        value: numberIn(degree, 'degree-value') ?? 0, alter: numberIn(degree, 'degree-alter') ?? 0,
        type: type === 'alter' || type === 'subtract' ? type : 'add',
      };
    });
    const quality = kindOfHarmony(kind, kindElement?.attributes['text'], degrees);
    if (!quality) return unreadable(`${root.step} ${kind}`);
    const bass = pitchClassIn(child(element, 'bass'), 'bass');
    return transposeChord({ kind: 'chord', root, quality, ...(bass && { bass }) }, this.spelling);
  }

  private direction(element: XmlElement, found: { section?: string }, jumps: Jump[], bar: number): string | undefined {
    let dynamic: string | undefined;
    const words: string[] = [];
    for (const type of childrenOf(element, 'direction-type')) {
      for (const one of type.children) {
        switch (one.name) {
          case 'rehearsal': found.section = one.text.trim().slice(0, 40); break;
          case 'segno': case 'coda': jumps.push(one.name); break;
          case 'dynamics': dynamic = one.children[0]?.name; break;
          case 'metronome': this.metronome(type); break;
          case 'words': {
            const jump = jumpOfWords(one.text);
            if (jump) jumps.push(jump);
            else if (one.text.trim()) words.push(one.text.trim());
            break;
          }
          default: this.notKept(`a ${one.name} mark`, { bar });
        }
      }
    }
    const isTempo = childrenOf(element, 'direction-type').some((type) => child(type, 'metronome')) || child(element, 'sound')?.attributes['tempo'] !== undefined;
    if (words.length > 0 && isTempo && this.tempo && !this.tempo.words) this.tempo = { ...this.tempo, words: words.join(' ').slice(0, 60) };
    else if (words.length > 0) this.notKept(`the words "${words.join(' ')}"`, { bar });
    const sound = child(element, 'sound');
    if (sound) this.soundTempo(sound);
    if (dynamic && !isDynamic(dynamic)) this.notKept(`the dynamic ${dynamic}`, { bar });
    return dynamic;
  }

  private metronome(type: XmlElement): void {
    if (this.tempo) return this.notKept('a tempo change', {});
    const metronome = child(type, 'metronome');
    const unit = NOTE_TYPES.find((known): known is NoteType => known === textOf(metronome, 'beat-unit'));
    const perMinute = numberIn(metronome, 'per-minute');
    const dots = Math.min(1, childrenOf(metronome, 'beat-unit-dot').length) as 0 | 1;
    if (unit && perMinute && perMinute > 0) this.tempo = { beat: { type: unit, dots }, perMinute: Math.round(perMinute) };
  }

  private soundTempo(element: XmlElement): void {
    const tempo = Number(element.attributes['tempo']);
    if (this.tempo === undefined && tempo > 0 && tempo < 1000) this.tempo = { beat: { type: 'quarter', dots: 0 }, perMinute: Math.round(tempo) };
  }

  private barline(element: XmlElement, found: { -readonly [K in keyof MeasureFound]?: MeasureFound[K] }): void {
    const repeat = child(element, 'repeat');
    if (repeat?.attributes['direction'] === 'forward') found.repeatStart = true;
    if (repeat?.attributes['direction'] === 'backward') found.repeatEnd = Math.min(16, Math.max(2, Number.parseInt(repeat.attributes['times'] ?? '2', 10) || 2));
    const ending = child(element, 'ending');
    if (ending?.attributes['type'] === 'start') {
      const times = (ending.attributes['number'] ?? '1').split(/[,\s]+/).map(Number).filter((time) => Number.isInteger(time) && time > 0 && time < 17);
      found.ending = times.length > 0 ? times : [1];
    } else if (ending) found.endingStops = true;
    const style = textOf(element, 'bar-style');
    const isRight = (element.attributes['location'] ?? 'right') === 'right';
    if (isRight && !repeat && style === 'light-heavy') found.barline = 'final';
    if (isRight && !repeat && style === 'light-light') found.barline = 'double';
  }
}

function pitchClassIn(element: XmlElement | undefined, name: 'root' | 'bass'): PitchClass | undefined {
  const step = textOf(element, `${name}-step`);
  const alter = numberIn(element, `${name}-alter`) ?? 0;
  return isStep(step) && Math.abs(alter) <= 2 ? { step, alter } : undefined;
}
