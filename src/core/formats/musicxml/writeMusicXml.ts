import type { Interval } from '../../pitch/interval';
import { printKey, signatureOf, type Key } from '../../pitch/key';
import type { Pitch } from '../../pitch/pitch';
import { accidentalsFor, type AccidentalTable } from '../../score/accidentals';
import { CLEF_SIGNS, clefFor, type Clef } from '../../score/clef';
import {
  barLength,
  barNumbers,
  barOffset,
  hasSecondPart,
  isNote,
  keysOf,
  metersOf,
  quartersPerMinute,
  secondPartBars,
  withoutSecondPart,
  type Bar,
  type EventId,
  type Hairpin,
  type Swing,
  type Note,
  type ScoreEvent,
  type Tempo,
  type Tune,
} from '../../score/tune';
import { beamsFor, type BeamMark } from '../../time/beams';
import { sameMeter, type Meter } from '../../time/meter';
import { notatedTicks, valueOfTicks, type NoteType, type Tuplet } from '../../time/noteValue';
import { spellRestLength } from '../../time/spellLength';
import { TICKS_PER_QUARTER, type Ticks } from '../../time/ticks';
import { harmonyKind } from './chordKinds';
import {
  ARTICULATION_ELEMENTS,
  JUMP_WORDS,
  OPTIONAL_NOTATION,
  ORNAMENT_ELEMENTS,
  PHRASE_NOTATIONS,
  RECORDING_FIELD,
  SECOND_PART_FIELD,
  SWING_FIELD,
} from './marks';

/** One staff of a score: a tune or a part, with what a reader needs at its head. */
export interface Staff {
  readonly id: string;
  readonly name: string;
  readonly clef: Clef;
  readonly key: Key;
  readonly meter: Meter;
  readonly tempo?: Tempo;
  readonly bars: readonly Bar[];
  /** Added to a written pitch to get the sounding one. Left out for instruments that read what sounds. */
  readonly toSounding?: Interval;
  readonly hideChords?: boolean;
  /** Finger marks over the notes, by event: a line each, from the top. */
  readonly fingers?: ReadonlyMap<EventId, readonly string[]>;
  /** A word over the beginning of a bar, by index. */
  readonly words?: ReadonlyMap<number, string>;
  /** Bars that rest for so many bars in one sign, by the index of the first. */
  readonly restRuns?: ReadonlyMap<number, number>;
  /** Worked out from the bars when not given. */
  readonly accidentals?: AccidentalTable;
}

export interface ScoreFile {
  readonly title: string;
  readonly composer?: string;
  readonly source?: string;
  readonly rights?: string;
  /** The name of the staff that is the tune's second part. */
  readonly secondPart?: string;
  readonly swing?: Swing;
  readonly recordingKey?: Key;
  readonly staves: readonly Staff[];
}

/** What the engraver needs beyond the file: ids to find notes again, a row of bars alone, where lines and pages break. */
export interface WriteOptions {
  /**
   * For the engraver instead of a file: `id` on bars and notes (MusicXML 3.1) as STAFF:EVENT, and chord symbols by their
   * printed text alone, since it would print the degrees again.
   */
  readonly forEngraver?: boolean;
  /** Only the bars from … up to but without `to`. */
  readonly from?: number;
  readonly to?: number;
  /** Bars (by index) that begin a new line or page. */
  readonly lineStarts?: ReadonlySet<number>;
  readonly pageStarts?: ReadonlySet<number>;
}

export function escapeXml(text: string): string {
  return (
    text
      // Characters that XML 1.0 cannot hold at all would make the file unreadable.
      .replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '')
      .replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign] ?? sign)
  );
}

/** A tune as a score of one staff, in concert pitch. */
export function tuneStaff(tune: Tune): ScoreFile {
  const pitches = tune.bars.flatMap((bar) => bar.events.flatMap((event) => (isNote(event) ? [event.pitch] : [])));
  return {
    title: tune.title,
    ...(tune.composer && { composer: tune.composer }),
    ...(tune.source && { source: tune.source }),
    rights: tune.rights,
    ...(hasSecondPart(tune) && { secondPart: SECOND_PART }),
    ...(tune.swing && { swing: tune.swing }),
    ...(tune.recordingKey && { recordingKey: tune.recordingKey }),
    staves: [
      {
        id: 'P1',
        name: 'Tune',
        clef: clefFor(pitches),
        key: tune.key,
        meter: tune.meter,
        tempo: tune.tempo,
        bars: withoutSecondPart(tune.bars),
      },
      ...secondStaff(tune),
    ],
  };
}

const SECOND_PART = 'Second part';

/** The second part as a staff of its own, if the tune has one. Chords, sections and signs stand over the melody alone. */
function secondStaff(tune: Tune): readonly Staff[] {
  if (!hasSecondPart(tune)) return [];
  const bars = secondPartBars(tune.bars).map(({ section: _, tempos: _tempos, ...bar }) => ({ ...bar, chords: [] }));
  const pitches = bars.flatMap((bar) => bar.events.flatMap((event) => (isNote(event) ? [event.pitch] : [])));
  return [{ id: 'P2', name: SECOND_PART, clef: clefFor(pitches), key: tune.key, meter: tune.meter, bars }];
}

/** Writes partwise MusicXML 4.0, every element of which the 3.0 schema knows too (unless it is for the engraver). */
export function writeMusicXml(score: ScoreFile, options: WriteOptions = {}): string {
  const field = (name: string, value: string | undefined) =>
    value ? `<miscellaneous-field name="${name}">${escapeXml(value)}</miscellaneous-field>` : '';
  const fields =
    field('rights-status', score.rights) +
    field(SECOND_PART_FIELD, score.secondPart) +
    field(SWING_FIELD, score.swing && `${score.swing.unit} ${score.swing.ratio}`) +
    field(RECORDING_FIELD, score.recordingKey && printKey(score.recordingKey));
  const identification = [
    score.composer ? `<creator type="composer">${escapeXml(score.composer)}</creator>` : '',
    '<encoding><software>Reed Hook</software></encoding>',
    score.source ? `<source>${escapeXml(score.source)}</source>` : '',
    fields ? `<miscellaneous>${fields}</miscellaneous>` : '',
  ].join('');
  const list = score.staves
    .map(
      (staff) => `<score-part id="${escapeXml(staff.id)}"><part-name>${escapeXml(staff.name)}</part-name></score-part>`,
    )
    .join('');
  return `<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">
<score-partwise version="4.0">
<work><work-title>${escapeXml(score.title)}</work-title></work>
<identification>${identification}</identification>
<part-list>${list}</part-list>
${score.staves.map((staff) => writePart(staff, options)).join('\n')}
</score-partwise>
`;
}

/** What each bar of a part needs to know of the whole. */
interface PartContext {
  readonly staff: Staff;
  readonly divisions: number;
  readonly accidentals: AccidentalTable;
  /** Notes whose syllable carries on a word begun before. */
  readonly carriesWord: ReadonlySet<string>;
  /** Numbers of the hairpins open at the place written now. */
  readonly openHairpins: Set<number>;
  /** How many slurs are open at the place written now. */
  readonly slurs: { open: number };
  readonly options: WriteOptions;
  readonly lastBar: number;
}

function writePart(staff: Staff, options: WriteOptions): string {
  const { from = 0, to = staff.bars.length } = options;
  const context: PartContext = {
    staff,
    options,
    lastBar: to - 1,
    divisions: options.forEngraver ? TICKS_PER_QUARTER : smallestDivisions(staff.bars),
    accidentals: staff.accidentals ?? accidentalsFor(staff),
    carriesWord: wordsCarriedOn(staff.bars),
    openHairpins: new Set(),
    slurs: { open: 0 },
  };
  const meters = metersOf(staff);
  const keys = keysOf(staff);
  const numbers = barNumbers(staff);
  const measures: string[] = [];
  for (let index = from; index < to; index += 1) {
    const bar = staff.bars[index];
    const meter = meters[index] ?? staff.meter;
    const key = keys[index] ?? staff.key;
    if (!bar) continue;
    const isHalf = numbers[index] === numbers[index - 1];
    const number = isHalf ? `X${numbers[index]}` : String(numbers[index]);
    const id = options.forEngraver ? ` id="${staff.id}:${bar.id}"` : '';
    const implicit = isHalf || numbers[index] === 0 ? ' implicit="yes"' : '';
    const first = index === from;
    const body = [
      breakBefore(index, options),
      leftBarline(bar),
      attributes(context, {
        key: first || isKeyShown(bar, key, keys[index - 1], options) ? key : undefined,
        meter:
          index === 0 || (bar.meter && !sameMeter(bar.meter, meters[index - 1] ?? staff.meter)) ? meter : undefined,
        first,
      }),
      restRun(context, index, to),
      directionsBefore(context, bar, index),
      music(context, bar, index, meter),
      directionsAfter(bar),
      rightBarline(bar),
    ].join('');
    measures.push(`<measure number="${number}"${implicit}${id}>${body}</measure>`);
  }
  return `<part id="${escapeXml(staff.id)}">\n${measures.join('\n')}\n</part>`;
}

/** In a file every key is said; on the page a change of mode alone leaves the signature as it is. */
function isKeyShown(bar: Bar, key: Key, before: Key | undefined, options: WriteOptions): boolean {
  if (bar.key === undefined) return false;
  return !options.forEngraver || !before || signatureOf(key) !== signatureOf(before);
}

/** The smallest number of divisions a quarter in which all lengths and chord places are whole. */
function smallestDivisions(bars: readonly Bar[]): number {
  let common = TICKS_PER_QUARTER;
  for (const bar of bars) {
    for (const event of bar.events) common = greatestCommonDivisor(common, event.length);
    for (const { at } of [...bar.chords, ...(bar.tempos ?? [])]) common = greatestCommonDivisor(common, at);
  }
  return TICKS_PER_QUARTER / common;
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}

function duration(context: PartContext, ticks: Ticks): number {
  return (ticks * context.divisions) / TICKS_PER_QUARTER;
}

function breakBefore(index: number, options: WriteOptions): string {
  if (options.pageStarts?.has(index)) return '<print new-page="yes"/>';
  return options.lineStarts?.has(index) ? '<print new-system="yes"/>' : '';
}

function leftBarline(bar: Bar): string {
  if (!bar.repeatStart && !bar.ending) return '';
  const ending = bar.ending ? `<ending number="${bar.ending.join(',')}" type="start"/>` : '';
  return `<barline location="left">${bar.repeatStart ? '<bar-style>heavy-light</bar-style>' : ''}${ending}${bar.repeatStart ? '<repeat direction="forward"/>' : ''}</barline>`;
}

function rightBarline(bar: Bar): string {
  const isOpen = bar.repeatEnd === undefined && !bar.barline;
  if (isOpen && !bar.endingStops) return '';
  const style =
    bar.repeatEnd !== undefined || bar.barline === 'final'
      ? '<bar-style>light-heavy</bar-style>'
      : bar.barline
        ? '<bar-style>light-light</bar-style>'
        : '';
  // The end of a bracket names the ending; it need not begin in this bar, and readers match it by type alone.
  const ending = bar.endingStops
    ? `<ending number="${bar.ending?.join(',') ?? '1'}" type="${isOpen ? 'discontinue' : 'stop'}"/>`
    : '';
  const times = bar.repeatEnd !== undefined && bar.repeatEnd !== 2 ? ` times="${bar.repeatEnd}"` : '';
  const repeat = bar.repeatEnd !== undefined ? `<repeat direction="backward"${times}/>` : '';
  return `<barline location="right">${style}${ending}${repeat}</barline>`;
}

function attributes(
  context: PartContext,
  { key, meter, first }: { readonly key: Key | undefined; readonly meter: Meter | undefined; readonly first: boolean },
): string {
  if (!key && !meter && !first) return '';
  const { staff } = context;
  const symbol = meter?.sign ? ` symbol="${meter.sign}"` : '';
  const clef = CLEF_SIGNS[staff.clef];
  return `<attributes>${first ? `<divisions>${context.divisions}</divisions>` : ''}${
    key ? `<key><fifths>${signatureOf(key)}</fifths><mode>${key.mode}</mode></key>` : ''
  }${meter ? `<time${symbol}><beats>${meter.count}</beats><beat-type>${meter.unit}</beat-type></time>` : ''}${
    first
      ? `<clef><sign>${clef.sign}</sign><line>${clef.line}</line>${clef.octaveChange ? `<clef-octave-change>${clef.octaveChange}</clef-octave-change>` : ''}</clef>`
      : ''
  }${first && staff.toSounding ? transposeElement(staff.toSounding) : ''}</attributes>`;
}

/** Whole octaves go in their own element, so that the rest reads as the instrument's name says it. */
function transposeElement(toSounding: Interval): string {
  const change = Math.trunc(toSounding.chromatic / 12);
  const octave = change ? `<octave-change>${change}</octave-change>` : '';
  return `<transpose><diatonic>${toSounding.diatonic - 7 * change}</diatonic><chromatic>${toSounding.chromatic - 12 * change}</chromatic>${octave}</transpose>`;
}

/** Several bars' rest in one sign, where all of them are written. */
function restRun({ staff }: PartContext, index: number, to: number): string {
  const count = staff.restRuns?.get(index);
  return count !== undefined && index + count <= to
    ? `<attributes><measure-style><multiple-rest>${count}</multiple-rest></measure-style></attributes>`
    : '';
}

function directionsBefore(context: PartContext, bar: Bar, index: number): string {
  const { tempo } = context.staff;
  const marks = [
    index === 0 && tempo ? tempoDirection(context, tempo) : '',
    context.staff.words?.has(index)
      ? `<direction placement="above"><direction-type><words>${escapeXml(context.staff.words.get(index) ?? '')}</words></direction-type></direction>`
      : '',
    bar.section ? direction(`<rehearsal>${escapeXml(bar.section)}</rehearsal>`) : '',
    bar.jumps?.includes('segno') ? direction('<segno/>', '<sound segno="segno"/>') : '',
    bar.jumps?.includes('coda') ? direction('<coda/>', '<sound coda="coda"/>') : '',
  ];
  return marks.join('');
}

function directionsAfter(bar: Bar): string {
  return (bar.jumps ?? [])
    .map((jump) => {
      if (jump === 'segno' || jump === 'coda') return '';
      const { words, sound } = JUMP_WORDS[jump];
      return direction(`<words>${words}</words>`, sound ? `<sound ${sound[0]}="${sound[1]}"/>` : '');
    })
    .join('');
}

function tempoDirection({ options }: PartContext, tempo: Tempo, offset = ''): string {
  // The engraver sets the figure close after the words.
  const words = tempo.words
    ? `<direction-type><words>${escapeXml(tempo.words)}${options.forEngraver ? '\u2002' : ''}</words></direction-type>`
    : '';
  const dots = '<beat-unit-dot/>'.repeat(tempo.beat.dots);
  const quarters = Math.round(quartersPerMinute(tempo) * 100) / 100;
  return `<direction placement="above">${words}<direction-type><metronome><beat-unit>${tempo.beat.type}</beat-unit>${dots}<per-minute>${tempo.perMinute}</per-minute></metronome></direction-type>${offset}<sound tempo="${quarters}"/></direction>`;
}

function direction(content: string, sound = ''): string {
  return `<direction placement="above"><direction-type>${content}</direction-type>${sound}</direction>`;
}

function music(context: PartContext, bar: Bar, index: number, meter: Meter): string {
  const { staff } = context;
  const offset = barOffset(staff, index, meter);
  let start = offset;
  const beams = beamsFor(
    bar.events.map((event) => {
      const item = {
        start,
        length: event.length,
        isRest: !isNote(event),
        ...(event.tuplet && { tuplet: event.tuplet }),
      };
      start += event.length;
      return item;
    }),
    meter,
  );
  const before = staff.bars[index - 1]?.events.at(-1);
  const tempos = bar.tempos ?? [];
  const isWholeBarRest = isOneRest(bar, meter, context.options);
  if (isWholeBarRest) {
    const id = context.options.forEngraver ? ` id="${staff.id}:${bar.events[0]?.id ?? bar.id}"` : '';
    return (
      tempos.map(({ at, tempo }) => tempoDirection(context, tempo, at ? offsetElement(context, at) : '')).join('') +
      harmonies(context, bar, 0, Infinity) +
      `<note${id}><rest measure="yes"/><duration>${duration(context, barLength(bar, meter))}</duration><voice>1</voice></note>`
    );
  }
  let position = 0;
  return bar.events
    .map((event, k) => {
      const isLast = k === bar.events.length - 1;
      const until = isLast ? Infinity : position + event.length;
      const here = position;
      const chords =
        harmonies(context, bar, position, until) +
        tempos
          .filter(({ at }) => at >= here && at < until)
          .map(({ at, tempo }) => tempoDirection(context, tempo, at > here ? offsetElement(context, at - here) : ''))
          .join('');
      position += event.length;
      const previous = bar.events[k - 1] ?? before;
      const [opens, closes] = spanMarks(context, event, {
        before: previous,
        after: bar.events[k + 1] ?? staff.bars[index + 1]?.events[0],
        isFirst: k === 0 && index === (context.options.from ?? 0),
        isLast: isLast && index === context.lastBar,
      });
      return (
        chords +
        opens +
        noteElement(context, event, {
          beams: beams[k] ?? [],
          continuesTie: previous?.kind === 'note' && previous.tied === true,
          tuplet: tupletEnds(bar.events, k, beams),
          leavesRow: isLast && index === context.lastBar && index < staff.bars.length - 1,
          entersRow: k === 0 && index === (context.options.from ?? 0),
        }) +
        closes
      );
    })
    .join('');
}

function offsetElement(context: PartContext, ticks: Ticks): string {
  return `<offset>${duration(context, ticks)}</offset>`;
}

interface Neighbours {
  readonly before: ScoreEvent | undefined;
  readonly after: ScoreEvent | undefined;
  /** Of the bars that are written. */
  readonly isFirst: boolean;
  readonly isLast: boolean;
}

/** What stands before and after a note for marks that span several: hairpins, and on the page the bracket of an optional passage. */
function spanMarks(
  context: PartContext,
  event: ScoreEvent,
  { before, after, isFirst, isLast }: Neighbours,
): readonly [string, string] {
  const opens: string[] = [];
  const closes: string[] = [];
  const open = context.openHairpins;
  const wedge = (type: string, number: number) =>
    `<direction placement="below"><direction-type><wedge type="${type}" number="${number}"/></direction-type></direction>`;
  // A row drawn alone has neither the beginning nor the end that lies outside it.
  const carried =
    isFirst && context.options.forEngraver
      ? hairpinOpenBefore(context.staff.bars, context.options.from ?? 0)
      : undefined;
  if (carried) {
    open.add(1);
    opens.push(wedge(carried, 1));
  }
  if (isNote(event) && event.hairpin) {
    const number = open.size + 1;
    open.add(number);
    opens.push(wedge(event.hairpin, number));
  }
  if (open.size > 0 && ((isNote(event) && event.hairpinEnds) || (isLast && context.options.forEngraver))) {
    const number = open.size;
    open.delete(number);
    closes.push(wedge('stop', number));
  }
  if (context.options.forEngraver && event.optional) {
    const bracket = (type: string) =>
      `<direction placement="above"><direction-type><bracket type="${type}" number="1" line-end="down" line-type="dashed"/></direction-type></direction>`;
    if (isFirst || !before?.optional) opens.push(bracket('start'));
    if (isLast || !after?.optional) closes.push(bracket('stop'));
  }
  return [opens.join(''), closes.join('')];
}

function hairpinOpenBefore(bars: readonly Bar[], from: number): Hairpin | undefined {
  let open: Hairpin | undefined;
  for (const bar of bars.slice(0, from)) {
    for (const event of bar.events) {
      if (!isNote(event)) continue;
      if (event.hairpin) open = event.hairpin;
      if (event.hairpinEnds) open = undefined;
    }
  }
  return open;
}

/**
 * Whether a full bar rests in the one way a bar's rest is written; other rests in it were meant as they stand.
 * In a file that is the way it is read back; on the page also any other usual spelling.
 */
function isOneRest(bar: Bar, meter: Meter, options: WriteOptions): boolean {
  if (
    bar.partial !== undefined ||
    bar.events.some((event) => isNote(event) || event.tuplet || event.fermata || event.optional)
  )
    return false;
  const full = barLength(bar, meter);
  const spelled = spellRestLength(0, full, meter);
  const readBack = valueOfTicks(full) ? [full] : spelled;
  const isAs = (usual: readonly Ticks[]) =>
    usual.length === bar.events.length && usual.every((length, k) => length === bar.events[k]?.length);
  return isAs(readBack) || (options.forEngraver === true && isAs(spelled));
}

function harmonies(context: PartContext, bar: Bar, from: Ticks, to: Ticks): string {
  if (context.staff.hideChords) return '';
  return bar.chords
    .filter(({ at }) => at >= from && at < to)
    .map(({ at, symbol }) => {
      const offset = at > from ? `<offset>${duration(context, at - from)}</offset>` : '';
      if (symbol.kind === 'no chord')
        return `<harmony><root><root-step text="">C</root-step></root><kind text="N.C.">none</kind>${offset}</harmony>`;
      const { kind, text, degrees } = harmonyKind(symbol);
      const alter = symbol.root.alter ? `<root-alter>${symbol.root.alter}</root-alter>` : '';
      const bass = symbol.bass
        ? `<bass><bass-step>${symbol.bass.step}</bass-step>${symbol.bass.alter ? `<bass-alter>${symbol.bass.alter}</bass-alter>` : ''}</bass>`
        : '';
      const extra = (context.options.forEngraver ? [] : degrees)
        .map(
          (degree) =>
            `<degree print-object="no"><degree-value>${degree.value}</degree-value><degree-alter>${degree.alter}</degree-alter><degree-type>${degree.type}</degree-type></degree>`,
        )
        .join('');
      return `<harmony><root><root-step>${symbol.root.step}</root-step>${alter}</root><kind text="${escapeXml(text)}">${kind}</kind>${bass}${extra}${offset}</harmony>`;
    })
    .join('');
}

interface NoteContext {
  readonly beams: readonly BeamMark[];
  readonly continuesTie: boolean;
  readonly tuplet: readonly string[];
  /** The note stands at the edge of a row drawn alone, so a tie's other end is not there. */
  readonly leavesRow: boolean;
  readonly entersRow: boolean;
}

/** Starts and stops of tuplet brackets at an event, innermost last; a bracket is left out where one beam holds the group. */
function tupletEnds(
  events: readonly ScoreEvent[],
  k: number,
  beams: readonly (readonly BeamMark[])[],
): readonly string[] {
  const event = events[k];
  const chain = tupletChain(event?.tuplet);
  return chain.flatMap((tuplet, depth) => {
    const inGroup = (other: ScoreEvent | undefined) => tupletChain(other?.tuplet).some(({ id }) => id === tuplet.id);
    const number = depth + 1;
    const group = events.filter(inGroup);
    const marks: string[] = [];
    const isNested = group.some((other) => tupletChain(other.tuplet).length > 1);
    const ratio = isNested
      ? `<tuplet-actual><tuplet-number>${tuplet.actual}</tuplet-number></tuplet-actual><tuplet-normal><tuplet-number>${tuplet.normal}</tuplet-number></tuplet-normal>`
      : '';
    if (!inGroup(events[k - 1])) {
      const places = events.flatMap((other, place) => (inGroup(other) ? [place] : []));
      const oneBeam = places.every((place, order) => {
        const mark = beams[place]?.[0];
        return order === 0 ? mark === 'begin' : order === group.length - 1 ? mark === 'end' : mark === 'continue';
      });
      marks.push(
        `<tuplet type="start" number="${number}" bracket="${oneBeam ? 'no' : 'yes'}"${ratio ? `>${ratio}</tuplet>` : '/>'}`,
      );
    }
    if (!inGroup(events[k + 1])) marks.push(`<tuplet type="stop" number="${number}"/>`);
    return marks;
  });
}

/** The tuplets an event stands in, outermost first. */
function tupletChain(tuplet: Tuplet | undefined): readonly Tuplet[] {
  return tuplet ? [...tupletChain(tuplet.outer), tuplet] : [];
}

const ACCIDENTAL_NAMES: Readonly<Record<string, string>> = {
  '-2': 'flat-flat',
  '-1': 'flat',
  '0': 'natural',
  '1': 'sharp',
  '2': 'double-sharp',
};

function accidentalElement(context: PartContext, id: string): string {
  const accidental = context.accidentals.get(id);
  const name = accidental && ACCIDENTAL_NAMES[String(accidental.alter)];
  return name ? `<accidental${accidental.courtesy ? ' cautionary="yes"' : ''}>${name}</accidental>` : '';
}

function pitchElement({ step, alter, octave }: Pitch): string {
  return `<pitch><step>${step}</step>${alter ? `<alter>${alter}</alter>` : ''}<octave>${octave}</octave></pitch>`;
}

function typeElements(type: NoteType, dots: number): string {
  return `<type>${type}</type>${'<dot/>'.repeat(dots)}`;
}

function noteElement(context: PartContext, event: ScoreEvent, place: NoteContext): string {
  const id = context.options.forEngraver ? ` id="${context.staff.id}:${event.id}"` : '';
  const value = valueOfTicks(notatedTicks(event.length, event.tuplet));
  if (!value) throw new RangeError(`event ${event.id} has a length that cannot be printed`);
  const type = typeElements(value.type, value.dots);
  const modification = modificationElement(event.tuplet);
  if (!isNote(event)) {
    const marks = place.tuplet.join('') + (event.fermata ? '<fermata/>' : '') + ownNotations(context, event);
    return `<note${id}><rest/><duration>${duration(context, event.length)}</duration><voice>1</voice>${type}${modification}${notations(marks)}</note>`;
  }
  const ties = `${place.continuesTie && !isCut(context, place.entersRow) ? '<tie type="stop"/>' : ''}${event.tied && !isCut(context, place.leavesRow) ? '<tie type="start"/>' : ''}`;
  const beams = place.beams.map((mark, level) => `<beam number="${level + 1}">${mark}</beam>`).join('');
  // A chord's further notes share everything but pitch and accidental; what hangs on the chord hangs on its first.
  const further = (event.chord ?? [])
    .map(
      (pitch, k) =>
        `<note>${event.cue ? '<cue/>' : ''}<chord/>${pitchElement(pitch)}<duration>${duration(context, event.length)}</duration>${ties}<voice>1</voice>${type}${accidentalElement(context, `${event.id}+${k}`)}${modification}</note>`,
    )
    .join('');
  return (
    graceNotes(context, event) +
    `<note${id}>${event.cue ? '<cue/>' : ''}${pitchElement(event.pitch)}<duration>${duration(context, event.length)}</duration>${event.cue ? '' : ties}<voice>1</voice>${type}${accidentalElement(
      context,
      event.id,
    )}${modification}${beams}${notations(noteMarks(context, event, place))}${lyricElement(context, event)}</note>${further}`
  );
}

function modificationElement(tuplet: Tuplet | undefined): string {
  if (!tuplet) return '';
  const chain = tupletChain(tuplet);
  const product = (pick: (one: Tuplet) => number) => chain.reduce((all, one) => all * pick(one), 1);
  return `<time-modification><actual-notes>${product((one) => one.actual)}</actual-notes><normal-notes>${product((one) => one.normal)}</normal-notes></time-modification>`;
}

function graceNotes(context: PartContext, note: Note): string {
  const graces = note.graces ?? [];
  return graces
    .map((grace, k) => {
      const several = graces.length > 1;
      const mark: BeamMark = k === 0 ? 'begin' : k === graces.length - 1 ? 'end' : 'continue';
      const beams = several ? `<beam number="1">${mark}</beam><beam number="2">${mark}</beam>` : '';
      return `<note><grace${grace.slashed ? ' slash="yes"' : ''}/>${pitchElement(grace.pitch)}<voice>1</voice>${typeElements(several ? '16th' : 'eighth', 0)}${accidentalElement(context, `${note.id}/${k}`)}<stem>up</stem>${beams}</note>`;
    })
    .join('');
}

/** At the edge of a row that is drawn alone a tie has no other end; the engraver's caller draws it. */
function isCut(context: PartContext, isEdge: boolean): boolean {
  return context.options.forEngraver === true && isEdge;
}

function noteMarks(context: PartContext, note: Note, place: NoteContext): string {
  const tiedOut = note.tied && !isCut(context, place.leavesRow) ? '<tied type="start"/>' : '';
  const tiedIn = place.continuesTie && !isCut(context, place.entersRow) ? '<tied type="stop"/>' : '';
  const slurs = slurMarks(context, note);
  const inGroup = (group: 'articulations' | 'technical') => {
    const signs = (note.articulations ?? [])
      .filter((mark) => ARTICULATION_ELEMENTS[mark].group === group)
      .map((mark) => `<${ARTICULATION_ELEMENTS[mark].element}/>`)
      .join('');
    // The engraver stacks them upwards from the staff.
    const lines = context.staff.fingers?.get(note.id) ?? [];
    const fingers =
      group === 'technical'
        ? (context.options.forEngraver ? lines.toReversed() : lines)
            .map((text) => `<fingering placement="above">${escapeXml(text)}</fingering>`)
            .join('')
        : '';
    const content = signs + fingers;
    return content ? `<${group}>${content}</${group}>` : '';
  };
  const ornaments = (note.ornaments ?? [])
    .map((mark) => (mark === 'roll' ? '<other-ornament>roll</other-ornament>' : `<${ORNAMENT_ELEMENTS[mark]}/>`))
    .join('');
  return [
    tiedIn,
    tiedOut,
    slurs,
    ...place.tuplet,
    ornaments ? `<ornaments>${ornaments}</ornaments>` : '',
    inGroup('technical'),
    inGroup('articulations'),
    note.dynamic ? `<dynamics placement="below"><${note.dynamic}/></dynamics>` : '',
    note.fermata ? '<fermata/>' : '',
    ownNotations(context, note),
  ].join('');
}

/** Slurs nest: one that ends is the one begun last. Their numbers say so to other programs. */
function slurMarks(context: PartContext, note: Note): string {
  const { slurs } = context;
  const marks: string[] = [];
  for (let k = 0; k < (note.slurEnds ?? 0); k += 1) {
    marks.push(`<slur type="stop" number="${Math.min(6, Math.max(1, slurs.open))}"/>`);
    slurs.open = Math.max(0, slurs.open - 1);
  }
  for (let k = 0; k < (note.slurStarts ?? 0); k += 1) {
    slurs.open += 1;
    marks.push(`<slur type="start" number="${Math.min(6, slurs.open)}"/>`);
  }
  return marks.join('');
}

/** What MusicXML has no element for, in words that are read back. Not for the page. */
function ownNotations(context: PartContext, event: ScoreEvent): string {
  if (context.options.forEngraver) return '';
  const words = [isNote(event) && event.phrase && PHRASE_NOTATIONS[event.phrase], event.optional && OPTIONAL_NOTATION];
  return words.map((text) => (text ? `<other-notation type="single">${text}</other-notation>` : '')).join('');
}

function notations(content: string): string {
  return content ? `<notations>${content}</notations>` : '';
}

/** Notes whose syllable goes on with a word begun before, as ID/VERSE. */
function wordsCarriedOn(bars: readonly Bar[]): ReadonlySet<string> {
  const open = new Set<number>();
  const carried = new Set<string>();
  for (const event of bars.flatMap((bar) => bar.events)) {
    if (!isNote(event)) continue;
    for (const { verse, hyphen } of event.lyrics ?? []) {
      if (open.has(verse)) carried.add(`${event.id}/${verse}`);
      if (hyphen) open.add(verse);
      else open.delete(verse);
    }
  }
  return carried;
}

/** The engraver sets a text under its note, and takes a figure with a plain space after it for a verse number; counts of the beats that go by belong after the note. */
function afterHead(text: string): string {
  return /^\d+( \d+)*$/.test(text) ? `\u2003${text.replaceAll(' ', '\u2002')}` : text;
}

function lyricElement(context: PartContext, note: Note): string {
  return (note.lyrics ?? [])
    .map(({ verse, text, hyphen, extend }) => {
      const inWord = context.carriesWord.has(`${note.id}/${verse}`);
      const syllabic = hyphen ? (inWord ? 'middle' : 'begin') : inWord ? 'end' : 'single';
      return `<lyric number="${verse}"><syllabic>${syllabic}</syllabic><text>${escapeXml(context.options.forEngraver ? afterHead(text) : text)}</text>${extend ? '<extend/>' : ''}</lyric>`;
    })
    .join('');
}
