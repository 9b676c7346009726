import { z } from 'zod';
import { textSchema } from '../../../core/work/stored';
import { forgetPlayerName } from '../../../db/binRepository';
import { checked } from '../../../server/checked';
import { currentStudio } from '../../../server/database';
import { forgetWhatWasMade } from '../../../server/forgetting';
import { handle, limitedJson, problemResponse } from '../../../server/http';

const nameSchema = z.strictObject({ name: textSchema(200).trim().min(1) });

/** Deletes a pupil's name everywhere at once: in groups, removed ones too, and in parts that were made with it. */
export function DELETE(request: Request): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, 4 * 1024);
    if (!body.ok) return body.problem;
    const read = checked(nameSchema, body.value);
    if (!read.ok) return problemResponse(422, ...read.problem);
    const players = await forgetPlayerName(currentStudio(), read.value.name, new Date());
    await forgetWhatWasMade(new Date());
    return players > 0
      ? Response.json({ players })
      : problemResponse(404, 'No player has this name. It is looked for as a whole, small or capital letters alike.');
  });
}
