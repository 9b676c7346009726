export const dynamic = 'force-dynamic';

/** Liveness: the process answers. It asks nothing of anybody else, so that a database that is away never makes it look dead. */
export function GET(): Response {
  return Response.json({ ok: true });
}
