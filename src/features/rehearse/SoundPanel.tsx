'use client';

import { useEffect, useState } from 'react';
import { LEVELS } from '../../core/instruments';
import type { Part } from '../../core/levels';
import { CLICK_PATTERNS, type ClickPattern } from '../../core/rehearsal';
import { FEELS, type Feel } from '../../sound/backing';
import { groupings } from '../../sound/metronome';
import { capitalised } from '../../core/plainText';
import type { BandMember, Mixed } from '../../sound/playPlan';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import type { Practice } from './usePractice';
import type { Example } from './useSoundChoices';

const CLICK_WORDS: Readonly<Record<ClickPattern | 'none', string>> = {
  none: 'is silent',
  all: 'sounds on every beat',
  'back-beats': 'sounds on two and four',
  first: 'sounds on the first beat',
  'every-other-bar': 'sounds every other bar',
  'two-and-two': 'sounds two bars, is silent two',
  fading: 'drops more and more beats',
};
const FEEL_WORDS: Readonly<Record<Feel | 'none', string>> = {
  none: 'nobody',
  held: 'held chords',
  beats: 'bass and chords on the beats',
  walking: 'a walking bass and chords',
  drone: 'a drone on the home note',
  'fifth-drone': 'a drone on the fifth',
};
const EXAMPLE_WORDS: Readonly<Record<Example, string>> = {
  heard: 'plays along',
  silent: 'is silent',
  call: 'plays it, then waits for your answer',
};
const SWING_WORDS = { written: 'as written', even: 'even', swung: 'swung' } as const;
const MIXED_NAMES = { line: 'The line', bass: 'Bass', chords: 'Chords', click: 'Metronome' } as const;

/** What is heard: the line, who plays behind it, the metronome, and how loud each is. */
export function SoundPanel({ practice, part }: { readonly practice: Practice; readonly part: Part }) {
  const { band } = practice;
  const others = LEVELS.filter((level) => level !== part.level);
  const ways = groupings(part.meter);
  return (
    <section aria-label="What is heard" className="mt-3 border-t border-line pt-2">
      <h2 className="font-semibold">What is heard</h2>
      <p className="leading-8">
        The line{' '}
        <Select
          look="word"
          label="The line"
          value={practice.example}
          options={(Object.keys(EXAMPLE_WORDS) as Example[]).map((value) => ({ value, label: EXAMPLE_WORDS[value] }))}
          onChange={practice.setExample}
        />
        , with{' '}
        <Select
          look="word"
          label="Backing"
          value={practice.backing}
          options={(['none', ...FEELS] as const).map((value) => ({ value, label: FEEL_WORDS[value] }))}
          onChange={practice.setBacking}
        />{' '}
        behind it. The metronome{' '}
        <Select
          look="word"
          label="Metronome"
          value={practice.click}
          options={(['none', ...CLICK_PATTERNS] as const).map((value) => ({ value, label: CLICK_WORDS[value] }))}
          onChange={practice.setClick}
        />
        {practice.click !== 'none' && (
          <>
            {', '}
            <Select
              look="word"
              label="Subdivision"
              value={String(practice.parts)}
              options={[
                { value: '1', label: 'undivided' },
                { value: '2', label: 'in halves' },
                { value: '3', label: 'in thirds' },
              ]}
              onChange={(value) => practice.setParts(value === '3' ? 3 : value === '2' ? 2 : 1)}
            />
            {ways.length > 0 && (
              <>
                {', a bar as '}
                <Select
                  look="word"
                  label="Groups of a bar"
                  value={(practice.groups ?? ways[0] ?? []).join('+')}
                  options={ways.map((way) => ({ value: way.join('+'), label: way.join(' + ') }))}
                  onChange={(value) => practice.setGroups(ways.find((way) => way.join('+') === value))}
                />
              </>
            )}
          </>
        )}
        . Eighths are{' '}
        <Select
          look="word"
          label="Eighths"
          value={practice.swing}
          options={(Object.keys(SWING_WORDS) as (keyof typeof SWING_WORDS)[]).map((value) => ({
            value,
            label: SWING_WORDS[value],
          }))}
          onChange={practice.setSwing}
        />
        .
      </p>
      {practice.hasGroup && (
        <label className="flex min-h-9 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-cane"
            checked={practice.groupPlays}
            onChange={({ target }) => practice.setGroupPlays(target.checked)}
          />
          the others of the group play their parts
        </label>
      )}
      <Volume practice={practice} />
      <details className="mt-1">
        <summary className="min-h-8 cursor-pointer text-[13.5px]">Who plays along, and how loud each is</summary>
        {(Object.keys(MIXED_NAMES) as (keyof typeof MIXED_NAMES)[]).map((who) => (
          <Share key={who} who={who} name={MIXED_NAMES[who]} practice={practice} />
        ))}
        {band &&
          !practice.hasGroup &&
          [...others, ...(part.sections ? [] : (['under'] as const))].map((level) => (
            <div key={level} className="flex items-center gap-2">
              <label className="flex min-h-9 flex-1 items-center gap-2 text-[13.5px]">
                <input
                  type="checkbox"
                  className="size-5 accent-cane"
                  checked={band.includes(level)}
                  onChange={({ target }) =>
                    practice.setBand(target.checked ? [...band, level] : band.filter((one) => one !== level))
                  }
                />
                the {memberName(level)} part
              </label>
              {band.includes(level) && (
                <Share who={level} name="" practice={practice} label={capitalised(memberName(level))} />
              )}
            </div>
          ))}
      </details>
    </section>
  );
}

function memberName(who: BandMember): string {
  return who === 'under' ? 'easier' : LEVEL_NAMES[who].toLowerCase();
}

/** How loud one of those who play is, against the others. */
function Share({
  who,
  name,
  label = name,
  practice,
}: {
  readonly who: Mixed;
  readonly name: string;
  readonly label?: string;
  readonly practice: Practice;
}) {
  const [share, setShare] = useState(100);
  return (
    <label className="flex min-h-9 flex-1 items-center gap-2 text-[13.5px]">
      {name && <span className="w-24">{name}</span>}
      <input
        type="range"
        min={0}
        max={100}
        value={share}
        aria-label={`${label}: loudness`}
        onChange={({ target }) => {
          setShare(Number(target.value));
          practice.setShare(who, Number(target.value) / 100);
        }}
        className="min-w-0 flex-1 accent-cane"
      />
    </label>
  );
}

function Volume({ practice }: { readonly practice: Practice }) {
  const [volume, setVolume] = useState<number>(QUIET);
  const { setVolume: tell } = practice;
  useEffect(() => tell(volume / 100), [tell, volume]);
  return (
    <label className="mt-1 flex min-h-9 items-center gap-2 text-[13.5px]">
      Volume
      <input
        type="range"
        min={0}
        max={100}
        value={volume}
        onChange={({ target }) => setVolume(Number(target.value))}
        className="flex-1 accent-cane"
      />
    </label>
  );
}

/** Loud headphones harm: it begins quietly. */
const QUIET = 40;
