import knex, { type Knex } from 'knex';
import type { ConnectionOptions } from 'mysql2';
import { type ClusterNode, databaseAddress } from './address';
import { clusterOf, type Cluster, type RawConnection } from './cluster';
import { doneOnce, untilDone } from './repeat';

/**
 * A pool of connections to the MariaDB at an address, or to the nodes of a cluster: then those of a node that is away
 * are taken from the next.
 * @param statementSeconds for what the program reads and writes: how long a statement may take until the server ends
 *   it; what was read is then read again where that may help, and what is written is written once, however often it is
 *   tried. None: as the server has it, and nothing is tried twice, for changes of tables
 */
export function connect(url: string, { statementSeconds }: { readonly statementSeconds?: number } = {}): Knex {
  const address = databaseAddress(url);
  const cluster = address.nodes.length > 1 ? clusterOf(address) : undefined;
  const settings = (node: ClusterNode | undefined): ConnectionOptions => ({
    ...(address.socketPath === undefined ? node : { socketPath: address.socketPath }),
    user: address.user,
    password: address.password,
    database: address.database,
    charset: 'utf8mb4',
    timezone: 'Z',
    // Documents go to the workers as they lie here; reading and writing them again would hold up the thread that
    // answers.
    jsonStrings: true,
    connectTimeout: 3_000,
  });
  const instance = knex({
    client: statementSeconds === undefined ? 'mysql2' : RepeatingClient,
    // Knex knows the settings that its drivers share alone; it hands on what else it is given.
    connection: cluster
      ? async () => {
          const node = await cluster.node();
          return { ...settings(node), expirationChecker: unlessStill(node, cluster) } as Knex.StaticConnectionConfig;
        }
      : (settings(address.nodes[0]) as Knex.StaticConnectionConfig),
    pool: {
      min: 0,
      max: 8,
      afterCreate: (connection: RawConnection, done: Created) => {
        cluster?.watch(connection);
        if (statementSeconds === undefined) done(null, connection);
        else limitStatements(connection, statementSeconds, done);
      },
    },
    acquireConnectionTimeout: 4_000,
  });
  if (instance.client instanceof RepeatingClient) instance.client.own = instance;
  if (cluster) endTogether(instance, cluster);
  return instance;
}

type Created = (error: Error | null, connection: RawConnection) => void;

/** Tells the server, as each connection is made. Locks are waited for no longer than statements may take. */
function limitStatements(connection: RawConnection, seconds: number, done: Created): void {
  const limits = `SET SESSION max_statement_time = ${seconds}, innodb_lock_wait_timeout = ${Math.ceil(seconds / 2)}`;
  connection.query(limits, (error) => done(error, connection));
}

/** Knex asks for the settings anew where they have expired, and takes it for a fault where the new ones have at once. */
const SETTLED = 250;

/** Whether connections are to go to another node than one that was chosen. */
function unlessStill(chosen: ClusterNode, cluster: Cluster): () => boolean {
  const since = performance.now();
  return () => performance.now() - since > SETTLED && cluster.best() !== chosen;
}

/** Nodes are watched as long as there is a pool. */
function endTogether({ client }: Knex, cluster: Cluster): void {
  const pool = client as { destroy: () => Promise<void> };
  const destroy = pool.destroy.bind(pool);
  pool.destroy = async () => {
    cluster.end();
    await destroy();
  };
}

/** What Knex has for this server; the class itself is not among what it hands out. */
const ServerClient = (knex({ client: 'mysql2' }).client as object).constructor as typeof knex.Client;

interface Running {
  run: () => Promise<unknown>;
}
type Statement = Knex.QueryBuilder & { readonly _method?: string };

const READING: readonly unknown[] = ['select', 'first', 'pluck'];
const WRITING: readonly unknown[] = ['insert', 'update', 'del'];

/**
 * Statements that stand by themselves, tried again where that may help: what is read is read anew, what is written is a
 * transaction of its own, done once. Those of a transaction are tried again with it; bare SQL is not.
 */
class RepeatingClient extends ServerClient {
  /** The pool that this belongs to. */
  own?: Knex;
  declare readonly transacting?: boolean;

  override runner(statement: Statement): Running {
    const running = super.runner(statement) as Running;
    const { own } = this;
    if (this.transacting || !own) return running;
    if (READING.includes(statement._method))
      running.run = () => untilDone(() => (super.runner(statement) as Running).run());
    if (WRITING.includes(statement._method))
      running.run = () => doneOnce(own, async (inside) => (await statement.clone().transacting(inside)) as unknown);
    return running;
  }
}
