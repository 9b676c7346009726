import { accounts } from '../../../server/database';
import { handle } from '../../../server/http';
import { artifactCache } from '../../../server/artifactCache';
import { poolState } from '../../../server/pool/pool';

export const dynamic = 'force-dynamic';

/** Readiness: the database answers too. Tells how much work is under way. */
export function GET(): Promise<Response> {
  return handle(async () =>
    Response.json({
      ok: await accounts().isReachable(),
      work: { ...poolState(), making: artifactCache().underWay },
    }),
  );
}
