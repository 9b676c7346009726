'use client';

import { ArrowLeft, ArrowRight, Play, Square } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import type { BarRun, Part } from '../../core/levels';
import { degreeName } from '../../core/analysis';
import { capitalised } from '../../core/plainText';
import { soundingNotes } from '../../core/score';
import {
  type Chunk,
  earNotes,
  type EarStep,
  earSteps,
  likeWords,
  noteToFind,
  type ShapeNote,
  shapeOfBars,
} from '../../core/rehearsal';
import { namePitchClass, transpose } from '../../core/pitch';
import { voiceOf } from '../../sound/voices';
import { Button } from '../../ui/Button';
import type { Player } from '../work/sound/player';
import type { Practice } from './usePractice';

/**
 * Learning by ear, a card a step: find the home note, the note it begins with, phrase after phrase; the notes are shown
 * last.
 */
export function ByEar({
  part,
  practice,
  player,
  isPlaying,
  onShown,
}: {
  readonly part: Part;
  readonly practice: Practice;
  readonly player: Player;
  readonly isPlaying: boolean;
  /** Bars whose notes may be seen; all at the end. */
  readonly onShown: (bars: BarRun | 'all' | undefined) => void;
}) {
  const steps = useMemo(() => earSteps(practice.chunks.length), [practice.chunks.length]);
  const [at, setAt] = useState(0);
  const [isNamed, setNamed] = useState(false);
  const step = steps[Math.min(at, steps.length - 1)] ?? { kind: 'notes' };
  const bars = barsOf(step, practice, part);
  const chunk = step.kind === 'phrase' ? practice.chunks[step.chunk] : undefined;
  const notes = useMemo(() => earNotes(part), [part]);
  const shape = useMemo(() => (bars ? shapeOfBars(part, bars) : []), [part, bars?.from, bars?.to]); // eslint-disable-line react-hooks/exhaustive-deps
  const { pickSpot, setExample } = practice;
  // Each step is heard first, and answered.
  const [from, to] = [bars?.from, bars?.to];
  useEffect(() => {
    player.stop();
    setNamed(false);
    onShown(step.kind === 'notes' ? 'all' : undefined);
    if (from === undefined || to === undefined) return;
    pickSpot({ from, to });
    setExample(step.kind === 'notes' ? 'silent' : 'call');
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a step begins once, not with every change of the practice
  }, [at]);
  const find = (which: 'home' | 'start') => {
    if (!notes) return;
    if (isPlaying) player.stop();
    else
      void player.play(
        { tune: noteToFind(notes[which], part.concertKey), recipes: {} },
        {
          heard: 'tune',
          tuneProgram: voiceOf(part.instrument),
          backing: 'drone',
          click: false,
          countIn: false,
          from: 0,
          loopTo: 1,
        },
      );
  };
  const written = (which: 'home' | 'start') => (notes ? namePitchClass(transpose(notes[which], part.written)) : '');
  return (
    <section aria-label="By ear" className="mr-4 mb-2 ml-9 rounded border border-line bg-panel px-4 py-3">
      <p className="text-[13px] text-ink-soft">
        Step {at + 1} of {steps.length}
      </p>
      <h2 className="font-serif text-[21px] font-semibold">{headingOf(step)}</h2>
      <p className="max-w-[60ch]">{ADVICE[step.kind]}</p>
      {shape.length > 0 && step.kind !== 'notes' && <Shape notes={shape} />}
      {step.kind === 'phrase' && chunk && (
        <PhraseHelp
          index={step.chunk}
          chunk={chunk}
          practice={practice}
          firstNote={isNamed ? firstNoteOf(part, chunk) : undefined}
          onTell={() => setNamed(true)}
        />
      )}
      <p className="mt-2 flex flex-wrap items-center gap-2">
        {step.kind === 'home' || step.kind === 'start' ? (
          <>
            <Button className="min-h-11 px-4" kind="main" onClick={() => find(step.kind === 'home' ? 'home' : 'start')}>
              <PlaySign isPlaying={isPlaying} />
              {isPlaying ? 'Stop' : step.kind === 'home' ? 'Hear the home note' : 'Hear the note over a drone'}
            </Button>
            <Button className="min-h-11 px-3" onClick={() => setNamed(true)} disabled={isNamed}>
              {isNamed ? `It is ${written(step.kind === 'home' ? 'home' : 'start')}` : 'Tell me its name'}
            </Button>
          </>
        ) : (
          <Button className="min-h-11 px-4" kind="main" onClick={practice.toggle}>
            <PlaySign isPlaying={isPlaying} />
            {isPlaying ? 'Stop' : step.kind === 'notes' ? 'Play with the backing' : 'Hear it, then answer'}
          </Button>
        )}
        {bars && step.kind !== 'notes' && step.kind !== 'whole' && (
          <Button className="min-h-11 px-3" onClick={() => onShown(bars)}>
            Show its notes
          </Button>
        )}
        <span className="flex-1" />
        <Button className="min-h-11 px-3" disabled={at === 0} onClick={() => setAt(at - 1)}>
          <ArrowLeft size={16} aria-hidden="true" />
          Back
        </Button>
        <Button className="min-h-11 px-3" disabled={at >= steps.length - 1} onClick={() => setAt(at + 1)}>
          I have it
          <ArrowRight size={16} aria-hidden="true" />
        </Button>
      </p>
    </section>
  );
}

/** What is told of a phrase, and how it is made shorter or longer. */
function PhraseHelp({
  index,
  chunk,
  practice,
  firstNote,
  onTell,
}: {
  readonly index: number;
  readonly chunk: Chunk;
  readonly practice: Practice;
  /** None before it was asked for. */
  readonly firstNote: string | undefined;
  readonly onTell: () => void;
}) {
  return (
    <>
      {chunk.like && <p className="mt-1 font-medium">{capitalised(likeWords(chunk.like, 'phrase'))}.</p>}
      <p className="mt-1 flex flex-wrap items-center gap-2 text-[13px]">
        <span className="text-ink-soft">
          {firstNote === undefined ? 'On which note does it begin?' : `It begins on ${firstNote}.`}
        </span>
        {firstNote === undefined && (
          <Button className="min-h-8 px-2" onClick={onTell}>
            Tell me
          </Button>
        )}
        <Button className="min-h-8 px-2" disabled={chunk.to - chunk.from < 2} onClick={() => practice.cutInTwo(index)}>
          Too long: cut it in two
        </Button>
        <Button
          className="min-h-8 px-2"
          disabled={index >= practice.chunks.length - 1}
          onClick={() => practice.joinNext(index)}
        >
          Too short: join it with the next
        </Button>
      </p>
    </>
  );
}

/** The note with which some bars begin: its place in the key, and its name as it is written. */
function firstNoteOf({ bars, meter, writtenKey }: Part, run: BarRun | undefined): string {
  const first = run && soundingNotes({ bars, meter }).find(({ bar }) => bar >= run.from && bar < run.to);
  return first ? `the ${degreeName(first.pitch, writtenKey)}: ${namePitchClass(first.pitch)}` : 'a rest';
}

function PlaySign({ isPlaying }: { readonly isPlaying: boolean }) {
  const Sign = isPlaying ? Square : Play;
  return <Sign size={15} fill="currentColor" aria-hidden="true" />;
}

const ADVICE: Readonly<Record<EarStep['kind'], string>> = {
  home: 'Listen to the note on which the tune comes home. Hum it, then find it on your instrument.',
  start:
    'Now the note with which the tune begins, over the home note. Is it higher or lower than home? Hum it, then find it.',
  phrase:
    'It is played slowly, then there is as long a silence. Sing it first; watch its shape; then play it into the silence.',
  joined: 'This phrase and the one before it, in one go.',
  whole: 'All of it, from the beginning.',
  notes: 'Now look at what you can play already. What does it look like?',
};

function headingOf(step: EarStep): string {
  switch (step.kind) {
    case 'home':
      return 'Find the home note';
    case 'start':
      return 'Find the note it begins with';
    case 'phrase':
      return `Phrase ${step.chunk + 1}`;
    case 'joined':
      return `Phrases ${step.chunk} and ${step.chunk + 1} together`;
    case 'whole':
      return 'The whole tune';
    case 'notes':
      return 'The notes';
  }
}

function barsOf(step: EarStep, { chunks }: Practice, { bars }: Part): BarRun | undefined {
  if (step.kind === 'whole' || step.kind === 'notes') return { from: 0, to: bars.length };
  if (!('chunk' in step)) return undefined;
  const last = chunks[step.chunk];
  const first = step.kind === 'joined' ? chunks[step.chunk - 1] : last;
  return first && last && { from: first.from, to: last.to };
}

const [WIDE, HIGH, EDGE] = [640, 88, 8] as const;

/** How a phrase goes up and down in time: no staff, no names. */
function Shape({ notes }: { readonly notes: readonly ShapeNote[] }) {
  const x = (share: number) => EDGE + share * (WIDE - 2 * EDGE);
  const y = (height: number) => HIGH - EDGE - height * (HIGH - 2 * EDGE);
  const turns = notes.slice(1).filter((note, k) => note.height !== notes[k]?.height).length;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label={`The shape of the phrase: ${notes.length} notes, ${turns} moves up or down`}
      className="mt-1 block h-22 w-full max-w-160 rounded bg-paper"
    >
      <polyline
        points={notes.flatMap(({ from, to, height }) => [`${x(from)},${y(height)}`, `${x(to)},${y(height)}`]).join(' ')}
        fill="none"
        className="stroke-cane/40"
        strokeWidth={2}
      />
      {notes.map(({ from, to, height }, k) => (
        <line
          key={k}
          x1={x(from) + 1}
          x2={Math.max(x(from) + 3, x(to) - 4)}
          y1={y(height)}
          y2={y(height)}
          className="stroke-cane"
          strokeWidth={6}
          strokeLinecap="round"
        />
      ))}
    </svg>
  );
}
