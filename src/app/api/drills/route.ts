import { currentStudio } from '../../../server/database';
import { handle } from '../../../server/http';
import { listDrills } from '../../../server/tunes';

/** The drills on the shelf, by title. */
export function GET(): Promise<Response> {
  return handle(async () => Response.json({ drills: await listDrills(currentStudio()) }));
}
