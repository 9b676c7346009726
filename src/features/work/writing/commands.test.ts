import fc from 'fast-check';
import { printChord } from '../../../core/harmony/chordSymbol';
import { readAbc } from '../../../core/formats/abc/readAbc';
import { printPitch } from '../../../core/pitch/pitch';
import { isNote, type Tune } from '../../../core/score/tune';
import { scoreProblems } from '../../../core/score/validate';
import { createWorkStore } from '../workStore';
import { barsMeant, mark, normalKey, press, setLength, tuplet, WRITING_COMMANDS, type KeyPress } from './commands';
import { Writing } from './writingStore';

const ABC = 'X:1\nT:Weir\nM:4/4\nL:1/4\nK:G\n"G"G A B c | "D7"d4 |]\n';

function writing(abc = ABC) {
  const read = readAbc(abc);
  if (!read.ok) throw new Error('the tune of this test is broken');
  const store = createWorkStore({ tune: read.value.tune, recipes: {} }, 'written');
  const hand = new Writing(store);
  hand.start({ bar: 0, at: 0 });
  return { hand, store };
}

const key = (text: string): KeyPress => {
  const parts = text.split(/\+(?=.)/);
  const last = parts.at(-1) ?? '';
  const held = (name: string) => parts.length > 1 && parts.slice(0, -1).includes(name);
  return {
    key: last,
    ctrlKey: held('Ctrl'),
    metaKey: held('Meta'),
    altKey: held('Alt'),
    shiftKey: held('Shift'),
    isAltGraph: held('AltGraph'),
  };
};
const type = (hand: Writing, ...keys: readonly string[]) => keys.map((one) => press(hand, key(one)));

/** `G4:1 z:2~ | …`: quarters, `~` where tied. */
const show = ({ bars }: Tune) =>
  bars
    .map(({ events }) =>
      events
        .map(
          (event) =>
            `${isNote(event) ? printPitch(event.pitch) : 'z'}:${event.length / 10_080}${isNote(event) && event.tied ? '~' : ''}`,
        )
        .join(' '),
    )
    .join(' | ');

test('a key has one normal form: Shift counts for letters and arrows, not where it makes the sign', () => {
  expect(
    ['Shift+A', 'Shift++', 'Ctrl+Shift+ArrowUp', 'Meta+c', 'Ctrl+AltGraph+b', 'Alt+x', 'Z'].map((one) =>
      normalKey(key(one)),
    ),
  ).toEqual(['Shift+a', '+', 'Ctrl+Shift+ArrowUp', 'Ctrl+c', 'b', 'Alt+x', 'z']);
});

test('no key means two things', () => {
  const keys = WRITING_COMMANDS.flatMap(({ commands }) => commands.flatMap(({ on }) => on));
  expect(keys.filter((one, k) => keys.indexOf(one) !== k)).toEqual([]);
  expect(keys.filter((one) => /^(Shift\+)?[a-g]$/.test(one))).toEqual([]);
});

test('letters write in the nearest octave and in the signature; Shift an octave higher; what means nothing is let through', () => {
  const { hand } = writing();
  expect(type(hand, 'f', 'Shift+f', 'q', 'Ctrl+q')).toEqual([true, true, false, false]);
  expect(show(hand.tune)).toBe('F#4:1 F#5:1 B4:1 C5:1 | D5:4');
});

test('the length follows the note just written, over the barline too; a dot comes and goes', () => {
  const { hand } = writing();
  type(hand, 'End');
  type(hand, 'ArrowLeft', 'a', '+', '.');
  expect(show(hand.tune)).toBe('G4:1 A4:1 B4:1 C5:1 | A4:3 z:1');
  type(hand, '.');
  expect([show(hand.tune).split(' | ')[1], hand.state.dotted]).toEqual(['A4:2 z:2', false]);
});

test('moves mean the selection, and keep it; a refusal is said and changes nothing', () => {
  const { hand, store } = writing();
  type(hand, 'Shift+ArrowRight', 'Shift+ArrowRight', 'ArrowUp', 'Shift+ArrowUp');
  expect(show(hand.tune)).toBe('A#4:1 B#4:1 B4:1 C5:1 | D5:4');
  expect(hand.targets).toHaveLength(2);
  const before = store.getState().document;
  type(hand, 'Home', 't');
  expect([store.getState().document === before, hand.state.message]).toEqual([
    true,
    expect.stringMatching(/^A tie needs the same pitch right after it/),
  ]);
});

test('undo is by name and gives back the very document', () => {
  const { hand, store } = writing();
  const first = store.getState().document;
  type(hand, 'r');
  expect([hand.tune.bars.length, store.getState().past.at(-1)?.name]).toEqual([3, 'Repeat bar 1']);
  store.getState().undo();
  expect(store.getState().document).toBe(first);
});

test('cut and paste carry rhythm and pitch; with nothing selected or copied it is said', () => {
  const { hand } = writing();
  type(hand, 'Ctrl+v');
  expect(hand.state.message).toBe('Nothing has been copied yet.');
  type(hand, 'Ctrl+x');
  expect(hand.state.message).toBe('Nothing is selected.');
  type(hand, 'Shift+ArrowRight', 'Shift+ArrowRight', 'Ctrl+x', 'End', 'Ctrl+v');
  expect(show(hand.tune)).toBe('z:2 B4:1 C5:1 | D5:4 | G4:1 A4:1 z:2');
});

test('bars that are meant: the one with the caret, or those of the selection, the end not counted', () => {
  const { hand } = writing();
  expect(barsMeant(hand)).toEqual([0, 0]);
  hand.set({ anchor: { bar: 0, at: 0 }, caret: { bar: 1, at: 0 } });
  expect(barsMeant(hand)).toEqual([0, 0]);
  type(hand, 'Ctrl+a');
  expect(barsMeant(hand)).toEqual([0, 1]);
  type(hand, 'Shift+Backspace');
  expect(show(hand.tune)).toBe('z:4');
});

test('a triplet and a mark are edits like letters; chords stay where they are', () => {
  const { hand } = writing();
  setLength(hand, 'eighth');
  hand.moveTo({ bar: 0, at: 0 });
  tuplet(hand, { actual: 3, normal: 2 });
  type(hand, 'g', 'a', 'b');
  expect(hand.tune.bars[0]?.events.slice(0, 3).map(({ length }) => length)).toEqual([3_360, 3_360, 3_360]);
  hand.moveTo({ bar: 1, at: 0 });
  mark(hand, { kind: 'articulation', value: 'tenuto' });
  const [held] = hand.tune.bars[1]?.events ?? [];
  expect(held && isNote(held) ? held.articulations : []).toEqual(['tenuto']);
  expect(hand.tune.bars[1]?.chords.map(({ symbol }) => printChord(symbol))).toEqual(['D7']);
});

test('Escape drops the selection first, then ends writing; fields open by their letters', () => {
  const { hand } = writing();
  type(hand, 'Shift+ArrowRight', 'h');
  expect(hand.state.field).toBe('chord');
  type(hand, 'Escape');
  expect([hand.state.on, hand.state.anchor]).toEqual([true, undefined]);
  type(hand, 'Escape');
  expect([hand.state.on, hand.state.field]).toEqual([false, undefined]);
});

test('whatever keys are pressed, the bars add up, the caret stands in the tune, and undo leads back to the start', () => {
  const keys = [
    ...WRITING_COMMANDS.flatMap(({ commands }) => commands.flatMap(({ on }) => on)).filter((one) => one !== 'Escape'),
    ...'abcdefg',
    'Shift+a',
  ];
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...keys), { maxLength: 40 }), (pressed) => {
      const { hand, store } = writing();
      const first = store.getState().document;
      type(hand, ...pressed);
      expect(scoreProblems(hand.tune)).toEqual([]);
      expect(hand.caret.bar).toBeLessThanOrEqual(hand.bars.length);
      while (store.getState().past.length > 0) store.getState().undo();
      expect(store.getState().document).toEqual(first);
    }),
  );
});
