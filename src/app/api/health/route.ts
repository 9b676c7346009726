import { isReachable } from '../../../db/studioRepository';
import { FIRST_STUDIO } from '../../../server/accounts/asking';
import { programStudio } from '../../../server/database';
import { handle } from '../../../server/http';
import { artifactCache } from '../../../server/artifactCache';
import { poolState } from '../../../server/pool/pool';

export const dynamic = 'force-dynamic';

/** Readiness: the database answers too. Tells how much work is under way. */
export function GET(): Promise<Response> {
  return handle(async () =>
    Response.json({
      ok: await isReachable(programStudio(FIRST_STUDIO)),
      work: { ...poolState(), making: artifactCache().underWay },
    }),
  );
}
