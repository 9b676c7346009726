'use client';

import { Users } from 'lucide-react';
import { useState } from 'react';
import { difficultyText } from '../../core/analysis';
import { DRILL_DEFAULTS, placesOf } from '../../core/drills';
import { type CustomInstrument, type Level, withLimits, type WrittenRange } from '../../core/instruments';
import { instrumentOf, recipesOf, type Work } from '../../core/work';
import { parsePitch, printPitch, samePitch, semitones } from '../../core/pitch';
import { capitalised } from '../../core/plainText';
import { DRILL_EXTENTS, DRILL_RHYTHMS, type DrillExtent, TEMPO_LIMITS } from '../../core/score';
import type { LaneInfo } from '../../engrave/lanes';
import { Select, type Option } from '../../ui/Select';
import { TextInput, WORD_FIELD } from '../../ui/Field';
import { InstrumentSelect } from '../../ui/InstrumentSelect';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { AidWords } from './AidWords';
import { FingerWords } from './FingerWords';
import { PartFiles } from './PartFiles';
import type { SetRecipe } from './setRecipe';

interface Props {
  readonly work: Work;
  readonly level: Level;
  readonly info: LaneInfo;
  readonly infos: readonly LaneInfo[];
  readonly custom: readonly CustomInstrument[];
  readonly groupLink: { readonly name: string; readonly onOpen: () => void } | undefined;
  readonly onSet: SetRecipe;
  readonly onFile: (name: string, download: boolean) => void;
  readonly onGo: (page: string) => void;
}

const EXTENTS: Readonly<Record<DrillExtent, string>> = {
  five: 'five notes',
  octave: 'an octave',
  two: 'two octaves',
  three: 'three octaves',
  full: 'lowest to highest note',
};
const sameRange = (a: WrittenRange, b: WrittenRange) => samePitch(a.low, b.low) && samePitch(a.high, b.high);
const OWN_PLACE = 'own place';
const KEYS = [1, 2, 3, 4, 5, 6, 8, 10, 12] as const;

/**
 * How far one level goes in a drill: its instrument, tempo, keys, extent, rhythm and range, and what is printed to
 * help.
 */
export function DrillLevelWords({ work, level, info, custom, groupLink, onSet, onFile, onGo }: Props) {
  const recipe = recipesOf(work)[level];
  const { drill = {}, limits = {} } = recipe;
  const [problem, setProblem] = useState<string>();
  const usual = DRILL_DEFAULTS[level];
  const instrument = instrumentOf(recipe);
  const name = LEVEL_NAMES[level];
  const setTempo = (text: string) => {
    const number = Number(text);
    const isTempo = /^\d+$/.test(text.trim()) && number >= TEMPO_LIMITS.slowest && number <= TEMPO_LIMITS.fastest;
    setProblem(
      isTempo
        ? undefined
        : `"${text}" is no tempo: beats a minute go from ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest}.`,
    );
    if (isTempo) onSet(`tempo ${number}`, { keyAndTempo: { perMinute: number } });
  };
  const { low = instrument.range[level].low, high = instrument.range[level].high } = limits.range ?? {};
  const setEdge = (edge: 'low' | 'high', text: string) => {
    const parsed = parsePitch(text.trim());
    const next = parsed.ok ? { low, high, [edge]: parsed.value } : undefined;
    const isRange = next && semitones(next.low) < semitones(next.high);
    setProblem(
      isRange
        ? undefined
        : `"${text}" is no ${edge === 'low' ? 'lowest' : 'highest'} note here: write it like B♭3 or A5.`,
    );
    if (isRange)
      onSet(`${edge === 'low' ? 'lowest' : 'highest'} note ${printPitch(next[edge])}`, (present) => ({
        limits: { range: { low, high, ...present.limits?.range, [edge]: next[edge] } },
      }));
  };
  const places = placesOf(withLimits(instrument, level, limits.range ?? {}), level);
  const placeNow = places.find(
    ({ range, hand }) => typeof drill.extent === 'object' && sameRange(range, drill.extent) && hand === drill.hand,
  );
  const extents: readonly Option<string>[] = [
    { value: 'drill', label: 'as far as the drill says' },
    ...DRILL_EXTENTS.map((value) => ({ value, label: EXTENTS[value] })),
    ...places.map(({ name: value }) => ({ value, label: value })),
    // Kept from another instrument or range, and still what the recipe says.
    ...(typeof drill.extent === 'object' && !placeNow
      ? [{ value: OWN_PLACE, label: `from ${printPitch(drill.extent.low)} to ${printPitch(drill.extent.high)}` }]
      : []),
  ];
  const setExtent = (value: string) => {
    const named = DRILL_EXTENTS.find((known) => known === value);
    const place = places.find((one) => one.name === value);
    if (value !== OWN_PLACE) onSet('how far', { drill: { extent: named ?? place?.range, hand: place?.hand } });
  };
  return (
    <>
      <p className="leading-8">
        <InstrumentSelect
          label={`${name}: instrument`}
          value={recipe.custom?.id ?? recipe.instrument}
          custom={custom}
          chosen={recipe.custom}
          onChange={(next, chosen) =>
            onSet('instrument', {
              instrument: next,
              custom: chosen,
              page: { pins: undefined },
              limits: { range: undefined, known: undefined },
              drill: { extent: typeof drill.extent === 'object' ? undefined : drill.extent, hand: undefined },
            })
          }
          className="min-h-7 max-w-44 rounded-t border-b-2 border-cane bg-transparent px-0.5 font-semibold hover:bg-cane-pale"
        />
        , ♩ ={' '}
        <TextInput
          label={`${name}: beats a minute`}
          value={String(recipe.keyAndTempo?.perMinute ?? usual.perMinute)}
          maxLength={4}
          onCommit={setTempo}
          className={`${WORD_FIELD} min-h-7 tabular-nums w-9`}
        />
        , goes through{' '}
        <Select
          look="word"
          label={`${name}: keys`}
          value={drill.keys === undefined ? 'level' : String(drill.keys)}
          options={[
            {
              value: 'level',
              label: work.tune.drill?.keys || work.tune.drill?.over ? 'all keys of the drill' : `${usual.keys} keys`,
            },
            ...KEYS.map((count) => ({
              value: String(count),
              label: count === 1 ? 'the first key' : `the first ${count} keys`,
            })),
          ]}
          onChange={(value) => onSet('keys', { drill: { keys: value === 'level' ? undefined : Number(value) } })}
        />
        ,{' '}
        <Select
          look="word"
          label={`${name}: how far`}
          value={
            typeof drill.extent === 'string' ? drill.extent : drill.extent ? (placeNow?.name ?? OWN_PLACE) : 'drill'
          }
          options={extents}
          onChange={setExtent}
        />
        , in{' '}
        <Select
          look="word"
          label={`${name}: rhythm`}
          value={drill.rhythm ?? 'drill'}
          options={[
            { value: 'drill' as const, label: 'the rhythm of the drill' },
            ...DRILL_RHYTHMS.filter((one) => one !== 'borrowed').map((value) => ({ value, label: value })),
          ]}
          onChange={(value) => onSet('rhythm', { drill: { rhythm: value === 'drill' ? undefined : value } })}
        />
        , between{' '}
        <TextInput
          label={`${name}: lowest note`}
          value={printPitch(low)}
          maxLength={5}
          onCommit={(text) => setEdge('low', text)}
          className={`${WORD_FIELD} min-h-7 tabular-nums w-10`}
        />{' '}
        and{' '}
        <TextInput
          label={`${name}: highest note`}
          value={printPitch(high)}
          maxLength={5}
          onCommit={(text) => setEdge('high', text)}
          className={`${WORD_FIELD} min-h-7 tabular-nums w-10`}
        />
        .
      </p>
      {problem && (
        <p role="alert" className="text-[12.5px] text-warn">
          {problem}
        </p>
      )}
      <p className="mt-1 text-[13px] text-ink-soft">
        {info.range}.{' '}
        {capitalised(
          difficultyText(
            info.difficulty,
            info.barTexts.map((_, index) => index + 1),
            level,
          ),
        )}
        .
      </p>
      <AidWords recipe={recipe} level={level} onSet={onSet} />
      <FingerWords onGo={onGo} recipe={recipe} level={level} onSet={onSet} />
      <div className="mt-3 border-t border-line pt-3">
        <PartFiles level={level} recipe={recipe} perMinute={info.tempo.perMinute} onSet={onSet} onFile={onFile} />
      </div>
      {groupLink && (
        <p className="mt-3">
          <button
            type="button"
            onClick={groupLink.onOpen}
            className="inline-flex min-h-8 items-center gap-1.5 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale"
          >
            <Users size={15} aria-hidden="true" />
            Parts for {groupLink.name}
          </button>
        </p>
      )}
    </>
  );
}
