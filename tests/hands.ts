import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readAbc, writeAbc } from '../src/core/formats';
import { type Instrument, instrumentById, type Level, LEVELS } from '../src/core/instruments';
import { pageRequest, partFor } from '../src/core/levels';
import type { Tune } from '../src/core/score';

const FOLDER = join('tests', 'hands');

/** A tune of ours that was arranged at three levels by hand, for one instrument. All in concert pitch. */
export interface Hand {
  readonly name: string;
  readonly instrument: Instrument;
  readonly tune: Tune;
  readonly levels: Readonly<Record<Level, Tune>>;
  readonly text: (tune: Tune) => string;
}

export function handNames(): readonly string[] {
  return readdirSync(FOLDER).map((file) => file.replace('.abc', ''));
}

/** @throws where the file cannot be read */
export function handOf(name: string): Hand {
  const text = readFileSync(join(FOLDER, `${name}.abc`), 'utf8');
  const [tune, ...byHand] = text
    .split(/^(?=X:)/m)
    .filter((one) => one.startsWith('X:'))
    .map(tuneFrom);
  const id = /%%instrument (\S+)/.exec(text)?.[1] ?? '';
  const instrument = instrumentById(id);
  if (!tune || !instrument || byHand.length !== LEVELS.length) throw new Error(`${name}: no three levels for ${id}`);
  const levels = Object.fromEntries(LEVELS.map((level, k) => [level, byHand[k]])) as Readonly<Record<Level, Tune>>;
  return { name, instrument, tune, levels, text: (one) => writeAbc(one).text.replace(/^(?:X|T|M|L):.*\n/gm, '') };
}

function tuneFrom(abc: string): Tune {
  const read = readAbc(abc);
  if (!read.ok) throw new Error(`${JSON.stringify(read.problem)}\n${abc}`);
  return read.value.tune;
}

/** What the program makes of the same tune, as it sounds but with all that is printed. */
export function programsPart({ tune, instrument }: Hand, level: Level): Tune {
  const { value } = partFor(tune, { level, instrument, page: pageRequest({}, instrument, level) });
  const sounding = new Map(
    value.soundingBars.flatMap(({ events }) => events.map((event) => [event.id, event] as const)),
  );
  return {
    ...tune,
    tempo: value.tempo,
    bars: value.bars.map((bar, k) => ({
      ...bar,
      chords: tune.bars[k]?.chords ?? [],
      counts: undefined,
      events: bar.events.map((event) => {
        const heard = sounding.get(event.id);
        return event.kind === 'note' && heard?.kind === 'note'
          ? { ...event, pitch: heard.pitch, ...(heard.graces && { graces: heard.graces }) }
          : event;
      }),
    })),
  };
}
