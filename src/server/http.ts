import { failure, success, type Result } from '../core/result';
import { isDatabaseGone } from './database';

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

/** Runs a use case; a database that is away is told apart (503) from a fault of ours (500), which is logged. */
export async function answer(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    if (isDatabaseGone(error)) return refuse(503, 'The database does not answer. Nothing is lost; it is tried again.');
    console.error(error);
    return refuse(500, 'Something went wrong here. Your work is kept on this page; please try again.');
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

function sizeText(bytes: number): string {
  return bytes < 1_048_576 ? `${Math.round(bytes / 1_024)} kB` : `${Math.round(bytes / 1_048_576)} MB`;
}

/** JSON of limited size, or a message of what is wrong with it. */
export async function limitedJson(request: Request, most: number): Promise<Result<unknown, Response>> {
  const body = await limitedBody(request, most);
  if (!body) return failure(refuse(413, `The request is larger than ${sizeText(most)}.`));
  try {
    return success(JSON.parse(new TextDecoder().decode(body)) as unknown);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return failure(refuse(400, `The request is no JSON: ${error.message}`));
  }
}
