import type { Pitch } from '../../pitch';
import { type Bar, isNote, type Note, type ScoreEvent } from '../../score';
import { type BeamMark, notatedTicks, type NoteType, type Tuplet, valueOfTicks } from '../../time';
import { ARTICULATION_ELEMENTS, ORNAMENT_ELEMENTS } from './marks';
import { duration, type PartContext } from './partContext';
import { escapeXml } from './escapeXml';

export interface NoteContext {
  readonly beams: readonly BeamMark[];
  readonly continuesTie: boolean;
  readonly tuplet: readonly string[];
  /** The note stands at the edge of a row drawn alone, so a tie's other end is not there. */
  readonly leavesRow: boolean;
  readonly entersRow: boolean;
}

/**
 * Starts and stops of tuplet brackets at an event, innermost last; a bracket is left out where one beam holds the
 * group.
 */
export function tupletEnds(
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

/** A note or rest with all that stands on it. */
export function noteElement(context: PartContext, event: ScoreEvent, place: NoteContext): string {
  const id = context.target.id(context.staff.id, event.id);
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
    )}${modification}${context.staff.tab ? '<stem>none</stem>' : beams}${notations(noteMarks(context, event, place))}${lyricElement(context, event)}</note>${further}`
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
  return context.target.isRow && isEdge;
}

function noteMarks(context: PartContext, note: Note, place: NoteContext): string {
  const stop = context.staff.tab?.places.get(note.id);
  if (context.staff.tab)
    return stop ? `<technical><string>${stop.string}</string><fret>${stop.fret}</fret></technical>` : '';
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
        ? context.target
            .fingers(lines)

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
  const { slurs, staff, target } = context;
  // Over the notes are finger marks there, and over them the chords.
  const below = target.isRow && (staff.fingers?.size ?? 0) > 0 ? ' placement="below"' : '';
  const marks: string[] = [];
  for (let k = 0; k < (note.slurEnds ?? 0); k += 1) {
    marks.push(`<slur type="stop" number="${Math.min(6, Math.max(1, slurs.open))}"/>`);
    slurs.open = Math.max(0, slurs.open - 1);
  }
  for (let k = 0; k < (note.slurStarts ?? 0); k += 1) {
    slurs.open += 1;
    marks.push(`<slur type="start" number="${Math.min(6, slurs.open)}"${below}/>`);
  }
  return marks.join('');
}

function ownNotations(context: PartContext, event: ScoreEvent): string {
  return context.target
    .ownWords(event)
    .map((text) => `<other-notation type="single">${text}</other-notation>`)
    .join('');
}

function notations(content: string): string {
  return content ? `<notations>${content}</notations>` : '';
}

/** Notes whose syllable goes on with a word begun before, as ID/VERSE. */
export function wordsCarriedOn(bars: readonly Bar[]): ReadonlySet<string> {
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

function lyricElement(context: PartContext, note: Note): string {
  return (note.lyrics ?? [])
    .map(({ verse, text, hyphen, extend }) => {
      const inWord = context.carriesWord.has(`${note.id}/${verse}`);
      const syllabic = hyphen ? (inWord ? 'middle' : 'begin') : inWord ? 'end' : 'single';
      return `<lyric number="${verse}"><syllabic>${syllabic}</syllabic><text>${escapeXml(context.target.lyric(text))}</text>${extend ? '<extend/>' : ''}</lyric>`;
    })
    .join('');
}
