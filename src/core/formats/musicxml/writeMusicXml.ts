import { type Interval, type Key, printKey, signatureOf } from '../../pitch';
import {
  accidentalsFor,
  type Bar,
  barLength,
  barNumbers,
  barOffset,
  CLEF_SIGNS,
  isNote,
  keysOf,
  metersOf,
  quartersPerMinute,
  type ScoreEvent,
  type Tempo,
  type Tablature,
} from '../../score';
import { beamsFor, type Meter, sameMeter, spellRestLength, type Ticks, valueOfTicks } from '../../time';
import { harmonyKind } from './chordKinds';
import { HARMONY_FIELD, JUMP_WORDS, RECORDING_FIELD, SECOND_PART_FIELD, SWING_FIELD } from './marks';
import { duration, type PartContext } from './partContext';
import { FOR_FILE, type Target } from './target';
import { noteElement, tupletEnds, wordsCarriedOn } from './writeNotes';
import type { ScoreFile, Staff } from './scoreFile';
import { escapeXml } from './escapeXml';

/** Which part of a score is written, and for whom. */
export interface WriteOptions {
  /** A file by default. */
  readonly target?: Target;
  /** Only the bars from … up to but without `to`. */
  readonly from?: number;
  readonly to?: number;
  /** Bars (by index) that begin a new line or page. */
  readonly lineStarts?: ReadonlySet<number>;
  readonly pageStarts?: ReadonlySet<number>;
}

/** Writes partwise MusicXML 4.0, every element of which the 3.0 schema knows too (unless it is for the engraver). */
export function writeMusicXml(score: ScoreFile, options: WriteOptions = {}): string {
  const field = (name: string, value: string | undefined) =>
    value ? `<miscellaneous-field name="${name}">${escapeXml(value)}</miscellaneous-field>` : '';
  const fields =
    field('rights-status', score.rights) +
    field(SECOND_PART_FIELD, score.secondPart) +
    field(SWING_FIELD, score.swing && `${score.swing.unit} ${score.swing.ratio}`) +
    field(RECORDING_FIELD, score.recordingKey && printKey(score.recordingKey)) +
    field(HARMONY_FIELD, score.harmony);
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

function writePart(staff: Staff, options: WriteOptions): string {
  const { from = 0, to = staff.bars.length, target = FOR_FILE } = options;
  const context: PartContext = {
    staff,
    target,
    firstBar: from,
    lastBar: to - 1,
    divisions: target.divisions(staff.bars),
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
    const id = target.id(staff.id, bar.id);
    const implicit = isHalf || numbers[index] === 0 ? ' implicit="yes"' : '';
    const first = index === from;
    const body = [
      breakBefore(index, options),
      leftBarline(bar),
      attributes(context, {
        key: first || target.isKeyShown(bar, key, keys[index - 1]) ? key : undefined,
        meter:
          index === 0 || (bar.meter && !sameMeter(bar.meter, meters[index - 1] ?? staff.meter)) ? meter : undefined,
        first,
        details: staff.tab && first ? tabDetails(staff.tab) : ossiaDetails(context, index, first),
      }),
      restRun(context, index, to),
      directionsBefore(context, bar, index),
      staff.blank?.has(index) || staff.ossiaBars?.has(index) === false || staff.tab
        ? withoutRests(music(context, bar, index, meter))
        : music(context, bar, index, meter),
      directionsAfter(bar),
      rightBarline(bar),
    ].join('');
    measures.push(`<measure number="${number}"${implicit}${id}>${body}</measure>`);
  }
  return `<part id="${escapeXml(staff.id)}">\n${measures.join('\n')}\n</part>`;
}

/** Rests that keep their room and are not printed: a bar to be written into. */
function withoutRests(music: string): string {
  return music.replace(/<note([^>]*)><rest/g, '<note$1 print-object="no"><rest');
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
  {
    key,
    meter,
    first,
    details,
  }: {
    readonly key: Key | undefined;
    readonly meter: Meter | undefined;
    readonly first: boolean;
    readonly details: string;
  },
): string {
  if (!key && !meter && !first && details === '') return '';
  const { staff } = context;
  const symbol = meter?.sign ? ` symbol="${meter.sign}"` : '';
  const clef: (typeof CLEF_SIGNS)[keyof typeof CLEF_SIGNS] | typeof TAB_CLEF = staff.tab
    ? TAB_CLEF
    : CLEF_SIGNS[staff.clef];
  // A tablature has no signature, and its meter stands in the staff over it.
  const hidden = staff.tab ? ' print-object="no"' : '';
  return `<attributes>${first ? `<divisions>${context.divisions}</divisions>` : ''}${
    key ? `<key${hidden}><fifths>${signatureOf(key)}</fifths><mode>${key.mode}</mode></key>` : ''
  }${meter ? `<time${symbol}${hidden}><beats>${meter.count}</beats><beat-type>${meter.unit}</beat-type></time>` : ''}${
    first
      ? `<clef><sign>${clef.sign}</sign><line>${clef.line}</line>${clef.octaveChange ? `<clef-octave-change>${clef.octaveChange}</clef-octave-change>` : ''}</clef>`
      : ''
  }${details}${first && staff.toSounding ? transposeElement(staff.toSounding) : ''}</attributes>`;
}

const TAB_CLEF = { sign: 'TAB', line: 5, octaveChange: undefined } as const;

/** The lines of a tablature and the strings that they are, lowest first. */
function tabDetails({ strings }: Tablature): string {
  const tuning = strings
    .map(
      ({ step, alter, octave }, line) =>
        `<staff-tuning line="${line + 1}"><tuning-step>${step}</tuning-step>${alter ? `<tuning-alter>${alter}</tuning-alter>` : ''}<tuning-octave>${octave}</tuning-octave></staff-tuning>`,
    )
    .join('');
  return `<staff-details><staff-lines>${strings.length}</staff-lines>${tuning}</staff-details>`;
}

/** A small staff says that it is one at its head, and where it appears and goes. */
function ossiaDetails({ staff: { ossiaBars }, target }: PartContext, index: number, first: boolean): string {
  if (!ossiaBars) return '';
  const isShown = ossiaBars.has(index);
  if (!first && isShown === ossiaBars.has(index - 1)) return '';
  return target.smallStaff(isShown, first);
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

function tempoDirection({ target }: PartContext, tempo: Tempo, offset = ''): string {
  const words = tempo.words
    ? `<direction-type><words>${escapeXml(target.tempoWords(tempo.words))}</words></direction-type>`
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
  // A bar to be written into keeps the room of its beats.
  const isWholeBarRest = !staff.blank?.has(index) && isOneRest(bar, meter, context.target);
  if (isWholeBarRest) {
    const id = context.target.id(staff.id, bar.events[0]?.id ?? bar.id);
    return (
      tempos.map(({ at, tempo }) => tempoDirection(context, tempo, at ? offsetElement(context, at) : '')).join('') +
      harmonies(context, bar, 0, Infinity) +
      counts(context, bar, 0, Infinity) +
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
        counts(context, bar, position, until) +
        tempos
          .filter(({ at }) => at >= here && at < until)
          .map(({ at, tempo }) => tempoDirection(context, tempo, at > here ? offsetElement(context, at - here) : ''))
          .join('');
      position += event.length;
      const previous = bar.events[k - 1] ?? before;
      const [opens, closes] = spanMarks(context, event, {
        before: previous,
        after: bar.events[k + 1] ?? staff.bars[index + 1]?.events[0],
        isFirst: k === 0 && index === context.firstBar,
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
          entersRow: k === 0 && index === context.firstBar,
        }) +
        closes
      );
    })
    .join('');
}

/** Beats counted under a held note, each at its own beat, in another face than fingerings. */
function counts(context: PartContext, bar: Bar, from: Ticks, until: Ticks): string {
  return (bar.counts ?? [])
    .filter(({ at }) => at >= from && at < until)
    .map(
      ({ at, text }) =>
        `<direction placement="below"><direction-type><words font-style="italic">${escapeXml(text)}</words></direction-type>${at > from ? offsetElement(context, at - from) : ''}</direction>`,
    )
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

/**
 * What stands before and after a note for marks that span several: hairpins, and on the page the bracket of an optional
 * passage.
 */
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
  const carried = isFirst ? context.target.hairpinAt(context.staff.bars, context.firstBar) : undefined;
  if (carried) {
    open.add(1);
    opens.push(wedge(carried, 1));
  }
  if (isNote(event) && event.hairpin) {
    const number = open.size + 1;
    open.add(number);
    opens.push(wedge(event.hairpin, number));
  }
  if (open.size > 0 && ((isNote(event) && event.hairpinEnds) || (isLast && context.target.isRow))) {
    const number = open.size;
    open.delete(number);
    closes.push(wedge('stop', number));
  }
  if (context.target.isRow && event.optional) {
    const bracket = (type: string) =>
      `<direction placement="above"><direction-type><bracket type="${type}" number="1" line-end="down" line-type="dashed"/></direction-type></direction>`;
    if (isFirst || !before?.optional) opens.push(bracket('start'));
    if (isLast || !after?.optional) closes.push(bracket('stop'));
  }
  return [opens.join(''), closes.join('')];
}

/**
 * Whether a full bar rests in the one way a bar's rest is written; other rests in it were meant as they stand.
 * In a file that is the way it is read back; on the page also any other usual spelling.
 */
function isOneRest(bar: Bar, meter: Meter, { joinsRests }: Target): boolean {
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
  return isAs(readBack) || (joinsRests && isAs(spelled));
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
      const extra = context.target
        .degrees(degrees)

        .map(
          (degree) =>
            `<degree print-object="no"><degree-value>${degree.value}</degree-value><degree-alter>${degree.alter}</degree-alter><degree-type>${degree.type}</degree-type></degree>`,
        )
        .join('');
      return `<harmony><root><root-step>${symbol.root.step}</root-step>${alter}</root><kind text="${escapeXml(text)}">${kind}</kind>${bass}${extra}${offset}</harmony>`;
    })
    .join('');
}
