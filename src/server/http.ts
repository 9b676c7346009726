import { failure, success, type Result } from '../core/result';
import { databaseTrouble } from './database';
import { log } from './log';
import { made } from './made';
import { jobTroubleOf } from './pool/workerPool';

/** What every refusal of the API says. */
export interface Refusal {
  readonly messages: readonly string[];
}

export function refuse(status: number, ...messages: readonly string[]): Response {
  return Response.json({ messages } satisfies Refusal, { status });
}

/** Answers a stale save with what is there, so that a person can choose. */
export function stale(message: string, current: object): Response {
  return Response.json({ messages: [message], ...current }, { status: 409 });
}

/** Seconds after which a caller may come again. */
const RETRY_AFTER = '2';

function comeAgain(message: string): Response {
  return Response.json({ messages: [message] } satisfies Refusal, {
    status: 503,
    headers: { 'retry-after': RETRY_AFTER },
  });
}

/**
 * Runs a use case. What is no fault of the request is told apart: a database that is away (503, tried again), one that refuses the
 * data (422) or has no room (507), a pool that is full (503), work that took too long (503), and a fault of ours (500, logged).
 */
export async function answer(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    const job = jobTroubleOf(error);
    if (job === 'cancelled') return new Response(null, { status: 499 });
    if (job === 'busy') return comeAgain('Much is being made just now. It is tried again in a moment.');
    if (job === 'too long')
      return refuse(422, 'This takes longer than it may, and was ended. A shorter tune or file works.');
    const trouble = databaseTrouble(error);
    if (trouble === 'gone') return comeAgain('The database does not answer. Nothing is lost; it is tried again.');
    if (trouble === 'full')
      return refuse(
        507,
        'The disk of the program’s computer is full: nothing can be saved until there is room. Your work is kept on this page.',
      );
    const id = crypto.randomUUID().slice(0, 8);
    log.error({ fault: id, error: error instanceof Error ? (error.stack ?? error.message) : String(error) }, 'a fault');
    if (trouble === 'refused')
      return refuse(
        422,
        `The database does not take this as it is (fault ${id} in the log). Your work is kept on this page.`,
      );
    return refuse(
      500,
      `Something went wrong here (fault ${id} in the log). Your work is kept on this page; please try again.`,
    );
  }
}

/** Reads a body of limited size; `undefined` when it is larger. It stops reading there. */
export async function limitedBody(request: Request, most: number): Promise<Uint8Array | undefined> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return undefined;
  const reader = request.body?.getReader();
  if (!reader) return new Uint8Array();
  const chunks: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.length;
    if (size > most) {
      await reader.cancel();
      return undefined;
    }
    chunks.push(value);
  }
  const whole = new Uint8Array(size);
  chunks.reduce((at, chunk) => {
    whole.set(chunk, at);
    return at + chunk.length;
  }, 0);
  return whole;
}

/** A size as people say it: 1 kB is 1,024 bytes here, as in the limits. */
export function sizeText(bytes: number): string {
  if (bytes < 1_024) return `${bytes} bytes`;
  const [amount, unit] = bytes < 1_048_576 ? [bytes / 1_024, 'kB'] : [bytes / 1_048_576, 'MB'];
  return `${amount < 10 ? Math.round(amount * 10) / 10 : Math.round(amount)} ${unit}`;
}

export function tooLarge(most: number): Response {
  return refuse(413, `The request is larger than ${sizeText(most)}, the most that is read here.`);
}

/** JSON of limited size, or a message of what is wrong with it. For small bodies: large ones are read on a worker. */
export async function limitedJson(request: Request, most: number): Promise<Result<unknown, Response>> {
  const body = await limitedBody(request, most);
  if (!body) return failure(tooLarge(most));
  try {
    return success(JSON.parse(new TextDecoder().decode(body)) as unknown);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return failure(refuse(400, `The request is no JSON: ${error.message.slice(0, 200)}`));
  }
}

/** A file that is made once and kept. */
export interface MadeFile {
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
export async function sendMade(request: Request, file: MadeFile): Promise<Response | undefined> {
  const tag = `"${file.key}"`;
  const headers = { etag: tag, 'cache-control': 'private, no-cache' };
  if (request.headers.get('if-none-match')?.includes(tag)) return new Response(null, { status: 304, headers });
  const data = await made().get(file.key, file.make, request.signal);
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
