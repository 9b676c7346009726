import type { IncomingHttpHeaders, IncomingMessage, ServerResponse } from 'node:http';

export interface Refusal {
  readonly status: number;
  readonly message: string;
}

export function refusal(
  request: { readonly method: string; readonly url?: string; readonly headers: IncomingHttpHeaders },
  origin?: string,
): Refusal | undefined;

export function loggedPath(url?: string): string;

export function putHeaders(
  request: Pick<IncomingMessage, 'url' | 'headers'>,
  response: Pick<ServerResponse, 'setHeader'>,
  isDevelopment: boolean,
  origin?: string,
): void;
