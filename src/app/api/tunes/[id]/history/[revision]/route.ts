import { z } from 'zod';
import { storedWork, textSchema } from '../../../../../../core/work/stored';
import { checked } from '../../../../../../server/checked';
import { currentStudio } from '../../../../../../server/database';
import { handle, limitedJson, problemResponse } from '../../../../../../server/http';
import { callRevision, readStored, revisionNumber, storedRevision } from '../../../../../../server/tunes';

interface Context {
  readonly params: Promise<{ readonly id: string; readonly revision: string }>;
}

const NOT_FOUND = 'This version was not found: with time, versions that nobody named are let go.';
const nameSchema = z.strictObject({ name: textSchema(200).trim() });

/** A version of a tune with its levels. */
export function GET(_: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const { id, revision } = await params;
    const stored = await storedRevision(currentStudio(), id, revisionNumber(revision));
    if (!stored) return problemResponse(404, NOT_FOUND);
    return Response.json({ work: storedWork(await readStored(stored, `version ${revision}`)) });
  });
}

/** Names a version, which keeps it for good; an empty name takes the name away. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const body = await limitedJson(request, 4 * 1024);
    if (!body.ok) return body.problem;
    const read = checked(nameSchema, body.value);
    if (!read.ok) return problemResponse(422, ...read.problem);
    const { id, revision } = await params;
    return (await callRevision(currentStudio(), id, revisionNumber(revision), read.value.name))
      ? Response.json({ ok: true })
      : problemResponse(404, NOT_FOUND);
  });
}
