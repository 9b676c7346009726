'use client';

import { Columns2, Dices } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { Level } from '../../core/instruments/instrument';
import { DEVICES, type Device } from '../../core/levels/embellish/devices';
import {
  DENSITIES,
  LEVEL_DEFAULTS,
  MELODIES,
  MOST_SEED,
  type Melody,
  type Recipe,
} from '../../core/levels/recipe/recipe';
import type { Shortest } from '../../core/levels/simplify/slots';
import { isCompound, type Meter } from '../../core/time/meter';
import { Choice } from '../../ui/Choice';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import type { SetRecipe } from './setRecipe';

const MELODY_WORDS: Readonly<Record<Melody, string>> = {
  thinned: 'in fewer notes',
  'as written': 'as written',
  dressed: 'dressed',
};

const DEVICE_WORDS: Readonly<Record<Device, string>> = {
  passing: 'passing notes',
  neighbour: 'neighbour notes',
  fill: 'long notes that walk on',
  'chord-tone': 'other notes of the chord',
  'run-in': 'ways in out of rests',
  again: 'notes struck again',
  approach: 'half steps into a note',
  enclosure: 'notes met from both sides',
  anticipation: 'strong notes early',
  'double-time': 'double time',
  grace: 'grace notes',
  turn: 'turns and mordents',
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
  const density = recipe.density === undefined ? 'level' : String(recipe.density);
  return (
    <div className="mt-1 leading-8">
      The melody is{' '}
      <Choice<Melody>
        look="word"
        label={`${name}: melody`}
        value={melody}
        options={MELODIES.map((value) => ({ value, label: MELODY_WORDS[value] }))}
        onChange={(value) =>
          onSet(`melody ${MELODY_WORDS[value]}`, { melody: value === defaults.melody ? undefined : value })
        }
      />
      {melody === 'thinned' && (
        <>
          , nothing shorter than a{' '}
          <Choice<Shortest>
            look="word"
            label={`${name}: shortest note`}
            value={recipe.shortest ?? 'quarter'}
            options={shortestOptions(meter)}
            onChange={(shortest) => onSet('shortest note', { shortest: shortest === 'quarter' ? undefined : shortest })}
          />
          {(recipe.shortest === 'eighth' || recipe.shortest === '16th') && (
            <>
              , and dotted rhythms{' '}
              <Choice
                look="word"
                label={`${name}: dotted rhythms`}
                value={recipe.dotted === false ? 'no' : 'yes'}
                options={[
                  { value: 'yes', label: 'may come' },
                  { value: 'no', label: 'wait' },
                ]}
                onChange={(value) =>
                  onSet(`dotted rhythms ${value === 'yes' ? 'may come' : 'wait'}`, {
                    dotted: value === 'yes' ? undefined : false,
                  })
                }
              />
            </>
          )}
          . Ornaments and ties over the beat wait.
        </>
      )}
      {melody === 'as written' && '.'}
      {melody === 'dressed' && (
        <>
          {' '}
          <Choice
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
            onChange={(value) => onSet('density', { density: value === 'level' ? undefined : Number(value) })}
          />
          , with{' '}
          <DeviceMenu
            label={`${name}: ways to dress`}
            chosen={recipe.devices ?? defaults.devices}
            onChange={(devices) =>
              onSet('ways to dress', { devices: sameDevices(devices, defaults.devices) ? undefined : devices })
            }
          />
          .{' '}
          <button
            type="button"
            onClick={() => onSet('another throw', { seed: ((recipe.seed ?? 0) + 1) % (MOST_SEED + 1) })}
            className="inline-flex min-h-7 items-center gap-1 rounded border border-line bg-paper px-1.5 text-[13px] leading-5 hover:bg-cane-pale"
          >
            <Dices size={14} aria-hidden="true" />
            Throw again
          </button>{' '}
          <button
            type="button"
            onClick={onCompare}
            className="inline-flex min-h-7 items-center gap-1 rounded border border-line bg-paper px-1.5 text-[13px] leading-5 hover:bg-cane-pale"
          >
            <Columns2 size={14} aria-hidden="true" />
            Compare two
          </button>
          {recipe.seed ? (
            <span className="ml-1.5 text-[13px] text-ink-soft">
              throw {recipe.seed}{' '}
              <button
                type="button"
                onClick={() => onSet('first throw', { seed: undefined })}
                className="min-h-7 px-1 text-cane underline underline-offset-2"
              >
                first one
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

/** Which devices may be used; one at least. */
function DeviceMenu({
  label,
  chosen,
  onChange,
}: {
  readonly label: string;
  readonly chosen: readonly Device[];
  readonly onChange: (devices: readonly Device[]) => void;
}) {
  const [only] = chosen;
  const text =
    chosen.length === DEVICES.length
      ? 'every means'
      : chosen.length === 1 && only
        ? DEVICE_WORDS[only]
        : `${chosen.length} of ${DEVICES.length} means`;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`${label}, ${text}`}
        className="inline-flex min-h-7 items-end rounded-t border-b-2 border-cane px-0.5 leading-5 font-semibold hover:bg-cane-pale"
      >
        {text}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          align="end"
          className="z-50 rounded border border-[#8f8d7c] bg-paper py-1 shadow-lg"
        >
          {DEVICES.map((device) => {
            const isOn = chosen.includes(device);
            return (
              <DropdownMenu.CheckboxItem
                key={device}
                checked={isOn}
                disabled={isOn && chosen.length === 1}
                onSelect={(event) => event.preventDefault()}
                onCheckedChange={() =>
                  onChange(DEVICES.filter((one) => (one === device ? !isOn : chosen.includes(one))))
                }
                className="flex min-h-7 cursor-default items-center gap-2 py-0.5 pr-4 pl-2 outline-none data-[disabled]:text-ink-soft data-[highlighted]:bg-cane-pale"
              >
                <span aria-hidden="true" className="w-4 text-cane">
                  {isOn ? '✓' : ''}
                </span>
                {DEVICE_WORDS[device]}
              </DropdownMenu.CheckboxItem>
            );
          })}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
