import { parseChord, type ChordSymbol } from '../../harmony/chordSymbol';
import { alterInSignature, signatureOf, type Key } from '../../pitch/key';
import { isStep, staffPosition, type Pitch, type Step } from '../../pitch/pitch';
import type { GraceNote, Jump, Lyric, Note, Tempo } from '../../score/tune';
import { barTicks, isCompound, parseMeter, type Meter } from '../../time/meter';
import type { Tuplet } from '../../time/noteValue';
import type { Ticks } from '../../time/ticks';
import type { RawBar, RawEvent } from '../assemble';
import { cutText } from '../../plainText';
import { spend } from '../effort';
import { MOST_BARS, MOST_GRACES_IN_BAR, MOST_NOTES, MOST_PROBLEMS, MOST_VERSES } from '../limits';
import type { FormatProblem, Place } from '../problem';
import { parseAbcKey, parseAbcTempo, parseUnit, type AbcKey } from './header';
import { parseLyricLine } from './lyrics';
import { NAMED_MARKS, SHORT_MARKS, type AbcMark } from './marks';
import { NOTE, tokenAt, type Token } from './tokens';
import { withoutComment, type NumberedLine } from './tuneBook';

export interface AbcStart {
  readonly key: AbcKey;
  readonly meter: Meter | undefined;
  readonly unit: Ticks;
  /** To which all belongs that stands before the first voice field. */
  readonly firstVoice: string;
}

type Marks = NonNullable<RawEvent['marks']>;
type DraftEvent = { -readonly [K in keyof RawEvent]: RawEvent[K] } & {
  marks: { -readonly [K in keyof Marks]: Marks[K] };
};
type DraftBar = { -readonly [K in keyof RawBar]: RawBar[K] } & {
  events: DraftEvent[];
  chords: { at: Ticks; symbol: ChordSymbol }[];
};

export interface MusicRead {
  readonly bars: readonly RawBar[];
  /** Given in the body before the first note. */
  readonly tempo?: Tempo;
  readonly problems: readonly FormatProblem[];
}

/**
 * Reads the lines after the key field of one tune into bars that may not yet add up.
 * @param voice the name of the voice to follow; the first one met when not given
 */
export function readMusic(
  lines: readonly NumberedLine[],
  start: AbcStart,
  warnings: FormatProblem[],
  voice?: string,
): MusicRead {
  const reader = new MusicReader(start, warnings, voice);
  for (const line of lines) reader.line(line);
  reader.finish();
  return { bars: reader.bars, ...(reader.tempo && { tempo: reader.tempo }), problems: reader.problems };
}

const ALTERS: Readonly<Record<string, number>> = { '^': 1, '^^': 2, _: -1, __: -2, '=': 0 };

/** Works through the music line by line. State lives here and nowhere else; it is used once. */
class MusicReader {
  readonly bars: RawBar[] = [];
  readonly problems: FormatProblem[] = [];
  tempo: Tempo | undefined;

  private key: Key;
  private extra: ReadonlyMap<Step, number>;
  private unit: Ticks;
  private meter: Meter | undefined;
  private bar: DraftBar;
  private position: Ticks = 0;
  private inBar = new Map<Step, number>();
  private tieFrom: Pitch | undefined;
  private last: DraftEvent | undefined;
  private broken: { longer: number; shorter: number } | undefined;
  private tuplet: { mark: Tuplet; left: number; text: string; place: Place } | undefined;
  private tuplets = 0;
  private graces: GraceNote[] = [];
  private marks: AbcMark[] = [];
  private slurStarts = 0;
  private silent = false;
  private overlay = false;
  private lyricNotes: { event: DraftEvent; bar: number }[] = [];
  private sungVerses = 0;
  private lineNumber = 0;
  /** Events and graces so far. */
  private notes = 0;
  private nextKey: Key | undefined;

  constructor(
    start: AbcStart,
    private readonly warnings: FormatProblem[],
    private voice: string | undefined,
  ) {
    this.voice ??= start.firstVoice;
    this.silent = this.voice !== start.firstVoice;
    this.key = start.key.key;
    this.extra = start.key.extra;
    this.unit = start.unit;
    this.meter = start.meter;
    this.bar = emptyBar({});
  }

  line({ text, number }: NumberedLine): void {
    if (text.startsWith('%%')) return this.notKept({ line: number }, `the layout directive "${text.trim()}"`);
    const clean = withoutComment(text).replace(/\\\s*$/, '');
    const field = /^([A-Za-z]):(.*)$/.exec(clean);
    if (field && !/^[|:]/.test(field[2] ?? ''))
      return this.field(field[1] ?? '', (field[2] ?? '').trim(), { line: number });
    if (this.silent || clean.trim() === '') return;
    this.lyricNotes = [];
    this.sungVerses = 0;
    this.music(clean, number);
  }

  finish(): void {
    this.closeTuplet();
    this.closeBar();
  }

  /** What more there is would not be taken: the file is refused already. */
  private isFull(): boolean {
    return this.problems.length > MOST_PROBLEMS || this.notes > MOST_NOTES || this.bars.length > MOST_BARS;
  }

  private placeAt(line: number, at: number): Place {
    return { line, column: at + 1, bar: this.barNumber() };
  }

  /** As printed: a short first bar is bar 0. */
  private barNumber(): number {
    const first = this.bars[0];
    const held = first?.events.reduce((sum, event) => sum + event.length, 0) ?? 0;
    return this.bars.length + (first && this.meter && held < barTicks(this.meter) ? 0 : 1);
  }

  private notKept(place: Place, found: string): void {
    this.warnings.push({ code: 'left-out', place, found });
  }

  private field(name: string, value: string, place: Place): void {
    const wrong = (right: string) =>
      this.problems.push({ code: 'unreadable-field', place, found: `${name}:${value}`, right });
    switch (name) {
      case 'V':
        return this.changeVoice(value.split(/\s/)[0] ?? '');
      case 'w':
        return this.silent ? undefined : this.sing(value, place);
      default:
        if (this.silent) return;
    }
    switch (name) {
      case 'K': {
        const key = parseAbcKey(value);
        if (!key) return void wrong('a key is written like D, Bb, Em or A dorian');
        this.key = key.key;
        this.extra = key.extra;
        if (this.bar.events.length === 0) this.bar.key = key.key;
        else {
          this.nextKey = key.key;
          this.warnings.push({
            code: 'left-out',
            place: { ...place, bar: this.barNumber() },
            found: 'a key signature inside the bar',
            right: 'it stands at the next barline; the notes are right',
          });
        }
        return;
      }
      case 'M': {
        const meter = parseMeter(value);
        if (!meter) return void wrong('a meter is written like 4/4 or 6/8');
        this.meter = meter;
        this.bar.meter = meter;
        return;
      }
      case 'L': {
        const unit = parseUnit(value);
        if (unit === undefined) return void wrong('a unit length is written like 1/8');
        this.unit = unit;
        return;
      }
      case 'P':
        this.bar.section = cutText(value, 40);
        return;
      case 'Q': {
        const tempo = parseAbcTempo(value, this.unit);
        if (!tempo)
          return void this.warnings.push({
            code: 'unreadable-field',
            place,
            found: `Q:${value}`,
            right: 'write a tempo like 1/4=96',
          });
        if (this.bars.length === 0 && this.bar.events.length === 0) this.tempo = tempo;
        else this.bar.tempos = [...(this.bar.tempos ?? []), { at: this.position, tempo }];
        return;
      }
      case 'r':
      case 'N':
      case 'W':
      case 'R':
      default:
        return this.notKept(place, `the field "${name}:${value}"`);
    }
  }

  private changeVoice(name: string): void {
    this.silent = name !== this.voice;
  }

  private music(text: string, line: number): void {
    this.lineNumber = line;
    for (let at = 0; at < text.length && !this.isFull();) {
      spend();
      const { token, end } = tokenAt(text, at, this.silent ? 'fields' : this.overlay ? 'bars' : 'all');
      const start = at;
      at = end;
      // Places are made for what is told about alone: a bar's number is not to be counted for every note.
      if (token.kind === 'note') this.note(token.match, () => this.placeAt(line, start));
      else if (token.kind !== 'nothing') this.read(token, this.placeAt(line, start));
    }
  }

  private read(token: Exclude<Token, { readonly kind: 'note' | 'nothing' }>, place: Place): void {
    switch (token.kind) {
      case 'field':
        return this.field(token.name, token.value, place);
      case 'barline':
        this.barline(token.sign);
        return token.times === undefined ? undefined : this.ending(token.times);
      case 'ending':
        return this.ending(token.times);
      case 'stacked':
        return this.stacked(token, place);
      case 'rest':
        return this.rest(this.lengthOf(token.match, 1, () => place));
      case 'long rest':
        return this.longRest(token.bars, place);
      case 'quoted':
        return this.quoted(token.text, place);
      case 'tuplet':
        return this.startTuplet(token.match, place);
      case 'graces':
        return this.readGraces(token.notes, token.isSlashed, place);
      case 'mark':
        return this.mark(token.name, place);
      case 'sign':
        return this.sign(token.sign, token.count, place);
    }
  }

  /** The length that three groups of a match spell: over, slashes, under. */
  private lengthOf(match: RegExpExecArray, group: number, place: () => Place): Ticks {
    return this.length(match[group] ?? '', match[group + 1] ?? '', match[group + 2] ?? '', place);
  }

  private sign(character: string, count: number, place: Place): void {
    const short = Object.hasOwn(SHORT_MARKS, character) ? SHORT_MARKS[character] : undefined;
    if (short) return this.mark(short, place);
    switch (character) {
      case '-':
        if (this.last?.pitch) {
          this.last.tied = true;
          this.tieFrom = this.last.pitch;
        }
        return;
      case '(':
        this.slurStarts += 1;
        return;
      case ')':
        if (this.last) this.last.marks.slurEnds = (this.last.marks.slurEnds ?? 0) + 1;
        return;
      case '<':
      case '>': {
        const shorter = 1 / 2 ** count;
        const [before, after] = character === '>' ? [2 - shorter, shorter] : [shorter, 2 - shorter];
        if (this.last) this.stretchLast(before);
        this.broken = { longer: before, shorter: after };
        return;
      }
      case '&':
        this.overlay = true;
        return (
          this.warnings.push({
            code: 'other-voices',
            place,
            found: 'a second voice after "&"',
            right: 'the first was taken',
          }),
          undefined
        );
      case '$':
      case '!':
      case '*':
      case ';':
      case '?':
      case '@':
        return;
      default:
        this.problems.push({
          code: 'unreadable-character',
          place,
          found: character,
          right: 'notes are A–G and a–g, rests z, bars |',
        });
    }
  }

  private stretchLast(factor: number): void {
    if (!this.last) return;
    const length = this.last.length * factor;
    this.position += length - this.last.length;
    this.last.length = length;
  }

  private length(over: string, slashes: string, under: string, place: () => Place): Ticks {
    if (over === '' && slashes === '') return this.unit;
    const divisor = slashes === '' ? 1 : under !== '' ? Number(under) * 2 ** (slashes.length - 1) : 2 ** slashes.length;
    const ticks = (this.unit * Number(over === '' ? 1 : over)) / divisor;
    if (Number.isInteger(ticks) && ticks > 0 && ticks <= 64 * 10_080) return ticks;
    this.problems.push({
      code: 'unreadable-length',
      place: place(),
      found: over + slashes + under,
      right: 'a length is a number, a fraction or /2',
    });
    return this.unit;
  }

  private pitchOf(match: RegExpExecArray): Pitch | undefined {
    const letter = match[2] ?? '';
    const step = letter.toUpperCase();
    if (!isStep(step)) return undefined;
    const marks = match[3] ?? '';
    const octave = (letter === step ? 4 : 5) + (marks.match(/'/g)?.length ?? 0) - (marks.match(/,/g)?.length ?? 0);
    const sign = match[1];
    const natural: Pitch = { step, alter: 0, octave };
    if (sign !== undefined) {
      const alter = ALTERS[sign] ?? 0;
      // ABC 2.1, 11.3: by default an accidental holds for its letter in every octave of the bar.
      this.inBar.set(step, alter);
      return { ...natural, alter };
    }
    if (this.tieFrom && staffPosition(this.tieFrom) === staffPosition(natural)) return this.tieFrom;
    const alter = this.inBar.get(step) ?? this.extra.get(step) ?? alterInSignature(step, signatureOf(this.key));
    return { ...natural, alter };
  }

  private note(match: RegExpExecArray, place: () => Place): void {
    const pitch = this.pitchOf(match);
    const length = this.lengthOf(match, 4, place);
    if (!pitch) return;
    if (pitch.octave < 0 || pitch.octave > 9) {
      this.problems.push({
        code: 'unreadable-character',
        place: place(),
        found: match[0],
        right: 'no instrument plays there: use fewer octave marks',
      });
      return;
    }
    this.push({ pitch, length, marks: {} });
  }

  private rest(length: Ticks): void {
    this.push({ length, marks: {} });
  }

  /** Adds an event with all that was waiting for it: tuplet, broken rhythm, graces, marks, slurs. */
  private push(event: DraftEvent): void {
    if (this.broken) {
      event.length *= this.broken.shorter;
      this.broken = undefined;
    }
    if (this.tuplet) {
      event.tuplet = this.tuplet.mark;
      event.length = (event.length * this.tuplet.mark.normal) / this.tuplet.mark.actual;
      this.tuplet.left -= 1;
      if (this.tuplet.left === 0) this.tuplet = undefined;
    }
    if (event.pitch) {
      if (this.graces.length > 0) event.graces = this.graces;
      this.graces = [];
      if (this.slurStarts > 0) event.marks.slurStarts = this.slurStarts;
      this.slurStarts = 0;
    }
    for (const mark of this.marks) applyMark(event, mark, this.bar);
    this.marks = [];
    this.tieFrom = undefined;
    if (this.bar.events.length === 0) this.bar.place = { line: this.lineNumber };
    this.bar.events.push(event);
    this.notes += 1 + (event.graces?.length ?? 0);
    this.position += event.length;
    this.last = event;
    if (event.pitch) this.lyricNotes.push({ event, bar: this.bars.length });
  }

  private longRest(bars: number, place: Place): void {
    if (!this.meter)
      return void this.problems.push({ code: 'bar-without-meter', place, right: 'a bar of rest needs a meter' });
    if (bars < 1 || bars > 200)
      return void this.problems.push({
        code: 'unreadable-length',
        place,
        found: `Z${bars}`,
        right: 'one to 200 bars of rest',
      });
    for (let k = 0; k < bars; k += 1) {
      this.rest(barTicks(this.meter));
      if (k < bars - 1) this.closeBar();
    }
  }

  /** Notes that stand together: one line is followed, so the top one is taken. */
  private stacked({ notes, length, isOpen }: Extract<Token, { readonly kind: 'stacked' }>, place: Place): void {
    if (isOpen) {
      this.problems.push({ code: 'unreadable-character', place, found: '[', right: 'close it with ]' });
      return;
    }
    spend(notes.length);
    const found: { pitch: Pitch; match: RegExpExecArray }[] = [];
    for (let at = 1; at < notes.length - 1;) {
      NOTE.lastIndex = at;
      const match = NOTE.exec(notes);
      const pitch = match ? this.pitchOf(match) : undefined;
      if (match && pitch) found.push({ pitch, match });
      at += match ? match[0].length : 1;
    }
    const top = found.toSorted((a, b) => staffPosition(b.pitch) - staffPosition(a.pitch))[0];
    if (!top) {
      this.problems.push({
        code: 'unreadable-character',
        place,
        found: notes,
        right: 'a chord of notes is written like [CEG]',
      });
      return;
    }
    if (found.length > 1)
      this.warnings.push({ code: 'chord-of-notes', place, found: notes, right: 'the top one was taken' });
    const inner = this.lengthOf(top.match, 4, () => place);
    const factor = length ? this.lengthOf(length, 1, () => place) / this.unit : 1;
    this.push({ pitch: top.pitch, length: inner * factor, marks: {} });
  }

  private quoted(text: string, place: Place): void {
    if (/^[\^_<>@]/.test(text)) return this.notKept(place, `the words "${text.slice(1)}"`);
    const chord = parseChord(text);
    if (!chord.ok) {
      const here = { ...place, beat: 1 + Math.floor(this.position / 10_080) };
      this.problems.push({
        code: 'unreadable-chord',
        place: here,
        found: text,
        right: 'write it like Am7 or F#m7b5/C; words begin with ^',
      });
      return;
    }
    this.bar.chords.push({ at: this.position, symbol: chord.value });
  }

  private startTuplet(match: RegExpExecArray, place: Place): void {
    this.closeTuplet();
    const actual = Number(match[1]);
    const threes = this.meter !== undefined && isCompound(this.meter) ? 3 : 2;
    // Defaults: ABC 2.1, section 4.13.
    const usual: Readonly<Record<number, number>> = { 2: 3, 3: 2, 4: 3, 5: threes, 6: 2, 7: threes, 8: 3, 9: threes };
    const normal = match[2] ? Number(match[2]) : usual[actual];
    const count = match[3] ? Number(match[3]) : actual;
    if (!normal || ![2, 3, 4, 5, 6, 7, 8, 9].includes(actual) || normal > 9 || count < 1 || count > 32) {
      this.problems.push({
        code: 'unreadable-length',
        place,
        found: match[0],
        right: 'a tuplet is (2 to (9, or like (3:2:3',
      });
      return;
    }
    this.tuplets += 1;
    this.tuplet = { mark: { id: `t${this.tuplets}`, actual, normal }, left: count, text: match[0], place };
  }

  private closeTuplet(): void {
    if (this.tuplet)
      this.problems.push({
        code: 'tuplet-unfinished',
        place: this.tuplet.place,
        found: this.tuplet.text,
        right: `${this.tuplet.left} more should follow`,
      });
    this.tuplet = undefined;
  }

  private readGraces(text: string, slashed: boolean, place: Place): void {
    for (let at = 0; at < text.length && this.graces.length <= MOST_GRACES_IN_BAR;) {
      spend();
      NOTE.lastIndex = at;
      const match = NOTE.exec(text);
      const pitch = match ? this.pitchOf(match) : undefined;
      if (match && pitch) this.graces.push({ pitch, ...(slashed && { slashed: true as const }) });
      else if (!/\s/.test(text[at] ?? '')) this.notKept(place, `"${text[at]}" in grace notes`);
      at += match ? match[0].length : 1;
    }
  }

  private mark(name: string, place: Place): void {
    const mark = Object.hasOwn(NAMED_MARKS, name) ? NAMED_MARKS[name] : undefined;
    if (!mark) return this.notKept(place, `the mark !${name}!`);
    if (mark.kind === 'jump') this.addJump(mark.value);
    else if (mark.kind === 'hairpin-end') {
      if (this.last?.pitch) this.last.marks.hairpinEnds = true;
    } else this.marks.push(mark);
  }

  private addJump(value: Jump): void {
    this.bar.jumps = [...(this.bar.jumps ?? []), value];
  }

  private barline(text: string): void {
    const endsRepeat = text.startsWith(':');
    const startsRepeat = text === '::' || (text.length > 1 && text.endsWith(':'));
    this.overlay = false;
    const colons = text === '::' ? 1 : (/^:+/.exec(text)?.[0].length ?? 0);
    if (this.bar.events.length > 0) {
      if (endsRepeat) this.bar.repeatEnd = colons + 1;
      else if (text.includes(']')) this.bar.barline = 'final';
      else if (text.includes('||')) this.bar.barline = 'double';
      this.closeBar();
    } else {
      const before = this.bars.at(-1);
      if (before && endsRepeat) this.bars[this.bars.length - 1] = { ...before, repeatEnd: colons + 1 };
      else if (before && text.includes(']')) this.bars[this.bars.length - 1] = { ...before, barline: 'final' };
    }
    if (startsRepeat) this.bar.repeatStart = true;
  }

  private ending(text: string): void {
    const times = text.split(',').flatMap((part) => {
      const [from = 1, to] = part.split('-').map(Number);
      return Array.from({ length: Math.min(16, Math.max(1, (to ?? from) - from + 1)) }, (_, k) => from + k);
    });
    if (this.bar.events.length > 0) this.closeBar();
    this.bar.ending = times;
  }

  private closeBar(): void {
    this.inBar.clear();
    this.position = 0;
    if (this.bar.events.length === 0) {
      // Marks of a bar still to come (a repeat sign, a key) stay for it.
      return;
    }
    this.bars.push(this.bar);
    this.bar = emptyBar(this.bar.place);
    if (this.nextKey) this.bar.key = this.nextKey;
    this.nextKey = undefined;
  }

  private sing(text: string, place: Place): void {
    this.sungVerses += 1;
    const verse = this.sungVerses;
    if (verse > MOST_VERSES) return this.notKept(place, `verse ${verse}`);
    const notes = this.lyricNotes;
    const put = (event: DraftEvent, lyric: Lyric) => {
      event.marks.lyrics = [...(event.marks.lyrics ?? []).filter((other) => other.verse !== verse), lyric];
    };
    let next = 0;
    let lastSung: { event: DraftEvent; lyric: Lyric } | undefined;
    for (const step of parseLyricLine(text, verse)) {
      if (step === 'bar') {
        const here = notes[next - 1]?.bar ?? notes[0]?.bar;
        while (next < notes.length && notes[next]?.bar === here) next += 1;
        continue;
      }
      const note = notes[next];
      if (!note)
        return this.notKept(
          place,
          `the words from "${typeof step === 'object' ? step.text : step}" on: there are no notes left for them`,
        );
      if (step === 'hold' && lastSung) {
        if (!lastSung.lyric.hyphen) put(lastSung.event, { ...lastSung.lyric, extend: true });
      } else if (typeof step === 'object') {
        put(note.event, step);
        lastSung = { event: note.event, lyric: step };
      }
      next += 1;
    }
  }
}

function emptyBar(place: Place): DraftBar {
  return { events: [], chords: [], place };
}

function applyMark(event: DraftEvent, mark: AbcMark, bar: DraftBar): void {
  switch (mark.kind) {
    case 'fermata':
      event.marks.fermata = true;
      return;
    case 'articulation':
      event.marks.articulations = [...(event.marks.articulations ?? []), mark.value] satisfies Note['articulations'];
      return;
    case 'ornament':
      event.marks.ornaments = [...(event.marks.ornaments ?? []), mark.value];
      return;
    case 'dynamic':
      event.marks.dynamic = mark.value;
      return;
    case 'hairpin':
      if (event.pitch) event.marks.hairpin = mark.value;
      return;
    case 'hairpin-end':
      return;
    case 'jump':
      bar.jumps = [...(bar.jumps ?? []), mark.value];
  }
}
