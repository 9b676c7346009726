'use client';

import { Popover } from 'radix-ui';
import { Command } from 'cmdk';
import { useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { parseChord, printChord } from '../../../core/harmony';
import {
  eventAt,
  markBar,
  moveCaret,
  type NoteMark,
  setChord,
  setLyric,
  toggleHairpin,
} from '../../../core/score/edit';
import { ARTICULATIONS, barNumbers, DYNAMICS, isNote, keysOf, ORNAMENTS, type Tune } from '../../../core/score';
import { BarField } from './BarField';
import { mark } from './commands';
import { chordSuggestions, chordTyped } from './chordSuggestions';
import type { Writing } from './writingStore';

/** The small fields that open at the caret: a chord, words, a section's name, marks. */
export function CaretFields({
  writing,
  tune,
  onFocus,
}: {
  readonly writing: Writing;
  readonly tune: Tune;
  readonly onFocus: () => void;
}) {
  const { field } = useStore(writing.store);
  const anchor = useRef({
    getBoundingClientRect: () =>
      document.querySelector('[data-caret]')?.getBoundingClientRect() ?? new DOMRect(200, 200, 0, 0),
  });
  const close = () => {
    writing.set({ field: undefined });
    onFocus();
  };
  return (
    <Popover.Root
      open={field !== undefined}
      onOpenChange={(open) => {
        if (!open) close();
      }}
    >
      <Popover.Anchor virtualRef={anchor} />
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={6}
          collisionPadding={8}
          aria-label={FIELD_NAMES[field ?? 'chord']}
          className="z-40 w-72 rounded border border-edge bg-panel p-2.5 shadow-lg"
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          {field === 'chord' && <ChordField key={place(writing)} writing={writing} tune={tune} onDone={close} />}
          {field === 'word' && <WordField key={place(writing)} writing={writing} tune={tune} onDone={close} />}
          {field === 'section' && <SectionField writing={writing} tune={tune} onDone={close} />}
          {field === 'bar' && <BarField writing={writing} tune={tune} />}
          {field === 'marks' && <MarksField writing={writing} onDone={close} />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const FIELD_NAMES = {
  chord: 'Chord symbol',
  word: 'Words',
  section: 'Section',
  marks: 'Marks',
  bar: 'The bar',
} as const;

function place({ caret }: Writing): string {
  return `${caret.bar}/${caret.at}`;
}

const INPUT = 'w-full min-h-8 rounded border border-edge bg-paper px-2';

function Labelled({
  label,
  problem,
  children,
}: {
  readonly label: string;
  readonly problem?: string | undefined;
  readonly children: ReactNode;
}) {
  return (
    <div>
      <div className="mb-1 text-[13px] font-medium text-ink-soft">{label}</div>
      {children}
      {problem && (
        <p role="alert" className="mt-1 text-[12.5px] text-warn">
          {problem}
        </p>
      )}
    </div>
  );
}

function ChordField({
  writing,
  tune,
  onDone,
}: {
  readonly writing: Writing;
  readonly tune: Tune;
  readonly onDone: () => void;
}) {
  const { caret } = writing;
  const standing = tune.bars[caret.bar]?.chords.find(({ at }) => at === caret.at)?.symbol;
  const [typed, setTyped] = useState(standing ? printChord(standing) : '');
  const [problem, setProblem] = useState<string>();
  const key = keysOf(tune)[caret.bar] ?? tune.key;
  const found = useMemo(() => chordSuggestions(chordTyped(typed), tune, key), [typed, tune, key]);
  const commit = (text: string) => {
    const name = chordTyped(text);
    const parsed = name === '' ? undefined : parseChord(name);
    if (parsed && !parsed.ok) {
      setProblem(`"${name}" cannot be read from "${parsed.problem.rest}" on; write it like Am7 or F#m7b5/C.`);
      return;
    }
    if (name !== '' || standing)
      writing.run((line, at) => setChord(line, caret, parsed?.ok ? parsed.value : undefined, at), {
        keepSelection: true,
      });
    onDone();
  };
  return (
    <Labelled label="Chord symbol" problem={problem}>
      <Command
        shouldFilter={false}
        label="Chord symbol"
        onKeyDown={(event) => {
          if (
            event.key === 'Enter' &&
            !event.currentTarget.querySelector('[aria-selected="true"][data-chosen="true"]')
          ) {
            event.preventDefault();
            commit(typed);
          }
        }}
      >
        <Command.Input
          autoFocus
          value={typed}
          onValueChange={(text) => {
            setTyped(text);
            setProblem(undefined);
          }}
          aria-label="Chord symbol"
          className={INPUT}
          placeholder="Am7, F#m7b5/C, N.C."
        />
        <Command.List className="mt-1 max-h-44 overflow-auto">
          {found.map((name) => (
            <Command.Item
              key={name}
              value={name}
              onSelect={() => commit(name)}
              className="min-h-7 cursor-default rounded px-2 py-0.5 hover:bg-cane-pale"
            >
              {name}
            </Command.Item>
          ))}
        </Command.List>
      </Command>
      <p className="mt-1 text-[12.5px] text-ink-soft">Enter sets what is typed; empty takes it away.</p>
    </Labelled>
  );
}

function WordField({
  writing,
  tune,
  onDone,
}: {
  readonly writing: Writing;
  readonly tune: Tune;
  readonly onDone: () => void;
}) {
  const here = eventAt(writing.bars, writing.caret);
  const verse = writing.state.verse;
  const lyric = here && isNote(here.event) ? here.event.lyrics?.find((one) => one.verse === verse) : undefined;
  const [typed, setTyped] = useState(lyric ? `${lyric.text}${lyric.hyphen ? '-' : ''}` : '');
  const put = (text: string) => {
    if (!here) return false;
    return writing.run((line, at) => setLyric(line, here.event.id, verse, text, at), { keepSelection: true });
  };
  const onward = () => {
    let caret = moveCaret(writing.bars, writing.caret, 1);
    for (let k = 0; k < 32; k += 1) {
      const next = eventAt(writing.bars, caret);
      if (!next || isNote(next.event)) break;
      caret = moveCaret(writing.bars, caret, 1);
    }
    writing.moveTo(caret);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') {
      put(typed);
      onDone();
    } else if ((event.key === ' ' || event.key === '-') && typed.trim() !== '') {
      // A space ends the word, a hyphen the syllable; both go on to the next note.
      event.preventDefault();
      if (put(event.key === '-' ? `${typed}-` : typed)) onward();
    } else if (event.key === ' ') {
      event.preventDefault();
      onward();
    }
  };
  if (!here || !isNote(here.event))
    return (
      <Labelled label="Words">
        <p>Words go under notes; put the caret on one.</p>
      </Labelled>
    );
  return (
    <Labelled label={`Words, verse ${verse}`}>
      <div className="flex gap-2">
        <input
          autoFocus
          aria-label="Syllable"
          maxLength={80}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={onKeyDown}
          className={INPUT}
        />
        <select
          aria-label="Verse"
          value={verse}
          onChange={(event) => writing.set({ verse: Number(event.target.value) })}
          className="min-h-8 rounded border border-edge bg-paper px-1"
        >
          {[1, 2, 3, 4].map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
        </select>
      </div>
      <p className="mt-1 text-[12.5px] text-ink-soft">
        Space or hyphen goes on to the next note of {tune.title || 'the tune'}; an underscore at the end holds.
      </p>
    </Labelled>
  );
}

function SectionField({
  writing,
  tune,
  onDone,
}: {
  readonly writing: Writing;
  readonly tune: Tune;
  readonly onDone: () => void;
}) {
  const { bar } = writing.caret;
  const [typed, setTyped] = useState(tune.bars[bar]?.section ?? '');
  const number = barNumbers(tune)[bar];
  return (
    <Labelled label={`Section that begins with bar ${number}`}>
      <input
        autoFocus
        aria-label="Section"
        maxLength={40}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        className={INPUT}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          writing.run(
            (line, at) =>
              markBar(
                line,
                bar,
                { section: typed.trim() || undefined },
                at,
                typed.trim() ? `Section ${typed.trim()}` : 'No section',
              ),
            { keepSelection: true },
          );
          onDone();
        }}
      />
      <p className="mt-1 text-[12.5px] text-ink-soft">Enter sets it; empty takes it away.</p>
    </Labelled>
  );
}

const MARK_GROUPS: readonly (readonly [string, readonly (readonly [string, NoteMark])[]])[] = [
  [
    'How it is played',
    [
      ...ARTICULATIONS.map((value) => [value.replace('-', ' '), { kind: 'articulation', value }] as const),
      ['fermata', { kind: 'fermata' }],
    ],
  ],
  [
    'Ornaments',
    [
      ...ORNAMENTS.map((value) => [value.replace('-', ' '), { kind: 'ornament', value }] as const),
      ['grace note', { kind: 'grace' }],
    ],
  ],
  ['Loudness', DYNAMICS.map((value) => [value, { kind: 'dynamic', value }] as const)],
];

function MarksField({ writing, onDone }: { readonly writing: Writing; readonly onDone: () => void }) {
  const button = 'min-h-7 rounded border border-line bg-paper px-1.5 text-[13px] hover:bg-cane-pale';
  return (
    <div>
      {MARK_GROUPS.map(([name, marks]) => (
        <div key={name} className="mb-2">
          <div className="mb-1 text-[13px] font-medium text-ink-soft">{name}</div>
          <div className="flex flex-wrap gap-1">
            {marks.map(([label, value]) => (
              <button
                key={label}
                type="button"
                className={`${button} ${name === 'Loudness' ? 'font-serif italic' : ''}`}
                onClick={() => {
                  mark(writing, value);
                  onDone();
                }}
              >
                {label}
              </button>
            ))}
            {name === 'Loudness' &&
              (['crescendo', 'diminuendo'] as const).map((kind) => (
                <button
                  key={kind}
                  type="button"
                  className={button}
                  onClick={() => {
                    writing.run((tune, at) => toggleHairpin(tune, writing.targets, kind, at), { keepSelection: true });
                    onDone();
                  }}
                >
                  {kind}
                </button>
              ))}
          </div>
        </div>
      ))}
      <p className="text-[12.5px] text-ink-soft">For the selected notes; the same again takes it off.</p>
    </div>
  );
}
