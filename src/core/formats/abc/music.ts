import { parseChord } from '../../harmony';
import { staffPosition } from '../../pitch';
import { type GraceNote, MAX_BARS, MAX_GRACES_IN_BAR, MAX_NOTES, MAX_PROBLEMS, type Tempo } from '../../score';
import { barTicks, type Meter, type Ticks } from '../../time';
import type { RawBar } from '../assemble';
import { spend } from '../effort';
import type { FormatProblem, Place } from '../problem';
import { DraftBars, type DraftEvent } from './draftBars';
import { bodyField } from './bodyField';
import { gatheredIn } from './gathered';
import type { AbcKey } from './header';
import { brokenRhythm, lengthIn } from './lengths';
import { NAMED_MARKS, SHORT_MARKS, type AbcMark } from './marks';
import { OpenTuplet } from './openTuplet';
import type { NoteText } from './noteText';
import { AbcPitches } from './pitches';
import { Singing } from './singing';
import { tokenAt, type Token } from './tokens';
import { withoutComment, type NumberedLine } from './tuneBook';

export interface AbcStart {
  readonly key: AbcKey;
  readonly meter: Meter | undefined;
  readonly unit: Ticks;
  /** To which all belongs that stands before the first voice field. */
  readonly firstVoice: string;
}

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
  return { bars: reader.bars.closed, ...(reader.tempo && { tempo: reader.tempo }), problems: reader.problems };
}

/** Works through the music line by line. State lives here and nowhere else; it is used once. */
class MusicReader {
  readonly bars = new DraftBars();
  readonly problems: FormatProblem[] = [];
  tempo: Tempo | undefined;

  private unit: Ticks;
  private meter: Meter | undefined;
  private readonly pitches: AbcPitches;
  private readonly singing = new Singing();
  private last: DraftEvent | undefined;
  /** What broken rhythm makes of the next note. */
  private broken: number | undefined;
  private readonly tuplet = new OpenTuplet();
  private graces: GraceNote[] = [];
  private marks: AbcMark[] = [];
  private slurStarts = 0;
  private silent = false;
  private overlay = false;
  private lineNumber = 0;
  /** Where in the line the token begins that is being read, from 0. */
  private column = 0;
  /** Events and graces so far. */
  private notes = 0;

  constructor(
    start: AbcStart,
    private readonly warnings: FormatProblem[],
    private voice: string | undefined,
  ) {
    this.voice ??= start.firstVoice;
    this.silent = this.voice !== start.firstVoice;
    this.pitches = new AbcPitches(start.key);
    this.unit = start.unit;
    this.meter = start.meter;
  }

  line({ text, number }: NumberedLine): void {
    if (text.startsWith('%%')) return this.notKept({ line: number }, `the layout directive "${text.trim()}"`);
    const clean = withoutComment(text).replace(/\\\s*$/, '');
    const field = /^([A-Za-z]):(.*)$/.exec(clean);
    if (field && !/^[|:]/.test(field[2] ?? ''))
      return this.field(field[1] ?? '', (field[2] ?? '').trim(), { line: number });
    if (this.silent || clean.trim() === '') return;
    this.singing.begin();
    this.music(clean, number);
  }

  finish(): void {
    this.problems.push(...this.tuplet.end());
    this.closeBar();
  }

  /** What more there is would not be taken: the file is refused already. */
  private isFull(): boolean {
    return this.problems.length > MAX_PROBLEMS || this.notes > MAX_NOTES || this.bars.closed.length > MAX_BARS;
  }

  private placeAt(line: number, at: number): Place {
    return { line, column: at + 1, bar: this.barNumber() };
  }

  /** As printed: a short first bar is bar 0. */
  private barNumber(): number {
    const first = this.bars.closed[0];
    const held = first?.events.reduce((sum, event) => sum + event.length, 0) ?? 0;
    return this.bars.closed.length + (first && this.meter && held < barTicks(this.meter) ? 0 : 1);
  }

  private notKept(place: Place, found: string): void {
    this.warnings.push({ code: 'left-out', place, found });
  }

  private field(name: string, value: string, place: Place): void {
    const field = bodyField(name, value, this.unit);
    if (field.kind === 'voice') this.silent = field.name !== this.voice;
    if (this.silent) return;
    switch (field.kind) {
      case 'voice':
        return;
      case 'words':
        return this.sing(field.text, place);
      case 'key':
        return this.changeKey(field.key, place);
      case 'meter':
        this.meter = field.meter;
        this.bars.open.meter = field.meter;
        return;
      case 'unit':
        this.unit = field.unit;
        return;
      case 'section':
        this.bars.open.section = field.label;
        return;
      case 'tempo':
        return this.changeTempo(field.tempo);
      case 'wrong': {
        const told = field.isSlight ? this.warnings : this.problems;
        told.push({ code: 'unreadable-field', place, found: `${name}:${value}`, right: field.right });
        return;
      }
      case 'other':
        return this.notKept(place, `the field "${name}:${value}"`);
    }
  }

  private changeKey(key: AbcKey, place: Place): void {
    this.pitches.setKey(key);
    if (this.bars.setKey(key.key)) return;
    this.warnings.push({
      code: 'left-out',
      place: { ...place, bar: this.barNumber() },
      found: 'a key signature inside the bar',
      right: 'it stands at the next barline; the notes are right',
    });
  }

  private changeTempo(tempo: Tempo): void {
    const { open, position, isEmpty } = this.bars;
    if (isEmpty) this.tempo = tempo;
    else open.tempos = [...(open.tempos ?? []), { at: position, tempo }];
  }

  private music(text: string, line: number): void {
    this.lineNumber = line;
    let steps = 0;
    for (let at = 0; at < text.length && !this.isFull();) {
      steps += 1;
      const { token, end } = tokenAt(text, at, this.silent ? 'fields' : this.overlay ? 'bars' : 'all');
      const start = at;
      at = end;
      this.column = start;
      // Places are made for what is told about alone: a bar's number is not to be counted for every note.
      if (token.kind === 'note') this.note(token.note, text);
      else if (token.kind !== 'nothing') this.read(token, this.placeAt(line, start));
    }
    // A line is no longer than the file: it is soon enough to tell of its steps at its end.
    spend(steps);
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
        return this.rest(this.lengthOf(token.match));
      case 'long rest':
        return this.longRest(token.bars, place);
      case 'quoted':
        return this.quoted(token.text, place);
      case 'tuplet':
        this.problems.push(...this.tuplet.begin(token.match, this.meter, place));
        return;
      case 'graces':
        return this.readGraces(token.notes, token.isSlashed, place);
      case 'mark':
        return this.mark(token.name, place);
      case 'sign':
        return this.sign(token.sign, token.count, place);
    }
  }

  /** The length that the groups of a match spell: over, slashes, under. */
  private lengthOf([, over = '', slashes = '', under = '']: RegExpExecArray): Ticks {
    return this.length(over, slashes.length, under);
  }

  private sign(character: string, count: number, place: Place): void {
    const short = Object.hasOwn(SHORT_MARKS, character) ? SHORT_MARKS[character] : undefined;
    if (short) return this.mark(short, place);
    switch (character) {
      case '-':
        if (this.last?.pitch) {
          this.last.tied = true;
          this.pitches.tie(this.last.pitch);
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
        const { before, after } = brokenRhythm(character, count);
        if (this.last) this.stretchLast(before);
        this.broken = after;
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
    this.bars.position += length - this.last.length;
    this.last.length = length;
  }

  private length(over: string, slashes: number, under: string): Ticks {
    const ticks = lengthIn(this.unit, over, slashes, under);
    if (ticks !== undefined) return ticks;
    this.problems.push({
      code: 'unreadable-length',
      place: this.placeAt(this.lineNumber, this.column),
      found: over + '/'.repeat(slashes) + under,
      right: 'a length is a number, a fraction or /2',
    });
    return this.unit;
  }

  private note(note: NoteText, text: string): void {
    const pitch = this.pitches.read(note);
    const length = this.length(note.over, note.slashes, note.under);
    if (!pitch) return;
    if (pitch.octave < 0 || pitch.octave > 9) {
      this.problems.push({
        code: 'unreadable-character',
        place: this.placeAt(this.lineNumber, this.column),
        found: text.slice(this.column, note.end),
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
    if (this.broken !== undefined) {
      event.length *= this.broken;
      this.broken = undefined;
    }
    this.tuplet.take(event);
    if (event.pitch) {
      if (this.graces.length > 0) event.graces = this.graces;
      this.graces = [];
      if (this.slurStarts > 0) event.marks.slurStarts = this.slurStarts;
      this.slurStarts = 0;
    }
    for (const mark of this.marks) this.bars.apply(mark, event);
    this.marks = [];
    this.pitches.endTie();
    this.bars.add(event, { line: this.lineNumber });
    this.notes += 1 + (event.graces?.length ?? 0);
    this.last = event;
    if (event.pitch) this.singing.add(event, this.bars.closed.length);
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
    const found = gatheredIn(notes.slice(1, -1), this.pitches).notes;
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
    const inner = this.length(top.note.over, top.note.slashes, top.note.under);
    const factor = length ? this.lengthOf(length) / this.unit : 1;
    this.push({ pitch: top.pitch, length: inner * factor, marks: {} });
  }

  private quoted(text: string, place: Place): void {
    if (/^[\^_<>@]/.test(text)) return this.notKept(place, `the words "${text.slice(1)}"`);
    const chord = parseChord(text);
    if (!chord.ok) {
      const here = { ...place, beat: 1 + Math.floor(this.bars.position / 10_080) };
      // One symbol is no reason to refuse a tune: the rest is read, and this one asked for.
      this.warnings.push({
        code: 'unreadable-chord',
        place: here,
        found: text,
        right: 'it is left out: write it in like Am7 or F#m7b5/C; words begin with ^',
      });
      return;
    }
    this.bars.open.chords.push({ at: this.bars.position, symbol: chord.value });
  }

  private readGraces(text: string, slashed: boolean, place: Place): void {
    const { notes, odd } = gatheredIn(text, this.pitches, MAX_GRACES_IN_BAR - this.graces.length);
    for (const { pitch } of notes) this.graces.push({ pitch, ...(slashed && { slashed: true as const }) });
    for (const sign of odd) this.notKept(place, `"${sign}" in grace notes`);
  }

  private mark(name: string, place: Place): void {
    const mark = Object.hasOwn(NAMED_MARKS, name) ? NAMED_MARKS[name] : undefined;
    if (!mark) return this.notKept(place, `the mark !${name}!`);
    if (mark.kind === 'jump') this.bars.addJump(mark.value);
    else if (mark.kind === 'hairpin-end') {
      if (this.last?.pitch) this.last.marks.hairpinEnds = true;
    } else this.marks.push(mark);
  }

  private barline(text: string): void {
    this.overlay = false;
    this.pitches.endBar();
    this.bars.barline(text);
  }

  private ending(text: string): void {
    if (this.bars.open.events.length > 0) this.pitches.endBar();
    this.bars.ending(text);
  }

  private sing(text: string, place: Place): void {
    const lost = this.singing.sing(text);
    if (lost !== undefined) this.notKept(place, lost);
  }

  /** A bar ends with its accidentals. */
  private closeBar(): void {
    this.pitches.endBar();
    this.bars.close();
  }
}
