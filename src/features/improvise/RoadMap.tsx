'use client';

import { becoming } from '../../core/work';
import { memo, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { type ChordPools, coverageWords } from '../../core/pools';
import { type Level, LEVELS } from '../../core/instruments';
import { acceptProposedChords, type PlayerPools } from '../../core/levels';
import { type FormPattern, nameChord } from '../../core/harmony';
import { nameKey, namePitchClass } from '../../core/pitch';
import { poolScore, quietHeads } from '../../engrave/poolSheet';
import type { PoolRow } from '../../engrave/poolRows';
import { Button } from '../../ui/Button';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Draws } from '../work/useEngraving';
import { useWidth } from '../work/useWidth';
import { Head } from './Head';
import type { Shown } from './shown';
import type { Dispatch } from '../work/workStore';

interface Props {
  readonly made: readonly PlayerPools[];
  readonly shown: Shown;
  readonly onShown: (shown: Shown) => void;
  /** Index of the picked chord. */
  readonly picked: number | undefined;
  readonly pickedLevel: Level;
  readonly onPick: (index: number, level: Level) => void;
  readonly draws: Draws;
  readonly isWritten: boolean;
  readonly onDispatch: Dispatch;
}

/** Staff space, CSS pixels: one level large, three small. */
const SPACE = { one: 7.5, three: 5.6 } as const;

/**
 * The form as a road map: bars in fours, chords and numerals over them, and under them a staff of heads for each pool.
 */
export function RoadMap({ made, shown, onShown, picked, pickedLevel, onPick, draws, isWritten, onDispatch }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const width = useWidth(frame);
  const isThree = shown === 'three';
  const first = made[0];
  return (
    <div className="min-h-full bg-paper">
      <div className="no-print sticky top-0 z-20 flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-panel px-4 py-1.5 text-[13px]">
        <div role="group" aria-label="Shown" className="flex gap-1">
          {[...LEVELS, 'three' as const].map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={shown === one}
              onClick={() => onShown(one)}
              className={`flex min-h-8 items-center gap-1 rounded px-2 ${shown === one ? 'bg-paper font-semibold outline outline-edge' : 'hover:bg-cane-pale'}`}
            >
              {one === 'three' ? (
                'All three'
              ) : (
                <>
                  <LevelSign level={one} size={16} />
                  {LEVEL_NAMES[one]}
                </>
              )}
            </button>
          ))}
        </div>
        <Legend />
        <span className="flex-1" />
        {first && (
          <span className="text-ink-soft">
            {isWritten ? `written for ${first.instrument.shortName} in ${nameKey(first.writtenKey)}` : 'concert pitch'}
          </span>
        )}
      </div>
      {first?.isProposed && first.pools.chords.length > 0 && (
        <p className="no-print flex flex-wrap items-center gap-3 border-b border-line bg-cane-pale px-4 py-2 text-[13px]">
          This tune has no chords. Those below are proposals that fit the melody; change them on the Tune step once they
          are taken.
          <Button
            onClick={() =>
              onDispatch((present) =>
                becoming('Take the proposed chords', present, acceptProposedChords(present, first.tune)),
              )
            }
          >
            Take them
          </Button>
        </p>
      )}
      {first && first.pools.chords.length === 0 && (
        <p className="px-4 py-8 text-ink-soft">
          There is nothing to improvise over yet: write some notes or chords on the Tune step.
        </p>
      )}
      <div ref={frame} className="px-4 pb-6">
        {width > 0 &&
          made.map((one) => (
            <LevelMap
              key={one.level}
              made={one}
              isThree={isThree}
              width={width}
              picked={one.level === pickedLevel || !isThree ? picked : undefined}
              onPick={onPick}
              draws={draws}
              seed={1 + LEVELS.indexOf(one.level)}
            />
          ))}
      </div>
    </div>
  );
}

function Legend() {
  return (
    <span
      className="flex items-center gap-3 text-ink-soft"
      aria-label="Signs: a filled head rests, an open one leans, a small one rubs"
    >
      <Head kind="filled" /> rests
      <Head kind="open" /> leans
      <Head kind="small" /> rubs
    </span>
  );
}

const LevelMap = memo(function LevelMap({
  made,
  isThree,
  width,
  picked,
  onPick,
  draws,
  seed,
}: {
  readonly made: PlayerPools;
  readonly isThree: boolean;
  readonly width: number;
  readonly picked: number | undefined;
  readonly onPick: (index: number, level: Level) => void;
  readonly draws: Draws;
  readonly seed: number;
}) {
  const { pools, level, instrument, shift, tune } = made;
  const [rows, setRows] = useState<readonly PoolRow[]>();
  const score = useMemo(
    () => poolScore({ pools, instrument, level, bars: tune.bars, title: level, shift }),
    [pools, instrument, level, tune, shift],
  );
  const quiet = useMemo(() => quietHeads(pools), [pools]);
  useEffect(() => {
    let isNewest = true;
    if (score.columns.length > 0 && score.staves.length > 0)
      void draws
        .pools(score, { width, staffSpace: isThree ? SPACE.three : SPACE.one, seed: seed + (isThree ? 10 : 0) }, quiet)
        .then((drawn) => isNewest && setRows(drawn));
    else setRows([]);
    return () => {
      isNewest = false;
    };
  }, [draws, score, width, isThree, seed, quiet]);
  const [set] = pools.overall;
  return (
    <section aria-label={`${LEVEL_NAMES[level]}: notes to improvise with`} className="pt-3">
      <h2 className="mb-1 flex flex-wrap items-baseline gap-x-2 text-[14px]">
        {isThree && (
          <span className="flex items-center gap-1 font-semibold">
            <LevelSign level={level} size={16} />
            {LEVEL_NAMES[level]} · {instrument.shortName}
          </span>
        )}
        {set && (pools.kinds.includes('whole') || pools.kinds.includes('bent')) && (
          <span className="text-ink-soft">{coverageWords(set)}.</span>
        )}
        {wholeFormWords(pools.form.reading.patterns) && (
          <span className="text-ink-soft">The form is a {wholeFormWords(pools.form.reading.patterns)}.</span>
        )}
      </h2>
      {pools.kinds.length === 0 && <p className="text-ink-soft">No pools are ticked for this level.</p>}
      {rows === undefined && score.columns.length > 0 && (
        <p className="py-6 text-ink-soft" aria-live="polite">
          Drawing the notes …
        </p>
      )}
      {rows?.map((row) => (
        <MapRow key={row.from} row={row} made={made} picked={picked} onPick={onPick} />
      ))}
    </section>
  );
});

function MapRow({
  row,
  made,
  picked,
  onPick,
}: {
  readonly row: PoolRow;
  readonly made: PlayerPools;
  readonly picked: number | undefined;
  readonly onPick: (index: number, level: Level) => void;
}) {
  const { pools, level } = made;
  const { geometry } = row;
  const percent = (value: number, whole: number) => `${(100 * value) / whole}%`;
  const brackets = bracketsIn(pools.form.reading.patterns, row);
  const move = (event: KeyboardEvent, index: number) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const next = step === undefined ? -1 : index + step;
    if (next < 0 || next >= pools.chords.length) return;
    event.preventDefault();
    onPick(next, level);
    document.querySelector<HTMLElement>(`[data-chord="${level}-${next}"]`)?.focus();
  };
  return (
    <div className="music-row border-b border-line pb-1">
      {brackets.length > 0 && (
        <div className="relative mt-1 h-5" aria-hidden="true">
          {brackets.map(({ kind, from, to, opens, closes }) => {
            const start = geometry.bars[from - row.from];
            const end = geometry.bars[to - 1 - row.from];
            if (!start || !end) return null;
            return (
              <span
                key={`${kind}${from}`}
                className={`absolute top-1.5 h-2.5 border-t border-ink-soft/70 ${opens ? 'border-l' : ''} ${closes ? 'border-r' : ''}`}
                style={{
                  left: percent(start.x, geometry.width),
                  width: percent(end.x + end.width - start.x - 4, geometry.width),
                }}
              >
                <span className="absolute -top-2 left-2 bg-paper px-1 text-[11px] leading-4 whitespace-nowrap text-ink-soft">
                  {PATTERN_WORDS[kind]}
                </span>
              </span>
            );
          })}
        </div>
      )}
      <div className="music relative">
        <div dangerouslySetInnerHTML={{ __html: row.svg }} />
        {geometry.bars.map((bar, k) => {
          const index = row.from + k;
          const chord = pools.chords[index];
          if (!chord) return null;
          const isPicked = picked === index;
          return (
            <button
              key={index}
              type="button"
              data-chord={`${level}-${index}`}
              aria-pressed={isPicked}
              tabIndex={isPicked || (picked === undefined && index === 0) ? 0 : -1}
              aria-label={chordLabel(chord, pools.form.places[index]?.bar ?? 0)}
              onClick={() => onPick(index, level)}
              onKeyDown={(event) => move(event, index)}
              className={`no-print absolute inset-y-0 rounded-sm border ${isPicked ? 'border-cane bg-cane/12' : 'border-transparent hover:bg-cane/6'}`}
              style={{ left: percent(bar.x, geometry.width), width: percent(bar.width, geometry.width) }}
            />
          );
        })}
      </div>
    </div>
  );
}

const PATTERN_WORDS: Readonly<Record<FormPattern['kind'], string>> = {
  'ii–V–I': 'ii–V–I',
  'ii–V': 'ii–V',
  backdoor: 'back door',
  turnaround: 'turnaround',
  blues: 'twelve-bar blues',
  'minor blues': 'minor blues',
  'rhythm A': 'rhythm section A',
  vamp: 'vamp',
};

const WHOLE_FORM: readonly FormPattern['kind'][] = ['blues', 'minor blues', 'vamp'];

/** What the form as a whole is, where it has a name. */
function wholeFormWords(patterns: readonly FormPattern[]): string | undefined {
  const found = patterns.find(({ kind }) => WHOLE_FORM.includes(kind));
  return found && PATTERN_WORDS[found.kind];
}

interface Bracket extends FormPattern {
  readonly opens: boolean;
  readonly closes: boolean;
}

/**
 * The stretches of patterns that lie in a row; of two that overlap, the earlier one. What spans the whole form is said
 * once.
 */
function bracketsIn(patterns: readonly FormPattern[], row: PoolRow): readonly Bracket[] {
  const shown: Bracket[] = [];
  for (const pattern of patterns) {
    const from = Math.max(pattern.from, row.from);
    const to = Math.min(pattern.to, row.to);
    if (from >= to || WHOLE_FORM.includes(pattern.kind)) continue;
    if (shown.some((other) => other.from < to && from < other.to)) continue;
    shown.push({ ...pattern, from, to, opens: from === pattern.from, closes: to === pattern.to });
  }
  return shown;
}

/** A chord with its pools, read out. */
function chordLabel({ reading, pools }: ChordPools, bar: number): string {
  const numeral = reading.numeral ? `, ${reading.numeral}` : '';
  const said = pools.map(({ name, notes }) => {
    const words = notes.map(({ note, role, wayOut }) => {
      const how =
        role === 'rub' && wayOut ? ` rubs, goes to ${namePitchClass(wayOut)}` : role === 'colour' ? ' leans' : '';
      return namePitchClass(note) + how;
    });
    return `${name}: ${words.join(', ')}`;
  });
  return `Bar ${bar}, ${nameChord(reading.chord.symbol)}${numeral}. ${said.join('. ')}`;
}
