import { tuneOf } from '../../../tests/given';
import { storedWork } from '../../core/work/stored/upgradeRecipe';
import type { Work } from '../../core/work/work';
import { changeWork, tuneRemote } from './tuneRemote';

const WORK: Work = { tune: tuneOf('C4 E4 | G8 |]'), recipes: { beginner: { instrument: 'flute' } } };
const named = (title: string): Work => ({ ...WORK, tune: { ...WORK.tune, title } });
const stored = (version: number, work = WORK) => Response.json({ version, work: storedWork(work) });

interface Sent {
  readonly method: string;
  readonly path: string;
  readonly body: { readonly version: number; readonly what?: string; readonly saveId?: string; readonly work: Work };
}
let sent: Sent[];
let answers: (() => Response)[];

beforeEach(() => {
  sent = [];
  answers = [];
  globalThis.fetch = (path: unknown, init?: RequestInit) => {
    const body = (init?.body === undefined ? {} : JSON.parse(String(init.body))) as Sent['body'];
    sent.push({ method: init?.method ?? 'GET', path: String(path), body });
    const answer = answers.shift();
    return answer ? Promise.resolve().then(answer) : Promise.reject(new Error('asked more often than expected'));
  };
});

const rename = (work: Work): Work => ({ ...work, tune: { ...work.tune, title: `${work.tune.title}!` } });

test('a tune that is not open is read, changed and saved on top of the version that was read', async () => {
  answers = [() => stored(4), () => Response.json({ version: 5 })];
  expect(await changeWork('kelp', 'rename', rename)).toEqual({ ok: true, value: undefined });
  expect(sent.map(({ method, path }) => `${method} ${path}`)).toEqual(['GET /api/tunes/kelp', 'PUT /api/tunes/kelp']);
  expect(sent[1]?.body).toMatchObject({ version: 4, what: 'rename', work: { tune: { title: 'T!' } } });
});

test('where somebody saved in between, the change is made anew on what they saved, under an id of its own', async () => {
  const stale = () => Response.json({ messages: ['Too late.'] }, { status: 409 });
  answers = [() => stored(4), stale, () => stored(5, named('Theirs')), () => Response.json({ version: 6 })];
  expect((await changeWork('kelp', 'rename', rename)).ok).toBe(true);
  expect(sent[3]?.body).toMatchObject({ version: 5, work: { tune: { title: 'Theirs!' } } });
  expect(sent[1]?.body.saveId).not.toBe(sent[3]?.body.saveId);
});

test('it gives up after three tries and says what the server said', async () => {
  const round = [() => stored(4), () => Response.json({ messages: ['Too late.'] }, { status: 409 })];
  answers = [...round, ...round, ...round];
  expect(await changeWork('kelp', 'rename', rename)).toMatchObject({
    ok: false,
    problem: { kind: 'stale', message: 'Too late.' },
  });
  expect(sent.filter(({ method }) => method === 'PUT')).toHaveLength(3);
});

test.each([
  ['that is gone', () => Response.json({ messages: ['Not found.'] }, { status: 404 }), 'refused', 1],
  ['whose server is away', () => Response.json({ messages: ['Come again.'] }, { status: 503 }), 'away', 1],
  ['that nobody understands', () => Response.json({ version: 'four' }), 'refused', 1],
] as const)('a tune %s is not saved', async (_, answer, kind, requests) => {
  answers = [answer];
  expect(await changeWork('kelp', 'rename', rename)).toMatchObject({ ok: false, problem: { kind } });
  expect(sent).toHaveLength(requests);
});

test('what is kept in the browser comes back as the work it was; what is damaged comes back as nothing', () => {
  const { pack, unpack } = tuneRemote('kelp');
  expect(unpack(JSON.parse(JSON.stringify(pack(WORK))))).toEqual(WORK);
  expect([unpack({ tune: {} }), unpack('no work'), unpack(undefined)]).toEqual([undefined, undefined, undefined]);
});

test('the other side of a conflict is read from the answer, if it is whole', () => {
  const { current } = tuneRemote('kelp');
  expect(current({ version: 7, work: storedWork(WORK) })).toEqual({ version: 7, document: WORK });
  expect(current({ version: 7 })).toBeUndefined();
});
