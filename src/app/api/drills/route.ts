import { currentStudio } from '../../../server/database';
import { answer } from '../../../server/http';
import { listDrills } from '../../../server/tunes';

/** The drills on the shelf, by title. */
export function GET(): Promise<Response> {
  return answer(async () => Response.json({ drills: await listDrills(currentStudio()) }));
}
