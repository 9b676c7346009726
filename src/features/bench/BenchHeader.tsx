'use client';

import { History, Music, Redo2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import type { MouseEvent, ReactNode } from 'react';
import { useStore } from 'zustand';
import { LEVELS } from '../../core/instruments';
import { nameKey } from '../../core/pitch';
import { countedBars, hasPickup, type Tune } from '../../core/score';
import { printMeter } from '../../core/time';
import type { Bench } from '../work/step';
import { stepName, stepsOf, type BenchStep } from './steps';

interface Props {
  readonly bench: Bench;
  readonly step: BenchStep;
  readonly onStep: (step: BenchStep) => void;
  /** After a click on undo or redo. */
  readonly onHistory: (() => void) | undefined;
  /** Opens and closes the list of versions. */
  readonly onVersions: () => void;
  readonly versionsOpen: boolean;
}

/** What is worked on, the steps, undo and redo, and whose pitch is on screen. */
export function BenchHeader({ bench, step, onStep, onHistory, onVersions, versionsOpen }: Props) {
  const tune = useStore(bench.store, ({ document }) => document.tune);
  const lane = useStore(bench.store, ({ selection }) => LEVELS.find((level) => level === selection?.lane) ?? LEVELS[0]);
  return (
    <header className="flex flex-wrap items-end justify-between gap-x-4 border-b border-line bg-panel px-4 pt-2">
      <div className="min-w-0">
        <h1 className="truncate font-serif text-[21px] leading-7 font-semibold">{tune.title || 'Untitled'}</h1>
        <p className="truncate text-[13px] text-ink-soft">{tuneFacts(tune)}</p>
        <nav aria-label="Steps" className="no-print mt-1 flex flex-wrap gap-x-5 max-[599px]:gap-x-3">
          {stepsOf(tune).map((one) => (
            <Link
              key={one}
              prefetch={false}
              href={`/tunes/${bench.id}/${one}`}
              aria-current={one === step ? 'step' : undefined}
              onClick={(event) => {
                if (event.ctrlKey || event.metaKey || event.shiftKey) return;
                event.preventDefault();
                onStep(one);
              }}
              className={`border-b-[3px] pb-1 ${one === step ? 'border-cane font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`}
            >
              {stepName(one, tune)}
            </Link>
          ))}
        </nav>
      </div>
      <div className="no-print flex items-center gap-3 pb-2">
        {step !== 'tune' && (
          <button
            type="button"
            onClick={() =>
              bench.openPage(
                `stand?level=${lane}${step === 'solo' ? '&what=solo' : step === 'improvise' ? '&what=pool' : ''}`,
              )
            }
            className="inline-flex min-h-8 items-center gap-1.5 rounded border border-edge bg-paper px-2.5 font-medium hover:bg-cane-pale"
          >
            <Music size={15} aria-hidden="true" />
            Rehearse
          </button>
        )}
        <HistoryButtons bench={bench} onHistory={onHistory} />
        <IconButton label="History: versions of this tune" pressed={versionsOpen} onClick={onVersions}>
          <History size={17} aria-hidden="true" />
        </IconButton>
        <PitchSwitch bench={bench} />
      </div>
    </header>
  );
}

function tuneFacts(tune: Tune): string {
  if (tune.drill) return drillFacts(tune);
  const count = countedBars(tune);
  const bars = `${count === 1 ? '1 bar' : `${count} bars`}${hasPickup(tune) ? ' and a pickup' : ''}`;
  return [tune.composer, bars, printMeter(tune.meter), nameKey(tune.key)].filter(Boolean).join(' · ');
}

function drillFacts({ composer, drill }: Tune): string {
  const steps = drill?.steps.length ?? 1;
  return [composer, steps > 1 ? `a ladder of ${steps} exercises` : 'a drill'].filter(Boolean).join(' · ');
}

function HistoryButtons({ bench, onHistory }: Pick<Props, 'bench' | 'onHistory'>) {
  const newest = useStore(bench.store, ({ past }) => past.at(-1)?.name);
  const next = useStore(bench.store, ({ future }) => future[0]?.name);
  /** After a click the keys go back to the music; who came by the keyboard stays on the button, to press it again. */
  const act = (step: 'undo' | 'redo') => (event: MouseEvent) => {
    bench.store.getState()[step]();
    if (event.detail > 0) onHistory?.();
  };
  return (
    <div className="flex">
      <IconButton
        label={newest === undefined ? 'Nothing to undo' : `Undo: ${newest}`}
        disabled={newest === undefined}
        onClick={act('undo')}
      >
        <Undo2 size={17} aria-hidden="true" />
      </IconButton>
      <IconButton
        label={next === undefined ? 'Nothing to redo' : `Redo: ${next}`}
        disabled={next === undefined}
        onClick={act('redo')}
      >
        <Redo2 size={17} aria-hidden="true" />
      </IconButton>
    </div>
  );
}

function IconButton({
  label,
  pressed,
  ...rest
}: {
  readonly label: string;
  readonly pressed?: boolean;
  readonly disabled?: boolean;
  readonly onClick: (event: MouseEvent) => void;
  readonly children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={pressed}
      title={label}
      className="flex size-8 items-center justify-center rounded hover:bg-cane-pale aria-pressed:bg-cane-pale disabled:text-[#a9a896] disabled:hover:bg-transparent"
      {...rest}
    />
  );
}

function PitchSwitch({ bench }: Pick<Props, 'bench'>) {
  const view = useStore(bench.store, (state) => state.view);
  return (
    <div role="group" aria-label="Whose pitch is on screen" className="flex overflow-hidden rounded border border-reed">
      {(['written', 'sounding'] as const).map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={view === one}
          onClick={() => bench.store.getState().setView(one)}
          className={`min-h-8 px-3 ${view === one ? 'bg-reed font-semibold text-white' : 'bg-paper hover:bg-cane-pale'}`}
        >
          {one === 'written' ? 'Written' : 'Concert'}
        </button>
      ))}
    </div>
  );
}
