import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parts } from '../src/cli/parts';
import { readAbc, writeMusicXml } from '../src/core/formats';
import { LEVELS } from '../src/core/instruments';
import { chanceFrom } from '../src/core/chance';
import { formedPartOfLevel } from '../src/core/levels';
import { DEMO_TUNES } from '../src/demo/studio';
import { partScore } from '../src/engrave/staves';
import { checkStoredTexts } from '../src/server/workSchema';

/**
 * `npm run hashes [-- --write]`: what every pupil would be handed, as hashes, so that a change of structure can be
 * shown to have changed nothing. `reed parts` over the demo tunes, ten instruments and three levels; then the demo
 * tunes by several hundred recipes as they were stored first, so that the upgrade of stored recipes is held to the
 * same. Compared with `partHashes.json`.
 */
const INSTRUMENTS = [
  'flute',
  'oboe',
  'clarinet-bb',
  'alto-sax',
  'trumpet-bb',
  'trombone',
  'violin',
  'cello',
  'guitar',
  'recorder-descant',
];
const RECIPES_A_TUNE = 60;
const reference = join(import.meta.dirname, 'partHashes.json');

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex').slice(0, 16);

async function ofCommand(): Promise<Record<string, string>> {
  const folder = mkdtempSync(join(tmpdir(), 'reed-hashes-'));
  const hashes: Record<string, string> = {};
  try {
    for (const { slug, abc } of DEMO_TUNES) {
      const file = join(folder, `${slug}.abc`);
      writeFileSync(file, abc);
      const told = (await parts([
        file,
        '--for',
        INSTRUMENTS.join(','),
        '--level',
        'all',
        '--out',
        folder,
      ])) as readonly { readonly file: string; readonly changes: readonly { readonly bar: number }[] }[];
      // The words for a change may be put better; which bars were changed may not move.
      for (const { file: made, changes, ...rest } of told)
        hashes[`reed parts ${made.slice(folder.length + 1)}`] = hashOf(
          readFileSync(made, 'utf8') + JSON.stringify({ ...rest, bars: changes.map(({ bar }) => bar) }),
        );
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  return hashes;
}

/** Recipes in the form in which they were stored first: one flat record. */
function firstRecipe(chance: () => number, barIds: readonly string[]): Record<string, unknown> {
  const one = <Value>(values: readonly Value[]): Value => values[Math.floor(chance() * values.length)] as Value;
  const maybe = (name: string, value: () => unknown): Record<string, unknown> =>
    chance() < 0.35 ? { [name]: value() } : {};
  const choice = () =>
    one<unknown>([
      { kind: 'as-written' },
      { kind: 'thinner' },
      { kind: 'thinner-still' },
      { kind: 'octave-up' },
      { kind: 'dressed', seed: 3 },
      { kind: 'optional' },
      { kind: 'rest' },
    ]);
  const bars = () => Object.fromEntries([one(barIds), one(barIds)].map((id) => [id, choice()]));
  return {
    instrument: one(INSTRUMENTS),
    ...maybe('perMinute', () => one([52, 80, 132])),
    ...maybe('marks', () => one(['all', 'change', 'none'])),
    ...maybe('school', () => one(['open', 'fourth', 'stay', 'lowest'])),
    ...maybe('melody', () => one(['thinned', 'as written', 'dressed'])),
    ...maybe('form', () => one(['once', 'twice', 'solo', 'second'])),
    ...maybe('shortest', () => one(['half', 'quarter', 'eighth', '16th'])),
    ...maybe('syncopation', () => chance() < 0.5),
    ...maybe('ties', () => chance() < 0.5),
    ...maybe('dotted', () => chance() < 0.5),
    ...maybe('leap', () => one([2, 4, 7])),
    ...maybe('range', () => ({ high: { step: 'A', alter: 0, octave: 5 } })),
    ...maybe('known', () => ['D', 'E', 'F', 'G', 'A', 'B'].map((step) => ({ step, alter: 0, octave: 4 }))),
    ...maybe('manner', () => one(['as-written', 'tongued', 'smooth', 'crisp', 'swung', 'lilting'])),
    ...maybe('swing', () => one<unknown>(['straight', { unit: 'eighth', ratio: 2 }])),
    ...maybe('density', () => one([0, 15, 40, 80])),
    ...maybe('devices', () =>
      one([
        ['passing', 'fill'],
        ['neighbour', 'turn', 'grace'],
        ['enclosure', 'anticipation', 'double-time'],
      ]),
    ),
    ...maybe('seed', () => Math.floor(chance() * 50)),
    ...maybe('aids', () =>
      one<unknown>([
        { names: 'stays' },
        { degrees: 'first-time', counts: 'stays' },
        { syllables: 'first-half', breaths: 'stays', bowing: 'stays' },
      ]),
    ),
    ...maybe('syllables', () => one(['counting', 'ta', 'sung'])),
    ...maybe('bars', bars),
    ...maybe('alternates', bars),
    ...maybe('alternatesAs', () => one(['over', 'second-time'])),
    ...maybe('leaveOut', () => one(['bracket', 'rests'])),
  };
}

function ofRecipes(): { readonly hashes: Record<string, string>; readonly refused: number } {
  const hashes: Record<string, string> = {};
  let refused = 0;
  for (const { slug, abc } of DEMO_TUNES) {
    const read = readAbc(abc);
    if (!read.ok) throw new Error(`demo tune ${slug} cannot be read`);
    const chance = chanceFrom(slug);
    for (let k = 0; k < RECIPES_A_TUNE; k += 1) {
      const level = LEVELS[k % LEVELS.length] ?? 'beginner';
      const checked = checkStoredTexts({
        tune: JSON.stringify(read.value.tune),
        recipes: {
          [level]: JSON.stringify(
            firstRecipe(
              chance,
              read.value.tune.bars.map(({ id }) => id),
            ),
          ),
        },
      });
      if (!checked.ok) {
        refused += 1;
        process.stderr.write(`${slug} ${k}: ${checked.problem.join('; ')}\n`);
        continue;
      }
      const { part } = formedPartOfLevel(checked.value.tune, level, checked.value.recipes);
      const told = {
        key: part.writtenKey,
        tempo: part.tempo,
        fidelity: part.fidelity,
        difficulty: part.difficulty,
        outside: part.outside.length,
        swing: part.swing,
        marks: part.fingered ? [...part.fingered.marks.values()] : [],
      };
      hashes[`recipe ${slug} ${k} ${level}`] = hashOf(
        writeMusicXml(partScore(part, read.value.tune.rights)) + JSON.stringify(told),
      );
    }
  }
  return { hashes, refused };
}

const { hashes: byRecipe, refused } = ofRecipes();
const made = { ...(await ofCommand()), ...byRecipe };
if (process.argv.includes('--write')) {
  writeFileSync(reference, `${JSON.stringify(made, undefined, 1)}\n`);
  process.stdout.write(`${Object.keys(made).length} hashes written\n`);
} else {
  const before = JSON.parse(readFileSync(reference, 'utf8')) as Record<string, string>;
  const changed = [...new Set([...Object.keys(before), ...Object.keys(made)])].filter(
    (name) => before[name] !== made[name],
  );
  for (const name of changed.slice(0, 20)) process.stdout.write(`changed: ${name}\n`);
  process.stdout.write(`${Object.keys(made).length} parts, ${changed.length} changed, ${refused} recipes refused\n`);
  process.exitCode = changed.length === 0 && refused === 0 ? 0 : 1;
}
