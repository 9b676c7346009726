import { currentStudio } from '../../../server/database';
import { handle } from '../../../server/http';
import { listLicks } from '../../../server/tunes';

/** The licks of the shelf with their music, by title. */
export function GET(): Promise<Response> {
  return handle(async () => Response.json({ licks: await listLicks(currentStudio()) }));
}
