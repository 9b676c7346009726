'use client';

import { Check, Play, RefreshCw, Square } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { type Level, LEVELS } from '../../core/instruments';
import { soloOfLevel } from '../../core/levels';
import type { Work } from '../../core/work';
import type { Tune } from '../../core/score';
import type { EngravedRow } from '../../engrave/engraver';
import { usualFeel } from '../../sound/backing';
import { voiceOf } from '../../sound/voices';
import { Button } from '../../ui/Button';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Player } from '../work/sound/player';
import type { Draws } from '../work/useEngraving';
import { useWidth } from '../work/useWidth';

/** A take on the page. */
export interface ShownTake {
  readonly level: Level;
  readonly seed: number;
  /** It stands in the level's form. */
  readonly isKept: boolean;
}

interface Props {
  readonly work: Work;
  readonly level: Level;
  readonly onLevel: (level: Level) => void;
  /** The takes one under another: of one level, or one of each. */
  readonly shown: readonly ShownTake[];
  readonly isAll: boolean;
  readonly onAll: () => void;
  readonly isAnalysed: boolean;
  readonly onAnalysed: (isAnalysed: boolean) => void;
  readonly draws: Draws;
  readonly player: Player;
  readonly onKeep: (level: Level, seed: number | undefined) => void;
  readonly onMore: () => void;
  /** The tune itself is read, instead of takes. */
  readonly isReading: boolean;
  readonly onReading: (isReading: boolean) => void;
}

/** Takes of a level's solo one under another: the first with its analysis, each to be heard, one to be kept. */
export function SoloTakes({
  work,
  level,
  onLevel,
  shown,
  isAll,
  onAll,
  isAnalysed,
  onAnalysed,
  draws,
  player,
  onKeep,
  onMore,
  isReading,
  onReading,
}: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const width = Math.max(0, useWidth(frame) - 32);
  const [playing, setPlaying] = useState<string>();
  const state = useStore(player.store);
  const isOn = state.kind === 'playing' || state.kind === 'waking';
  const hear = (one: Level, seed: number) => {
    const made = soloOfLevel(work.tune, one, work.recipes, seed);
    if (!made) return;
    setPlaying(`${one} ${seed}`);
    void player.play(
      { tune: made.tune, recipes: {} },
      {
        heard: 'tune',
        backing: usualFeel(made.tune),
        click: false,
        countIn: true,
        from: 0,
        tuneProgram: voiceOf(made.part.instrument),
      },
    );
  };
  return (
    <div ref={frame} className="min-h-full bg-paper">
      <div className="no-print sticky top-0 z-20 flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-panel px-4 py-1.5 text-[13px]">
        <div role="group" aria-label="Level" className="flex gap-1">
          {LEVELS.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={!isAll && one === level}
              onClick={() => onLevel(one)}
              className={`flex min-h-8 items-center gap-1 rounded px-2 ${!isAll && one === level ? 'bg-paper font-semibold outline outline-edge' : 'hover:bg-cane-pale'}`}
            >
              <LevelSign level={one} size={16} />
              {LEVEL_NAMES[one]}
            </button>
          ))}
          <button
            type="button"
            aria-pressed={isAll}
            onClick={onAll}
            className={`min-h-8 rounded px-2 ${isAll ? 'bg-paper font-semibold outline outline-edge' : 'hover:bg-cane-pale'}`}
          >
            All three
          </button>
        </div>
        <label className="flex min-h-8 items-center gap-1.5">
          <input
            type="checkbox"
            checked={isAnalysed}
            onChange={({ target }) => onAnalysed(target.checked)}
            className="size-5 accent-cane"
          />
          say what each note is
        </label>
        <span className="flex-1" />
        <Button aria-pressed={isReading} onClick={() => onReading(!isReading)}>
          {isReading ? 'Back to the takes' : 'Read the tune as a solo'}
        </Button>
        <Button onClick={onMore} disabled={isReading}>
          <RefreshCw size={14} aria-hidden="true" />
          Other takes
        </Button>
      </div>
      {width > 0 && isReading && <ReadTune tune={work.tune} width={width} draws={draws} />}
      {width > 0 &&
        !isReading &&
        shown.map(({ level: own, seed, isKept }, slot) => {
          const isHeard = isOn && playing === `${own} ${seed}`;
          const name = isAll ? LEVEL_NAMES[own] : `Take ${seed}`;
          return (
            <section key={`${own} ${seed}`} aria-label={name} className="border-b border-line px-4 pt-2 pb-3">
              <div className="no-print mb-1 flex flex-wrap items-center gap-2 text-[13px]">
                <h2 className="font-serif text-[16px] font-semibold">
                  {name}
                  {isAll && <span className="font-sans text-[12.5px] font-normal text-ink-soft"> take {seed}</span>}
                  {isKept && (
                    <span className="ml-2 font-sans text-[12.5px] font-normal text-ink-soft">
                      kept: it stands between melody and melody
                    </span>
                  )}
                </h2>
                <span className="flex-1" />
                <Button onClick={() => (isHeard ? player.stop() : hear(own, seed))}>
                  {isHeard ? (
                    <Square size={13} fill="currentColor" aria-hidden="true" />
                  ) : (
                    <Play size={13} fill="currentColor" aria-hidden="true" />
                  )}
                  {isHeard ? 'Stop' : isAll ? `Hear ${name.toLowerCase()}` : `Hear take ${seed}`}
                </Button>
                {isKept ? (
                  <Button onClick={() => onKeep(own, undefined)}>Do not keep it</Button>
                ) : (
                  <Button onClick={() => onKeep(own, seed)}>
                    <Check size={14} aria-hidden="true" />
                    {isAll ? `Keep it for ${name.toLowerCase()}` : `Keep take ${seed}`}
                  </Button>
                )}
              </div>
              <TakeRows
                work={work}
                level={own}
                seed={seed}
                slot={slot}
                isAnalysed={isAnalysed}
                width={width}
                draws={draws}
              />
            </section>
          );
        })}
    </div>
  );
}

function TakeRows({
  work,
  level,
  seed,
  slot,
  isAnalysed,
  width,
  draws,
}: Pick<Props, 'work' | 'level' | 'isAnalysed' | 'draws'> & {
  readonly seed: number;
  readonly slot: number;
  readonly width: number;
}) {
  const [rows, setRows] = useState<readonly EngravedRow[]>();
  useEffect(() => {
    let isNewest = true;
    void draws.solo(work, { level, seed, slot, isAnalysed }, width).then((made) => {
      if (isNewest) setRows(made);
    });
    return () => {
      isNewest = false;
    };
  }, [work, level, seed, slot, isAnalysed, width, draws]);
  if (!rows) return <p className="py-6 text-[13px] text-ink-soft">Composing …</p>;
  if (rows.length === 0)
    return (
      <p className="py-6 text-[13px] text-ink-soft">
        No solo of this level comes home over these chords: its notes hold no tone of the tonic chord there.
      </p>
    );
  return (
    <div className="music">
      {rows.map((row, index) => (
        <div key={index} dangerouslySetInnerHTML={{ __html: row.svg }} />
      ))}
    </div>
  );
}

/** The tune as it is, with its phrases numbered and what each note is over its chord. */
function ReadTune({ tune, width, draws }: { readonly tune: Tune; readonly width: number; readonly draws: Draws }) {
  const [rows, setRows] = useState<readonly EngravedRow[]>();
  useEffect(() => {
    let isNewest = true;
    void draws.readTune(tune, width).then((made) => {
      if (isNewest) setRows(made);
    });
    return () => {
      isNewest = false;
    };
  }, [tune, width, draws]);
  if (!rows) return <p className="px-4 py-6 text-[13px] text-ink-soft">Reading …</p>;
  return (
    <section aria-label="The tune, read as a solo" className="px-4 pt-2 pb-3">
      <h2 className="mb-1 font-serif text-[16px] font-semibold">{tune.title || 'The tune'}, read as a solo</h2>
      {rows.length === 0 ? (
        <p className="text-[13px] text-ink-soft">There are no chords to read it over: write some on the Tune step.</p>
      ) : (
        <div className="music">
          {rows.map((row, index) => (
            <div key={index} dangerouslySetInnerHTML={{ __html: row.svg }} />
          ))}
        </div>
      )}
    </section>
  );
}
