/** @jest-environment jsdom */
import { openStep } from '../../../tests/bench';
import { alertText, choose, press, screen, waitFor, within, words, write } from '../../../tests/screen';
import { tuneOf } from '../../../tests/given';
import type { Group } from '../../core/keys/group';
import type { Work } from '../../core/work/work';
import { TogetherEngraver, type TogetherLaidOut } from '../../engrave/togetherEngraver';
import type { EngravedRow } from '../../engrave/engraver';
import { useTogetherStep } from './useTogetherStep';
import { changesBetween, sectionName } from './words';

// A width, as a browser would have it.
jest.mock('../work/useWidth', () => ({ useWidth: () => 900 }));

const WORK: Work = {
  tune: tuneOf(
    'D2|"G"G3A B2AG|"C"E2c2 "D7"B2A2|"G"B3A G2D2|"D7"A6D2|"G"G3A B2AG|"C"E2c2 "Am"e2dc|"G"B2G2 "D7"A2F2|"G"G6|]',
    'M:4/4\nL:1/8\nQ:1/4=96\nK:G',
  ),
  recipes: {},
};
const GROUP: Group = {
  name: 'Thursday room',
  players: [
    { id: 'a', name: 'Oda', instrument: 'flute', level: 'advanced' },
    { id: 'b', name: 'Juno', instrument: 'clarinet-bb', level: 'intermediate' },
    { id: 'c', name: 'Pell', instrument: 'alto-sax', level: 'beginner' },
    { id: 'd', name: 'Sefa', instrument: 'cello', level: 'intermediate' },
  ],
};

/** The engraver's own arranging, with a row that stands for a picture. */
const blank = {
  row: ({ line, staves }: RowAsked): EngravedRow => ({
    from: line.from,
    to: line.to,
    svg: `<svg data-staves="${staves.length}"></svg>`,
    geometry: {
      width: 800,
      height: 100 * staves.length,
      staves: staves.map((_, k) => ({ top: 100 * k + 20, bottom: 100 * k + 60 })),
      bars: Array.from({ length: line.to - line.from }, (_, k) => ({ x: 100 * k, width: 100 })),
    } as unknown as EngravedRow['geometry'],
  }),
};
interface RowAsked {
  readonly line: { readonly from: number; readonly to: number };
  readonly staves: readonly unknown[];
}

const open = (groupId = 'g1', group = GROUP, first = WORK) => {
  const engraver = new TogetherEngraver(blank as never);
  return openStep(useTogetherStep, first, {
    lanes: false,
    groupId,
    studio: { groups: [{ id: 'g1', group }] },
    draws: {
      together: (work, wishes, sink) => engraver.draw(work, { ...wishes, view: 'written' }, sink),
      togetherVersions: async (work, inGroup, player, bar) => engraver.versions(work, inGroup, player, bar, 'written'),
    },
  });
};
const rowOf = (name: string) => screen.getByRole('row', { name: new RegExp(name) });
const cells = (name: string) =>
  within(rowOf(name))
    .getAllByRole('combobox')
    .slice(1)
    .map((one) => words(one));
const drawn = () => waitFor(() => expect(screen.getAllByRole('row').length).toBe(5));

test('who has what, as found; a cell by hand stays, can go back, and the history says it', async () => {
  const { user, work, said } = open();
  await drawn();
  expect(cells('Oda')).toEqual(['the tune', 'second voice']);
  expect(cells('Sefa')).toEqual(['bass', 'bass']);
  await choose(user, 'Pell, bars 5 to 8', 'sits out');
  await waitFor(() => expect(cells('Pell')[1]).toBe('sits out'));
  expect(said()).toEqual(['Pell, bars 5 to 8: sits out']);
  expect(Object.values(work().tune.together?.cells ?? {})).toEqual([{ c: 'out' }]);
  await choose(user, 'Pell, bars 5 to 8', 'as it was found');
  expect(work().tune.together).toBeUndefined();
});

test('somebody ill: the others keep what they have, and what changed is said', async () => {
  const { user, work } = open();
  await drawn();
  await user.click(screen.getByRole('checkbox', { name: 'Juno is here today' }));
  await waitFor(() => expect(cells('Juno')).toEqual(['sits out', 'sits out']));
  expect(work().tune.together).toEqual({ absent: ['b'] });
  expect(screen.getAllByRole('status').map(words).join(' ')).toContain('Oda has the tune in bars 5 to 8');
  await user.click(screen.getByRole('checkbox', { name: 'Juno is here today' }));
  expect(work().tune.together).toBeUndefined();
});

test('key, tempo, beginning and ending for all; a tempo that is none is refused in words', async () => {
  const { user, work, said } = open();
  await drawn();
  await choose(user, 'Key for all', 'F major');
  await write(user, 'Tempo for all, beats a minute', '9000');
  expect(alertText()).toContain('"9000" is not a tempo');
  await write(user, 'Tempo for all, beats a minute', '72');
  await choose(user, 'Beginning', 'with two bars of introduction');
  await choose(user, 'How it is played', 'twice, first by leader and bass alone');
  await choose(user, 'Pell: level in this tune', 'intermediate');
  expect(work().tune.together).toEqual({
    key: { tonic: { step: 'F', alter: 0 }, mode: 'major' },
    perMinute: 72,
    intro: 'two',
    thinFirst: true,
    levels: { c: 'intermediate' },
  });
  expect(said()).toHaveLength(5);
});

test('a bar says what it is, has versions, and keeps the one that is chosen; a part alone has files of its own', async () => {
  const { user, work, asked } = open();
  await drawn();
  await user.click(await screen.findByRole('button', { name: /^Juno, bar 1: / }));
  const drawer = screen.getByRole('complementary', { name: 'Drawer' });
  expect(words(drawer)).toContain('sixth below the tune: a second voice goes with the tune');
  await user.click(await within(drawer).findByRole('button', { name: /^a rest/ }));
  expect(Object.values(work().tune.together?.bars?.['b'] ?? {})).toEqual([{ kind: 'rest' }]);
  await press(user, 'This part alone');
  expect(screen.queryByRole('button', { name: /^Oda, bar 1: / })).toBeNull();
  await press(user, 'Part');
  await press(user, 'On the stand');
  expect(asked).toEqual(['together/b.pdf?paper=a4', 'stand?group=g1&player=b&together']);
});

test('a tune without chords: those that are proposed are named, and taken with one press', async () => {
  const bare = tuneOf('G4 B4|c4 A4|B4 G4|A4 F4|G8|]', 'M:4/4\nL:1/8\nK:G');
  const { user, work, said } = open('g1', GROUP, { tune: bare, recipes: {} });
  await drawn();
  expect(words(screen.getByRole('note'))).toContain('These are proposed, over the score below: G');
  await press(user, 'Take these chords');
  await waitFor(() => expect(screen.queryByRole('note')).toBeNull());
  expect([said(), work().tune.bars[0]?.chords.length]).toEqual([['Take the proposed chords'], 1]);
});

test('no group, and an empty one, say what to do', () => {
  open('lanes');
  expect(words(screen.getByRole('heading', { level: 2 }))).toBe('Who plays together?');
  document.body.innerHTML = '';
  open('g1', { name: 'Empty', players: [] });
  expect(screen.getByRole('link', { name: 'Add players' })).toBeTruthy();
});

test('sections by their bars, and changes in sentences', () => {
  expect(
    [
      [0, 8],
      [0, 0],
      [9, 16],
      [3, 3],
    ].map(([from = 0, to = 0]) => sectionName({ from, to })),
  ).toEqual(['pickup to bar 8', 'the pickup', 'bars 9 to 16', 'bar 3']);
  const made = (cells: readonly string[]) =>
    ({
      sections: [
        { id: 'x', from: 1, to: 4, fromIndex: 0, toIndex: 4 },
        { id: 'y', from: 5, to: 8, fromIndex: 4, toIndex: 8 },
      ],
      players: [{ id: 'a', name: 'Oda', cells }],
    }) as unknown as TogetherLaidOut;
  expect(changesBetween(made(['pad', 'pad']), made(['bass', 'bass']))).toEqual([
    'Oda has bass, instead of long notes.',
  ]);
  expect(changesBetween(made(['pad', 'pad']), made(['pad', 'out']))).toEqual(['Oda sits out in bars 5 to 8.']);
});
