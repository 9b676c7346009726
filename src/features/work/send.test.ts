import { z } from 'zod';
import { send } from './send';

const answering = (answer: () => Response) => {
  const asked: [unknown, RequestInit | undefined][] = [];
  globalThis.fetch = (path: unknown, init?: RequestInit) => {
    asked.push([path, init]);
    return Promise.resolve().then(answer);
  };
  return asked;
};
const idSchema = z.object({ id: z.string() });
const ask = () => send('/api/groups', idSchema, { method: 'POST', json: { name: 'Room' } });

test('an answer of the expected shape is the value; JSON goes out as JSON, known by a key of its own', async () => {
  const asked = answering(() => Response.json({ id: 'a', more: 1 }, { status: 201 }));
  expect(await ask()).toEqual({ ok: true, value: { id: 'a' } });
  expect(asked).toEqual([
    [
      '/api/groups',
      {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': expect.stringMatching(/^[\w-]{36}$/) },
        body: '{"name":"Room"}',
      },
    ],
  ]);
});

test.each([
  [
    'a refusal',
    () => Response.json({ messages: ['No name.', 'No players.'] }, { status: 422 }),
    'refused',
    'No name. No players.',
  ],
  ['a stale save', () => Response.json({ messages: ['Too late.'], version: 4 }, { status: 409 }), 'stale', 'Too late.'],
  ['a database that is away', () => Response.json({ messages: ['Later.'] }, { status: 503 }), 'away', 'Later.'],
  ['a proxy’s page', () => new Response('<h1>Bad gateway</h1>', { status: 502 }), 'away', 'The server answered 502.'],
  [
    'another answer',
    () => Response.json({ ok: true }),
    'refused',
    "The server's answer was not understood: please reload the page.",
  ],
  [
    'no network',
    () => {
      throw new TypeError('failed to fetch');
    },
    'away',
    'The program does not answer.',
  ],
] as const)('%s is a problem with its kind and a sentence', async (_, answer, kind, message) => {
  answering(answer);
  const sent = await ask();
  expect(sent).toMatchObject({ ok: false, problem: { kind, message } });
});

test('what came with a stale save is handed on; a defect of ours is not taken for a network that is away', async () => {
  answering(() => Response.json({ messages: ['Too late.'], version: 4 }, { status: 409 }));
  expect(await ask()).toMatchObject({ problem: { answer: { version: 4 } } });
  answering(() => {
    throw new RangeError('a defect');
  });
  await expect(ask()).rejects.toThrow('a defect');
});
