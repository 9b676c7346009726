import { createConnection, type Connection } from 'mysql2';
import type { ClusterNode, DatabaseAddress } from './address';

/** A connection as the driver has it. */
export interface RawConnection {
  readonly query: (sql: string, done: (error: Error | null) => void) => void;
  readonly config?: { readonly host?: string; readonly port?: number };
  readonly stream?: {
    readonly destroy: (error?: Error) => void;
    readonly once: (event: 'close', done: () => void) => void;
  };
}

/** The nodes of a database's cluster, watched. */
export interface Cluster {
  /** The first node that is ready, in the order of the address; the first of all where none is. */
  readonly node: () => Promise<ClusterNode>;
  /** The same, as far as is known now. */
  readonly best: () => ClusterNode | undefined;
  /** A connection that is broken off when its node is away: whoever waits for it asks another. */
  readonly watch: (connection: RawConnection) => void;
  readonly end: () => void;
}

/** A node is asked how it is so often, and has so long to answer: milliseconds. */
const ASKED_EVERY = 500;
const ANSWERS_WITHIN = 1_500;

/**
 * Watches all nodes by a connection of its own to each: one that is stopped, cut off from the others or not up to date
 * is noticed in about two seconds, whether anybody asks it just then or not.
 */
export function clusterOf(address: DatabaseAddress): Cluster {
  const watched = address.nodes.map((node) => watchedNode(node, address));
  const best = () => (watched.find((one) => one.isReady()) ?? watched[0])?.node;
  return {
    best,
    node: async () => {
      await Promise.race([
        // As soon as one is known to be ready there is somewhere to go.
        Promise.any(watched.map((one) => one.known.then((isReady) => (isReady ? one : Promise.reject(new Error()))))),
        Promise.all(watched.map(({ known }) => known)),
      ]);
      const node = best();
      if (!node) throw new RangeError('a cluster has nodes');
      return node;
    },
    watch: (connection) => {
      const node = watched.find(
        (one) => one.node.host === connection.config?.host && one.node.port === connection.config.port,
      );
      if (!node) return;
      node.connections.add(connection);
      connection.stream?.once('close', () => node.connections.delete(connection));
    },
    end: () => {
      for (const one of watched) one.end();
    },
  };
}

interface WatchedNode {
  readonly node: ClusterNode;
  readonly isReady: () => boolean;
  /** Once it has been asked for the first time: whether it is ready. */
  readonly known: Promise<boolean>;
  readonly connections: Set<RawConnection>;
  readonly end: () => void;
}

function watchedNode(node: ClusterNode, address: DatabaseAddress): WatchedNode {
  const connections = new Set<RawConnection>();
  let isReady = false;
  let own: Connection | undefined;
  let timer: NodeJS.Timeout | undefined;
  let hasEnded = false;
  let tellKnown: (isReady: boolean) => void;
  const known = new Promise<boolean>((done) => (tellKnown = done));
  const look = async () => {
    const was = isReady;
    own ??= connected(node, address, () => (own = undefined));
    isReady = await answersReady(own);
    if (!isReady) {
      own?.destroy();
      own = undefined;
      if (was) breakOff(connections);
    }
    tellKnown(isReady);
    if (!hasEnded) timer = setTimeout(() => void look(), ASKED_EVERY).unref();
  };
  void look();
  return {
    node,
    isReady: () => isReady,
    known,
    connections,
    end: () => {
      hasEnded = true;
      clearTimeout(timer);
      own?.destroy();
    },
  };
}

function connected(node: ClusterNode, { user, password, database }: DatabaseAddress, onError: () => void): Connection {
  const connection = createConnection({ ...node, user, password, database, connectTimeout: ANSWERS_WITHIN });
  connection.on('error', onError);
  return connection;
}

/**
 * Whether a node takes statements: one of the majority (`wsrep_ready`), and up to date or giving what it has to another
 * (states 4 and 2). Source: Galera's documentation of its status variables.
 */
function answersReady(connection: Connection): Promise<boolean> {
  return new Promise((done) => {
    const late = setTimeout(() => done(false), ANSWERS_WITHIN);
    connection.query(
      "SHOW GLOBAL STATUS WHERE Variable_name IN ('wsrep_ready', 'wsrep_local_state')",
      (error: Error | null, rows: unknown) => {
        clearTimeout(late);
        if (error) return done(false);
        const said = new Map(
          (rows as { readonly Variable_name: string; readonly Value: string }[]).map((row) => [
            row.Variable_name,
            row.Value,
          ]),
        );
        done(said.get('wsrep_ready') === 'ON' && ['2', '4'].includes(said.get('wsrep_local_state') ?? ''));
      },
    );
  });
}

/** What they wait for fails at once, as when the node had gone. */
function breakOff(connections: Set<RawConnection>): void {
  for (const { stream } of connections) stream?.destroy();
  connections.clear();
}
