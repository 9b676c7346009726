'use client';

import { ArrowLeft, PanelRight, ZoomIn, ZoomOut } from 'lucide-react';
import Link from 'next/link';
import { type Level, LEVELS } from '../../core/instruments';
import type { OnStand, Part, StandAids } from '../../core/levels';
import type { Tune } from '../../core/score';
import type { PitchView } from '../../engrave/lanes';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Hidden } from './StandRow';

/** Staff spaces to choose from, CSS pixels: to be read from a lap, from a stand, from two metres. */
export const STAND_SIZES = [7, 9, 11, 13, 16] as const;
const HIDDEN_WORDS: Readonly<Record<Hidden, string>> = {
  nothing: 'everything',
  ear: 'the notes last: by ear',
  notes: 'chords alone',
  'every-second': 'every second bar',
};

const AID_WORDS: Readonly<Record<StandAids, string>> = {
  page: 'aids as on paper',
  fading: 'aids that fade',
  none: 'no aids or names',
  names: 'names',
  syllables: 'rhythm syllables',
};
const WHERE_FROM: Readonly<Record<OnStand, string>> = { part: 'levels', solo: 'solo', pool: 'improvise' };

/** How a part looks on the stand. */
export interface StandLook {
  readonly hidden: Hidden;
  readonly aids: StandAids;
  readonly view: PitchView;
  /** Which of `STAND_SIZES`. */
  readonly size: number;
  readonly isPanelOpen: boolean;
}

/** The page from which alone a stand is reached, and what it is called there. */
export interface StandHome {
  readonly address: string;
  readonly name: string;
}

/** What stands on the stand, and how it is shown. */
export function StandHeader({
  id,
  tune,
  part,
  level,
  what,
  isTogether = false,
  home,
  look: { hidden, aids, view, size, isPanelOpen },
  onLook,
}: {
  readonly id: string;
  readonly tune: Tune;
  readonly part: Part | undefined;
  readonly level: Level;
  readonly what: OnStand;
  /** The part of a player in a group: other levels have none here. */
  readonly isTogether?: boolean;
  /** A pupil's own week: they go back there, and to no other level. */
  readonly home?: StandHome | undefined;
  readonly look: StandLook;
  readonly onLook: (change: Partial<StandLook>) => void;
}) {
  return (
    <header className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-panel px-3 py-1">
      <Link
        prefetch={false}
        href={home?.address ?? `/tunes/${id}/${isTogether ? 'together' : tune.drill ? 'drills' : WHERE_FROM[what]}`}
        className="inline-flex min-h-9 items-center gap-1.5 rounded px-2 hover:bg-cane-pale"
      >
        <ArrowLeft size={16} aria-hidden="true" />
        {home?.name ?? 'Bench'}
      </Link>
      <h1 className="min-w-0 flex-1 truncate font-serif text-[18px] font-semibold">
        {part?.title ?? (tune.title || 'Untitled')}
        <span className="ml-2 font-sans text-[13px] font-normal text-ink-soft">{part?.instrument.name}</span>
      </h1>
      {!isTogether && home === undefined && (
        <nav aria-label="Level" className="flex">
          {LEVELS.map((one) => (
            <Link
              key={one}
              prefetch={false}
              href={`/tunes/${id}/stand?level=${one}${what === 'part' ? '' : `&what=${what}`}`}
              aria-current={one === level ? 'page' : undefined}
              className={`flex min-h-9 items-center gap-1 rounded px-2 text-[13px] ${one === level ? 'bg-paper font-semibold outline outline-edge' : 'hover:bg-cane-pale'}`}
            >
              <LevelSign level={one} size={16} />
              <span className="max-lg:sr-only">{LEVEL_NAMES[one]}</span>
            </Link>
          ))}
        </nav>
      )}
      <span className="text-[13px]">
        shown:{' '}
        <Select
          look="word"
          label="What is shown"
          value={hidden}
          options={(Object.keys(HIDDEN_WORDS) as Hidden[]).map((value) => ({ value, label: HIDDEN_WORDS[value] }))}
          onChange={(next) => onLook({ hidden: next })}
        />
        {', '}
        {what === 'part' && (
          <>
            <Select
              look="word"
              label="Aids"
              value={aids}
              options={(Object.keys(AID_WORDS) as StandAids[]).map((value) => ({ value, label: AID_WORDS[value] }))}
              onChange={(next) => onLook({ aids: next })}
            />
            {', '}
          </>
        )}
        <Select
          look="word"
          label="Whose pitch"
          value={view}
          options={[
            { value: 'written', label: 'as written' },
            { value: 'sounding', label: 'as it sounds' },
          ]}
          onChange={(next) => onLook({ view: next })}
        />
      </span>
      <span className="flex">
        <HeadButton label="Smaller notes" isOff={size === 0} onClick={() => onLook({ size: size - 1 })}>
          <ZoomOut size={17} aria-hidden="true" />
        </HeadButton>
        <HeadButton
          label="Larger notes"
          isOff={size === STAND_SIZES.length - 1}
          onClick={() => onLook({ size: size + 1 })}
        >
          <ZoomIn size={17} aria-hidden="true" />
        </HeadButton>
        <HeadButton
          label="Practice panel"
          isPressed={isPanelOpen}
          onClick={() => onLook({ isPanelOpen: !isPanelOpen })}
        >
          <PanelRight size={17} aria-hidden="true" />
        </HeadButton>
      </span>
    </header>
  );
}

function HeadButton({
  label,
  isOff,
  isPressed,
  onClick,
  children,
}: {
  readonly label: string;
  readonly isOff?: boolean;
  readonly isPressed?: boolean;
  readonly onClick: () => void;
  readonly children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={isPressed}
      disabled={isOff}
      onClick={onClick}
      className="flex size-9 items-center justify-center rounded hover:bg-cane-pale aria-pressed:bg-cane-pale disabled:text-[#a9a896]"
    >
      {children}
    </button>
  );
}
