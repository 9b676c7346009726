'use client';

import { Play, Repeat, Square } from 'lucide-react';
import { useStore } from 'zustand';
import { backingOnly, heardNotes, type PlayerPools } from '../../core/levels';
import { recipesOf, type Work } from '../../core/work';
import {
  ALL_SCALE_NAMES,
  CHORD_FUNCTIONS,
  type ChordFunction,
  nameChord,
  nameOfSet,
  nameScale,
  type ScaleName,
  transposeChord,
} from '../../core/harmony';
import { toSounding } from '../../core/instruments';
import {
  chroma,
  intervalBetweenTonics,
  intervalUp,
  nameKey,
  namePitchClass,
  type PitchClass,
  printKey,
  transpose,
  transposeClass,
  transposeKey,
  TWELVE_ABOVE,
  UNISON,
} from '../../core/pitch';
import { changeWords, chordPlace, type ChordPool, type ChordWish, rubWords } from '../../core/pools';
import type { ReadingNote } from '../../core/score';
import { poolPitches } from '../../engrave/poolSheet';
import { usualFeel } from '../../sound/backing';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import { keyOf, keyOptions } from '../work/keyOptions';
import type { Player } from '../work/sound/player';
import { FingerPicture } from './FingerPicture';

import { Head } from './Head';
import type { Dispatch } from '../work/workStore';

interface Props {
  readonly work: Work;
  readonly made: PlayerPools;
  readonly picked: number;
  readonly isWritten: boolean;
  readonly player: Player;
  readonly onDispatch: Dispatch;
}

const HEARD_TEMPO = 92;

/** One chord: how it is read, its notes on staff and instrument, heard, and changed. */
export function ChordPanel({ work, made, picked, isWritten, player, onDispatch }: Props) {
  const { pools, instrument, level, shift } = made;
  const chord = pools.chords[picked];
  const place = pools.form.places[picked];
  const state = useStore(player.store);
  if (!chord || !place) return null;
  const { reading } = chord;
  const { symbol } = reading.chord;
  const wishes = recipesOf(work)[level].improvise ?? {};
  const name = place.chord && chordPlace(place.chord.bar, place.chord.at);
  const wish = name === undefined ? undefined : wishes.chords?.[name];
  const setWish = (what: string, next: ChordWish | undefined) => {
    if (name === undefined) return;
    const isEmpty = !next || (next.set === undefined && !next.added?.length && !next.struck?.length);
    onDispatch({
      kind: 'entries',
      level,
      words: `${nameChord(symbol)} in bar ${place.bar}: ${what}`,
      table: 'chords',
      entries: { [name]: isEmpty ? undefined : next },
    });
  };
  // Pools in written pitch are heard as they sound.
  const toConcert = isWritten ? toSounding(instrument) : undefined;
  const isOn = state.kind === 'playing' || state.kind === 'waking';
  const hear = (what: 'chord' | 'notes' | 'both', pool: ChordPool | undefined) => {
    const sounding = toConcert ? transposeChord(symbol, toConcert) : symbol;
    const line = what === 'chord' || !pool ? [] : poolPitches(pool, instrument, level, shift);
    const pitches = toConcert ? line.map((pitch) => transpose(pitch, toConcert)) : line;
    const tune = heardNotes(what === 'notes' ? undefined : sounding, pitches, HEARD_TEMPO);
    void player.play(
      { tune, recipes: {} },
      { heard: 'tune', backing: what === 'notes' ? 'none' : 'held', click: false, countIn: false, from: 0 },
    );
  };
  const tryOut = () => {
    const from = Math.max(0, place.barIndex);
    const tune = backingOnly(made.tune, made.concertKey, made.tempo);
    void player.play(
      { tune, recipes: {} },
      {
        heard: 'tune',
        backing: usualFeel(tune),
        click: false,
        countIn: true,
        from,
        loopTo: Math.min(tune.bars.length - 1, from + 3),
      },
    );
  };
  const [first] = chord.pools;
  return (
    <div className="space-y-3">
      <div>
        <h3 className="text-[15px] font-semibold">
          {nameChord(symbol)} <span className="font-serif font-normal italic">{reading.numeral}</span>
        </h3>
        <p className="text-[12.5px] text-ink-soft">
          bar {place.bar}, beat {place.beat}
          {chord.bridges.length > 0 && ` · shared with the next chord: ${chord.bridges.map(namePitchClass).join(' ')}`}
          {chord.halfSteps.length > 0 &&
            ` · half steps into it: ${chord.halfSteps.map(({ from, to }) => `${namePitchClass(from)} ${namePitchClass(to)}`).join(', ')}`}
        </p>
      </div>
      <div className="flex flex-wrap gap-1.5">
        {(['chord', 'notes', 'both'] as const).map((what) => (
          <Button key={what} onClick={() => hear(what, first)} disabled={what !== 'chord' && !first}>
            <Play size={13} aria-hidden="true" />
            {what === 'chord' ? 'chord' : what === 'notes' ? 'notes' : 'both in turn'}
          </Button>
        ))}
        <Button onClick={tryOut}>
          <Repeat size={13} aria-hidden="true" />
          loop 4 bars, backing alone
        </Button>
        {isOn && (
          <Button kind="main" onClick={() => player.stop()}>
            <Square size={12} aria-hidden="true" />
            stop
          </Button>
        )}
      </div>
      {state.kind === 'failed' && (
        <p role="alert" className="text-warn">
          {state.message}
        </p>
      )}
      {chord.pools.map((pool) => (
        <PoolNotes
          key={pool.kind}
          pool={pool}
          wish={wish}
          onWish={setWish}
          root={symbol.kind === 'chord' ? symbol.root : undefined}
        />
      ))}
      {first && <FingerPicture pool={first} made={made} />}
      {chord.pools.some(({ kind }) => kind === 'chord-scale') && symbol.kind === 'chord' && (
        <ScaleChoice pool={chord.pools.find(({ kind }) => kind === 'chord-scale')} wish={wish} onWish={setWish} />
      )}
      {rubWords(chord).length > 0 && (
        <ul className="text-[13px]">
          {rubWords(chord).map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      )}
      {chord.waysIn.length > 0 && (
        <p className="text-[13px]">
          Ways in:{' '}
          {chord.waysIn
            .map(({ to, below, above }) => `${namePitchClass(above)} ${namePitchClass(below)} ${namePitchClass(to)}`)
            .join(' · ')}
          {chord.cell.length > 0 && `. To learn by heart: ${chord.cell.map(namePitchClass).join(' ')}`}
        </p>
      )}
      <ReadingWords work={work} made={made} picked={picked} onDispatch={onDispatch} />
    </div>
  );
}

/** The notes of a pool with their roles; each can be struck, and others added. */
function PoolNotes({
  pool,
  wish,
  onWish,
  root,
}: {
  readonly pool: ChordPool;
  readonly wish: ChordWish | undefined;
  readonly onWish: (what: string, next: ChordWish | undefined) => void;
  readonly root: PitchClass | undefined;
}) {
  const above = (note: PitchClass) => (root ? intervalUp(root, note) : UNISON);
  const isSame = (a: { readonly chromatic: number }, b: { readonly chromatic: number }) =>
    (a.chromatic - b.chromatic + 24) % 12 === 0;
  const strike = (note: PitchClass) => {
    const interval = above(note);
    const wasAdded = wish?.added?.some((one) => isSame(one, interval));
    onWish(`without ${namePitchClass(note)}`, {
      ...wish,
      ...(wasAdded
        ? { added: wish?.added?.filter((one) => !isSame(one, interval)) ?? [] }
        : { struck: [...(wish?.struck ?? []), interval] }),
    });
  };
  const change = changeWords(pool);
  return (
    <section aria-label={pool.name}>
      <h4 className="flex items-baseline justify-between gap-2">
        <span className="font-semibold">{pool.name}</span>
        {change && <span className="text-[12.5px] text-cane">{change}</span>}
      </h4>
      <ul className="flex flex-wrap gap-1">
        {pool.notes.map(({ note, role, degree }) => (
          <li key={`${note.step}${note.alter}${degree}`}>
            <button
              type="button"
              disabled={!root}
              onClick={() => strike(note)}
              title={`Strike ${namePitchClass(note)} here`}
              aria-label={`${namePitchClass(note)}, ${degree}, ${ROLE_WORDS[role]}: strike it here`}
              className="flex min-h-9 min-w-10 flex-col items-center rounded border border-line bg-paper px-1 leading-tight hover:line-through"
            >
              <span
                className={`flex items-center gap-0.5 ${role === 'home' ? 'font-bold' : role === 'rub' ? 'text-[12px]' : ''}`}
              >
                {namePitchClass(note)}
                <Head kind={role === 'home' ? 'filled' : role === 'colour' ? 'open' : 'small'} />
              </span>
              <span className="text-[11px] text-ink-soft">{degree}</span>
            </button>
          </li>
        ))}
      </ul>
      {root && pool.kind !== 'guide-tones' && pool.kind !== 'chord-tones' && (
        <p className="mt-0.5 text-[12.5px]">
          <Select
            look="word"
            label={`Add a note to ${pool.name}`}
            value="add"
            options={[
              { value: 'add', label: 'add a note' },
              ...othersOf(pool, root).map((note) => ({
                value: `${note.step}${note.alter}`,
                label: namePitchClass(note),
              })),
            ]}
            onChange={(value) => {
              const note = othersOf(pool, root).find((one) => `${one.step}${one.alter}` === value);
              if (!note) return;
              const interval = above(note);
              const wasStruck = wish?.struck?.some((one) => isSame(one, interval));
              onWish(`with ${namePitchClass(note)}`, {
                ...wish,
                ...(wasStruck
                  ? { struck: wish?.struck?.filter((one) => !isSame(one, interval)) ?? [] }
                  : { added: [...(wish?.added ?? []), interval] }),
              });
            }}
          />
          {wish && (wish.added?.length || wish.struck?.length) ? (
            <>
              {' '}
              ·{' '}
              <button
                type="button"
                className="min-h-6 underline underline-offset-2"
                onClick={() => onWish('its notes as found', wish.set === undefined ? undefined : { set: wish.set })}
              >
                as found
              </button>
            </>
          ) : null}
        </p>
      )}
    </section>
  );
}

const ROLE_WORDS = { home: 'rests', colour: 'leans', rub: 'rubs' } as const;

/** The notes of the twelve that a pool does not have, spelled upwards from the chord's root. */
function othersOf(pool: ChordPool, root: PitchClass): readonly PitchClass[] {
  return TWELVE_ABOVE.map((interval) => transposeClass(root, interval)).filter(
    (note) => !pool.notes.some((one) => chroma(one.note) === chroma(note)),
  );
}

/** Which scale goes with the chord: the usual ones with what each adds, and the whole dictionary. */
function ScaleChoice({
  pool,
  wish,
  onWish,
}: {
  readonly pool: ChordPool | undefined;
  readonly wish: ChordWish | undefined;
  readonly onWish: (what: string, next: ChordWish | undefined) => void;
}) {
  if (!pool) return null;
  const take = (name: ScaleName) => onWish(nameOfSet(name), { ...wish, set: name });
  return (
    <section aria-label="Scales over this chord">
      <h4 className="font-semibold">Other scales here</h4>
      <ul>
        {pool.others.map(({ scale, adds }) => (
          <li key={scale.name} className="flex items-baseline justify-between gap-2 py-0.5">
            <span>
              {nameScale(scale)} <span className="text-[12.5px] text-ink-soft">{adds}</span>
            </span>
            <button
              type="button"
              className="min-h-6 shrink-0 underline underline-offset-2"
              onClick={() => take(scale.name)}
            >
              take
            </button>
          </li>
        ))}
      </ul>
      <p className="leading-8">
        or{' '}
        <Select<ScaleName | 'any'>
          look="word"
          label="Any scale"
          value="any"
          options={[
            { value: 'any', label: 'any other set' },
            ...ALL_SCALE_NAMES.map((value) => ({ value, label: nameOfSet(value) })),
          ]}
          onChange={(value) => value !== 'any' && take(value)}
        />
        {wish?.set !== undefined && (
          <>
            {' '}
            ·{' '}
            <button
              type="button"
              className="min-h-6 underline underline-offset-2"
              onClick={() => onWish('the scale as found', withoutSet(wish))}
            >
              as found
            </button>
          </>
        )}
      </p>
    </section>
  );
}

function withoutSet({ set: _, ...rest }: ChordWish): ChordWish {
  return rest;
}

/** How the chord is read, to be corrected: the key of its place, and what it does there. */
function ReadingWords({
  work,
  made,
  picked,
  onDispatch,
}: {
  readonly work: Work;
  readonly made: PlayerPools;
  readonly picked: number;
  readonly onDispatch: Dispatch;
}) {
  const chord = made.pools.chords[picked];
  const place = made.pools.form.places[picked];
  if (!chord || !place?.chord || chord.reading.chord.symbol.kind === 'no chord') return null;
  const at = place.chord;
  const { reading } = chord;
  // What is said of the tune is said in the tune's own key.
  const toTune = intervalBetweenTonics(made.pools.form.key.tonic, made.tune.key.tonic);
  const notes = work.tune.harmony?.readings ?? [];
  const mine = notes.find((note) => note.bar === at.bar && note.at === at.at);
  const set = (what: string, next: Omit<ReadingNote, 'bar' | 'at'> | undefined) => {
    onDispatch({
      kind: 'reading',
      words: `${nameChord(reading.chord.symbol)} in bar ${place.bar}: ${what}`,
      bar: at.bar,
      at: at.at,
      key: next?.key,
      function: next?.function,
    });
  };
  const usual = reading.key.mode === 'major' || reading.key.mode === 'minor' ? reading.key.mode : made.tune.key.mode;
  const other = usual === 'minor' ? ('major' as const) : ('minor' as const);
  return (
    <section aria-label="How it is read" className="border-t border-line pt-2">
      <h4 className="font-semibold">How it is read</h4>
      <p className="leading-8">
        From here in{' '}
        <Select
          look="word"
          label="Key from here"
          value={printKey(reading.key)}
          options={[...keyOptions(usual, [reading.key]), ...keyOptions(other)]}
          onChange={(value) => {
            const key = keyOf(value);
            if (key) set(`in ${nameKey(key)} from here`, { ...mine, key: transposeKey(key, toTune) });
          }}
        />
        . It acts as{' '}
        <Select<ChordFunction>
          look="word"
          label="What the chord does"
          value={reading.function}
          options={CHORD_FUNCTIONS.map((value) => ({ value, label: value }))}
          onChange={(value) => set(value, { ...mine, function: value })}
        />
        {mine && (
          <>
            {' '}
            ·{' '}
            <button
              type="button"
              className="min-h-6 underline underline-offset-2"
              onClick={() => set('read as found', undefined)}
            >
              as found
            </button>
          </>
        )}
      </p>
    </section>
  );
}
