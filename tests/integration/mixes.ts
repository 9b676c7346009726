// Random mixes of saves by three writers, each at another node of a cluster, held against one writer at one node: what
// was taken has one order, and the same in that order gives the same rows. Run by the cluster's chaos, with the addresses
// of the nodes in NODES; ends with status 1 and a line where it does not hold.
import { connect } from '../../src/db/connect';
import { addEntries } from '../../src/db/practiceLogRepository';
import { addPupil } from '../../src/db/pupilRepository';
import { revisionsOf } from '../../src/db/revisionRepository';
import { deleteStudio, ensureStudio } from '../../src/db/studioRepository';
import { studioDatabase, type StudioDatabase } from '../../src/db/studioDatabase';
import { addWork, documentsOf, findWork, saveWork } from '../../src/db/tuneRepository';
import { DEMO_TUNES } from '../../src/demo/studio';
import { demoWork } from '../../src/server/demoStudio';
import { barePupil } from '../barePupil';

const [mixes, seed] = process.argv.slice(2).map(Number);
const TUNES = ['a', 'b', 'c'] as const;
const ROUNDS = 25;

let state = (seed ?? 1) >>> 0;
/** From 0 to 1, the same for the same seed. */
function chance(): number {
  state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
  return state / 4_294_967_296;
}
const any = <Value>(list: readonly Value[]): Value => list[Math.floor(chance() * list.length)] as Value;

const [demo] = DEMO_TUNES;
if (!demo) throw new Error('the demo has tunes');
const work = demoWork(demo);
const called = (title: string) => documentsOf({ ...work, tune: { ...work.tune, title } });

interface Taken {
  readonly tune: string;
  readonly version: number;
  readonly title: string;
  readonly saveId: string;
}

async function begun(studio: StudioDatabase): Promise<void> {
  await deleteStudio(studio);
  await ensureStudio(studio, 'Mixes');
  for (const id of TUNES) await addWork(studio, id, called(`${id} 0`), new Date());
  await addPupil(studio, 'pell', barePupil('Pell'), new Date());
}
const entry = (id: string) => ({
  id,
  date: '2027-01-10',
  work: 'w',
  step: 's',
  minutes: 5,
  good: 1,
  again: 0,
  by: 'pupil' as const,
  note: '',
});

/** What can be seen of a studio that does not depend on the time. */
async function seen(studio: StudioDatabase) {
  const tunes = await Promise.all(
    TUNES.map(async (id) => {
      const stored = await findWork(studio, id);
      const saved = (await revisionsOf(studio, id)).filter(({ kind }) => kind === 'saved');
      return {
        version: stored?.version,
        title: stored?.title,
        versions: saved.map(({ version, what }) => [version, what]),
      };
    }),
  );
  const log = (await studio.from('practice_log').orderBy('entry_id').pluck('entry_id')) as string[];
  return JSON.stringify({ tunes, log });
}

async function mix(
  writers: readonly StudioDatabase[],
  alone: StudioDatabase,
  number: number,
): Promise<string | undefined> {
  const [first] = writers;
  if (!first) return 'no node';
  await begun(first);
  const taken = new Map<string, Taken>();
  const logged = new Set<string>();
  await Promise.all(
    writers.map(async (studio, writer) => {
      for (let round = 0; round < ROUNDS; round += 1) {
        if (chance() < 0.3) {
          // Some of them come from two at once, as a telephone sends again what it is not sure of.
          const ids = [`e-${Math.floor(chance() * 60)}`, `own-${writer}-${round}`];
          await addEntries(studio, 'pell', ids.map(entry), new Date());
          ids.forEach((id) => logged.add(id));
          continue;
        }
        const tune = any(TUNES);
        const stands = await findWork(studio, tune);
        if (!stands) return;
        const saveId = `${number}-${writer}-${round}`;
        const title = `${tune} ${saveId}`;
        const save = () =>
          saveWork(
            studio,
            tune,
            { startedFrom: stands.version, work: called(title), what: saveId, saveId },
            new Date(),
          );
        const times = chance() < 0.3 ? 2 : 1;
        for (let k = 0; k < times; k += 1) {
          const outcome = await save();
          if (outcome.kind !== 'saved') continue;
          const known = taken.get(saveId);
          if (known && known.version !== outcome.version) throw new Error(`${saveId} made two versions`);
          taken.set(saveId, { tune, version: outcome.version, title, saveId });
        }
      }
    }),
  );
  await begun(alone);
  for (const { tune, version, title, saveId } of [...taken.values()].toSorted((a, b) => a.version - b.version))
    await saveWork(alone, tune, { startedFrom: version - 1, work: called(title), what: saveId, saveId }, new Date());
  await addEntries(alone, 'pell', [...logged].map(entry), new Date());
  const [many, one] = [await seen(first), await seen(alone)];
  return many === one ? undefined : `mix ${number} of seed ${seed}: three writers left ${many}, one left ${one}`;
}

const pools = (process.env['NODES'] ?? '').split(' ').map((url) => connect(url, { statementSeconds: 10 }));
let trouble: string | undefined;
try {
  const writers = pools.map((pool) => studioDatabase(pool, 'mixes'));
  const [pool] = pools;
  if (!pool) throw new Error('NODES names the nodes');
  const alone = studioDatabase(pool, 'mixes-alone');
  for (let number = 1; number <= (mixes ?? 1) && trouble === undefined; number += 1)
    trouble = await mix(writers, alone, number);
  for (const studio of [studioDatabase(pool, 'mixes'), alone]) await deleteStudio(studio);
} catch (error) {
  trouble = error instanceof Error ? (error.stack ?? error.message) : String(error);
} finally {
  await Promise.all(pools.map((pool) => pool.destroy()));
}
if (trouble !== undefined) {
  process.stdout.write(`${trouble}\n`);
  process.exitCode = 1;
}
