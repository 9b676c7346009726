import { alterInKey, type Interval, type Key, type Pitch, signatureOf } from '../../pitch';
import type { ChordSymbol } from '../../harmony';
import { type Clef, CLEF_SIGNS } from '../../score';
import { harmonyKind } from './chordKinds';
import { escapeXml } from './escapeXml';

/** How a note of a pool looks: filled, open, or small. */
export type Head = 'filled' | 'open' | 'small';

/** A note without length: a head on the staff with words under it. */
export interface StemlessNote {
  readonly id: string;
  readonly pitch: Pitch;
  readonly head: Head;
  /** Lines under the note, from the top. */
  readonly words: readonly string[];
}

/** What stands under one chord: a column of heads for each staff. */
export interface StemlessColumn {
  readonly id: string;
  readonly symbol?: ChordSymbol;
  /** Number of the bar that begins here; none for a further chord of a bar. */
  readonly number?: string;
  /** Over the chord symbol. */
  readonly numeral?: string;
  readonly section?: string;
  readonly staves: readonly (readonly StemlessNote[])[];
  readonly startsLine?: boolean;
  readonly repeatStart?: boolean;
  readonly repeatEnd?: boolean;
  /** At the end of the column; nothing stands between chords of one bar. */
  readonly line: 'none' | 'plain' | 'double' | 'final';
}

interface StemlessStaff {
  readonly id: string;
  readonly name: string;
  readonly clef: Clef;
  readonly key: Key;
  /** Added to a written pitch to get the sounding one. */
  readonly toSounding?: Interval;
}

export interface StemlessScore {
  readonly title: string;
  readonly composer?: string;
  readonly rights?: string;
  readonly staves: readonly StemlessStaff[];
  readonly columns: readonly StemlessColumn[];
}

/**
 * Heads without stems and without meter as partwise MusicXML: a measure for each chord, senza misura, so that a bar
 * holds as many notes as its pool has. Elements as in the 3.0 schema; with names of notes (3.1) where it is for the
 * engraver.
 */
export function writeStemless(score: StemlessScore, forEngraver = false): string {
  const list = score.staves
    .map(({ id, name }) => `<score-part id="${escapeXml(id)}"><part-name>${escapeXml(name)}</part-name></score-part>`)
    .join('');
  const creator = score.composer ? `<creator type="composer">${escapeXml(score.composer)}</creator>` : '';
  const rights = score.rights
    ? `<miscellaneous><miscellaneous-field name="rights-status">${escapeXml(score.rights)}</miscellaneous-field></miscellaneous>`
    : '';
  const parts = score.staves.map((staff, index) => {
    const measures = score.columns.map((column, k) => measure(score, staff, index, column, k, forEngraver));
    return `<part id="${escapeXml(staff.id)}">\n${measures.join('\n')}\n</part>`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">
<score-partwise version="4.0">
<work><work-title>${escapeXml(score.title)}</work-title></work>
<identification>${creator}<encoding><software>Reed Hook</software></encoding>${rights}</identification>
<part-list>${list}</part-list>
${parts.join('\n')}
</score-partwise>
`;
}

function measure(
  score: StemlessScore,
  staff: StemlessStaff,
  index: number,
  column: StemlessColumn,
  place: number,
  forEngraver: boolean,
): string {
  const id = forEngraver ? ` id="${staff.id}:${column.id}"` : '';
  const isTop = index === 0;
  const notes = column.staves[index] ?? [];
  const number = column.number === undefined ? ` number="X${place + 1}" implicit="yes"` : ` number="${column.number}"`;
  return `<measure${number}${id}>${[
    column.startsLine && place > 0 ? '<print new-system="yes"/>' : '',
    column.repeatStart
      ? '<barline location="left"><bar-style>heavy-light</bar-style><repeat direction="forward"/></barline>'
      : '',
    place === 0 ? attributes(staff) : '',
    isTop && column.section
      ? `<direction placement="above"><direction-type><rehearsal>${escapeXml(column.section)}</rehearsal></direction-type></direction>`
      : '',
    isTop && column.numeral
      ? `<direction placement="above"><direction-type><words font-style="italic" font-size="9">${escapeXml(column.numeral)}</words></direction-type></direction>`
      : '',
    isTop && column.symbol ? harmony(column.symbol, forEngraver) : '',
    notes.length > 0
      ? notes.map((note) => head(note, staff, forEngraver)).join('')
      : '<note print-object="no"><rest/><duration>1</duration><voice>1</voice><type>quarter</type></note>',
    rightLine(column),
  ].join('')}</measure>`;
}

function attributes({ key, clef, toSounding }: StemlessStaff): string {
  const sign = CLEF_SIGNS[clef];
  const octave = sign.octaveChange ? `<clef-octave-change>${sign.octaveChange}</clef-octave-change>` : '';
  return `<attributes><divisions>1</divisions><key><fifths>${signatureOf(key)}</fifths></key><time print-object="no"><senza-misura/></time><clef><sign>${sign.sign}</sign><line>${sign.line}</line>${octave}</clef>${toSounding ? transpose(toSounding) : ''}</attributes>`;
}

function transpose(toSounding: Interval): string {
  const change = Math.trunc(toSounding.chromatic / 12);
  return `<transpose><diatonic>${toSounding.diatonic - 7 * change}</diatonic><chromatic>${toSounding.chromatic - 12 * change}</chromatic>${change ? `<octave-change>${change}</octave-change>` : ''}</transpose>`;
}

const ACCIDENTALS: Readonly<Record<string, string>> = {
  '-2': 'flat-flat',
  '-1': 'flat',
  '0': 'natural',
  '1': 'sharp',
  '2': 'double-sharp',
};

function head({ id, pitch, head: look, words }: StemlessNote, staff: StemlessStaff, forEngraver: boolean): string {
  const { step, alter, octave } = pitch;
  const signed = alterInKey(step, staff.key) !== alter ? ACCIDENTALS[String(alter)] : undefined;
  const name = forEngraver ? ` id="${staff.id}:${id}"` : '';
  const isSmall = look === 'small';
  const lyrics = words
    .map((text, k) =>
      text ? `<lyric number="${k + 1}"><syllabic>single</syllabic><text>${escapeXml(text)}</text></lyric>` : '',
    )
    .join('');
  // The engraver draws small heads for cues; in a file that would silence them.
  return `<note${name}>${isSmall && forEngraver ? '<cue/>' : ''}<pitch><step>${step}</step>${alter ? `<alter>${alter}</alter>` : ''}<octave>${octave}</octave></pitch><duration>1</duration><voice>1</voice><type${isSmall ? ' size="cue"' : ''}>quarter</type>${signed ? `<accidental>${signed}</accidental>` : ''}<stem>none</stem><notehead filled="${look === 'open' ? 'no' : 'yes'}">normal</notehead>${lyrics}</note>`;
}

function harmony(symbol: ChordSymbol, forEngraver: boolean): string {
  if (symbol.kind === 'no chord')
    return '<harmony><root><root-step text="">C</root-step></root><kind text="N.C.">none</kind></harmony>';
  const { kind, text, degrees } = harmonyKind(symbol);
  const alter = symbol.root.alter ? `<root-alter>${symbol.root.alter}</root-alter>` : '';
  const bass = symbol.bass
    ? `<bass><bass-step>${symbol.bass.step}</bass-step>${symbol.bass.alter ? `<bass-alter>${symbol.bass.alter}</bass-alter>` : ''}</bass>`
    : '';
  const extra = (forEngraver ? [] : degrees)
    .map(
      (degree) =>
        `<degree print-object="no"><degree-value>${degree.value}</degree-value><degree-alter>${degree.alter}</degree-alter><degree-type>${degree.type}</degree-type></degree>`,
    )
    .join('');
  return `<harmony><root><root-step>${symbol.root.step}</root-step>${alter}</root><kind text="${escapeXml(text)}">${kind}</kind>${bass}${extra}</harmony>`;
}

function rightLine({ line, repeatEnd }: StemlessColumn): string {
  if (repeatEnd)
    return '<barline location="right"><bar-style>light-heavy</bar-style><repeat direction="backward"/></barline>';
  const style = line === 'final' ? 'light-heavy' : line === 'double' ? 'light-light' : line === 'none' ? 'none' : '';
  return style ? `<barline location="right"><bar-style>${style}</bar-style></barline>` : '';
}
