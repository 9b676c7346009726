'use client';

import { articleOf } from '../../core/plainText';
import { Columns2, Dices } from 'lucide-react';
import type { Level } from '../../core/instruments';
import {
  ALL_BEAT_RHYTHMS,
  BEAT_RHYTHMS,
  beatKinds,
  DENSITIES,
  type Device,
  DEVICES,
  LEVEL_DEFAULTS,
  MAX_SEED,
  MELODIES,
  type Melody,
  type Recipe,
  rhythmsOfKind,
  rhythmsWithin,
  type Shortest,
} from '../../core/work';
import { isCompound, type Meter } from '../../core/time';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { MultiSelect } from '../../ui/MultiSelect';
import { ALLOWED, withTicks, type SetRecipe } from './setRecipe';

const MELODY_WORDS: Readonly<Record<Melody, string>> = {
  simplified: 'simplified',
  'as written': 'as written',
  embellished: 'embellished',
};

const DEVICE_WORDS: Readonly<Record<Device, string>> = {
  passing: 'passing notes',
  neighbour: 'neighbour notes',
  fill: 'long notes filled',
  'chord-tone': 'other notes of the chord',
  'run-in': 'lead-ins out of rests',
  again: 'repeated notes',
  approach: 'half-step approaches',
  enclosure: 'enclosures',
  anticipation: 'anticipations',
  'double-time': 'double time',
  triplet: 'triplets',
  grace: 'grace notes',
  turn: 'turns, rolls and mordents',
};

/** What a level does to the melody, as sentences whose underlined words are the controls. */
export function MelodyWords({
  recipe,
  level,
  meter,
  onSet,
  onCompare,
}: {
  readonly recipe: Recipe;
  readonly level: Level;
  readonly meter: Meter;
  readonly onSet: SetRecipe;
  readonly onCompare: () => void;
}) {
  const defaults = LEVEL_DEFAULTS[level];
  const melody = recipe.melody ?? defaults.melody;
  const name = LEVEL_NAMES[level];
  const values = DENSITIES.map(({ value, name: words }) => ({ value: String(value), label: words }));
  const { shortest = 'quarter', words } = recipe.rhythm ?? {};
  const seed = recipe.embellish?.seed ?? 0;
  const density = recipe.embellish?.density === undefined ? 'level' : String(recipe.embellish.density);
  return (
    <div className="mt-1 leading-8">
      The melody is{' '}
      <Select<Melody>
        look="word"
        label={`${name}: melody`}
        value={melody}
        options={MELODIES.map((value) => ({ value, label: MELODY_WORDS[value] }))}
        onChange={(value) =>
          onSet(`melody ${MELODY_WORDS[value]}`, { melody: value === defaults.melody ? undefined : value })
        }
      />
      {melody === 'simplified' && (
        <>
          {!words && (
            <>
              , nothing shorter than {articleOf(shortest)}{' '}
              <Select<Shortest>
                look="word"
                label={`${name}: shortest note`}
                value={shortest}
                options={shortestOptions(meter)}
                onChange={(value) =>
                  onSet('shortest note', { rhythm: { shortest: value === 'quarter' ? undefined : value } })
                }
              />
              {(shortest === 'eighth' || shortest === '16th') && (
                <>
                  , and dotted rhythms{' '}
                  <Select
                    look="word"
                    label={`${name}: dotted rhythms`}
                    value={recipe.rhythm?.dotted === false ? 'no' : 'yes'}
                    options={ALLOWED}
                    onChange={(value) =>
                      onSet(`dotted rhythms ${value === 'yes' ? 'allowed' : 'not yet'}`, {
                        rhythm: { dotted: value === 'yes' ? undefined : false },
                      })
                    }
                  />
                </>
              )}
            </>
          )}
          , a beat has <BeatWords recipe={recipe} level={level} meter={meter} onSet={onSet} />. No ornaments
          {words?.some((word) => BEAT_RHYTHMS[word].begins === 'held') ? '' : ' or ties over the beat'} yet.
        </>
      )}
      {melody === 'as written' && '.'}
      {melody === 'embellished' && (
        <>
          {' '}
          <Select
            look="word"
            label={`${name}: how densely`}
            value={density}
            options={[
              { value: 'level', label: 'as the level needs' },
              ...values,
              ...(values.some(({ value }) => value === density) || density === 'level'
                ? []
                : [{ value: density, label: `${density} in a hundred beats` }]),
            ]}
            onChange={(value) =>
              onSet('density', { embellish: { density: value === 'level' ? undefined : Number(value) } })
            }
          />
          , with{' '}
          <MultiSelect
            label={`${name}: ways to embellish`}
            text={waysText(recipe.embellish?.devices ?? defaults.devices)}
            options={DEVICES.map((value) => ({ value, label: DEVICE_WORDS[value] }))}
            chosen={recipe.embellish?.devices ?? defaults.devices}
            least={1}
            onChange={(ticked) =>
              onSet('ways to embellish', ({ embellish }) => {
                const shown = recipe.embellish?.devices ?? defaults.devices;
                const devices = withTicks(embellish?.devices ?? defaults.devices, shown, ticked);
                // Two presses at once must not take the last one away.
                if (devices.length === 0) return {};
                return { embellish: { devices: sameDevices(devices, defaults.devices) ? undefined : devices } };
              })
            }
          />
          .{' '}
          <button
            type="button"
            onClick={() =>
              onSet('another variation', ({ embellish }) => ({
                embellish: { seed: ((embellish?.seed ?? 0) + 1) % (MAX_SEED + 1) },
              }))
            }
            className="inline-flex min-h-7 items-center gap-1 rounded border border-line bg-paper px-1.5 text-[13px] leading-5 hover:bg-cane-pale"
          >
            <Dices size={14} aria-hidden="true" />
            Another variation
          </button>{' '}
          <button
            type="button"
            onClick={onCompare}
            className="inline-flex min-h-7 items-center gap-1 rounded border border-line bg-paper px-1.5 text-[13px] leading-5 hover:bg-cane-pale"
          >
            <Columns2 size={14} aria-hidden="true" />
            Compare variations
          </button>
          {seed > 0 ? (
            <span className="ml-1.5 text-[13px] text-ink-soft">
              variation {seed}{' '}
              <button
                type="button"
                onClick={() => onSet('first variation', { embellish: { seed: undefined } })}
                className="min-h-7 px-1 text-cane underline underline-offset-2"
              >
                back to the first
              </button>
            </span>
          ) : null}
        </>
      )}
    </div>
  );
}

function shortestOptions(meter: Meter): readonly { readonly value: Shortest; readonly label: string }[] {
  return isCompound(meter)
    ? [
        { value: 'half', label: 'beat' },
        { value: 'quarter', label: 'quarter and an eighth' },
        { value: 'eighth', label: 'eighth' },
      ]
    : [
        { value: 'half', label: 'half' },
        { value: 'quarter', label: 'quarter' },
        { value: 'eighth', label: 'eighth' },
      ];
}

function sameDevices(a: readonly Device[], b: readonly Device[]): boolean {
  return a.length === b.length && a.every((device) => b.includes(device));
}

/** `every way`, `passing notes`, `3 of 12 ways`. */
function waysText(chosen: readonly Device[]): string {
  const [only] = chosen;
  if (chosen.length === DEVICES.length) return 'every way';
  return chosen.length === 1 && only ? DEVICE_WORDS[only] : `${chosen.length} of ${DEVICES.length} ways`;
}

/** One note to a beat, or a longer one, needs no tick. */
function countText(ticked: number): string {
  return ticked === 0 ? 'one note at most' : ticked === 1 ? 'this 1 rhythm' : `these ${ticked} rhythms`;
}

/** The rhythm words of the tune's beats to tick one by one; until somebody does, those of the shortest note. */
function BeatWords({
  recipe,
  level,
  meter,
  onSet,
}: {
  readonly recipe: Recipe;
  readonly level: Level;
  readonly meter: Meter;
  readonly onSet: SetRecipe;
}) {
  const kinds = beatKinds(meter);
  const { words } = recipe.rhythm ?? {};
  const options = ALL_BEAT_RHYTHMS.filter((word) => kinds.includes(BEAT_RHYTHMS[word].kind));
  const chosenOf = ({ shortest = 'quarter', words: own }: NonNullable<Recipe['rhythm']>) =>
    kinds.flatMap((kind) => (own && rhythmsOfKind(own, kind)) ?? rhythmsWithin(shortest, kind));
  const chosen = chosenOf(recipe.rhythm ?? {});
  return (
    <>
      <MultiSelect
        label={`${LEVEL_NAMES[level]}: rhythms in a beat`}
        text={words ? countText(chosen.length) : 'the usual rhythms'}
        options={options.map((value) => ({ value, label: BEAT_RHYTHMS[value].name }))}
        chosen={chosen}
        onChange={(ticked) =>
          onSet('rhythms in a beat', ({ rhythm = {} }) => {
            const others = rhythm.words?.filter((word) => !options.includes(word)) ?? [];
            return { rhythm: { words: [...withTicks(chosenOf(rhythm), chosen, ticked), ...others] } };
          })
        }
      />
      {words && (
        <>
          {' '}
          <button
            type="button"
            onClick={() => onSet('the usual rhythms', { rhythm: { words: undefined } })}
            className="min-h-7 text-[13px] text-cane underline underline-offset-2"
          >
            as usual
          </button>
        </>
      )}
    </>
  );
}
