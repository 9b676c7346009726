import { z } from 'zod';
import { failure, success, type Result } from '../../core/result';
import { patientFetch } from './patientFetch';

/** Why a call to the server came to nothing. */
export interface SendProblem {
  /**
   * `away`: nothing answers, or not for now, and trying again may help; `refused`: it will not be taken as it is;
   * `stale`: somebody else saved meanwhile.
   */
  readonly kind: 'away' | 'refused' | 'stale';
  /** For the person, a whole sentence. */
  readonly message: string;
  /** What the server sent along, not yet checked. */
  readonly answer?: unknown;
}

export interface Sending {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** Sent as JSON. */
  readonly json?: unknown;
  /** Sent as they are. */
  readonly bytes?: Uint8Array<ArrayBuffer>;
  /** How often it is sent where the server is busy; 1 where the caller tries again in its own time. */
  readonly tries?: number;
}

/** For calls whose answer says no more than that it was done. */
export const nothing = z.unknown().transform(() => undefined);

const refusalSchema = z.object({ messages: z.array(z.string()).min(1) });

/** The one way from the screens to the server: a path of ours, and the shape that its answer must have. */
export async function send<Value>(
  path: `/api/${string}` | `/p/${string}`,
  answers: z.ZodType<Value>,
  { method, json, bytes, tries }: Sending,
): Promise<Result<Value, SendProblem>> {
  let response: Response;
  try {
    response = await patientFetch(
      path,
      {
        method,
        headers: {
          ...(json !== undefined && { 'content-type': 'application/json' }),
          ...(bytes && { 'content-type': 'application/octet-stream' }),
          // What is added is added once, however often it is sent until an answer comes.
          ...(method === 'POST' && { 'idempotency-key': crypto.randomUUID() }),
        },
        ...(json !== undefined && { body: JSON.stringify(json) }),
        ...(bytes && { body: bytes }),
      },
      tries,
    );
  } catch (error) {
    // A network that fails is a TypeError; anything else is a defect of ours.
    if (!(error instanceof TypeError)) throw error;
    return failure({ kind: 'away', message: 'The program does not answer.' });
  }
  const answer: unknown = await response.json().catch(() => undefined);
  if (response.ok) {
    const read = answers.safeParse(answer);
    if (read.success) return success(read.data);
    return failure({
      kind: 'refused',
      message: "The server's answer was not understood: please reload the page.",
      answer,
    });
  }
  const refusal = refusalSchema.safeParse(answer);
  const message = refusal.success ? refusal.data.messages.join(' ') : `The server answered ${response.status}.`;
  const kind = response.status === 409 ? 'stale' : response.status >= 500 ? 'away' : 'refused';
  return failure({ kind, message, answer });
}
