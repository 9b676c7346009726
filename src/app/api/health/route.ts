import { isReachable } from '../../../db/studioRepository';
import { currentStudio } from '../../../server/database';
import { answer } from '../../../server/http';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return answer(async () => Response.json({ ok: await isReachable(currentStudio()) }));
}
