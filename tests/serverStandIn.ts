/** What a screen asked the server for. */
export interface Asked {
  readonly method: string;
  readonly path: string;
  readonly json: unknown;
}

interface Answer {
  readonly status?: number;
  readonly json?: unknown;
}

/**
 * Answers in place of the server for the screens' tests: the first way of which the beginning of `METHOD /path` is
 * known answers; anything else is a failure of the test. `away` lets nothing be reached.
 */
export function serverStandIn(ways: Readonly<Record<string, (asked: Asked) => Answer | 'away'>>): readonly Asked[] {
  const asked: Asked[] = [];
  globalThis.fetch = async (input, init = {}) => {
    const path = String(input);
    const { method = 'GET', body } = init;
    const one: Asked = { method, path, json: typeof body === 'string' ? JSON.parse(body) : body };
    asked.push(one);
    const known = Object.entries(ways).find(([begin]) => `${method} ${path}`.startsWith(begin));
    if (!known) throw new Error(`nobody answers ${method} ${path}`);
    const answer = known[1](one);
    if (answer === 'away') throw new TypeError('fetch failed');
    const { status = 200, json } = answer;
    const text = JSON.stringify(json) ?? '';
    return {
      ok: status < 300,
      status,
      headers: new Headers(),
      json: async () => JSON.parse(text),
      text: async () => text,
    } as Response;
  };
  return asked;
}

/** What the server says when it refuses. */
export const refusal = (status: number, ...messages: readonly string[]): Answer => ({ status, json: { messages } });
