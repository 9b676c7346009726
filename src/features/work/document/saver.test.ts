import { readAbc } from '../../../core/formats/abc/readAbc';
import { withDetails, type Work } from '../../../core/work/work';
import { dequal } from 'dequal';
import { tuneRemote } from '../tuneRemote';
import { createWorkStore } from '../workStore';
import { backupState, readBackup } from './backup';
import { Saver } from './saver';

const read = readAbc('X:1\nT:First\nM:4/4\nL:1/4\nK:C\nCDEF|\n');
if (!read.ok) throw new Error('the tune of this test is broken');
const work: Work = { tune: read.value.tune, recipes: {} };
const backupOf = (id: string) => readBackup(id, tuneRemote(id));
const titled = (title: string) => withDetails(work, { title });

interface Sent {
  readonly version: number;
  readonly title: string;
}

/** A server that answers as it is told, and remembers what it was sent. */
function serverThat(...answers: readonly (() => Response)[]) {
  const sent: Sent[] = [];
  let next = 0;
  globalThis.fetch = (_: unknown, init?: RequestInit) => {
    const body = JSON.parse(String(init?.body)) as { version: number; work: Work };
    sent.push({ version: body.version, title: body.work.tune.title });
    const answer = answers[Math.min(next, answers.length - 1)];
    next += 1;
    return Promise.resolve().then(() => answer?.() ?? new Response(null, { status: 500 }));
  };
  return sent;
}
const saved = (version: number) => () => Response.json({ version });
const gone = () => {
  throw new TypeError('fetch failed');
};
const away = () => Response.json({ messages: ['The database does not answer.'] }, { status: 503 });

let stored: Map<string, string>;
beforeEach(() => {
  jest.useFakeTimers();
  stored = new Map();
  Object.defineProperty(globalThis, 'localStorage', {
    configurable: true,
    value: {
      getItem: (name: string) => stored.get(name) ?? null,
      setItem: (name: string, text: string) => stored.set(name, text),
      removeItem: (name: string) => stored.delete(name),
    },
  });
});
afterEach(() => jest.useRealTimers());

const wait = (milliseconds: number) => jest.advanceTimersByTimeAsync(milliseconds);

test('changes close together go out as one save, on top of the version before', async () => {
  const sent = serverThat(saved(2), saved(3));
  const store = createWorkStore(work, 'written');
  const saver = new Saver(tuneRemote('a'), { version: 1, document: work }, store);
  store.getState().change('Title', titled('One'));
  store.getState().change('Title', titled('Two'));
  await wait(600);
  expect([sent, store.getState().save]).toEqual([[{ version: 1, title: 'Two' }], { kind: 'saved' }]);
  store.getState().change('Title', titled('Three'));
  await wait(600);
  expect(sent.at(-1)).toEqual({ version: 2, title: 'Three' });
  saver.stop();
});

test('what was chosen before saving began is saved too', async () => {
  const sent = serverThat(saved(2));
  const store = createWorkStore(work, 'written');
  store.getState().change('Title', titled('Early'));
  const saver = new Saver(tuneRemote('a'), { version: 1, document: work }, store);
  await wait(600);
  expect([sent, store.getState().save]).toEqual([[{ version: 1, title: 'Early' }], { kind: 'saved' }]);
  saver.stop();
});

test('while the server is away it says so, keeps a copy in the browser, and saves when it is back', async () => {
  const sent = serverThat(gone, away, saved(2));
  const store = createWorkStore(work, 'written');
  const saver = new Saver(tuneRemote('a'), { version: 1, document: work }, store);
  store.getState().change('Title', titled('Kept'));
  await wait(600);
  expect(store.getState().save).toEqual({ kind: 'waiting', message: 'The program does not answer.' });
  expect(backupOf('a')?.document.tune.title).toBe('Kept');
  await wait(1_100);
  expect(store.getState().save).toEqual({ kind: 'waiting', message: 'The database does not answer.' });
  await wait(2_000);
  expect([store.getState().save, backupOf('a'), sent.length]).toEqual([{ kind: 'saved' }, undefined, 3]);
  saver.stop();
});

test('a stale save stops saving until somebody decides; each decision does what it says', async () => {
  const theirs = titled('Theirs');
  const sent = serverThat(() => Response.json({ version: 5, work: theirs }, { status: 409 }), saved(6));
  const store = createWorkStore(work, 'written');
  const saver = new Saver(tuneRemote('a'), { version: 1, document: work }, store);
  store.getState().change('Title', titled('Mine'));
  await wait(600);
  expect(store.getState().save).toEqual({ kind: 'conflict', version: 5, theirs });
  store.getState().change('Title', titled('Mine still'));
  await wait(5_000);
  expect(sent).toHaveLength(1);
  saver.overwrite(5);
  await wait(100);
  expect([sent.at(-1), store.getState().save]).toEqual([{ version: 5, title: 'Mine still' }, { kind: 'saved' }]);
  saver.adopt({ version: 7, document: theirs });
  expect([store.getState().document, store.getState().past, backupOf('a')]).toEqual([theirs, [], undefined]);
  saver.stop();
});

test('what the server will not take is said, and the work stays', async () => {
  serverThat(() => Response.json({ messages: ['bar 1 holds 5 quarters'] }, { status: 422 }));
  const store = createWorkStore(work, 'written');
  const saver = new Saver(tuneRemote('a'), { version: 1, document: work }, store);
  store.getState().change('Title', titled('Odd'));
  expect(await saver.flush()).toBe(false);
  expect([store.getState().save, store.getState().document.tune.title, backupOf('a')?.version]).toEqual([
    { kind: 'refused', message: 'bar 1 holds 5 quarters' },
    'Odd',
    1,
  ]);
  saver.stop();
});

test('undo and redo walk the history by name; a change that changes nothing leaves no step', () => {
  const store = createWorkStore(work, 'written');
  const state = () => store.getState();
  state().change('Title', titled('One'));
  state().change('Title again', titled('One'));
  state().change('Composer', withDetails(titled('One'), { composer: 'Somebody' }));
  expect(state().past.map(({ name }) => name)).toEqual(['Title', 'Composer']);
  state().undo();
  state().undo();
  state().undo();
  expect([state().document, state().future.map(({ name }) => name)]).toEqual([work, ['Title', 'Composer']]);
  state().redo();
  expect([state().document.tune.title, state().future.length]).toEqual(['One', 1]);
  state().change('Source note', withDetails(state().document, { source: 'a barn' }));
  expect(state().future).toEqual([]);
});

test("a backup written while our own save was on its way is gone on with; only somebody else's save is a conflict", () => {
  const backup = { version: 3, document: titled('second'), sent: titled('first') };
  const state = (one: typeof backup | Omit<typeof backup, 'sent'>, version: number, document: Work) =>
    backupState(one, { version, document }, dequal);
  expect([
    state(backup, 3, titled('before')),
    state(backup, 4, { recipes: {}, tune: titled('first').tune }),
    state(backup, 4, titled('theirs')),
    state(backup, 4, titled('second')),
    state({ version: 3, document: titled('second') }, 4, titled('first')),
  ]).toEqual(['newer', 'newer', 'conflict', 'same', 'conflict']);
});

test('what lay in the browser when the page was closed is gone on with, also as an older version wrote it', async () => {
  const sent = serverThat(saved(2));
  const flat = { beginner: { instrument: 'flute', melody: 'thinned', manner: 'crisp' } };
  stored.set('reed-hook:unsaved:a', JSON.stringify({ version: 1, work: { tune: titled('Left').tune, recipes: flat } }));
  const store = createWorkStore(work, 'written');
  const saver = new Saver(tuneRemote('a'), { version: 1, document: work }, store);
  saver.recover('Changes from last time');
  expect([store.getState().past.at(-1)?.name, store.getState().document.recipes]).toEqual([
    'Changes from last time',
    { beginner: { instrument: 'flute', melody: 'simplified', articulation: { style: 'crisp' } } },
  ]);
  await wait(600);
  expect([sent, store.getState().save]).toEqual([[{ version: 1, title: 'Left' }], { kind: 'saved' }]);
  saver.stop();
});

test('where somebody saved meanwhile, what lay in the browser is there and a person decides', async () => {
  stored.set('reed-hook:unsaved:a', JSON.stringify({ version: 1, document: titled('Left') }));
  const store = createWorkStore(titled('Theirs'), 'written');
  const saver = new Saver(tuneRemote('a'), { version: 4, document: titled('Theirs') }, store);
  const sent = serverThat(saved(5));
  saver.recover('Changes from last time');
  await wait(2_000);
  expect([store.getState().document.tune.title, store.getState().save, sent]).toEqual([
    'Left',
    { kind: 'conflict', version: 4, theirs: titled('Theirs') },
    [],
  ]);
  saver.stop();
});

test('what was undone while the server was away is not sent, and its backup goes', async () => {
  const sent = serverThat(gone);
  const store = createWorkStore(work, 'written');
  const saver = new Saver(tuneRemote('a'), { version: 1, document: work }, store);
  store.getState().change('Title', titled('Wrong'));
  await wait(600);
  store.getState().undo();
  await wait(2_000);
  expect([store.getState().save, backupOf('a'), sent.length]).toEqual([{ kind: 'saved' }, undefined, 1]);
  saver.stop();
});

test.each(['{', 'null', '{"version":"1"}', '{"version":1,"document":{"tune":{},"recipes":{}}}'])(
  'a backup that is no backup (%s) is none',
  (text) => {
    stored.set('reed-hook:unsaved:a', text);
    expect(backupOf('a')).toBeUndefined();
  },
);
