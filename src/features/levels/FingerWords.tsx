'use client';

import Link from 'next/link';
import { useMemo } from 'react';
import {
  describeFingering,
  FINGER_SCHOOLS,
  type Fingering,
  fingeringId,
  fingeringsFor,
  type FingerSchool,
  isFingered,
  MARK_SCHOOLS,
  MARK_STYLES,
  markOf,
  type MarkSchool,
  type MarkStyle,
  SCHOOL_NAMES,
} from '../../core/fingering';
import type { Level } from '../../core/instruments';
import { fingerPart, fingerWishes, partOfLevel, stringNames } from '../../core/levels';
import { instrumentOf, type Recipe, recipesOf, type Work } from '../../core/work';
import { namePitchClass } from '../../core/pitch';
import { soundingNotes } from '../../core/score';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { type SetRecipe } from './setRecipe';

const MARK_TEXT: Readonly<Record<MarkSchool, string>> = {
  all: 'on every note',
  change: 'where something changes',
  unusual: 'where they are not the usual ones',
  none: 'nowhere',
};

const STYLE_TEXT: Readonly<Record<MarkStyle, string>> = {
  finger: 'finger or fret',
  'string-finger': 'string and finger',
  string: 'names of strings',
};

/** How much is written over the notes, and by which school. */
export function FingerWords({
  onGo,
  recipe,
  level,
  onSet,
}: {
  readonly onGo: (page: string) => void;
  readonly recipe: Recipe;
  readonly level: Level;
  readonly onSet: SetRecipe;
}) {
  const instrument = instrumentOf(recipe);
  const wishes = fingerWishes(recipe.page ?? {}, instrument, level);
  if (!isFingered(instrument)) return null;
  const hasSchools = instrument.mechanism.kind === 'bowed' || instrument.mechanism.kind === 'fretted';
  return (
    <section aria-label="Fingers" className="leading-8">
      Fingerings are printed{' '}
      <Select<MarkSchool>
        look="word"
        label={`${LEVEL_NAMES[level]}: finger marks`}
        value={wishes.marks}
        options={MARK_SCHOOLS.map((value) => ({ value, label: MARK_TEXT[value] }))}
        onChange={(marks) => onSet(`finger marks ${MARK_TEXT[marks]}`, { page: { marks } })}
      />
      {hasSchools && (
        <>
          ;{' '}
          <Select<FingerSchool>
            look="word"
            label={`${LEVEL_NAMES[level]}: school of fingering`}
            value={wishes.school}
            options={FINGER_SCHOOLS.map((value) => ({ value, label: SCHOOL_NAMES[value] }))}
            onChange={(school) => onSet(SCHOOL_NAMES[school], { page: { school } })}
          />
        </>
      )}
      {hasSchools && wishes.marks !== 'none' && (
        <>
          , written as{' '}
          <Select<MarkStyle>
            look="word"
            label={`${LEVEL_NAMES[level]}: how fingers are written`}
            value={wishes.style ?? 'finger'}
            options={MARK_STYLES.map((value) => ({ value, label: STYLE_TEXT[value] }))}
            onChange={(markStyle) => onSet(`fingers as ${STYLE_TEXT[markStyle]}`, { page: { markStyle } })}
          />
        </>
      )}
      {instrument.mechanism.kind === 'fretted' && (
        <>
          ;{' '}
          <Select
            look="word"
            label={`${LEVEL_NAMES[level]}: tablature`}
            value={recipe.page?.tab ? 'under' : 'none'}
            options={[
              { value: 'none', label: 'no tablature' },
              { value: 'under', label: 'a tablature under the notes' },
            ]}
            onChange={(tab) =>
              onSet(tab === 'under' ? 'a tablature' : 'no tablature', {
                page: { tab: tab === 'under' ? true : undefined },
              })
            }
          />
        </>
      )}
      .{' '}
      <Link
        href={`/instruments/${instrument.id}`}
        prefetch={false}
        className="text-[13px] text-cane underline underline-offset-2"
      >
        chart
      </Link>
      {instrument.mechanism.kind === 'fretted' && (
        <>
          {' '}
          <button
            type="button"
            onClick={() => onGo(`shapes?level=${level}`)}
            className="text-[13px] text-cane underline underline-offset-2"
          >
            same shape, next fret
          </button>
        </>
      )}
    </section>
  );
}

/** The picked bar's notes with their fingerings, to be pinned. */
export function BarFingers({
  work,
  level,
  bar,
  number,
  onSet,
}: {
  readonly work: Work;
  readonly level: Level;
  readonly bar: number | undefined;
  readonly number: number | undefined;
  readonly onSet: SetRecipe;
}) {
  const recipe = recipesOf(work)[level];
  const instrument = instrumentOf(recipe);
  const fingered = isFingered(instrument);
  const notes = useMemo(() => {
    if (bar === undefined || !fingered) return [];
    const { value } = partOfLevel(work.tune, level, work.recipes);
    const { line } = fingerPart({ bars: value.bars, meter: value.meter }, value.tempo, instrument, {
      ...fingerWishes(recipe.page ?? {}, instrument, level),
      marks: 'all',
    });
    return soundingNotes({ bars: value.bars, meter: value.meter }).flatMap((note, index) =>
      note.bar === bar && !note.first.cue ? [{ id: note.first.id, pitch: note.pitch, given: line.notes[index] }] : [],
    );
    // The wishes follow from the recipe, the instrument from the recipe: the work says it all.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [bar, fingered, work, level]);
  if (bar === undefined || notes.length === 0) return null;
  const names = stringNames(instrument);
  const pin = (id: string, value: string) => {
    onSet(value === '' ? 'fingering as usual' : 'fingering set by hand', {
      table: 'pins',
      entries: { [id]: value === '' ? undefined : value },
    });
  };
  return (
    <section aria-label="Fingers of the bar" className="mt-3">
      <h3 className="font-semibold">Fingers</h3>
      <ul aria-label={`Fingers in bar ${number ?? ''}`} className="mt-1">
        {notes.map(({ id, pitch, given }) => {
          const ways = fingeringsFor(instrument, pitch);
          const name = `${namePitchClass(pitch)}${pitch.octave}`;
          return (
            <li key={id} className="flex items-center gap-2 py-0.5">
              <span className="w-9 font-semibold">{name}</span>
              {ways.length === 0 ? (
                <span className="text-[13px] text-ink-soft">not on the chart</span>
              ) : (
                <select
                  aria-label={`Finger for ${name}`}
                  className={`min-h-7 min-w-0 flex-1 rounded border bg-paper px-1 text-[13px] ${recipe.page?.pins?.[id] === undefined ? 'border-line' : 'border-cane font-semibold'}`}
                  value={recipe.page?.pins?.[id] ?? ''}
                  onChange={({ target }) => pin(id, target.value)}
                >
                  <option value="">{given?.fingering ? wayText(given.fingering, names) : 'as usual'}</option>
                  {ways.map(({ fingering }) => (
                    <option key={fingeringId(fingering)} value={fingeringId(fingering)}>
                      {wayText(fingering, names)}
                    </option>
                  ))}
                </select>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** A fingering's mark, with its words where they say more. */
function wayText(fingering: Fingering, names: readonly string[]): string {
  const [mark, words] = [markOf(fingering), describeFingering(fingering, names)];
  return mark === words ? mark : `${mark} · ${words}`;
}
