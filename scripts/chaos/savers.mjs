// Clients that save again and again, each a tune of its own, and what of it can be found afterwards.
import { answered, send, wait } from './program.mjs';

/** Milliseconds. */
const BETWEEN_SAVES = 450;
const MAX_TRY = 150_000;
/** Words of a version are cut at 1,000 characters; what was cut off cannot be looked for. */
const MAX_WORDS = 980;

/**
 * Begins saving.
 * @param addresses of one web process or several, asked in turns
 * @param until milliseconds of the clock at which the last save begins
 */
export async function savers({ addresses, clients = 4, until, seed, pause = BETWEEN_SAVES }) {
  const tunes = await Promise.all(Array.from({ length: clients }, (_, k) => bringIn(addresses[0], `Chaos ${k}`)));
  const tally = { refused: 0, longest: 0, at: [] };
  const running = Promise.all(
    tunes.map((id, client) => keepSaving({ id, client, addresses, until: () => until, seed, pause, tally })),
  );
  return {
    tunes,
    tally,
    /** Stops at once instead. */
    stop: () => (until = 0),
    /** How many saves were acknowledged, and how many of them are not there. */
    async outcome(report) {
      const acknowledged = await running;
      let lost = 0;
      let doubled = 0;
      for (const [client, id] of tunes.entries()) {
        lost += await lostOf(addresses[0], id, client, acknowledged[client], report);
        // Every save makes one version, and each was sent until it was acknowledged.
        const { version } = await answered(addresses[0], `/api/tunes/${id}`);
        doubled += Math.max(0, version - 1 - acknowledged[client].length);
      }
      return { count: acknowledged.reduce((sum, list) => sum + list.length, 0), lost, doubled, ...tally };
    },
  };
}

/** Saves again and again, each time until it is answered; gives what was acknowledged. */
async function keepSaving({ id, client, addresses, until, seed, pause, tally }) {
  const acknowledged = [];
  let { version, work } = await answered(addresses[0], `/api/tunes/${id}`);
  for (let number = 1; Date.now() < until(); number += 1) {
    const saveId = `chaos-${client}-${number}-${seed}`;
    const title = `Chaos ${client}: ${number}`;
    const begun = Date.now();
    for (let tries = 0; ; tries += 1) {
      const address = addresses[(number + tries) % addresses.length];
      const answer = await send(address, 'PUT', `/api/tunes/${id}`, {
        version,
        work: { ...work, tune: { ...work.tune, title } },
        what: String(number),
        saveId,
      });
      if (answer?.status === 200) {
        // A save that arrived twice is done once: the versions have no gap.
        if (answer.body.version !== version + 1)
          throw new Error(`Save ${number} of client ${client} made version ${answer.body.version} of ${version}.`);
        ({ version } = answer.body);
        tally.at.push(Date.now());
        acknowledged.push({ version, number });
        break;
      }
      if (answer && answer.status < 500)
        throw new Error(`A save was refused: ${answer.status} ${JSON.stringify(answer.body).slice(0, 300)}`);
      if (answer) tally.refused += 1;
      if (Date.now() - begun > MAX_TRY) return acknowledged;
      await wait(250);
    }
    tally.longest = Math.max(tally.longest, Date.now() - begun);
    await wait(pause);
  }
  return acknowledged;
}

/**
 * How many acknowledged saves cannot be found: the tune stands at the last of them, the newest twenty are versions of
 * their own, and of older ones, which have joined, the words are there.
 */
async function lostOf(address, id, client, acknowledged, report) {
  const [{ revisions }, { version, work }] = [
    await answered(address, `/api/tunes/${id}/history`),
    await answered(address, `/api/tunes/${id}`),
  ];
  const saved = revisions.filter(({ kind }) => kind === 'saved');
  const versions = new Set(saved.map((one) => one.version));
  const words = new Set(saved.flatMap(({ what }) => what.split(', ')));
  const isCut = saved.some(({ what }) => what.length > MAX_WORDS);
  const missing = acknowledged.filter(
    (one, index) =>
      (index >= acknowledged.length - 20 && !versions.has(one.version)) || (!isCut && !words.has(String(one.number))),
  );
  for (const one of missing.slice(0, 5)) report(`Lost: version ${one.version}, save ${one.number} of client ${client}`);
  const last = acknowledged.at(-1);
  const stands = !last || (version === last.version && work.tune.title === `Chaos ${client}: ${last.number}`);
  if (!stands)
    report(`Client ${client}: the tune stands at version ${version}, though ${last.version} was acknowledged.`);
  return missing.length + (stands ? 0 : 1);
}

async function bringIn(address, title) {
  for (;;) {
    try {
      const response = await fetch(`${address}/api/tunes`, {
        method: 'POST',
        headers: { origin: address },
        body: `X:1\nT:${title}\nM:4/4\nL:1/4\nK:G\nGABc|d4|]\n`,
      });
      if (response.ok) return (await response.json()).id;
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
    }
    await wait(300);
  }
}
