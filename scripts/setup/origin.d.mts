import type { IncomingHttpHeaders } from 'node:http';

export interface Listening {
  readonly bind: string;
  readonly proxies: readonly string[];
  readonly origin?: string;
}

export const LOOPBACK: string;

export function listening(env?: Readonly<Record<string, string | undefined>>): Listening;

export function callerOf(
  request: { readonly headers: IncomingHttpHeaders; readonly socket: { readonly remoteAddress?: string } },
  proxies: readonly string[],
): string;

export function forgetForwarded(headers: IncomingHttpHeaders): void;
