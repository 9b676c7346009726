import { z } from 'zod';
import { fileSlug, packSchema } from '../core/formats';
import type { PackChoice } from '../core/keys';
import { dayNumber } from '../core/planning';
import type { Result } from '../core/result';
import { failure, success } from '../core/result';
import { issueTexts } from './checked';
import { problemResponse } from './http';
import { countPackFiles, makePages, packFiles, packPaper } from './packMaking';
import type { Pack } from './packs';
import { calendarToday } from './pupils';
import { soundBank } from './soundBank';
import { zipStream } from './zipStream';

/** What an address may ask of a pack. */
const PACK_ADDRESSES = ['contents.json', 'making', 'pack.pdf', 'pack.zip'] as const;

const list = z
  .string()
  .max(2_000)
  .optional()
  .transform((text) => (text === undefined || text === '' ? [] : text.split(',')));
const querySchema = z.object({
  sheets: list,
  files: list,
  tunes: list,
  without: list,
  paper: z.string().default('a4'),
  note: z.string().optional(),
});

/** A choice and a date as an address says them. */
function packWish(query: URLSearchParams): Result<{ readonly choice: PackChoice; readonly date: string }, string[]> {
  const date = query.get('date') ?? calendarToday();
  if (dayNumber(date) === undefined)
    return failure([`date "${date.slice(0, 20)}": give a date of the calendar like 2027-03-20.`]);
  const asked = querySchema.safeParse(Object.fromEntries(query));
  if (!asked.success) return failure([...issueTexts(asked.error)]);
  const choice = packSchema.safeParse(asked.data);
  return choice.success ? success({ choice: choice.data, date }) : failure([...issueTexts(choice.error)]);
}

/**
 * `contents.json` (who gets what, before it is made), `making` (makes the pages, a line of JSON after each), `pack.pdf`,
 * `pack.zip` (pages, sounds, MusicXML). All take the choice in their query: `sheets`, `files`, `tunes`, `without` as words
 * with commas between, `paper`, `note`, `date`.
 * @param packOf the pack of a choice; `undefined` where whoever it is for is not there
 */
export async function answerPack(
  request: Request,
  name: string,
  packOf: (choice: PackChoice, date: string) => Promise<Pack | undefined>,
): Promise<Response> {
  const known = PACK_ADDRESSES.find((one) => one === name);
  if (!known) return problemResponse(404, `There is no such file: use ${PACK_ADDRESSES.join(', ')}.`);
  const wish = packWish(new URL(request.url).searchParams);
  if (!wish.ok) return problemResponse(400, ...wish.problem);
  const pack = await packOf(wish.value.choice, wish.value.date);
  if (!pack) return problemResponse(404, 'Whoever this pack is for was not found: they may have been removed.');
  switch (known) {
    case 'contents.json':
      return Response.json(
        { ...contentsOf(pack), hasSounds: (await soundBank()) !== undefined },
        { headers: { 'cache-control': 'no-store' } },
      );
    case 'making':
      return new Response(lines(makePages(pack, request.signal)), {
        headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' },
      });
    case 'pack.pdf':
      return paperResponse(pack, await packPaper(pack, request.signal));
    case 'pack.zip':
      return archiveResponse(pack, request.signal);
  }
}

/** Who gets what, in words. */
function contentsOf(pack: Pack) {
  return {
    recipients: pack.recipients.map(({ id, player, instrument, goals, sheets, files }) => ({
      id,
      name: player.name,
      instrument,
      goals,
      sheets: sheets.map(({ title, words }) => (title === '' ? words : `${title}: ${words}`)),
      files: files.map((file) => file.name),
    })),
    missing: pack.missing,
  };
}

/** The name of a pack's files. */
function slugOf({ title, date }: Pack): string {
  return `${fileSlug(title)}.${date}`;
}

export function paperResponse(pack: Pack, data: Uint8Array | undefined): Response {
  if (!data) return problemResponse(422, 'There is not a page in this pack: choose what goes into it.');
  return new Response(data as BodyInit, {
    headers: {
      'cache-control': 'no-store',
      'content-type': 'application/pdf',
      'content-disposition': `inline; filename="${slugOf(pack)}.pdf"`,
    },
  });
}

export function archiveResponse(pack: Pack, signal: AbortSignal): Response {
  const count = countPackFiles(pack);
  if (count === 0) return problemResponse(422, 'There is nothing in this pack: choose what goes into it.');
  return new Response(zipStream(packFiles(pack, signal), signal), {
    headers: {
      'cache-control': 'no-store',
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="${slugOf(pack)}.zip"`,
      'x-reed-files': String(count),
    },
  });
}

/** Values as lines of JSON, each as soon as it is there. */
function lines(values: AsyncGenerator<object, void>): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await values.next();
      if (next.done) controller.close();
      else controller.enqueue(encoder.encode(`${JSON.stringify(next.value)}\n`));
    },
    async cancel() {
      await values.return(undefined);
    },
  });
}
