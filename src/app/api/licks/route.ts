import { currentStudio } from '../../../server/database';
import { answer } from '../../../server/http';
import { listLicks } from '../../../server/tunes';

/** The licks of the shelf with their music, by title. */
export function GET(): Promise<Response> {
  return answer(async () => Response.json({ licks: await listLicks(currentStudio()) }));
}
