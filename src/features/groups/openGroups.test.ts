import type { Group } from '../../core/keys/group';
import { OpenGroups, type OpenGroup } from './openGroups';

const ROOM: Group = { name: 'Thursday', players: [{ id: '1', name: 'Ada', instrument: 'flute', level: 'beginner' }] };
const named = (name: string): Group => ({ ...ROOM, name });

let asked: { readonly method: string; readonly path: string; readonly body: unknown }[];
let answers: (() => Response)[];
let stored: Map<string, string>;

beforeEach(() => {
  jest.useFakeTimers();
  asked = [];
  answers = [];
  stored = new Map();
  Object.defineProperty(globalThis, 'localStorage', {
    configurable: true,
    value: {
      getItem: (name: string) => stored.get(name) ?? null,
      setItem: (name: string, text: string) => stored.set(name, text),
      removeItem: (name: string) => stored.delete(name),
    },
  });
  globalThis.fetch = (path: unknown, init?: RequestInit) => {
    const body: unknown = init?.body === undefined ? undefined : JSON.parse(String(init.body));
    asked.push({ method: init?.method ?? 'GET', path: String(path), body });
    const answer = answers.shift();
    return Promise.resolve().then(() => answer?.() ?? Response.json({ version: 2 }));
  };
});
afterEach(() => jest.useRealTimers());

const wait = (milliseconds: number) => jest.advanceTimersByTimeAsync(milliseconds);
const opened = (groups: OpenGroups): OpenGroup => groups.list.getState()[0] as OpenGroup;
const change = (group: OpenGroup, after: Group) => group.store.getState().change('name', after);
const versions = () => asked.map(({ body }) => (body as { version?: number } | undefined)?.version);

test('after a conflict that is decided, later saves go out on top of the version that is there', async () => {
  const groups = new OpenGroups([{ id: 'g', version: 1, group: ROOM }]);
  const group = opened(groups);
  answers.push(() => Response.json({ messages: ['Too late.'], version: 7, group: named('Theirs') }, { status: 409 }));
  answers.push(() => Response.json({ version: 8 }));
  change(group, named('Mine'));
  await wait(600);
  expect(group.store.getState().save).toEqual({ kind: 'conflict', version: 7, theirs: named('Theirs') });
  group.saver.overwrite(7);
  await wait(100);
  change(group, named('Mine, later'));
  await wait(600);
  expect([versions(), group.store.getState().save.kind]).toEqual([[1, 7, 8], 'saved']);
});

test('a request that failed leaves nothing stuck: the next change is sent, and in time what failed is too', async () => {
  const groups = new OpenGroups([{ id: 'g', version: 1, group: ROOM }]);
  const group = opened(groups);
  answers.push(() => {
    throw new TypeError('failed to fetch');
  });
  change(group, named('One'));
  await wait(600);
  expect(group.store.getState().save.kind).toBe('waiting');
  await wait(1_200);
  expect([asked.length, group.store.getState().save.kind]).toEqual([2, 'saved']);
});

test('a group that was removed has nothing to undo, and comes back with its history and its version', async () => {
  const groups = new OpenGroups([
    { id: 'g', version: 1, group: ROOM },
    { id: 'h', version: 1, group: named('Other') },
  ]);
  const group = opened(groups);
  change(group, named('Changed'));
  const removed = await groups.remove('g');
  expect(asked.map(({ method, path }) => `${method} ${path}`)).toEqual(['PUT /api/groups/g', 'DELETE /api/groups/g']);
  expect(groups.list.getState().map(({ id }) => id)).toEqual(['h']);
  await wait(5_000);
  expect(group.store.getState().save.kind).toBe('saved');
  if (!removed.ok) throw new Error('not removed');
  expect(await removed.value()).toEqual({ ok: true, value: undefined });
  expect(groups.list.getState().map(({ id }) => id)).toEqual(['g', 'h']);
  group.store.getState().undo();
  await wait(600);
  expect(asked.at(-1)).toEqual({ method: 'PUT', path: '/api/groups/g', body: { version: 2, group: ROOM } });
});

test('what the server refuses is said and nothing changes', async () => {
  const groups = new OpenGroups([{ id: 'g', version: 1, group: ROOM }]);
  answers.push(() =>
    Response.json({ messages: ['This group was not found: it may have been removed.'] }, { status: 404 }),
  );
  expect(await groups.remove('g')).toMatchObject({
    ok: false,
    problem: { message: 'This group was not found: it may have been removed.' },
  });
  answers.push(() => Response.json({ messages: ['No.'] }, { status: 422 }));
  expect(await groups.add(ROOM)).toMatchObject({ ok: false, problem: { message: 'No.' } });
  expect(groups.list.getState()).toHaveLength(1);
});

test('a new group stands at the end and saves under the id that the server gave', async () => {
  const groups = new OpenGroups([{ id: 'g', version: 1, group: ROOM }]);
  answers.push(() => Response.json({ id: 'new', version: 1 }, { status: 201 }));
  expect(await groups.add(named('New'))).toEqual({ ok: true, value: 'new' });
  change(groups.list.getState()[1] as OpenGroup, named('Newer'));
  await wait(600);
  expect(asked.at(-1)).toMatchObject({ path: '/api/groups/new', body: { version: 1 } });
});
