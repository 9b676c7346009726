import { isReachable } from '../../../db/studioRepository';
import { currentStudio } from '../../../server/database';
import { answer } from '../../../server/http';
import { made } from '../../../server/made';
import { poolState } from '../../../server/pool/pool';

export const dynamic = 'force-dynamic';

/** Readiness: the database answers too. Tells how much work is under way. */
export function GET(): Promise<Response> {
  return answer(async () =>
    Response.json({ ok: await isReachable(currentStudio()), work: { ...poolState(), making: made().underWay } }),
  );
}
