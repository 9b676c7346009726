import type { Socket } from 'node:net';

/** As much of a web process as is needed to give it a connection. */
export interface Taking {
  readonly send: (message: 'connection', socket: Socket, done: (error: Error | null) => void) => void;
}

export interface WebFront {
  readonly open: (web: Taking) => void;
  readonly shut: (web: Taking) => void;
  readonly size: number;
  readonly end: () => void;
}

export function webFront(addresses: readonly string[], port: number): Promise<WebFront>;
