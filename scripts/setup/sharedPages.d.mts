import type { IncomingMessage, ServerResponse } from 'node:http';

type Handle = (request: IncomingMessage, response: ServerResponse) => Promise<unknown>;

export function sharedPages(handle: Handle, mark: () => Promise<string>, now?: () => number): Handle;
