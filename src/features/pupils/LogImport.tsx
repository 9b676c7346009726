'use client';

import { useRef } from 'react';
import { z } from 'zod';
import { logFromCsv, MAX_SENT_ENTRIES, pinsFromCsv, type SentEntry } from '../../core/formats';
import { type LogEntry, PUPIL_LIMITS } from '../../core/planning';
import { Button } from '../../ui/Button';
import { useToast } from '../../ui/Toast';
import { send } from '../work/send';
import type { PupilOnScreen } from './usePupil';

const MAX_BYTES = 8 * 1_048_576;
const answerSchema = z.object({ added: z.int() });

/**
 * Adds a log from a table. Each row's id is worked out of what it says, so that the same table brought in twice counts
 * once.
 */
export function LogImport({ screen, onDone }: { readonly screen: PupilOnScreen; readonly onDone: () => void }) {
  const file = useRef<HTMLInputElement>(null);
  const planFile = useRef<HTMLInputElement>(null);
  const tell = useToast();
  const take = async (chosen: File) => {
    if (chosen.size > MAX_BYTES) return tell('The file is larger than 8 MB: bring it in in parts.');
    const read = logFromCsv(await chosen.text());
    if (!read.ok) return tell(`Nothing was added. ${read.problem.slice(0, 3).join('; ')}.`);
    const known = new Set(screen.pupil.work.map(({ id }) => id));
    const wrong = read.value.find(({ work }) => !known.has(work));
    if (wrong)
      return tell(
        `Nothing was added: "${wrong.work}" is no work of this pupil. The column holds the ids of the exported log.`,
      );
    const entries = await Promise.all(read.value.map(withId));
    let added = 0;
    for (let k = 0; k < entries.length; k += MAX_SENT_ENTRIES) {
      const sent = await send(`/api/pupils/${screen.open.id}/log`, answerSchema, {
        method: 'POST',
        json: { entries: entries.slice(k, k + MAX_SENT_ENTRIES) },
      });
      if (!sent.ok) return tell(`${sent.problem.message} ${added} entries were added before that.`);
      added += sent.value.added;
    }
    tell(`${added} ${added === 1 ? 'entry was' : 'entries were'} added; ${entries.length - added} were there already.`);
    return onDone();
  };
  // A table of a plan says what stands on its days from today on; the days that it does not name are left to the plan.
  const takePlan = async (chosen: File) => {
    if (chosen.size > MAX_BYTES) return tell('The file is larger than 8 MB: it is no plan of a term.');
    const read = pinsFromCsv(await chosen.text());
    if (!read.ok) return tell(`Nothing was changed. ${read.problem.slice(0, 3).join('; ')}.`);
    const { today, update, pupil } = screen;
    const known = new Set(pupil.work.map(({ id }) => id));
    const pins = read.value.filter(({ date, work }) => date >= today && known.has(work));
    const others = read.value.length - pins.length;
    if (pins.length === 0)
      return tell('Nothing was changed: no row of the table is of today or later and of this pupil’s work.');
    if (pins.length > PUPIL_LIMITS.pins)
      return tell(
        `Nothing was changed: the table has ${pins.length} rows from today on; ${PUPIL_LIMITS.pins} can be set.`,
      );
    const dates = new Set(pins.map(({ date }) => date));
    update('days of a table', (now) => ({
      ...now,
      pins: [...now.pins.filter(({ date }) => !dates.has(date)), ...pins].slice(-PUPIL_LIMITS.pins),
    }));
    return tell(
      `${pins.length} ${pins.length === 1 ? 'item was' : 'items were'} set on ${dates.size} ${dates.size === 1 ? 'day' : 'days'}${others > 0 ? `; ${others} rows of other days or work were passed over` : ''}.`,
    );
  };
  return (
    <>
      <Button className="mr-1.5" onClick={() => planFile.current?.click()}>
        Set days from a plan’s CSV
      </Button>
      <input
        ref={planFile}
        type="file"
        accept=".csv,text/csv"
        className="sr-only"
        tabIndex={-1}
        aria-label="CSV file of a plan"
        onChange={({ target }) => {
          const [one] = target.files ?? [];
          if (one) void takePlan(one);
          target.value = '';
        }}
      />
      <Button onClick={() => file.current?.click()}>Add a log from CSV</Button>
      <input
        ref={file}
        type="file"
        accept=".csv,text/csv"
        className="sr-only"
        tabIndex={-1}
        aria-label="CSV file of a log"
        onChange={({ target }) => {
          const [one] = target.files ?? [];
          if (one) void take(one);
          target.value = '';
        }}
      />
    </>
  );
}

/** Two rows that say the same are told apart by their place. */
async function withId(entry: LogEntry, place: number): Promise<SentEntry> {
  const text = new TextEncoder().encode(JSON.stringify([place, entry]));
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', text));
  return { ...entry, id: [...hash.slice(0, 16)].map((byte) => byte.toString(16).padStart(2, '0')).join('') };
}
