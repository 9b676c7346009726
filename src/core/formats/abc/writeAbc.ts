import { printChord } from '../../harmony';
import { alterInKey, type Key, type Letter, type Pitch, printKey } from '../../pitch';
import {
  asPieces,
  type Bar,
  barNumbers,
  barOffset,
  type Hairpin,
  hasSecondPart,
  idMaker,
  isNote,
  keysOf,
  metersOf,
  type Note,
  type ScoreEvent,
  secondPartBars,
  type Tempo,
  type Tune,
} from '../../score';
import {
  greatestCommonDivisor,
  type Meter,
  notatedTicks,
  printMeter,
  spellNoteLength,
  type Ticks,
  TICKS_PER_WHOLE,
  type Tuplet,
  valueTicks,
} from '../../time';
import type { FormatProblem } from '../problem';
import { NAMED_MARKS, type AbcMark } from './marks';
import { SECOND_VOICE } from './readAbc';

export interface AbcWritten {
  readonly text: string;
  readonly warnings: readonly FormatProblem[];
}

const UNIT: Ticks = TICKS_PER_WHOLE / 8;
const BARS_PER_LINE = 4;
const SIGNS: Readonly<Record<string, string>> = { '-2': '__', '-1': '_', '0': '=', '1': '^', '2': '^^' };

/** Writes a tune in ABC 2.1, unit an eighth. What ABC cannot hold is listed. */
export function writeAbc(given: Tune): AbcWritten {
  const warnings: FormatProblem[] = [];
  const tune = withWritableTuplets(given, warnings);
  if (tune.rights !== 'unknown')
    warnings.push({ code: 'cannot-hold', place: {}, found: `the rights status "${tune.rights}"` });
  const events = tune.bars.flatMap((bar) => [...bar.events, ...(bar.second ?? [])]);
  if (events.some(({ optional }) => optional))
    warnings.push({ code: 'cannot-hold', place: {}, found: 'the brackets of optional passages' });
  if (events.some((event) => isNote(event) && event.phrase))
    warnings.push({ code: 'cannot-hold', place: {}, found: 'phrase marks set by hand' });
  if (tune.swing)
    warnings.push({
      code: 'cannot-hold',
      place: {},
      found: `swing (${tune.swing.ratio} to 1)`,
      right: 'it is written straight',
    });
  if (tune.bars.some(({ counts }) => counts !== undefined))
    warnings.push({ code: 'cannot-hold', place: {}, found: 'the counts under held notes' });
  if (tune.recordingKey) warnings.push({ code: 'cannot-hold', place: {}, found: 'the key of the recording' });
  if (tune.harmony) warnings.push({ code: 'cannot-hold', place: {}, found: 'the style and the readings of chords' });
  const hasSecond = hasSecondPart(tune);
  const header = [
    'X:1',
    `T:${plain(tune.title)}`,
    ...(tune.composer ? [`C:${plain(tune.composer)}`] : []),
    ...(tune.source ? [`S:${plain(tune.source)}`] : []),
    `M:${meterText(tune.meter)}`,
    'L:1/8',
    `Q:${tempoText(tune.tempo)}`,
    ...(hasSecond ? ['V:1 name="Melody"', `V:2 name="${SECOND_VOICE}"`] : []),
    `K:${printKey(tune.key)}`,
  ];
  const melody = new BodyWriter(tune, warnings).lines();
  // Chords, sections and tempos stand over the melody alone.
  const under = hasSecond && {
    ...tune,
    bars: secondPartBars(tune.bars).map(({ section: _, tempos: _tempos, ...bar }) => ({ ...bar, chords: [] })),
  };
  const body = under ? ['V:1', ...melody, 'V:2', ...new BodyWriter(under, warnings).lines()] : melody;
  return { text: `${[...header, ...body].join('\n')}\n`, warnings };
}

/** The finest place that a note is moved to where its tuplet cannot be written. */
const FINEST: Ticks = TICKS_PER_WHOLE / 128;

/**
 * ABC knows tuplets of two to nine, none inside another. Others are written as the nearest plain lengths, and named.
 */
function withWritableTuplets(tune: Tune, warnings: FormatProblem[]): Tune {
  const meters = metersOf(tune);
  const numbers = barNumbers(tune);
  const ids = idMaker(tune.bars);
  const isOdd = ({ tuplet }: ScoreEvent) =>
    tuplet !== undefined && (tuplet.outer !== undefined || tuplet.actual > 9 || tuplet.normal > 9 || tuplet.actual < 2);
  const plainOf = (events: readonly ScoreEvent[], index: number): readonly ScoreEvent[] => {
    if (!events.some(isOdd)) return events;
    warnings.push({
      code: 'cannot-hold',
      place: { bar: numbers[index] ?? index },
      found: 'a tuplet inside another, or of more than nine',
      right: 'its notes stand at the nearest 128th',
    });
    const meter = meters[index] ?? tune.meter;
    const offset = barOffset(tune, index, meter);
    const outermost = (tuplet: Tuplet): string => (tuplet.outer ? outermost(tuplet.outer) : tuplet.id);
    const odd = new Set(events.flatMap((event) => (isOdd(event) && event.tuplet ? [outermost(event.tuplet)] : [])));
    let at = 0;
    return events.flatMap((event): readonly ScoreEvent[] => {
      const start = at;
      at += event.length;
      if (!event.tuplet || !odd.has(outermost(event.tuplet))) return [event];
      const from = Math.round(start / FINEST) * FINEST;
      return asPieces(event, spellNoteLength(offset + from, Math.round(at / FINEST) * FINEST - from, meter), ids.event);
    });
  };
  const bars = tune.bars.map((bar, index): Bar => {
    const events = plainOf(bar.events, index);
    const second = bar.second && plainOf(bar.second, index);
    return events === bar.events && second === bar.second ? bar : { ...bar, events, ...(second && { second }) };
  });
  return bars.every((bar, index) => bar === tune.bars[index]) ? tune : { ...tune, bars };
}

/** One line, and no sign that begins a comment. */
function plain(text: string): string {
  return text.replace(/\s+/g, ' ').trim().replaceAll('%', '\\%');
}

function meterText(meter: Meter): string {
  return meter.sign ? { common: 'C', cut: 'C|' }[meter.sign] : printMeter(meter);
}

function tempoText({ beat, perMinute, words }: Tempo): string {
  const said = words ? `"${plain(words).replaceAll('"', '')}" ` : '';
  return `${said}${fraction(valueTicks(beat), TICKS_PER_WHOLE, true)}=${perMinute}`;
}

/** `3/8`, or as a note's length `3`, `3/2`, `/2` and nothing for one. */
function fraction(ticks: Ticks, unit: Ticks, full = false): string {
  const divisor = greatestCommonDivisor(ticks, unit);
  const [over, under] = [ticks / divisor, unit / divisor];
  if (full) return `${over}/${under}`;
  if (under === 1) return over === 1 ? '' : String(over);
  return `${over === 1 ? '' : over}/${under}`;
}

function markName(kind: AbcMark['kind'], value?: string): string | undefined {
  return Object.entries(NAMED_MARKS).find(
    ([, mark]) => mark.kind === kind && (!('value' in mark) || mark.value === value),
  )?.[0];
}

/** Writes bar after bar; what accidentals are in force lives here. The rules mirror those of the reader. */
class BodyWriter {
  private readonly inBar = new Map<Letter, number>();
  private tieFrom: Pitch | undefined;
  private hairpin: Hairpin | undefined;
  private key: Key;

  constructor(
    private readonly tune: Tune,
    private readonly warnings: FormatProblem[],
  ) {
    this.key = tune.key;
  }

  lines(): readonly string[] {
    const { bars } = this.tune;
    const numbers = barNumbers(this.tune);
    const keys = keysOf(this.tune);
    const lines: string[] = [];
    for (let from = 0; from < bars.length; from += BARS_PER_LINE) {
      const here = bars.slice(from, from + BARS_PER_LINE);
      lines.push(
        here
          .map((bar, k) => {
            this.key = keys[from + k] ?? this.key;
            return this.bar(bar, numbers[from + k] ?? 0);
          })
          .join(' '),
      );
      lines.push(...this.words(here, numbers[from] ?? 0));
    }
    return lines;
  }

  private cannotHold(bar: number, found: string, right?: string): void {
    this.warnings.push({ code: 'cannot-hold', place: { bar }, found, ...(right && { right }) });
  }

  private bar(bar: Bar, number: number): string {
    this.inBar.clear();
    const before = [
      bar.repeatStart ? '|:' : '',
      bar.section ? `[P:${bar.section.replaceAll(']', ')')}]` : '',
      bar.meter ? `[M:${meterText(bar.meter)}]` : '',
      bar.key ? `[K:${printKey(bar.key)}]` : '',
      bar.ending ? `[${bar.ending.join(',')} ` : '',
      ...(bar.jumps ?? []).map((jump) => `!${markName('jump', jump) ?? jump}!`),
    ].join('');
    const starts = new Set<Ticks>();
    let at = 0;
    const music = bar.events
      .map((event, index) => {
        starts.add(at);
        const chords =
          (bar.tempos ?? [])
            .filter((tempo) => tempo.at === at)
            .map(({ tempo }) => `[Q:${tempoText(tempo)}]`)
            .join('') +
          bar.chords
            .filter((chord) => chord.at === at)
            .map(({ symbol }) => `"${printChord(symbol)}"`)
            .join('');
        at += event.length;
        return chords + this.event(event, bar.events, index);
      })
      .join(' ');
    for (const tempo of bar.tempos ?? [])
      if (!starts.has(tempo.at)) this.cannotHold(number, `the tempo ${tempoText(tempo.tempo)} between two notes`);
    for (const chord of bar.chords)
      if (!starts.has(chord.at)) this.cannotHold(number, `the chord ${printChord(chord.symbol)} between two notes`);
    return `${before}${music} ${barline(bar)}`;
  }

  private event(event: ScoreEvent, events: readonly ScoreEvent[], index: number): string {
    const { tuplet } = event;
    const opensTuplet = tuplet && events[index - 1]?.tuplet?.id !== tuplet.id;
    const group =
      tuplet && opensTuplet
        ? `(${tuplet.actual}:${tuplet.normal}:${events.filter((other) => other.tuplet?.id === tuplet.id).length}`
        : '';
    const length = fraction(notatedTicks(event.length, tuplet), UNIT);
    if (!isNote(event)) {
      this.tieFrom = undefined;
      return `${group}${event.fermata ? '!fermata!' : ''}z${length}`;
    }
    const marks = [
      ...(event.articulations ?? []).map((value) => markName('articulation', value)),
      ...(event.ornaments ?? []).map((value) => markName('ornament', value)),
      event.dynamic && markName('dynamic', event.dynamic),
      event.hairpin && markName('hairpin', event.hairpin),
      event.fermata && 'fermata',
    ]
      .filter(Boolean)
      .map((name) => `!${name}!`)
      .join('');
    const graces = event.graces
      ? `{${event.graces[0]?.slashed ? '/' : ''}${event.graces.map(({ pitch }) => this.pitch(pitch)).join('')}}`
      : '';
    const text = `${group}${'('.repeat(event.slurStarts ?? 0)}${marks}${graces}${this.pitch(event.pitch)}${length}${event.tied ? '-' : ''}${')'.repeat(event.slurEnds ?? 0)}${this.hairpinEnd(event)}`;
    this.tieFrom = event.tied ? event.pitch : undefined;
    return text;
  }

  /** The end of a hairpin is named after its kind. */
  private hairpinEnd(note: Note): string {
    const open = note.hairpin ?? this.hairpin;
    this.hairpin = note.hairpinEnds ? undefined : open;
    return note.hairpinEnds && open ? `!${markName('hairpin-end', open)}!` : '';
  }

  private pitch(pitch: Pitch): string {
    const { step, alter, octave } = pitch;
    const letter = octave >= 5 ? step.toLowerCase() + "'".repeat(octave - 5) : step + ','.repeat(4 - octave);
    const continues = this.tieFrom && this.tieFrom.step === step && this.tieFrom.octave === octave;
    const expected = continues ? this.tieFrom?.alter : (this.inBar.get(step) ?? alterInKey(step, this.key));
    if (expected === alter) return letter;
    this.inBar.set(step, alter);
    return (SIGNS[String(alter)] ?? '') + letter;
  }

  private words(bars: readonly Bar[], number: number): readonly string[] {
    const notes = bars.flatMap((bar) => bar.events.filter(isNote));
    const last = Math.max(0, ...notes.flatMap((note) => (note.lyrics ?? []).map(({ verse }) => verse)));
    return Array.from(
      { length: last },
      (_, k) =>
        `w: ${notes
          .map((note, index) => this.syllable(k + 1, note, notes[index - 1], number))
          .join(' ')
          .replaceAll('- ', '-')}`,
    );
  }

  private syllable(verse: number, note: Note, before: Note | undefined, number: number): string {
    const inVerse = (one: Note | undefined) => one?.lyrics?.find((lyric) => lyric.verse === verse);
    const lyric = inVerse(note);
    if (!lyric) return inVerse(before)?.extend ? '_' : '*';
    const text = lyric.text
      .replace(/[*_|]/g, '')
      .trim()
      .replaceAll('-', '\\-')
      .replace(/\s+/g, '~')
      .replaceAll('%', '\\%');
    if (/[*_|]/.test(lyric.text))
      this.cannotHold(number, `the signs * _ | in the syllable "${lyric.text}"`, 'they were left out');
    return `${text || '*'}${lyric.hyphen ? '-' : ''}`;
  }
}

function barline(bar: Bar): string {
  if (bar.repeatEnd !== undefined) return `${':'.repeat(bar.repeatEnd - 1)}|`;
  if (bar.barline === 'final') return '|]';
  return bar.barline === 'double' ? '||' : '|';
}
