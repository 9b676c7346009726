/** How often something is asked for where the server is busy, and the longest pause in between, in milliseconds. */
const MAX_TRIES = 8;
const MAX_PAUSE = 10_000;

/**
 * Asks as `fetch` does, and again by itself where the server says that it is busy and when to come again (503 with
 * `retry-after`). What changes something is only sent again where that cannot do it twice: by its method, or because
 * the server says that nothing was done.
 * @param tries how often at the most; 1 for callers that try again in their own time
 */
export async function patientFetch(path: string, init: RequestInit = {}, tries = MAX_TRIES): Promise<Response> {
  for (let round = 1; ; round += 1) {
    const response = await fetch(path, init);
    const seconds = Number(response.headers.get('retry-after') ?? Number.NaN);
    if (response.status !== 503 || !(seconds >= 0) || round >= tries) return response;
    if (!mayRepeat(init.method ?? 'GET') && !(await isUntouched(response))) return response;
    // Not all of those who were turned away at once should come back at once.
    await pause(Math.min(MAX_PAUSE, 1_000 * seconds * (1 + Math.random())), init.signal);
  }
}

/** Reading, and saving on top of a version, do no more when they are done twice. */
const mayRepeat = (method: string) => method === 'GET' || method === 'PUT';

async function isUntouched(response: Response): Promise<boolean> {
  const answer: unknown = await response
    .clone()
    .json()
    .catch(() => undefined);
  return typeof answer === 'object' && answer !== null && 'isUntouched' in answer && answer.isUntouched === true;
}

function pause(milliseconds: number, signal: AbortSignal | null | undefined): Promise<void> {
  return new Promise((done) => {
    const timer = setTimeout(done, milliseconds);
    signal?.addEventListener('abort', () => (clearTimeout(timer), done()), { once: true });
  });
}
