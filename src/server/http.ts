import { failure, type Result } from '../core/result';
import { joinBytes } from '../core/joinBytes';
import { databaseTrouble } from '../db/trouble';
import { log } from './log';
import { artifactCache } from './artifactCache';
import { faultOf } from './fault';
import { MOST_FOR_STUDIO } from './pool/pool';
import { isBusy, jobFailureOf, JobError } from './pool/workerPool';
import { isQuotaReached } from './quota';
import { parseJson } from '../core/formats';

/** What every refusal of the API says. */
interface Refusal {
  readonly messages: readonly string[];
}

export function problemResponse(status: number, ...messages: readonly string[]): Response {
  return Response.json({ messages } satisfies Refusal, { status });
}

/** Answers a stale save with what is there, so that a person can choose. */
export function stale(message: string, current: object): Response {
  return Response.json({ messages: [message], ...current }, { status: 409 });
}

/** Seconds after which a caller may come again. */
const RETRY_AFTER = '2';

/**
 * Says what is wrong and when to come again. Whether that happens by itself is for the caller to say: not every one
 * does.
 * @param isUntouched nothing was done of what was asked, so that it can be sent again whatever it is
 */
function comeAgain(message: string, isUntouched: boolean): Response {
  return Response.json({ messages: [message], isUntouched } satisfies Refusal & { readonly isUntouched: boolean }, {
    status: 503,
    headers: { 'retry-after': RETRY_AFTER },
  });
}

/**
 * Runs a use case. What is no fault of the request is told apart: a database that is away (503, tried again), one that
 * refuses the data (422) or has no room (507), a pool that is full (503), work that took too long (503), and a fault of
 * ours (500, logged).
 */
export async function handle(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    const job = jobFailureOf(error);
    if (job === 'cancelled') return new Response(null, { status: 499 });
    if (job === 'studio busy')
      return comeAgain(`${MOST_FOR_STUDIO} files are being made for your studio already: no more at once.`, true);
    if (job === 'busy') return comeAgain('The server is busy.', true);
    if (job === 'too long')
      return problemResponse(422, 'This took too long and was stopped. Try a shorter tune or file.');
    if (isQuotaReached(error)) return problemResponse(422, error.message);
    const trouble = databaseTrouble(error);
    if (trouble === 'gone') return comeAgain('The database does not answer.', false);
    if (trouble === 'full')
      return problemResponse(
        507,
        'The disk of the program’s computer is full: nothing can be saved until there is room. Your work is kept on this page.',
      );
    const id = crypto.randomUUID().slice(0, 8);
    log.error({ fault: id, ...faultOf(error) }, 'a fault');
    if (trouble === 'refused')
      return problemResponse(
        422,
        `The database does not take this as it is (fault ${id} in the log). Your work is kept on this page.`,
      );
    return problemResponse(
      500,
      `Something went wrong here (fault ${id} in the log). Your work is kept on this page; please try again.`,
    );
  }
}

/** Bytes of bodies that are on their way in or being read: files that are brought in leave a part of it to saves. */
const MAX_ON_THE_WAY = { saves: 128 * 1_048_576, files: 64 * 1_048_576 } as const;
let onTheWay = 0;

/**
 * Reads a body of limited size and uses it; `undefined` when it is larger, and reading stops there.
 * @param most bytes
 * @param kind bodies that are sent or used at once are bounded together; a save finds room where a file has to come
 *   again
 * @throws JobError `busy` where others take as much as can be held
 */
export async function withBody<Value>(
  request: Request,
  most: number,
  kind: keyof typeof MAX_ON_THE_WAY,
  read: (bytes: Uint8Array) => Value | Promise<Value>,
): Promise<Value | undefined> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return undefined;
  const reader = request.body?.getReader();
  if (!reader) return read(new Uint8Array());
  const chunks: Uint8Array[] = [];
  let size = 0;
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) break;
      size += value.length;
      onTheWay += value.length;
      const isBusy = onTheWay > MAX_ON_THE_WAY[kind];
      if (size > most || isBusy) {
        await reader.cancel();
        if (isBusy) throw new JobError('a request', 'busy');
        return undefined;
      }
      chunks.push(value);
    }
    return await read(joinBytes(chunks));
  } finally {
    onTheWay -= size;
  }
}

/** A size as people say it: 1 kB is 1,024 bytes here, as in the limits. */
export function sizeText(bytes: number): string {
  if (bytes < 1_024) return `${bytes} bytes`;
  const [amount, unit] = bytes < 1_048_576 ? [bytes / 1_024, 'kB'] : [bytes / 1_048_576, 'MB'];
  return `${amount < 10 ? Math.round(amount * 10) / 10 : Math.round(amount)} ${unit}`;
}

export function tooLarge(most: number): Response {
  return problemResponse(413, `The request is larger than ${sizeText(most)}, the most that is read here.`);
}

/** JSON of limited size, or a message of what is wrong with it. For small bodies: large ones are read on a worker. */
export async function limitedJson(request: Request, most: number): Promise<Result<unknown, Response>> {
  const parsed = await withBody(request, most, 'saves', (bytes) => parseJson(new TextDecoder().decode(bytes)));
  if (!parsed) return failure(tooLarge(most));
  return parsed.ok ? parsed : failure(problemResponse(400, `The request is not JSON: ${parsed.problem}`));
}

/** For a tab that was opened on a file: the browser comes again by itself. */
function waitingPage(): Response {
  const page =
    '<!doctype html><html lang="en"><meta charset="utf-8"><title>One moment</title>' +
    '<p>The server is busy with other files. This page tries again by itself …</p></html>';
  return new Response(page, {
    status: 503,
    headers: { 'content-type': 'text/html; charset=utf-8', 'retry-after': RETRY_AFTER, refresh: RETRY_AFTER },
  });
}

/** A file that is made once and kept. */
export interface CachedFile {
  /** What it is made of; see `contentKey`. */
  readonly key: string;
  readonly type: string;
  readonly disposition: 'inline' | 'attachment';
  /** Of letters, digits, dots and dashes. */
  readonly name: string;
  /** The bytes; `undefined` where there is no such file. */
  readonly make: (signal: AbortSignal) => Promise<Uint8Array | undefined>;
}

/** Sends a file, or says that the one the browser has is still right; `undefined` where there is none. */
export async function sendMade(request: Request, file: CachedFile): Promise<Response | undefined> {
  const tag = `"${file.key}"`;
  const headers = { etag: tag, 'cache-control': 'private, no-cache' };
  if (request.headers.get('if-none-match')?.includes(tag)) return new Response(null, { status: 304, headers });
  let data: Uint8Array | undefined;
  try {
    data = await artifactCache().get(file.key, file.make, request.signal);
  } catch (error) {
    if (isBusy(error) && request.headers.get('sec-fetch-mode') === 'navigate') return waitingPage();
    throw error;
  }
  return (
    data &&
    new Response(data as BodyInit, {
      headers: {
        ...headers,
        'content-type': file.type,
        'content-disposition': `${file.disposition}; filename="${file.name}"`,
      },
    })
  );
}

/**
 * Sends a sound, whole or the stretch of it that is asked for: players on telephones ask for stretches, and play nothing
 * where they are not understood (RFC 9110, section 14).
 */
export function sendSound(request: Request, data: Uint8Array, name: string): Response {
  const headers = new Headers({
    'content-type': 'audio/mpeg',
    'accept-ranges': 'bytes',
    'cache-control': 'no-store',
    'content-disposition': `inline; filename="${name}"`,
  });
  const [, first = '', last = ''] = /^bytes=(\d{0,12})-(\d{0,12})$/.exec(request.headers.get('range') ?? '') ?? [];
  if (first === '' && last === '') return new Response(data as BodyInit, { headers });
  const from = first === '' ? Math.max(0, data.length - Number(last)) : Number(first);
  const to = first === '' || last === '' ? data.length - 1 : Math.min(Number(last), data.length - 1);
  if (from > to) {
    headers.set('content-range', `bytes */${data.length}`);
    return new Response(null, { status: 416, headers });
  }
  headers.set('content-range', `bytes ${from}-${to}/${data.length}`);
  return new Response(data.slice(from, to + 1) as BodyInit, { status: 206, headers });
}
