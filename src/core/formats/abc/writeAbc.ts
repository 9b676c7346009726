import { printChord } from '../../harmony/chordSymbol';
import { alterInSignature, printKey, signatureOf, type Key } from '../../pitch/key';
import type { Pitch, Step } from '../../pitch/pitch';
import { barNumbers, isNote, keysOf, type Bar, type Note, type ScoreEvent, type Tempo, type Tune } from '../../score/tune';
import { printMeter, type Meter } from '../../time/meter';
import { notatedTicks, valueTicks } from '../../time/noteValue';
import { TICKS_PER_WHOLE, type Ticks } from '../../time/ticks';
import type { FormatProblem } from '../problem';
import { NAMED_MARKS, type AbcMark } from './marks';

export type AbcWritten =
  | { readonly ok: true; readonly text: string; readonly warnings: readonly FormatProblem[] }
  | { readonly ok: false; readonly problems: readonly FormatProblem[] };

const UNIT: Ticks = TICKS_PER_WHOLE / 8;
const BARS_PER_LINE = 4;
const SIGNS: Readonly<Record<string, string>> = { '-2': '__', '-1': '_', '0': '=', '1': '^', '2': '^^' };

/**
 * Writes a tune in ABC 2.1, unit an eighth. What ABC cannot hold is listed; nested tuplets and those beyond (9 cannot be
 * written at all.
 */
export function writeAbc(tune: Tune): AbcWritten {
  const problems = unwritableTuplets(tune);
  if (problems.length > 0) return { ok: false, problems };
  const warnings: FormatProblem[] = [];
  if (tune.rights !== 'unknown') warnings.push({ code: 'cannot-hold', place: {}, found: `the rights status "${tune.rights}"` });
  const header = [
    'X:1', `T:${plain(tune.title)}`,
    ...(tune.composer ? [`C:${plain(tune.composer)}`] : []), ...(tune.source ? [`S:${plain(tune.source)}`] : []),
    `M:${meterText(tune.meter)}`, 'L:1/8', `Q:${tempoText(tune.tempo)}`, `K:${printKey(tune.key)}`,
  ];
  const writer = new BodyWriter(tune, warnings);
  return { ok: true, text: `${[...header, ...writer.lines()].join('\n')}\n`, warnings };
}

function unwritableTuplets(tune: Tune): readonly FormatProblem[] {
  const numbers = barNumbers(tune);
  return tune.bars.flatMap((bar, index) => {
    const odd = bar.events.find(({ tuplet }) => tuplet && (tuplet.outer || tuplet.actual > 9 || tuplet.normal > 9 || tuplet.actual < 2));
    return odd?.tuplet ? [{ code: 'cannot-hold' as const, place: { bar: numbers[index] ?? index }, found: `a tuplet of ${odd.tuplet.actual} in ${odd.tuplet.normal}${odd.tuplet.outer ? ' inside another' : ''}`, right: 'write MusicXML instead' }] : [];
  });
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

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}

function markName(kind: AbcMark['kind'], value?: string): string | undefined {
  return Object.entries(NAMED_MARKS).find(([, mark]) => mark.kind === kind && (!('value' in mark) || mark.value === value))?.[0];
}

/** Writes bar after bar; what accidentals are in force lives here. The rules mirror those of the reader. */
class BodyWriter {
  private readonly inBar = new Map<Step, number>();
  private tieFrom: Pitch | undefined;
  private key: Key;

  constructor(private readonly tune: Tune, private readonly warnings: FormatProblem[]) {
    this.key = tune.key;
  }

  lines(): readonly string[] {
    const { bars } = this.tune;
    const numbers = barNumbers(this.tune);
    const keys = keysOf(this.tune);
    const lines: string[] = [];
    for (let from = 0; from < bars.length; from += BARS_PER_LINE) {
      const here = bars.slice(from, from + BARS_PER_LINE);
      lines.push(here.map((bar, k) => {
        this.key = keys[from + k] ?? this.key;
        return this.bar(bar, numbers[from + k] ?? 0);
      }).join(' '));
      const words = this.words(here, numbers[from] ?? 0);
      if (words) lines.push(words);
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
      bar.meter ? `[M:${meterText(bar.meter)}]` : '', bar.key ? `[K:${printKey(bar.key)}]` : '',
      bar.ending ? `[${bar.ending.join(',')} ` : '',
      ...(bar.jumps ?? []).map((jump) => `!${markName('jump', jump) ?? jump}!`),
    ].join('');
    const starts = new Set<Ticks>();
    let at = 0;
    const music = bar.events.map((event, index) => {
      starts.add(at);
      const chords = bar.chords.filter((chord) => chord.at === at).map(({ symbol }) => `"${printChord(symbol)}"`).join('');
      at += event.length;
      return chords + this.event(event, bar.events, index);
    }).join(' ');
    for (const chord of bar.chords) if (!starts.has(chord.at)) this.cannotHold(number, `the chord ${printChord(chord.symbol)} between two notes`);
    return `${before}${music} ${barline(bar)}`;
  }

  private event(event: ScoreEvent, events: readonly ScoreEvent[], index: number): string {
    const { tuplet } = event;
    const opensTuplet = tuplet && events[index - 1]?.tuplet?.id !== tuplet.id;
    const group = tuplet && opensTuplet ? `(${tuplet.actual}:${tuplet.normal}:${events.filter((other) => other.tuplet?.id === tuplet.id).length}` : '';
    const length = fraction(notatedTicks(event.length, tuplet), UNIT);
    if (!isNote(event)) {
      this.tieFrom = undefined;
      return `${group}${event.fermata ? '!fermata!' : ''}z${length}`;
    }
    const marks = [...(event.articulations ?? []).map((value) => markName('articulation', value)), ...(event.ornaments ?? []).map((value) => markName('ornament', value)),
      event.dynamic && markName('dynamic', event.dynamic), event.fermata && 'fermata'].filter(Boolean).map((name) => `!${name}!`).join('');
    const graces = event.graces ? `{${event.graces[0]?.slashed ? '/' : ''}${event.graces.map(({ pitch }) => this.pitch(pitch)).join('')}}` : '';
    const text = `${group}${'('.repeat(event.slurStarts ?? 0)}${marks}${graces}${this.pitch(event.pitch)}${length}${event.tied ? '-' : ''}${')'.repeat(event.slurEnds ?? 0)}`;
    this.tieFrom = event.tied ? event.pitch : undefined;
    return text;
  }

  private pitch(pitch: Pitch): string {
    const { step, alter, octave } = pitch;
    const letter = octave >= 5 ? step.toLowerCase() + "'".repeat(octave - 5) : step + ','.repeat(4 - octave);
    const continues = this.tieFrom && this.tieFrom.step === step && this.tieFrom.octave === octave;
    const expected = continues ? this.tieFrom?.alter : (this.inBar.get(step) ?? alterInSignature(step, signatureOf(this.key)));
    if (expected === alter) return letter;
    this.inBar.set(step, alter);
    return (SIGNS[String(alter)] ?? '') + letter;
  }

  private words(bars: readonly Bar[], number: number): string | undefined {
    const notes = bars.flatMap((bar) => bar.events.filter(isNote));
    if (!notes.some((note) => note.lyric)) return undefined;
    return `w: ${notes.map((note, index) => this.syllable(note, notes[index - 1], number)).join(' ').replaceAll('- ', '-')}`;
  }

  private syllable(note: Note, before: Note | undefined, number: number): string {
    const { lyric } = note;
    if (!lyric) return before?.lyric?.extend ? '_' : '*';
    const text = lyric.text.replace(/[*_|]/g, '').trim().replaceAll('-', '\\-').replace(/\s+/g, '~').replaceAll('%', '\\%');
    if (/[*_|]/.test(lyric.text)) this.cannotHold(number, `the signs * _ | in the syllable "${lyric.text}"`, 'they were left out');
    return `${text || '*'}${lyric.hyphen ? '-' : ''}`;
  }
}

function barline(bar: Bar): string {
  if (bar.repeatEnd !== undefined) return `${':'.repeat(bar.repeatEnd - 1)}|`;
  if (bar.barline === 'final') return '|]';
  return bar.barline === 'double' ? '||' : '|';
}
