import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { TOTP, Secret } from 'otpauth';
import { newPupil } from '../../src/core/planning/pupil';
import { accountsDatabase } from '../../src/db/accountsDatabase';
import { connect } from '../../src/db/connect';
import { addGroup } from '../../src/db/groupRepository';
import { migrate } from '../../src/db/migrate';
import { addPupil } from '../../src/db/pupilRepository';
import { studioDatabase } from '../../src/db/studioDatabase';
import { ensureStudio } from '../../src/db/studioRepository';
import { ACCESS, mayAs, type Role, whoMay } from '../../src/server/accounts/access';
import { FIRST_STUDIO } from '../../src/server/accounts/asking';
import { firstOwnersLink } from '../../src/server/accounts/invitations';
import { tokenHash } from '../../src/server/accounts/tokens';
import { closePool } from '../../src/server/database';
import { type AccountsProgram, type Answered, CALLER, freePort, startAccountsProgram } from './accountsProgram';
import { addWork, smallWork } from './twoStudios';

const now = new Date();
const PASSWORD = 'kelp and lantern 7';
/** Of a database of its own: the program's first studio is everybody's in the others. */
const DATABASE = `reed_hook_accounts_${process.pid}`;
let server: Knex;
let knex: Knex;
let program: AccountsProgram;
/** Cookies of the people of this test. */
const who: Record<string, string> = {};
/** Of two who tried, the one who became the owner. */
let ownersMail = '';

const ask: AccountsProgram['ask'] = (...asked) => program.ask(...asked);
const signIn = (email: string, password = PASSWORD, more: object = {}, cookie?: string) =>
  ask('POST', '/api/account/sign-in', { json: { email, password, ...more }, cookie });
const jsonOf = (answer: Answered) => JSON.parse(answer.text) as Record<string, string>;
const tokenOf = (address: string) => address.split('/').at(-1) ?? '';

/** Invites somebody and takes the invitation up. */
async function joins(by: string, email: string, role: Role, name: string): Promise<string> {
  const invited = await ask('POST', '/api/people/invitations', { cookie: by, json: { email, role } });
  expect(invited.status).toBe(201);
  const token = tokenOf(jsonOf(invited)['address'] ?? '');
  const joined = await ask('POST', '/api/account/links', { json: { token, name, password: PASSWORD } });
  expect(joined.status).toBe(200);
  return joined.cookie ?? '';
}

beforeAll(async () => {
  const url = new URL(process.env['DATABASE_URL'] ?? '');
  server = connect(url.toString());
  await server.raw(`CREATE DATABASE ${DATABASE} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  url.pathname = `/${DATABASE}`;
  process.env['DATABASE_URL'] = url.toString();
  knex = connect(url.toString());
  await migrate(knex);
  const studio = studioDatabase(knex, FIRST_STUDIO);
  await ensureStudio(studio, 'The First Loft');
  await addWork(studio, 'ropewalk', smallWork('Secret Ropewalk', 72), now);
  await addGroup(studio, 'gulls', { name: 'Secret Gulls', players: [] }, now);
  await addPupil(studio, 'wren', newPupil('Secretwren', { id: 'a', instrument: 'flute', level: 'beginner' }), now);
  program = await startAccountsProgram(url.toString());
  process.env['REED_ORIGIN'] = program.origin;
  const first = await firstOwnersLink(now);
  const token = tokenOf(first ?? '');
  const wish = { token, email: 'owner@loft.example', name: 'Olwen', password: PASSWORD };
  // Of two who open the first link at once, one is the owner.
  const both = await Promise.all([
    ask('POST', '/api/account/links', { json: wish }),
    ask('POST', '/api/account/links', { json: { ...wish, email: 'other@loft.example' } }),
  ]);
  expect(both.map(({ status }) => status).toSorted()).toEqual([200, 422]);
  who['owner'] = both.find(({ status }) => status === 200)?.cookie ?? '';
  ownersMail = both[0]?.status === 200 ? 'owner@loft.example' : 'other@loft.example';
  who['teacher'] = await joins(who['owner'], 'teacher@loft.example', 'teacher', 'Tamsin');
  who['guest'] = await joins(who['owner'], 'guest@loft.example', 'guest', 'Gwen');
  // Somebody else's studio: its owner may everything, there.
  await accountsDatabase(knex).addStudio('far', 'The Far Loft', now);
  await joins(who['owner'], 'far@loft.example', 'guest', 'Fay');
  await knex('members')
    .where({ role: 'guest', studio_id: FIRST_STUDIO })
    .whereIn('person_id', knex('people').where('email', 'far@loft.example').select('person_id'))
    .update({ studio_id: 'far', role: 'owner' });
  who['stranger'] = (await signIn('far@loft.example')).cookie ?? '';
});

afterAll(async () => {
  await program.stop();
  await closePool();
  await knex.destroy();
  await server.raw(`DROP DATABASE IF EXISTS ${DATABASE}`);
  await server.destroy();
});

/** An address of the table with the ids of the first studio in it. */
const filled = (address: string) =>
  address
    .replace('/tunes/[id]', '/tunes/ropewalk')
    .replace('/groups/[id]', '/groups/gulls')
    .replace('/pupils/[id]', '/pupils/wren')
    .replace('[group]', 'gulls')
    .replace('[step]', 'tune')
    .replace('[revision]', '1')
    .replace('[kind]', 'tune')
    .replace('/pack/[name]', '/pack/contents.json')
    .replace(/\[name\]$/, 'part.pdf')
    .replace(/\[(?:id|token)\]/g, 'ropewalk');
const METHODS = ['GET', 'POST', 'PUT', 'DELETE'];
const SECRETS = /Secret Ropewalk|Secret Gulls|Secretwren|The First Loft/;

describe('every address, as whoever comes', () => {
  const rules = ACCESS.filter(({ read }) => read !== 'link');

  test('who is not signed in gets nothing and changes nothing', async () => {
    for (const rule of rules)
      for (const method of METHODS) {
        if (whoMay(rule, method) === 'anyone') continue;
        const { status, headers, text } = await ask(method, filled(rule.address));
        const isPage = method === 'GET' && !rule.address.startsWith('/api/');
        expect(`${method} ${rule.address} ${status}`).toBe(`${method} ${rule.address} ${isPage ? 303 : 401}`);
        if (isPage) expect(headers['location']).toMatch(/^\/sign-in/);
        expect(text).not.toMatch(SECRETS);
      }
  });

  test.each(['guest', 'teacher'] as const)('a %s is refused what is for others', async (role) => {
    for (const rule of rules)
      for (const method of METHODS) {
        const wanted = whoMay(rule, method);
        if (wanted === 'anyone' || wanted === 'link' || mayAs(role, wanted)) continue;
        const answer = await ask(method, filled(rule.address), { cookie: who[role] });
        const isPage = method === 'GET' && !rule.address.startsWith('/api/');
        if (isPage) expect(answer.text).toContain('Not for you here');
        else expect(`${method} ${rule.address} ${answer.status}`).toBe(`${method} ${rule.address} 403`);
      }
  });

  test('the owner of another studio finds nothing here, by any method, and changes nothing', async () => {
    const before = await contents();
    for (const rule of rules)
      for (const method of METHODS) {
        // Of their own account they may do as they like; what makes a new thing makes it in their own studio.
        if (!rule.address.includes('[') || rule.address.startsWith('/api/account/')) continue;
        const answer = await ask(method, filled(rule.address), { cookie: who['stranger'], json: {} });
        expect(`${method} ${rule.address} ${answer.text.match(SECRETS)?.[0] ?? ''}`).toBe(`${method} ${rule.address} `);
      }
    expect(await contents()).toEqual(before);
  });

  test('a teacher sees tunes and groups, and pupils of their own alone', async () => {
    const as = { cookie: who['teacher'] };
    expect((await ask('GET', '/api/tunes/ropewalk', as)).status).toBe(200);
    expect((await ask('GET', '/pupils', as)).text).not.toContain('Secretwren');
    for (const path of ['/api/pupils/wren/link', '/api/pupils/wren/log', '/api/pupils/wren'])
      expect((await ask('POST', path, { ...as, json: { entries: [entry('e1')] } })).status).toBeGreaterThanOrEqual(400);
    const made = await ask('POST', '/api/pupils', {
      ...as,
      json: newPupil('Own', { id: 'a', instrument: 'flute', level: 'beginner' }),
    });
    expect(made.status).toBe(201);
    expect((await ask('GET', '/pupils', as)).text).toContain('Own');
    expect((await ask('GET', '/pupils', { cookie: who['owner'] })).text).toContain('Secretwren');
  });

  test('where the owner says so a teacher sees only tunes of their own', async () => {
    const put = (ownWorksOnly: boolean) =>
      ask('PUT', '/api/people/settings', { cookie: who['owner'], json: { secondFactor: false, ownWorksOnly } });
    expect((await put(true)).status).toBe(200);
    const as = { cookie: who['teacher'] };
    expect((await ask('GET', '/api/tunes/ropewalk', as)).status).toBe(404);
    expect((await ask('GET', '/api/tunes/ropewalk/history', as)).text).not.toContain('"version"');
    await put(false);
    expect((await ask('GET', '/api/tunes/ropewalk', as)).status).toBe(200);
  });
});

const entry = (id: string, more: object = {}) => ({
  id,
  date: now.toISOString().slice(0, 10),
  work: 'w1',
  step: 'whole',
  minutes: 3,
  good: 1,
  again: 0,
  by: 'stand',
  note: '',
  ...more,
});

/** All rows of the first studio that a stranger could have touched. */
async function contents(): Promise<unknown> {
  const tables = [
    'tunes',
    'recipes',
    'revisions',
    'player_groups',
    'pupils',
    'practice_log',
    'pupil_links',
    'members',
    'handouts',
  ];
  return Promise.all(tables.map((table) => knex(table).where('studio_id', FIRST_STUDIO).orderBy(1)));
}

describe('sessions', () => {
  test('a session that somebody laid into the browser is not taken over', async () => {
    const planted = `reed=${'A'.repeat(43)}`;
    const { cookie } = await signIn('teacher@loft.example', PASSWORD, {}, planted);
    expect(cookie).toBeDefined();
    expect(cookie).not.toBe(planted);
    expect((await ask('GET', '/api/tunes/ropewalk', { cookie: planted })).status).toBe(401);
  });

  test('the cookie is out of reach of scripts and other sites; the database holds only its hash', async () => {
    const answer = await signIn('teacher@loft.example');
    expect(String(answer.headers['set-cookie'])).toMatch(/HttpOnly; SameSite=Lax/);
    const token = (answer.cookie ?? '').split('=')[1] ?? '';
    expect(JSON.stringify(await knex('sessions'))).not.toContain(token);
  });

  test('a session that is used goes on, in the database and in the browser; one that has run out does not', async () => {
    const { cookie } = await signIn('teacher@loft.example');
    const of = knex('sessions').where('token_hash', tokenHash((cookie ?? '').split('=')[1] ?? ''));
    const set = (seen: number, ends: number) =>
      of.clone().update({ seen_at: new Date(Date.now() + seen), ends_at: new Date(Date.now() + ends) });
    const DAY = 86_400_000;
    await set(-20 * DAY, 10 * DAY);
    const page = await ask('GET', '/groups', { cookie });
    expect([page.status, page.cookie]).toEqual([200, cookie]);
    const { ends_at } = (await of.clone().first()) as { ends_at: Date };
    expect(ends_at.getTime() - Date.now()).toBeGreaterThan(29 * DAY);
    await set(-31 * DAY, -DAY);
    expect((await ask('GET', '/api/groups', { cookie })).status).toBe(401);
  });

  test('what no rule names is nobody’s, however its address is written', async () => {
    for (const path of [
      '/api%2Farchive',
      '/people.rsc',
      '/people.segments/_tree.segment.rsc',
      '/_next/data/x/people.json',
    ])
      expect([path, (await ask('GET', path, { cookie: who['owner'] })).status]).toEqual([path, 404]);
  });

  test('what is signed out is out, stolen or not; a new password ends the others', async () => {
    const [one, two] = [(await signIn('teacher@loft.example')).cookie, (await signIn('teacher@loft.example')).cookie];
    const left = await ask('POST', '/api/account/sign-out', { cookie: one });
    expect([left.cookie, left.headers['clear-site-data']]).toEqual(['', '"cache", "storage"']);
    expect((await ask('GET', '/api/tunes/ropewalk', { cookie: one })).status).toBe(401);
    expect((await ask('GET', '/api/tunes/ropewalk', { cookie: two })).status).toBe(200);
    const mine = (await signIn('teacher@loft.example')).cookie;
    const changed = await ask('PUT', '/api/account/password', {
      cookie: mine,
      json: { present: PASSWORD, wanted: PASSWORD },
    });
    expect(changed.status).toBe(200);
    expect((await ask('GET', '/api/tunes/ropewalk', { cookie: two })).status).toBe(401);
    expect((await ask('GET', '/api/tunes/ropewalk', { cookie: mine })).status).toBe(200);
    who['teacher'] = mine ?? '';
  });

  test('another role is another session; the last owner stays one', async () => {
    const person = (await knex('people').where('email', 'guest@loft.example').first()) as { person_id: string };
    const change = (role: Role) =>
      ask('PUT', `/api/people/${person.person_id}`, { cookie: who['owner'], json: { role } });
    expect((await change('teacher')).status).toBe(200);
    expect((await ask('GET', '/api/tunes/ropewalk', { cookie: who['guest'] })).status).toBe(401);
    await change('guest');
    who['guest'] = (await signIn('guest@loft.example')).cookie ?? '';
    const owner = (await knex('members').where({ role: 'owner', studio_id: FIRST_STUDIO }).first()) as {
      person_id: string;
    };
    const [down, out] = [
      await ask('PUT', `/api/people/${owner.person_id}`, { cookie: who['owner'], json: { role: 'guest' } }),
      await ask('DELETE', `/api/people/${owner.person_id}`, { cookie: who['owner'] }),
    ];
    expect([down.status, out.status]).toEqual([409, 409]);
  });

  test('other sites change nothing with somebody’s session; forged hosts lead nowhere', async () => {
    const json = { secondFactor: true, ownWorksOnly: true };
    const answer = await ask('PUT', '/api/people/settings', {
      cookie: who['owner'],
      json,
      headers: { origin: 'https://evil.example' },
    });
    expect(answer.status).toBe(403);
    const forged = await ask('GET', '/pupils', {
      headers: { 'x-forwarded-host': 'evil.example', 'x-forwarded-proto': 'https' },
    });
    expect(forged.headers['location']).toBe('/sign-in?to=%2Fpupils');
    expect((await ask('GET', '/', { headers: { host: 'evil.example' } })).status).toBe(421);
  });
});

describe('guessing', () => {
  test('a wrong password and an unknown account read alike and take alike', async () => {
    const timed = async (email: string) => {
      const times: number[] = [];
      let text = '';
      for (let k = 0; k < 5; k += 1) {
        const begun = performance.now();
        text = (await signIn(email, `wrong ${k} password`)).text;
        times.push(performance.now() - begun);
      }
      return { text, time: Math.min(...times) };
    };
    await knex('limits').delete();
    const [known, unknown] = [await timed('guest@loft.example'), await timed('nobody@loft.example')];
    expect(unknown.text).toBe(known.text);
    // Without the same work an unknown account would answer twenty times as fast.
    expect(unknown.time / known.time).toBeGreaterThan(0.3);
  });

  test('after ten tries the account is closed for a while, to the right password too, however many try at once', async () => {
    await knex('limits').delete();
    for (let k = 0; k < 20; k += 1) expect((await signIn('guest@loft.example')).status).toBe(200);
    const tries = await Promise.all(
      Array.from({ length: 25 }, (_, k) => signIn('guest@loft.example', `guess ${k} again`)),
    );
    expect(tries.filter(({ status }) => status === 401)).toHaveLength(10);
    const later = await signIn('guest@loft.example');
    expect([later.status, Number(later.headers['retry-after']) > 0]).toEqual([429, true]);
    await knex('limits').delete();
    expect((await signIn('guest@loft.example')).status).toBe(200);
  });

  test('who guesses at links is stopped, and a link that was used is worth nothing', async () => {
    await knex('limits').delete();
    const guesses = Array.from({ length: 10_000 }, (_, k) => `/${k % 2 ? 'p' : 'h'}/${String(k).padStart(22, 'x')}`);
    const seen = new Map<number, number>();
    for (let at = 0; at < guesses.length; at += 50)
      for (const { status } of await Promise.all(guesses.slice(at, at + 50).map((path) => ask('GET', path))))
        seen.set(status, (seen.get(status) ?? 0) + 1);
    expect([...seen.keys()].toSorted()).toEqual([404, 429]);
    // As many as were under way when the limit was reached may still be looked for.
    expect(seen.get(404)).toBeLessThanOrEqual(60 + 50);
    await knex('limits').delete();
  });

  test('a second factor is asked for; its code holds once, and so does one from the paper', async () => {
    const as = (await signIn('teacher@loft.example')).cookie;
    const secret = jsonOf(await ask('POST', '/api/account/second-factor', { cookie: as }))['secret'] as string;
    const codes = new TOTP({ secret: Secret.fromBase32(secret) });
    const code = (ahead = 0) => codes.generate({ timestamp: Date.now() + ahead * 30_000 });
    const on = await ask('PUT', '/api/account/second-factor', { cookie: as, json: { secret, code: code() } });
    const recovery = jsonOf(on)['recovery'] as unknown as string[];
    expect(recovery).toHaveLength(8);
    expect(jsonOf(await signIn('teacher@loft.example'))).toEqual({ needsCode: true });
    const next = code(1);
    const answers = [
      await signIn('teacher@loft.example', PASSWORD, { code: next }),
      await signIn('teacher@loft.example', PASSWORD, { code: next }),
      await signIn('teacher@loft.example', PASSWORD, { code: recovery[0] }),
      await signIn('teacher@loft.example', PASSWORD, { code: recovery[0] }),
    ];
    expect(answers.map(({ status }) => status)).toEqual([200, 401, 200, 401]);
    const off = await ask('DELETE', '/api/account/second-factor', {
      cookie: answers[0]?.cookie,
      json: { password: PASSWORD },
    });
    expect(off.status).toBe(200);
    who['teacher'] = answers[0]?.cookie ?? '';
  });

  test('an owner without a second factor comes no further than to set it up, where the studio wants one', async () => {
    const put = (secondFactor: boolean) =>
      knex('studios')
        .where('studio_id', FIRST_STUDIO)
        .update({ settings: JSON.stringify({ secondFactor, ownWorksOnly: false }) });
    await put(true);
    const as = { cookie: who['owner'] };
    expect((await ask('GET', '/', as)).headers['location']).toBe('/account');
    expect((await ask('GET', '/api/tunes/ropewalk', as)).status).toBe(403);
    expect((await ask('GET', '/account', as)).status).toBe(200);
    await put(false);
  });

  test('a forgotten password: one link, once, to the mailbox; the answer does not tell who has an account', async () => {
    const answers = [
      await ask('POST', '/api/account/forgotten', { json: { email: 'guest@loft.example' } }),
      await ask('POST', '/api/account/forgotten', { json: { email: 'nobody@loft.example' } }),
    ];
    expect(answers.map(({ text }) => text)).toEqual(['{"ok":true}', '{"ok":true}']);
    const messages = () =>
      existsSync(program.outbox)
        ? readdirSync(program.outbox).map((name) => readFileSync(join(program.outbox, name), 'utf8'))
        : [];
    for (let k = 0; k < 50 && !messages().some((text) => text.includes('/reset/')); k += 1)
      await new Promise((again) => setTimeout(again, 100));
    const resets = messages().filter((text) => text.includes('/reset/'));
    expect(resets).toHaveLength(1);
    const token = /\/reset\/([\w-]{22})/.exec(resets[0] ?? '')?.[1] ?? '';
    const old = who['guest'];
    const set = await ask('POST', '/api/account/links', { json: { token, password: 'another lantern 8' } });
    expect(set.status).toBe(200);
    expect((await ask('GET', '/api/tunes/ropewalk', { cookie: old })).status).toBe(401);
    expect((await ask('POST', '/api/account/links', { json: { token, password: 'yet another one 9' } })).status).toBe(
      422,
    );
    expect((await signIn('guest@loft.example', 'another lantern 8')).status).toBe(200);
  });
});

describe('a pupil’s link', () => {
  test('it opens the pupil’s own week and takes their practice, until it is ended; its secret is written nowhere', async () => {
    const as = { cookie: who['owner'] };
    const made = await ask('POST', '/api/pupils/wren/link', { ...as, json: {} });
    const address = jsonOf(made)['address'] as string;
    const token = tokenOf(address);
    expect(address.startsWith(`${program.origin}/p/`)).toBe(true);
    const week = await ask('GET', `/p/${token}`);
    expect(week.status).toBe(200);
    expect(week.text).toContain('Secretwren');
    expect(week.text.match(/<title>[^<]*/)?.[0]).not.toContain(token);
    expect(week.headers['referrer-policy']).toBe('no-referrer');
    expect(JSON.stringify(await knex('pupil_links'))).not.toContain(token);
    // The link is for this and nothing else.
    const send = (...entries: object[]) => ask('POST', `/p/${token}/log`, { json: { entries } });
    expect((await send(entry('a1'))).status).toBe(422);
    await knex('pupils')
      .where('pupil_id', 'wren')
      .update({
        document: JSON.stringify({
          ...newPupil('Secretwren', { id: 'a', instrument: 'flute', level: 'beginner' }),
          work: [
            {
              id: 'w1',
              title: 'Ropewalk',
              kind: 'memory',
              playing: 'a',
              state: 'going',
              tonic: { step: 'C', alter: 0 },
              set: 'major',
            },
          ],
        }),
      });
    const sent = await send(entry('a1'));
    expect([sent.status, (await send(entry('a1'))).text]).toEqual([200, '{"added":0}']);
    expect((await send(entry('a2', { by: 'teacher' }))).status).toBe(422);
    expect((await send(entry('a3', { date: '2020-01-01' }))).status).toBe(422);
    expect((await ask('GET', `/p/${token}/stand?work=w1&step=x`)).status).toBe(404);
    for (const path of ['/api/tunes/ropewalk', '/pupils/wren', '/api/pupils/wren'])
      expect([303, 401]).toContain((await ask('GET', path)).status);
    // A new one ends the old; who has the old one open logs nothing more.
    const renewed = tokenOf(jsonOf(await ask('POST', '/api/pupils/wren/link', { ...as, json: {} }))['address'] ?? '');
    expect([(await ask('GET', `/p/${token}`)).status, (await send(entry('a4'))).status]).toEqual([404, 404]);
    expect((await ask('GET', `/p/${renewed}`)).status).toBe(200);
    expect((await ask('DELETE', '/api/pupils/wren/link', as)).status).toBe(200);
    expect((await ask('GET', `/p/${renewed}`)).status).toBe(404);
    for (const secret of [token, renewed]) expect(program.logged()).not.toContain(secret);
    const rows = (await knex('audit').where('what', 'like', 'link-%').orderBy('at')) as { what: string }[];
    expect(rows.map(({ what }) => what)).toEqual(['link-made', 'link-made', 'link-ended']);
  });
});

describe('a pack by its link', () => {
  const choice = { sheets: ['week', 'part'], files: ['slow', 'musicxml'], paper: 'a4' };
  const date = now.toISOString().slice(0, 10);

  test('it opens what was handed out and nothing else, to whoever has it, until it is ended', async () => {
    const studio = studioDatabase(knex, FIRST_STUDIO);
    const [flute] = [{ id: 'a', instrument: 'flute', level: 'beginner' as const }];
    const work = { id: 'w1', title: 'Ropewalk', kind: 'tune' as const, playing: 'a', state: 'going' as const };
    const chunks = [{ fromBar: 1, toBar: 1, difficulty: 1 }];
    const dove = newPupil('Secretdove', flute);
    await addPupil(studio, 'dove', { ...dove, work: [{ ...work, tune: 'ropewalk', chunks }] }, now);
    const players = [
      { ...flute, id: 'p1', name: 'Secretdove', pupil: 'dove', playing: 'a' },
      { ...flute, id: 'p2', name: 'Ib' },
    ];
    await addGroup(studio, 'terns', { name: 'Terns', players }, now);
    const as = { cookie: who['owner'] };
    const hand = async (to: string, more: object = {}) =>
      jsonOf(await ask('POST', `/api/${to}/handouts`, { ...as, json: { choice: { ...choice, ...more }, date } }))[
        'address'
      ] ?? '';
    const address = await hand('pupils/dove');
    const token = tokenOf(address);
    expect(address).toBe(`${program.origin}/h/${token}`);
    const open = (path = '', headers: Record<string, string> = {}) => ask('GET', `/h/${token}${path}`, { headers });
    const page = await open();
    expect([page.status, page.headers['referrer-policy'], page.headers['cache-control']]).toEqual([
      200,
      'no-referrer',
      expect.stringContaining('no-store'),
    ]);
    expect(page.text).toContain('Secretdove');
    expect(page.text.match(/<title>[^<]*/)?.[0]).not.toContain(token);
    // Of the pack: its pages, its files, its tune on the stand. Nothing of anybody else, and no other tune.
    expect((await open('/files/pages.pdf?for=dove')).text.slice(0, 5)).toBe('%PDF-');
    expect((await open('/files/part.musicxml?for=dove&tune=ropewalk')).text).toContain('<score-partwise');
    expect((await open('/stand?for=dove&tune=ropewalk')).status).toBe(200);
    for (const path of ['/stand?for=wren&tune=ropewalk', '/stand?for=dove&tune=gulls', '/files/part.musicxml?for=wren'])
      expect([path, (await open(path)).status]).toEqual([path, 404]);
    // Telephones ask for sounds in stretches.
    const sound = await open('/files/slow.mp3?for=dove&tune=ropewalk', { range: 'bytes=0-9' });
    if (existsSync('/usr/share/sounds/sf2/TimGM6mb.sf2'))
      expect([sound.status, sound.headers['content-length'] ?? '10']).toEqual([206, '10']);
    // The pupil's own link opens the same tune freely, and no other.
    const own = tokenOf(jsonOf(await ask('POST', '/api/pupils/dove/link', { ...as, json: {} }))['address'] ?? '');
    expect((await ask('GET', `/p/${own}`)).text).toContain('All that is on your stand');
    expect((await ask('GET', `/p/${own}/stand?tune=ropewalk&what=solo`)).status).toBe(200);
    for (const path of ['stand?tune=gulls', 'sounds/slow.mp3?tune=gulls', 'sounds/all.mp3?tune=ropewalk'])
      expect([path, (await ask('GET', `/p/${own}/${path}`)).status]).toEqual([path, 404]);
    // Nobody's week goes out by a group's link.
    const groups = tokenOf(await hand('groups/terns', { tunes: ['ropewalk'] }));
    const shared = (await ask('GET', `/h/${groups}`)).text;
    expect([shared.includes('Ib'), shared.includes('week’s plan')]).toEqual([true, false]);
    // A link opens what those may see who made it: no tune of another teacher's, whatever its maker writes into it.
    const settings = (ownWorksOnly: boolean) =>
      ask('PUT', '/api/people/settings', { ...as, json: { secondFactor: false, ownWorksOnly } });
    const made = jsonOf(
      await ask('POST', '/api/groups', { cookie: who['teacher'], json: { name: 'Mine', players: [players[1]] } }),
    );
    const sly = tokenOf(
      jsonOf(
        await ask('POST', `/api/groups/${made['id']}/handouts`, {
          cookie: who['teacher'],
          json: { choice: { ...choice, tunes: ['ropewalk'] }, date },
        }),
      )['address'] ?? '',
    );
    expect((await ask('GET', `/h/${sly}`)).text).toContain('Secret Ropewalk');
    await settings(true);
    expect((await ask('GET', `/h/${sly}`)).text).not.toContain('Secret Ropewalk');
    expect((await ask('GET', `/h/${sly}/stand?for=p2&tune=ropewalk`)).status).toBe(404);
    await settings(false);
    // Who may not see the pupil makes no link, and sees none.
    const teacher = { cookie: who['teacher'] };
    const refused = await ask('POST', '/api/pupils/dove/handouts', { ...teacher, json: { choice, date } });
    expect(refused.status).toBe(404);
    expect((await ask('GET', '/api/pupils/dove/handouts', teacher)).text).toBe('{"handouts":[]}');
    const [row] = (await knex('handouts').where('pupil_id', 'dove')) as { handout_id: string }[];
    expect((await ask('DELETE', `/api/handouts/${row?.handout_id}`, teacher)).status).toBe(404);
    expect((await ask('DELETE', `/api/handouts/${row?.handout_id}`, as)).status).toBe(200);
    expect([(await open()).status, (await open('/files/pages.pdf?for=dove')).status]).toEqual([404, 404]);
    expect(JSON.stringify(await knex('handouts'))).not.toContain(token);
    for (const secret of [token, groups]) expect(program.logged()).not.toContain(secret);
    const cache = join(program.outbox, '..', 'cache');
    for (const name of existsSync(cache) ? readdirSync(cache) : [])
      expect(readFileSync(join(cache, name)).includes(token)).toBe(false);
    const rows = (await knex('audit').where('what', 'like', 'handout-%').orderBy('at')) as { what: string }[];
    expect(rows.map(({ what }) => what)).toEqual(['handout-made', 'handout-made', 'handout-made', 'handout-ended']);
  });
});

test('a studio is deleted by its owner alone, who says its name and password, and goes on in another', async () => {
  const end = (cookie: string | undefined, name: string, password = PASSWORD) =>
    ask('DELETE', '/api/people/studio', { cookie, json: { name, password } });
  // Whoever has one only would not come in any more.
  expect((await end(who['stranger'], 'The Far Loft')).text).toContain('your only studio');
  const { cookie } = await ask('POST', '/api/account/studio', {
    cookie: (await signIn(ownersMail)).cookie,
    json: { name: 'The Third Loft' },
  });
  const [row] = (await knex('studios').where('name', 'The Third Loft')) as { studio_id: string }[];
  const third = studioDatabase(knex, row?.studio_id ?? '');
  await addWork(third, 'gone', smallWork('Gone', 60), now);
  await addPupil(third, 'gone', newPupil('Gone', { id: 'a', instrument: 'flute', level: 'beginner' }), now);
  for (const wrong of [end(cookie, 'The Third'), end(cookie, 'The Third Loft', 'another password 1')])
    expect([(await wrong).status, (await wrong).text.includes('Nothing was deleted')]).toEqual([422, true]);
  const before = await contents();
  const ended = await end(cookie, 'The Third Loft');
  expect(ended.status).toBe(200);
  const tables = (await knex('information_schema.columns')
    .where({ table_schema: DATABASE, column_name: 'studio_id' })
    .select({ name: 'table_name' })) as { name: string }[];
  for (const { name } of tables)
    expect([name, (await knex(name).where('studio_id', third.studioId)).length]).toEqual([name, 0]);
  expect(await contents()).toEqual(before);
  expect((await ask('GET', '/people', { cookie })).status).toBe(303);
  expect((await ask('GET', '/api/tunes/ropewalk', { cookie: ended.cookie })).status).toBe(200);
});

test('behind the nginx of our example it is asked for by TLS: cookies are held to it, and callers told apart', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'reed-nginx-'));
  const [certificate, key] = [join(folder, 'certificate.pem'), join(folder, 'key.pem')];
  const made = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', '/CN=localhost'];
  execFileSync('openssl', [...made, '-keyout', key, '-out', certificate], { stdio: 'ignore' });
  const front = await freePort();
  let nginx: ChildProcess | undefined;
  const start = (port: number) => {
    const site = readFileSync(join(process.cwd(), 'docs', 'examples', 'nginx.conf'), 'utf8')
      .replace('listen 443 ssl', `listen 127.0.0.1:${front} ssl`)
      .replace('/etc/ssl/reed-hook/certificate.pem', certificate)
      .replace('/etc/ssl/reed-hook/key.pem', key)
      .replace('127.0.0.1:3210', `127.0.0.1:${port}`);
    const paths = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map((name) => `${name}_temp_path ${folder};`);
    writeFileSync(
      join(folder, 'nginx.conf'),
      `daemon off; pid ${folder}/pid; error_log ${folder}/error.log; events {}\nhttp { ${paths.join(' ')}\n${site} }`,
    );
    nginx = spawn('/usr/sbin/nginx', ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
  };
  const house = await startAccountsProgram(process.env['DATABASE_URL'] ?? '', { port: front, start });
  try {
    await knex('limits').delete();
    const json = { email: 'owner@loft.example', password: PASSWORD };
    const [one, other] = [
      await house.ask('POST', '/api/account/sign-in', { json, headers: { 'x-forwarded-for': '203.0.113.9' } }),
      await house.ask('POST', '/api/account/sign-in', { json: { ...json, email: 'other@loft.example' } }),
    ];
    const signedIn = [one, other].find(({ status }) => status === 200);
    expect(String(signedIn?.headers['set-cookie'])).toMatch(
      /^__Host-reed=.*; Path=\/; HttpOnly; SameSite=Lax; .*Secure$/,
    );
    expect(signedIn?.headers['strict-transport-security']).toMatch(/max-age/);
    expect((await house.ask('GET', '/api/tunes/ropewalk', { cookie: signedIn?.cookie })).status).toBe(200);
    // A caller that names another address before itself is counted as itself.
    const counted = (await knex('limits').where('key', 'like', 'address:%')) as { key: string }[];
    expect(counted.map((row) => row.key)).toEqual([`address:${CALLER}`]);
    expect(
      (
        await house.ask('PUT', '/api/people/settings', {
          cookie: signedIn?.cookie,
          json: {},
          headers: { origin: 'http://localhost' },
        })
      ).status,
    ).toBe(403);
  } finally {
    await house.stop();
    nginx?.kill('SIGTERM');
    rmSync(folder, { recursive: true, force: true });
  }
});
