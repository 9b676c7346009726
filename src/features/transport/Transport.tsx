'use client';

import { Play, Square } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { Caret } from '../../core/score/edit';
import { LEVELS } from '../../core/instruments';
import { hasSecondPart, type Tempo, TEMPO_LIMITS, type Tune } from '../../core/score';
import type { Work } from '../../core/work';
import { FEELS, usualFeel, type Feel } from '../../sound/backing';
import type { Heard, PlayWishes } from '../../sound/playPlan';
import { BeatSign } from '../../ui/BeatSign';
import { Select, type Option } from '../../ui/Select';
import { TextInput } from '../../ui/Field';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import { plainKey, useKeys } from '../work/useKeys';
import type { Selection } from '../work/workStore';
import { Player } from '../work/sound/player';

const FEEL_TEXT: Readonly<Record<Feel, string>> = {
  held: 'held chords',
  beats: 'bass and chords on the beats',
  walking: 'a walking bass and chords',
  drone: 'a drone on the home note',
  'fifth-drone': 'a drone on the fifth',
};
const LOOPS = ['once', '1', '2', '4', '8'] as const;
type Loop = (typeof LOOPS)[number];
const LOOP_OPTIONS: readonly Option<Loop>[] = LOOPS.map((value) => ({
  value,
  label: value === 'once' ? 'to the end' : value === '1' ? 'this bar, looped' : `${value} bars, looped`,
}));

interface Props {
  readonly work: Work;
  readonly selection: Selection | undefined;
  /** Where writing stands, while the tune is written. */
  readonly caret: () => Caret | undefined;
  readonly numbers: readonly number[];
  /** Tempo of each lane. */
  readonly tempoOf: (lane: Selection['lane']) => Tempo;
}

/**
 * Plays the lanes, as a sentence whose underlined words are the controls. L plays and stops from anywhere on the bench.
 */
export function Transport({ work, selection, caret, numbers, tempoOf }: Props) {
  const [player] = useState(() => new Player());
  const state = useStore(player.store);
  const [heard, setHeard] = useState<Heard | 'picked'>('picked');
  const [backing, setBacking] = useState<Feel | 'none'>();
  const [click, setClick] = useState(false);
  const [countIn, setCountIn] = useState(true);
  const [perMinute, setPerMinute] = useState<number>();
  const [loop, setLoop] = useState<Loop>('once');
  const [problem, setProblem] = useState<string>();
  const bar = useLitNotes(player, state.kind === 'playing');
  const { tune } = work;
  const lane = selection?.lane ?? (tune.drill ? LEVELS[0] : 'tune');
  const isHeard: Heard = heard === 'picked' ? lane : heard;
  const tempo = tempoHeard(isHeard, tempoOf);
  const feel = backing ?? (tune.drill && !tune.drill.over ? 'drone' : usualFeel(tune));
  const isOn = state.kind === 'playing' || state.kind === 'waking';

  /** The bar that a stretch going round began with: it stays while what is heard is changed. */
  const begun = useRef(0);
  const start = useCallback(
    ({
      far = loop,
      ...change
    }: { readonly [Wish in keyof PlayWishes]?: PlayWishes[Wish] | undefined } & { readonly far?: Loop } = {}) => {
      const at = caret();
      const from = change.from ?? at?.bar ?? selection?.bar ?? 0;
      begun.current = from;
      const last = Math.max(0, numbers.length - 1);
      const {
        heard: who,
        backing: with_,
        click: clicks,
        countIn: counted,
        perMinute: quick,
      } = { heard: isHeard, backing: feel, click, countIn, perMinute, ...change };
      const bars = far === 'once' ? undefined : Number(far);
      void player.play(work, {
        heard: who ?? isHeard,
        backing: with_ ?? feel,
        click: clicks ?? click,
        countIn: counted ?? countIn,
        from: Math.min(from, last),
        ...(quick !== undefined && { perMinute: quick }),
        ...(bars !== undefined && { loopTo: Math.min(last, from + bars - 1) }),
        ...(at && bars === undefined && change.from === undefined && { at: at.at }),
      });
    },
    [player, work, numbers, selection, caret, isHeard, feel, click, countIn, perMinute, loop],
  );
  const toggle = useCallback(() => (isOn ? player.stop() : start()), [isOn, player, start]);
  /**
   * What is changed while it plays is heard at once, from the bar that sounds, or from the first of those that go
   * round.
   */
  const goOn = (change: Parameters<typeof start>[0] = {}) => {
    if (isOn) start({ ...change, countIn: false, from: loop === 'once' ? (bar ?? begun.current) : begun.current });
  };
  const latest = useRef(goOn);
  useEffect(() => {
    latest.current = goOn;
  });
  // Another version of a bar, another key: heard at once too, when the hand rests for a moment.
  const heardWork = useRef(work);
  useEffect(() => {
    if (heardWork.current === work) return undefined;
    heardWork.current = work;
    const timer = setTimeout(() => latest.current(), 350);
    return () => clearTimeout(timer);
  }, [work]);

  useKeys((event) => {
    const isMine = plainKey(event) === 'l';
    if (isMine) toggle();
    return isMine;
  });
  useEffect(() => () => player.close(), [player]);

  const setTempo = (text: string) => {
    const number = Number(text);
    const isTempo = /^\d+$/.test(text.trim()) && number >= TEMPO_LIMITS.slowest && number <= TEMPO_LIMITS.fastest;
    setProblem(
      isTempo || text.trim() === ''
        ? undefined
        : `"${text}" is no tempo: beats a minute go from ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest}.`,
    );
    if (!isTempo && text.trim() !== '') return;
    const next = isTempo ? number : undefined;
    setPerMinute(next);
    goOn({ perMinute: next });
  };
  const playing = state.kind === 'playing' ? state.plan : undefined;
  const said = problem ?? (state.kind === 'failed' ? state.message : playing?.messages.join(' '));
  const wordButton = (isPressed: boolean) =>
    `min-h-7 rounded-t border-b-2 px-0.5 hover:bg-white/10 ${isPressed ? 'border-cane-bright font-semibold text-white' : 'border-transparent line-through decoration-1 opacity-80'}`;
  return (
    <section
      aria-label="Listen"
      className="flex min-w-0 flex-wrap items-center gap-x-2 text-reed-pale max-[899px]:relative max-[899px]:pl-9"
    >
      <button
        type="button"
        onClick={toggle}
        aria-label={isOn ? 'Stop' : 'Play'}
        title={`${isOn ? 'Stop' : 'Play'} (L)`}
        className="flex size-8 items-center justify-center rounded text-cane-bright hover:bg-white/10 max-[899px]:absolute max-[899px]:top-0 max-[899px]:left-0"
      >
        {isOn ? (
          <Square size={16} fill="currentColor" aria-hidden="true" />
        ) : (
          <Play size={18} fill="currentColor" aria-hidden="true" />
        )}
      </button>
      <span>
        <Select
          look="dark"
          label="What is heard"
          value={heard}
          options={heardOptions(tune, lane)}
          onChange={(value) => {
            setHeard(value);
            goOn({ heard: value === 'picked' ? lane : value });
          }}
        />{' '}
        with{' '}
        <Select
          look="dark"
          label="Backing"
          value={backing ?? feel}
          options={[
            ...FEELS.map((value) => ({ value, label: FEEL_TEXT[value] })),
            { value: 'none' as const, label: 'no backing track' },
          ]}
          onChange={(value) => {
            setBacking(value);
            goOn({ backing: value });
          }}
        />
        {' · '}
        <span className="whitespace-nowrap">
          <BeatSign beat={tempo.beat} /> ={' '}
          <TextInput
            label="Playing tempo, beats a minute"
            value={String(perMinute ?? tempo.perMinute)}
            maxLength={4}
            onCommit={setTempo}
            className="min-h-7 w-9 rounded-t border-b-2 border-cane-bright bg-transparent px-0.5 leading-5 font-semibold text-white tabular-nums hover:bg-white/10"
          />
        </span>
        {perMinute !== undefined && perMinute !== tempo.perMinute && (
          <>
            {' '}
            <button type="button" onClick={() => setTempo('')} className="min-h-7 underline underline-offset-2">
              back to {tempo.perMinute}
            </button>
          </>
        )}
        {' · '}
        <Select
          look="dark"
          label="How far"
          value={loop}
          options={LOOP_OPTIONS}
          onChange={(value) => {
            setLoop(value);
            goOn({ far: value });
          }}
        />
      </span>
      <button type="button" aria-pressed={countIn} onClick={() => setCountIn(!countIn)} className={wordButton(countIn)}>
        count-in
      </button>
      <button
        type="button"
        aria-pressed={click}
        onClick={() => {
          setClick(!click);
          goOn({ click: !click });
        }}
        className={wordButton(click)}
      >
        metronome
      </button>
      <input
        type="range"
        aria-label="Volume"
        title="Volume: mind your ears, with headphones above all"
        min={0}
        max={100}
        defaultValue={80}
        onChange={({ target }) => player.setVolume(Number(target.value) / 100)}
        className="h-6 w-16 accent-[#e7b565]"
      />
      {state.kind === 'waking' && <span aria-live="polite">loading the sounds …</span>}
      {bar !== undefined && <span className="tabular-nums">bar {numbers[bar]}</span>}
      {said && (
        <span role="alert" className="font-semibold text-[#ffd9a0]">
          {said}
        </span>
      )}
    </section>
  );
}

function heardOptions(tune: Tune, lane: Selection['lane']): readonly Option<Heard | 'picked'>[] {
  const name = (one: Selection['lane']) =>
    one === 'tune' ? 'the tune' : one === 'second' ? 'the second part' : LEVEL_NAMES[one].toLowerCase();
  // The levels of a drill go through other bars: each is heard alone.
  if (tune.drill)
    return [
      { value: 'picked', label: name(lane), hint: 'the selected lane' },
      ...LEVELS.map((level) => ({ value: level, label: `always ${LEVEL_NAMES[level].toLowerCase()}` })),
    ];
  return [
    { value: 'picked', label: name(lane), hint: 'the selected lane' },
    { value: 'tune', label: 'always the tune' },
    ...(hasSecondPart(tune)
      ? [
          { value: 'second' as const, label: 'always the second part' },
          { value: 'both' as const, label: 'tune and second part' },
        ]
      : []),
    ...LEVELS.map((level) => ({ value: level, label: `always ${LEVEL_NAMES[level].toLowerCase()}` })),
    { value: 'together', label: 'all three levels' },
    { value: 'under', label: 'the easier part' },
  ];
}

/** The tempo that is played when none is set: of the lane, or of the slowest where several are heard. */
function tempoHeard(heard: Heard, tempoOf: Props['tempoOf']): Tempo {
  if (heard === 'together')
    return LEVELS.map(tempoOf).reduce((slow, tempo) => (tempo.perMinute < slow.perMinute ? tempo : slow));
  return tempoOf(heard === 'both' || heard === 'under' || heard === 'group' ? 'tune' : heard);
}

/** Lights the notes that sound, as a class on their pictures, keeps their row in view, and tells the bar. */
function useLitNotes(player: Player, isPlaying: boolean): number | undefined {
  const [bar, setBar] = useState<number>();
  const lit = useRef(new Set<string>());
  useEffect(() => {
    if (!isPlaying) {
      setBar(undefined);
      return undefined;
    }
    let frame = 0;
    let shown: number | undefined;
    const clear = (ids: Iterable<string>) => {
      for (const id of ids) document.getElementById(id)?.classList.remove('sounding');
    };
    const tick = () => {
      const moment = player.moment();
      const now = new Set(moment?.lit.map(({ lane, id }) => `${lane}:${id}`));
      clear([...lit.current].filter((id) => !now.has(id)));
      // Set anew each time: a row may have been drawn again since.
      for (const id of now) document.getElementById(id)?.classList.add('sounding');
      lit.current = now;
      if (moment?.bar !== undefined && moment.bar !== shown) {
        shown = moment.bar;
        setBar(moment.bar);
        rowOf(moment.bar)?.scrollIntoView({ block: 'nearest' });
      }
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => {
      cancelAnimationFrame(frame);
      clear(lit.current);
      lit.current = new Set();
    };
  }, [player, isPlaying]);
  return bar;
}

/** The row of music that holds a bar. */
function rowOf(bar: number): Element | undefined {
  return (
    [...document.querySelectorAll<HTMLElement>('[data-row]')]
      .findLast((row) => Number(row.dataset['row']) <= bar)
      ?.closest('section') ?? undefined
  );
}
