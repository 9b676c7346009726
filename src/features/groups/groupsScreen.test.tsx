/** @jest-environment jsdom */
import { alertText, button, field, press, screen, shown, tick, within, words, write } from '../../../tests/screen';
import { refusal, serverStandIn, type Asked } from '../../../tests/serverStandIn';
import { pitch } from '../../../tests/given';
import { GROUP_LIMITS, type Group, type GroupPlayer } from '../../core/keys/group';
import { ToastArea } from '../../ui/Toast';
import { GroupsScreen } from './GroupsScreen';

jest.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }), usePathname: () => '/groups' }));

const ADA: GroupPlayer = { id: 'p1', name: 'Ada', instrument: 'flute', level: 'beginner', high: pitch('D5') };
const BO: GroupPlayer = { id: 'p2', name: 'Bo', instrument: 'cello', level: 'advanced' };
const ROOM: Group = { name: 'Thursday', players: [ADA, BO] };

/** The screen over groups; `saved` is what went to the server last. */
function opened(groups: readonly Group[] = [ROOM], ways: Parameters<typeof serverStandIn>[0] = {}) {
  localStorage.clear();
  let version = 1;
  const asked = serverStandIn({
    ...ways,
    'PUT /api/groups/': () => ({ json: { version: (version += 1) } }),
  });
  const { user } = shown(
    <ToastArea>
      <GroupsScreen groups={groups.map((group, k) => ({ id: `g${k}`, version: 1, group }))} custom={[]} />
    </ToastArea>,
  );
  const saved = async (): Promise<Group> => {
    // What was changed goes out by itself half a second later.
    await screen.findByText('saved', {}, { timeout: 20_000 });
    const last = asked.findLast(({ method }: Asked) => method === 'PUT');
    return (last?.json as { group: Group }).group;
  };
  return { user, asked, saved };
}

const rows = () => within(screen.getByRole('table')).getAllByRole('row').slice(1);

describe('a row of the table', () => {
  test('each cell changes its own field, and the whole group is saved', async () => {
    const { user, saved } = opened();
    await write(user, 'First name, player 1', ' Ida ');
    await user.selectOptions(screen.getByRole('combobox', { name: 'Instrument of Ida' }), 'clarinet-bb');
    await user.selectOptions(screen.getByRole('combobox', { name: 'Level of Ida' }), 'intermediate');
    await user.selectOptions(screen.getByRole('combobox', { name: 'Finger marks of Ida' }), 'change');
    await write(user, 'Known notes of Bo', 'C3 D3');
    const { players } = await saved();
    expect(players).toEqual([
      { ...ADA, name: 'Ida', instrument: 'clarinet-bb', level: 'intermediate', marks: 'change' },
      { ...BO, known: [pitch('C3'), pitch('D3')] },
    ]);
    expect(button('Undo: change Bo')).toBeTruthy();
  });

  test('what is put back to the level or emptied is gone from the player', async () => {
    const { user, saved } = opened([{ ...ROOM, players: [{ ...ADA, marks: 'none', known: [pitch('G4')] }] }]);
    await user.selectOptions(screen.getByRole('combobox', { name: 'Finger marks of Ada' }), 'level');
    await write(user, 'Highest note of Ada', '');
    await write(user, 'Known notes of Ada', ' ');
    const { id, name, instrument, level } = ADA;
    expect((await saved()).players).toEqual([{ id, name, instrument, level }]);
  });

  test('a note that is none, and a lowest note above the highest, are said at the row and change nothing', async () => {
    const { user, asked } = opened();
    await write(user, 'Lowest note of Ada', 'Q1');
    expect(alertText()).toBe('"Q1" is no note: write letter, sign and octave, like G4 or Bb4');
    await write(user, 'Lowest note of Ada', 'A5');
    expect([alertText() !== undefined, field('Lowest note of Ada').value]).toEqual([true, '']);
    await write(user, 'Known notes of Ada', 'G4 nonsense');
    expect([alertText()?.startsWith('Known notes: '), asked.length]).toEqual([true, 0]);
    await write(user, 'Lowest note of Ada', 'D4');
    expect(alertText()).toBeUndefined();
  });

  test('aids: as the level until some are ticked; all unticked is none, which is not the same', async () => {
    const { user, saved } = opened();
    await tick(user, 'Aids of Ada: as the level', 'names', 'counts');
    expect(button('Aids of Ada: names, counts')).toBeTruthy();
    await tick(user, 'Aids of Ada: names, counts', 'names', 'counts');
    expect((await saved()).players[0]?.aids).toEqual([]);
    await user.click(button('Aids of Ada: none'));
    await user.click(await screen.findByRole('menuitemcheckbox', { name: 'as the level' }));
    expect((await saved()).players[0]).not.toHaveProperty('aids');
  });
});

describe('rows', () => {
  test('a new player plays what the last one plays; a copy is a player of its own; each step can be undone', async () => {
    const { user, saved } = opened();
    await press(user, 'Add a player');
    await press(user, 'Duplicate Ada');
    const { players } = await saved();
    expect(players.map(({ name, instrument }) => [name, instrument])).toEqual([
      ['Ada', 'flute'],
      ['Ada', 'flute'],
      ['Bo', 'cello'],
      ['', 'cello'],
    ]);
    expect(new Set(players.map(({ id }) => id)).size).toBe(4);
    await press(user, 'Remove Bo');
    expect(rows().length).toBe(3);
    await press(user, 'Undo: remove a player');
    await press(user, 'Undo: add a player');
    await press(user, 'Undo: add a player');
    expect([
      rows().length,
      screen.getByRole<HTMLButtonElement>('button', { name: 'Nothing to undo' }).disabled,
    ]).toEqual([2, true]);
    await press(user, 'Redo: add a player');
    expect(rows().length).toBe(3);
  });

  test('Ctrl Z works outside of fields and leaves what is being typed alone', async () => {
    const { user } = opened();
    await press(user, 'Add a player');
    await user.type(field('First name, player 3'), 'Cy');
    await user.keyboard('{Control>}z{/Control}');
    expect([rows().length, field('First name, player 3').value]).toEqual([3, 'Cy']);
    await user.tab();
    document.body.focus();
    (document.activeElement as HTMLElement | null)?.blur();
    await user.keyboard('{Control>}zz{/Control}');
    expect(rows().length).toBe(2);
  });

  test('a full group takes no more', () => {
    const players = Array.from({ length: GROUP_LIMITS.players }, (_, k) => ({ ...BO, id: `p${k}`, name: `N${k}` }));
    opened([{ name: 'Full', players }]);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add a player' }).disabled).toBe(true);
  });
});

describe('a table from outside', () => {
  const file = (text: string) => new File([text], 'room.csv', { type: 'text/csv' });
  const take = async (user: ReturnType<typeof opened>['user'], text: string) =>
    user.upload(screen.getByLabelText<HTMLInputElement>('CSV file'), file(text));

  test('players are added below those who are there', async () => {
    const { user, saved } = opened();
    await take(user, 'name,instrument,level\nCy,trombone,intermediate\nDi,Violin,beginner\n');
    expect(await screen.findByText('2 players were added.')).toBeTruthy();
    expect((await saved()).players.map(({ name, instrument }) => [name, instrument])).toEqual([
      ['Ada', 'flute'],
      ['Bo', 'cello'],
      ['Cy', 'trombone'],
      ['Di', 'violin'],
    ]);
  });

  test('each line that cannot be read is named, and nobody is added', async () => {
    const { user, asked } = opened();
    await take(user, 'name,instrument,level\nCy,kazoo,intermediate\nDi,violin,expert\n');
    const sheet = await screen.findByRole('dialog', { name: 'The table could not be read' });
    const said = within(sheet)
      .getAllByRole('listitem')
      .map((item) => words(item));
    expect([said.length, said[0]?.includes('kazoo'), said[1]?.includes('expert'), asked.length]).toEqual([
      2,
      true,
      true,
      0,
    ]);
    await user.click(within(sheet).getByRole('button', { name: 'Close' }));
    expect(rows().length).toBe(2);
  });

  test('more players than a group holds are refused whole', async () => {
    const { user } = opened();
    const many = Array.from({ length: GROUP_LIMITS.players }, (_, k) => `N${k},flute,beginner`).join('\n');
    await take(user, `name,instrument,level\n${many}\n`);
    const most = `With these the group would have ${GROUP_LIMITS.players + 2} players; ${GROUP_LIMITS.players} is the most.`;
    expect([await screen.findByText(most), rows().length]).toEqual([expect.anything(), 2]);
  });
});

describe('groups', () => {
  test('without a group the first one is made; a refusal is told and nothing is shown', async () => {
    let isFull = true;
    const { user } = opened([], {
      'POST /api/groups': () =>
        isFull ? refusal(422, 'The studio holds 200 groups.') : { json: { id: 'new', version: 1 } },
    });
    await press(user, 'Make the first one');
    expect(await screen.findByText('The studio holds 200 groups. The group was not made.')).toBeTruthy();
    isFull = false;
    await press(user, 'Make the first one');
    expect((await screen.findByRole<HTMLInputElement>('textbox', { name: 'Name of the group' })).value).toBe(
      'New group',
    );
  });

  test('a duplicate has the same players under other ids and a name that fits', async () => {
    const long: Group = { ...ROOM, name: 'x'.repeat(GROUP_LIMITS.name) };
    const { user, asked } = opened([long], { 'POST /api/groups': () => ({ json: { id: 'copy', version: 1 } }) });
    await press(user, 'Duplicate');
    const { name, players } = asked[0]?.json as Group;
    expect([name.length <= GROUP_LIMITS.name, players.map((player) => player.name)]).toEqual([true, ['Ada', 'Bo']]);
    expect(players.some(({ id }) => id === 'p1' || id === 'p2')).toBe(false);
  });

  test('a group is removed, told, and restored to its place', async () => {
    const { user, asked } = opened([ROOM, { name: 'Saturday', players: [] }], {
      'DELETE /api/groups/': () => ({ json: {} }),
      'POST /api/groups/': () => ({ json: {} }),
    });
    await press(user, 'Remove');
    expect(await screen.findByText('“Thursday” was removed.')).toBeTruthy();
    const names = () =>
      within(screen.getByRole('navigation', { name: 'Groups' }))
        .getAllByRole('button')
        .map((one) => words(one));
    expect([names(), field('Name of the group').value]).toEqual([['Saturday0 players'], 'Saturday']);
    await press(user, 'Restore');
    expect([names(), asked.at(-1)?.path]).toEqual([['Thursday2 players', 'Saturday0 players'], '/api/groups/g0']);
  });

  test('a name of spaces is no name', async () => {
    const { user, asked } = opened();
    await write(user, 'Name of the group', '   ');
    expect([field('Name of the group').value, asked.length]).toEqual(['Thursday', 0]);
  });

  test('two versions: what each has is told, and the other one can be gone on with', async () => {
    const theirs: Group = { name: 'Thursday evening', players: [ADA] };
    const { user } = opened([ROOM], {
      'PUT /api/groups/g0': () => ({ status: 409, json: { messages: ['Too late.'], version: 9, group: theirs } }),
    });
    await press(user, 'Add a player');
    const sheet = await screen.findByRole('dialog', { name: /Somebody else saved this group/ }, { timeout: 20_000 });
    expect(
      within(sheet)
        .getAllByRole('listitem')
        .map((item) => words(item)),
    ).toEqual(['Mine: “Thursday”, 3 players', 'Saved elsewhere: “Thursday evening”, 1 player']);
    await user.click(within(sheet).getByRole('button', { name: 'Use the other one' }));
    expect([rows().length, field('Name of the group').value]).toEqual([1, 'Thursday evening']);
  });
});
