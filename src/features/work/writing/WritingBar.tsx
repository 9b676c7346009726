'use client';

import { KeyboardMusic, PencilLine, Rows3 } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { nameValue } from '../../../core/time';
import { hasSecondPart, type Tune } from '../../../core/score';
import { BeatSign } from '../../../ui/BeatSign';
import { Select } from '../../../ui/Select';
import { press, setLength, toggleDot, tuplet } from './commands';
import { midiDoors, SIMULATED_DOORS, type KeyDoor } from './inputSources';
import { PianoKeys } from './PianoKeys';
import { WRITTEN_TYPES, type Writing, type WritingLane } from './writingStore';

/** The line of tools over the music: lengths and signs at hand, the rest by keys (see the help sheet). */
export function WritingBar({
  writing,
  tune,
  onFocus,
  isOneBar = false,
}: {
  readonly writing: Writing;
  readonly tune: Tune;
  readonly onFocus: () => void;
  /** A single bar is written: what concerns more than that is left out. */ readonly isOneBar?: boolean;
}) {
  const state = useStore(writing.store);
  const key =
    (name: string, shiftKey = false) =>
    () => {
      press(writing, { key: name, ctrlKey: false, metaKey: false, altKey: false, shiftKey, isAltGraph: false });
      if (!['h', 'w', 'm', 'n', 'k'].includes(name)) onFocus();
    };
  if (!state.on) {
    return (
      <div className="no-print sticky top-0 z-20 flex min-h-9 items-center gap-3 border-b border-line bg-panel/95 px-3">
        <Tool
          label="Write"
          isOn={false}
          onClick={() => {
            writing.start();
            onFocus();
          }}
        >
          <PencilLine size={15} aria-hidden="true" />
          Write
        </Tool>
        <span className="text-[13px] text-ink-soft">or pick a bar of the tune and press Enter</span>
      </div>
    );
  }
  return (
    <div className="no-print sticky top-0 z-20 border-b border-line bg-panel/95">
      <div
        role="toolbar"
        aria-label="Writing"
        className="flex min-h-9 flex-wrap items-center gap-x-0.5 gap-y-0.5 px-2 py-0.5"
      >
        {!isOneBar && (
          <>
            <Tool label="End writing" isOn onClick={() => writing.stop()}>
              <PencilLine size={15} aria-hidden="true" />
              Writing
            </Tool>
            <Gap />
          </>
        )}
        {WRITTEN_TYPES.map((type) => (
          <Tool
            key={type}
            label={nameValue({ type, dots: 0 })}
            isOn={state.type === type}
            onClick={() => {
              setLength(writing, type);
              onFocus();
            }}
          >
            <BeatSign beat={{ type, dots: 0 }} />
          </Tool>
        ))}
        <Tool
          label="Dotted"
          isOn={state.dotted}
          onClick={() => {
            toggleDot(writing);
            onFocus();
          }}
        >
          <span className="text-lg leading-3">·</span>
        </Tool>
        <Gap />
        <Tool label="Rest (Z)" onClick={key('z')}>
          rest
        </Tool>
        <Tool label="Tie to the next note (T)" onClick={key('t')}>
          tie
        </Tool>
        <Tool
          label="3:2, three in the time of two (U)"
          onClick={() => {
            tuplet(writing, { actual: 3, normal: 2 });
            onFocus();
          }}
        >
          3:2
        </Tool>
        <Tool
          label="5:4, five in the time of four"
          onClick={() => {
            tuplet(writing, { actual: 5, normal: 4 });
            onFocus();
          }}
        >
          5:4
        </Tool>
        <Tool label="Flatter (Shift ↓)" onClick={key('ArrowDown', true)}>
          ♭
        </Tool>
        <Tool label="Sharper (Shift ↑)" onClick={key('ArrowUp', true)}>
          ♯
        </Tool>
        <Gap />
        <Tool label="Marks (M)" isOn={state.field === 'marks'} onClick={key('m')}>
          marks
        </Tool>
        <Tool label="Slur (S)" onClick={key('s')}>
          slur
        </Tool>
        {!isOneBar && (
          <>
            <Tool label="Words (W)" isOn={state.field === 'word'} onClick={key('w')}>
              words
            </Tool>
            <Tool label="Optional passage (O)" onClick={key('o')}>
              [ ]
            </Tool>
            <Tool label="A phrase begins here, or does not (V)" onClick={key('v')}>
              phrase
            </Tool>
            <Tool label="Name a section (N)" isOn={state.field === 'section'} onClick={key('n')}>
              section
            </Tool>
            <Tool
              label="bar: repeats, endings, jumps, changes of key, meter and tempo (K)"
              isOn={state.field === 'bar'}
              onClick={key('k')}
            >
              bar
            </Tool>
            <Gap />
            <Tool
              label="Chords over the bars"
              isOn={state.chordRow}
              onClick={() => writing.set({ chordRow: !state.chordRow })}
            >
              <Rows3 size={15} aria-hidden="true" />
              chords
            </Tool>
          </>
        )}
        <Tool label="keys: a keyboard" isOn={state.keyboard} onClick={() => writing.set({ keyboard: !state.keyboard })}>
          <KeyboardMusic size={15} aria-hidden="true" />
          keys
        </Tool>
        {hasSecondPart(tune) && (
          <span className="ml-1">
            <Select<WritingLane>
              label="Which line is written"
              value={state.lane}
              options={[
                { value: 'tune', label: 'melody' },
                { value: 'second', label: 'second part' },
              ]}
              look="word"
              onChange={(lane) => {
                writing.set({ lane, anchor: undefined, touched: [] });
                onFocus();
              }}
            />
          </span>
        )}
      </div>
      {state.keyboard && <KeyboardStrip writing={writing} />}
    </div>
  );
}

function Tool({
  label,
  isOn,
  onClick,
  children,
}: {
  readonly label: string;
  readonly isOn?: boolean;
  readonly onClick: () => void;
  readonly children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      {...(isOn !== undefined && { 'aria-pressed': isOn })}
      onClick={onClick}
      className={`inline-flex min-h-7 min-w-7 items-center justify-center gap-1 rounded px-1 text-[13px] ${isOn ? 'bg-reed text-white' : 'hover:bg-cane-pale'}`}
    >
      {children}
    </button>
  );
}

function Gap() {
  return <span aria-hidden="true" className="mx-0.5 h-5 w-px bg-line" />;
}

/** Keys on the screen, and the choice of a device that plays them too. */
function KeyboardStrip({ writing }: { readonly writing: Writing }) {
  const [doors, setDoors] = useState<readonly KeyDoor[]>(SIMULATED_DOORS);
  const [chosen, setChosen] = useState('screen');
  const close = useRef<() => void>(undefined);
  useEffect(() => () => close.current?.(), []);
  const choose = (id: string) => {
    close.current?.();
    close.current = undefined;
    setChosen(id);
    if (id === 'search') {
      void midiDoors().then((found) => {
        setDoors([...found, ...SIMULATED_DOORS]);
        setChosen('screen');
        writing.set({
          message:
            found.length > 0
              ? `${found.length} MIDI ${found.length === 1 ? 'keyboard' : 'keyboards'} found.`
              : 'No MIDI keyboard was found; the simulated one plays instead.',
        });
      });
      return;
    }
    close.current = doors
      .find((door) => door.id === id)
      ?.open(
        (number) => writing.writeKey(number),
        () => setChosen('screen'),
      );
  };
  const options = [
    { value: 'screen', label: 'on the screen' },
    ...doors.map(({ id, name }) => ({ value: id, label: name })),
    { value: 'search', label: 'look for MIDI keyboards …' },
  ];
  return (
    <div className="border-t border-line px-3 pt-1 pb-2">
      <p className="mb-1 text-[13px] text-ink-soft">
        Keys: <Select label="Keyboard" value={chosen} options={options} look="word" onChange={choose} /> · as they sound
      </p>
      <PianoKeys onKey={(number) => writing.writeKey(number)} />
    </div>
  );
}
