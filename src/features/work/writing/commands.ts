import { phrasesOf } from '../../../core/analysis';
import {
  advance,
  changeLength,
  copyStretch,
  cutStretch,
  deleteBars,
  eventAt,
  findEvent,
  insertBars,
  makeTuplet,
  moveCaret,
  movePitches,
  type NoteMark,
  pasteClip,
  type PitchMove,
  type Ratio,
  removeTuplet,
  repeatBars,
  respellNotes,
  setPhraseMark,
  silence,
  toggleMark,
  toggleOptional,
  toggleSlur,
  toggleTie,
} from '../../../core/score/edit';
import { isStep } from '../../../core/pitch';
import { isNote, soundingNotes, type Tune } from '../../../core/score';
import { soundingTicks } from '../../../core/time';
import { WRITTEN_TYPES, type OpenField, type Writing } from './writingStore';

interface WritingCommand {
  /** As on the help sheet; several keys are told apart by commas. */
  readonly keys: string;
  readonly name: string;
  /** Normal forms of the keys that mean it: `Shift+ArrowUp`, `Ctrl+c`, `z`. */
  readonly on: readonly string[];
  readonly run: (writing: Writing) => void;
}

export interface CommandGroup {
  readonly name: string;
  readonly commands: readonly WritingCommand[];
}

/** All keys of writing, in the groups of the help sheet. What is pressed is looked up here and nowhere else. */
export const WRITING_COMMANDS: readonly CommandGroup[] = [
  {
    name: 'Notes',
    commands: [
      { keys: 'A … G', name: 'a note, in the octave nearest to the one before', on: [], run: () => undefined },
      { keys: 'Shift A … G', name: 'the same an octave higher', on: [], run: () => undefined },
      { keys: 'Z', name: 'a rest', on: ['z'], run: (writing) => writing.writeRest() },
      {
        keys: '+ −',
        name: 'longer, shorter: of the selected or just written note, and of the next ones',
        on: ['+', '='],
        run: (writing) => stepLength(writing, -1),
      },
      { keys: '', name: '', on: ['-', '_'], run: (writing) => stepLength(writing, 1) },
      { keys: '.', name: 'with or without a dot', on: ['.'], run: dot },
      { keys: '↑ ↓', name: 'a step up, down', on: ['ArrowUp'], run: (writing) => movePitch(writing, { steps: 1 }) },
      { keys: '', name: '', on: ['ArrowDown'], run: (writing) => movePitch(writing, { steps: -1 }) },
      {
        keys: 'Shift ↑ ↓',
        name: 'sharper, flatter',
        on: ['Shift+ArrowUp'],
        run: (writing) => movePitch(writing, { halfSteps: 1 }),
      },
      { keys: '', name: '', on: ['Shift+ArrowDown'], run: (writing) => movePitch(writing, { halfSteps: -1 }) },
      {
        keys: 'Ctrl ↑ ↓',
        name: 'an octave up, down',
        on: ['Ctrl+ArrowUp'],
        run: (writing) => movePitch(writing, { octaves: 1 }),
      },
      { keys: '', name: '', on: ['Ctrl+ArrowDown'], run: (writing) => movePitch(writing, { octaves: -1 }) },
      {
        keys: 'Y',
        name: 'respell: the same sound under its other name',
        on: ['y'],
        run: (writing) =>
          void writing.run((tune, caret) => respellNotes(tune, writing.targets, caret), { keepSelection: true }),
      },
      { keys: 'T', name: 'tie to the next note of the pitch', on: ['t'], run: tie },
      {
        keys: 'U, Shift U',
        name: 'three in the time of two; no group',
        on: ['u'],
        run: (writing) => tuplet(writing, { actual: 3, normal: 2 }),
      },
      { keys: '', name: '', on: ['Shift+u'], run: (writing) => void writing.run(removeTuplet) },
    ],
  },
  {
    name: 'Moving and selecting',
    commands: [
      { keys: '← →', name: 'note by note', on: ['ArrowLeft'], run: (writing) => writing.move(-1, false) },
      { keys: '', name: '', on: ['ArrowRight'], run: (writing) => writing.move(1, false) },
      { keys: 'Shift ← →', name: 'select', on: ['Shift+ArrowLeft'], run: (writing) => writing.move(-1, true) },
      { keys: '', name: '', on: ['Shift+ArrowRight'], run: (writing) => writing.move(1, true) },
      {
        keys: 'Ctrl ← →',
        name: 'bar by bar (with Shift: select)',
        on: ['Ctrl+ArrowLeft', 'Ctrl+Shift+ArrowLeft'],
        run: (writing) => byBar(writing, -1),
      },
      { keys: '', name: '', on: ['Ctrl+ArrowRight'], run: (writing) => byBar(writing, 1) },
      { keys: '', name: '', on: ['Ctrl+Shift+ArrowRight'], run: (writing) => byBar(writing, 1, true) },
      { keys: 'Home, End', name: 'beginning, end', on: ['Home'], run: (writing) => writing.moveTo({ bar: 0, at: 0 }) },
      { keys: '', name: '', on: ['End'], run: (writing) => writing.moveTo({ bar: writing.bars.length, at: 0 }) },
      { keys: '', name: '', on: ['Shift+Home'], run: (writing) => writing.moveTo({ bar: 0, at: 0 }, true) },
      {
        keys: '',
        name: '',
        on: ['Shift+End'],
        run: (writing) => writing.moveTo({ bar: writing.bars.length, at: 0 }, true),
      },
      {
        keys: 'Ctrl A',
        name: 'select all',
        on: ['Ctrl+a'],
        run: (writing) =>
          writing.set({ anchor: { bar: 0, at: 0 }, caret: { bar: writing.bars.length, at: 0 }, touched: [] }),
      },
      {
        keys: 'Del, Backspace',
        name: 'make a rest: of what is selected or under the caret, of the note before it',
        on: ['Delete'],
        run: clear,
      },
      { keys: '', name: '', on: ['Backspace'], run: clearBefore },
      { keys: 'Ctrl C, X, V', name: 'copy, cut, paste at the caret', on: ['Ctrl+c'], run: copy },
      { keys: '', name: '', on: ['Ctrl+x'], run: cut },
      { keys: '', name: '', on: ['Ctrl+v'], run: paste },
    ],
  },
  {
    name: 'Bars',
    commands: [
      {
        keys: 'R',
        name: 'repeat the bar (or the selected ones)',
        on: ['r'],
        run: (writing) => withBars(writing, repeatBars),
      },
      {
        keys: 'I',
        name: 'an empty bar before this one',
        on: ['i'],
        run: (writing) => void writing.run((tune, caret) => insertBars(tune, caret.bar, 1)),
      },
      {
        keys: 'Shift Backspace',
        name: 'remove the bar (or the selected ones)',
        on: ['Shift+Backspace', 'Shift+Delete'],
        run: (writing) => withBars(writing, deleteBars),
      },
      { keys: 'N', name: 'name a section here', on: ['n'], run: open('section') },
      {
        keys: 'K',
        name: 'repeat signs, endings, jumps; another key, meter or tempo from here',
        on: ['k'],
        run: open('bar'),
      },
    ],
  },
  {
    name: 'Over and under the notes',
    commands: [
      { keys: 'H', name: 'a chord symbol', on: ['h'], run: open('chord') },
      { keys: 'W', name: 'words', on: ['w'], run: open('word') },
      { keys: 'M', name: 'marks: articulation, ornament, loudness', on: ['m'], run: open('marks') },
      {
        keys: 'S',
        name: 'slur over the selected notes',
        on: ['s'],
        run: (writing) =>
          void writing.run((tune, caret) => toggleSlur(tune, writing.targets, caret), { keepSelection: true }),
      },
      {
        keys: 'O',
        name: 'bracket: optional passage',
        on: ['o'],
        run: (writing) =>
          void writing.run((tune, caret) => toggleOptional(tune, writing.targets, caret), { keepSelection: true }),
      },
      { keys: 'V', name: 'a phrase begins here, or does not', on: ['v'], run: phraseHere },
    ],
  },
  {
    name: 'Leaving',
    commands: [{ keys: 'Esc', name: 'drop the selection; then end writing', on: ['Escape'], run: leave }],
  },
];

const byKey: ReadonlyMap<string, WritingCommand> = new Map(
  WRITING_COMMANDS.flatMap(({ commands }) =>
    commands.flatMap((command) => command.on.map((key): [string, WritingCommand] => [key, command])),
  ),
);

/** What is known of a key press. */
export interface KeyPress {
  readonly key: string;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
  readonly altKey: boolean;
  readonly shiftKey: boolean;
  readonly isAltGraph: boolean;
}

/** `Ctrl+Shift+ArrowUp`, `z`, `+`: Shift is left out where it only makes the sign. The command key counts as Ctrl. */
export function normalKey({ key, ctrlKey, metaKey, altKey, shiftKey, isAltGraph }: KeyPress): string {
  const isSign = key.length === 1 && !/[a-z]/i.test(key);
  const name = key.length === 1 ? key.toLowerCase() : key;
  const command = (ctrlKey || metaKey) && !isAltGraph;
  return `${command ? 'Ctrl+' : ''}${altKey && !isAltGraph ? 'Alt+' : ''}${shiftKey && !isSign ? 'Shift+' : ''}${name}`;
}

/** Does what a key means; false where it means nothing here. */
export function press(writing: Writing, key: KeyPress): boolean {
  const name = normalKey(key);
  const letter = /^(Shift\+)?([a-g])$/.exec(name);
  const step = letter?.[2]?.toUpperCase();
  if (letter && isStep(step)) {
    writing.writeLetter(step, letter[1] !== undefined);
    return true;
  }
  const command = byKey.get(name);
  command?.run(writing);
  return command !== undefined;
}

function open(field: OpenField): (writing: Writing) => void {
  return (writing) => writing.set({ field });
}

function movePitch(writing: Writing, move: PitchMove): void {
  writing.run((tune, caret) => movePitches(tune, writing.targets, move, caret), { keepSelection: true });
}

/**
 * The length of what was meant changes with the length set; without a selection or a note just written, only the
 * latter.
 */
function applyLength(writing: Writing): void {
  const { stretch } = writing;
  const ids = stretch || writing.state.touched.length > 0 ? writing.targets : [];
  const [id] = ids;
  if (ids.length !== 1 || id === undefined) return;
  const found = findEvent(writing.bars, id);
  if (!found) return;
  const { length } = writing;
  const place = { bar: found.bar, at: found.start };
  const isJustWritten = writing.state.touched.length > 0;
  const done = writing.run((tune) => changeLength(tune, place, length), { keepSelection: true });
  if (!done) return;
  const printed = found.event.tuplet ? soundingTicks(length, found.event.tuplet) : length;
  const after = advance(writing.bars, place, printed);
  writing.set(isJustWritten ? { caret: after, touched: [id] } : { caret: place, anchor: after });
}

function stepLength(writing: Writing, direction: 1 | -1): void {
  const at = WRITTEN_TYPES.indexOf(writing.state.type);
  const type = WRITTEN_TYPES[Math.max(0, Math.min(WRITTEN_TYPES.length - 1, at + direction))];
  if (!type) return;
  writing.set({ type });
  applyLength(writing);
}

function dot(writing: Writing): void {
  writing.set({ dotted: !writing.state.dotted });
  applyLength(writing);
}

export function setLength(writing: Writing, type: (typeof WRITTEN_TYPES)[number]): void {
  writing.set({ type });
  applyLength(writing);
}

export function toggleDot(writing: Writing): void {
  dot(writing);
}

function tie(writing: Writing): void {
  const id = writing.targets.at(-1);
  if (id !== undefined) writing.run((tune, caret) => toggleTie(tune, id, caret), { keepSelection: true });
}

export function tuplet(writing: Writing, ratio: Ratio): void {
  const { stretch } = writing;
  writing.run((tune, caret) => makeTuplet(tune, caret, stretch, ratio));
}

function byBar(writing: Writing, direction: 1 | -1, extend = false): void {
  const { caret } = writing;
  writing.moveTo(
    { bar: direction > 0 ? caret.bar + 1 : caret.at > 0 ? caret.bar : Math.max(0, caret.bar - 1), at: 0 },
    extend,
  );
}

function clear(writing: Writing): void {
  const { stretch, caret } = writing;
  const to = stretch?.to ?? moveCaret(writing.bars, caret, 1);
  writing.run((tune) => silence(tune, stretch?.from ?? caret, to));
}

function clearBefore(writing: Writing): void {
  if (writing.stretch) {
    clear(writing);
    return;
  }
  const to = writing.caret;
  const from = moveCaret(writing.bars, to, -1);
  writing.set({ touched: [] });
  writing.run((tune) => silence(tune, from, to));
}

function copy(writing: Writing): void {
  const { stretch } = writing;
  const clip = stretch && copyStretch(lineTune(writing), stretch);
  if (clip)
    writing.set({
      clip,
      message: `${clip.events.length === 1 ? 'one note' : `${clip.events.length} notes and rests`} copied`,
    });
  else writing.set({ message: 'Nothing is selected: hold Shift and go on with the arrow keys, or drag over bars.' });
}

function cut(writing: Writing): void {
  const { stretch } = writing;
  const taken = stretch && cutStretch(lineTune(writing), stretch);
  if (!taken) {
    writing.set({ message: 'Nothing is selected.' });
    return;
  }
  writing.set({ clip: taken.clip });
  writing.run((tune) => cutStretch(tune, stretch)?.result ?? taken.result);
}

function paste(writing: Writing): void {
  const { clip } = writing.state;
  if (clip) writing.run((tune, caret) => pasteClip(tune, caret, clip));
  else writing.set({ message: 'Nothing has been copied yet.' });
}

function lineTune(writing: Writing): Tune {
  return { ...writing.tune, bars: writing.bars };
}

/** The selected bars, or the one with the caret. */
export function barsMeant(writing: Writing): readonly [number, number] {
  const { stretch, caret } = writing;
  if (!stretch) return [caret.bar, caret.bar];
  return [
    stretch.from.bar,
    stretch.to.at === 0 && stretch.to.bar > stretch.from.bar ? stretch.to.bar - 1 : stretch.to.bar,
  ];
}

function withBars(
  writing: Writing,
  edit: (tune: Tune, from: number, to: number) => ReturnType<typeof repeatBars>,
): void {
  const [from, to] = barsMeant(writing);
  writing.run((tune) => edit(tune, from, to));
}

export function mark(writing: Writing, wanted: NoteMark): void {
  writing.run((tune, caret) => toggleMark(tune, writing.targets, wanted, caret), { keepSelection: true });
}

/** A boundary that was found is taken away, one that was not is set; a mark of the teacher's own goes first. */
function phraseHere(writing: Writing): void {
  const here = eventAt(writing.bars, writing.caret);
  if (!here || !isNote(here.event)) {
    writing.set({ message: 'A phrase begins with a note; put the caret on one.' });
    return;
  }
  const { event } = here;
  const notes = soundingNotes(writing.tune);
  const starts = new Set(phrasesOf(writing.tune).map(({ from }) => notes[from]?.first.id));
  const next = event.phrase ? undefined : starts.has(event.id) ? 'goes-on' : 'begins';
  writing.run((tune, caret) => setPhraseMark(tune, event.id, next, caret), { keepSelection: true });
}

function leave(writing: Writing): void {
  if (writing.state.anchor) writing.set({ anchor: undefined });
  else writing.stop();
}
