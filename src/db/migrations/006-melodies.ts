import type { Knex } from 'knex';

const LETTERS: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
const BATCH = 200;

/**
 * Which of the twelve notes a tune's melody uses, as bits, so that the tunes that a set opens are found without reading
 * them.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE tunes ADD COLUMN IF NOT EXISTS melody_bits SMALLINT UNSIGNED');
  for (;;) {
    const rows = (await knex('tunes')
      .whereNull('melody_bits')
      .limit(BATCH)
      .select('studio_id', 'tune_id', 'document')) as { studio_id: string; tune_id: string; document: string }[];
    for (const { studio_id, tune_id, document } of rows)
      await knex('tunes')
        .where({ studio_id, tune_id })
        .update({ melody_bits: bitsOf(document) });
    if (rows.length < BATCH) return;
  }
}

/** As documents were when this was written: bars of events, notes with a pitch. Anything else counts as no notes. */
function bitsOf(document: string): number {
  let bits = 0;
  const look = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    if ('step' in value && 'alter' in value && 'octave' in value) {
      const step = LETTERS[String(value.step)];
      if (step !== undefined) bits |= 1 << ((((step + Number(value.alter)) % 12) + 12) % 12);
      return;
    }
    for (const [name, inner] of Object.entries(value)) if (name !== 'graces' && name !== 'second') look(inner);
  };
  try {
    const tune = JSON.parse(document) as { bars?: readonly { events?: unknown }[] };
    for (const bar of tune.bars ?? []) look(bar.events);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
  }
  return bits;
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE tunes DROP COLUMN IF EXISTS melody_bits');
}
