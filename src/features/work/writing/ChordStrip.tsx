'use client';

import { useId, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import { parseProgression, printChord, progressionProblemText } from '../../../core/harmony';
import { chordsLike, layOutProgression, setChordsOfBar } from '../../../core/score/edit';
import { barNumbers, keysOf, type Tune } from '../../../core/score';
import type { EngravedRow } from '../../../engrave/engraver';
import { chordSuggestions, chordTyped } from './chordSuggestions';
import type { WorkStore } from '../workStore';
import type { Writing } from './writingStore';

/**
 * A field over each bar for its chords: several share the bar, `=1-4` takes those of bars 1 to 4, a pasted progression
 * fills the bars on.
 */
export function ChordStrip({
  writing,
  bench,
  row,
}: {
  readonly writing: Writing;
  readonly bench: WorkStore;
  readonly row: EngravedRow;
}) {
  const tune = useStore(bench, ({ document }) => document.tune);
  const numbers = barNumbers(tune);
  return (
    <div className="no-print flex pr-4">
      <div className="w-(--label-width) shrink-0 pr-2 text-right text-[12px] leading-7 text-ink-soft">chords</div>
      <div className="relative h-8 min-w-0 flex-1">
        {row.geometry.bars.map(({ x, width }, place) => {
          const bar = row.from + place;
          return (
            <span
              key={bar}
              className="absolute top-0.5"
              style={{
                left: `${(100 * (x + 2)) / row.geometry.width}%`,
                width: `${(100 * (width - 4)) / row.geometry.width}%`,
              }}
            >
              <BarChords
                key={`${bar}/${chordsText(tune, bar)}`}
                writing={writing}
                tune={tune}
                bar={bar}
                number={numbers[bar] ?? bar}
              />
            </span>
          );
        })}
      </div>
    </div>
  );
}

function chordsText(tune: Tune, bar: number): string {
  return (tune.bars[bar]?.chords ?? []).map(({ symbol }) => printChord(symbol)).join(' ');
}

function BarChords({
  writing,
  tune,
  bar,
  number,
}: {
  readonly writing: Writing;
  readonly tune: Tune;
  readonly bar: number;
  readonly number: number;
}) {
  const standing = chordsText(tune, bar);
  const [typed, setTyped] = useState(standing);
  const [problem, setProblem] = useState<string>();
  const [isOpen, setOpen] = useState(false);
  const list = useId();
  const key = keysOf(tune)[bar] ?? tune.key;
  const words = typed.split(/\s+/);
  const last = words.at(-1) ?? '';
  const head = words
    .slice(0, -1)
    .map((word) => `${word} `)
    .join('');
  const commit = () => {
    setOpen(false);
    if (typed.trim() === standing) return;
    const like = /^=\s*(\d+)(?:\s*[-–]\s*(\d+))?$/.exec(typed.trim());
    if (like) {
      takeLike(Number(like[1]), Number(like[2] ?? like[1]));
      return;
    }
    const text = words
      .map(chordTyped)
      .filter((word) => word !== '')
      .join(' ');
    const read = text === '' ? undefined : parseProgression(text);
    if (read && !read.ok) {
      setProblem(read.problem.map((one) => progressionProblemText(one).replace(/^bar \d+: /, '')).join('; '));
      return;
    }
    writing.run((line, caret) => setChordsOfBar(line, bar, read?.ok ? (read.value[0] ?? []) : [], caret), {
      keepSelection: true,
    });
  };
  const takeLike = (from: number, to: number) => {
    const numbers = barNumbers(tune);
    const [first, until] = [numbers.indexOf(from), numbers.lastIndexOf(to)];
    if (first < 0 || until < first) {
      setProblem(`there are no bars ${from} to ${to}`);
      return;
    }
    const end = Math.min(tune.bars.length - 1, bar + until - first);
    writing.run((line, caret) => chordsLike(line, [first, until], [bar, end], caret), { keepSelection: true });
  };
  const onPaste = (event: ClipboardEvent<HTMLInputElement>) => {
    const text = event.clipboardData.getData('text');
    if (!/[|\n]/.test(text.trim())) return;
    event.preventDefault();
    const read = parseProgression(text);
    if (read.ok) writing.run((line, caret) => layOutProgression(line, bar, read.value, caret), { keepSelection: true });
    else setProblem(`Nothing was pasted: ${read.problem.map(progressionProblemText).join('; ')}`);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    event.stopPropagation();
    if (event.key === 'Enter') {
      commit();
      const inputs = [...document.querySelectorAll<HTMLElement>('[data-chords]')];
      inputs[inputs.indexOf(event.currentTarget) + 1]?.focus();
    } else if (event.key === 'Escape') {
      setTyped(standing);
      setProblem(undefined);
    }
  };
  const earlier =
    number > 4 && (number - 1) % 4 === 0
      ? [[number - 4, number - 1] as const, ...(number > 8 ? [[1, 4] as const] : [])]
      : [];
  return (
    <>
      <input
        data-chords={bar}
        aria-label={`Chords of bar ${number}`}
        aria-invalid={problem !== undefined}
        list={list}
        value={typed}
        placeholder="%"
        maxLength={200}
        onFocus={() => setOpen(true)}
        onChange={(event) => {
          setTyped(event.target.value);
          setProblem(undefined);
        }}
        onBlur={commit}
        onPaste={onPaste}
        onKeyDown={onKeyDown}
        className={`h-7 w-full rounded-sm border bg-paper px-1.5 text-[13px] ${problem ? 'border-warn' : 'border-line hover:border-edge'}`}
      />
      <datalist id={list}>
        {isOpen &&
          typed === '' &&
          earlier.map(([from, to]) => (
            <option key={from} value={`=${from}-${to}`}>{`same as bars ${from}–${to}`}</option>
          ))}
        {isOpen &&
          chordSuggestions(chordTyped(last), tune, key).map((name) => <option key={name} value={head + name} />)}
      </datalist>
      {problem && (
        <p
          role="alert"
          className="absolute top-8 z-10 w-56 rounded border border-warn bg-warn-pale px-1.5 py-0.5 text-[12.5px] text-warn"
        >
          {problem}
        </p>
      )}
    </>
  );
}
