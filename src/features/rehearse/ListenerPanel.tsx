'use client';

import { Ear, EarOff, Square } from 'lucide-react';
import type { Part } from '../../core/levels';
import { takeWords } from '../../core/rehearsal';
import { barNumbers } from '../../core/score';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import type { Listener, Pace } from './useListener';
import type { Practice } from './usePractice';

const PACE_WORDS: Readonly<Record<Pace, string>> = {
  'in-time': 'with what plays',
  free: 'in your own time',
};

/** The microphone's part of the practice panel: listening, and what was heard. */
export function ListenerPanel({
  listener,
  practice,
  part,
}: {
  readonly listener: Listener;
  readonly practice: Practice;
  readonly part: Part;
}) {
  const { listening, pace, report } = listener;
  const isOn = listening.kind === 'on' || listening.kind === 'taking';
  const numbers = barNumbers(part);
  return (
    <section aria-label="Listening" className="mt-3 border-t border-line pt-2">
      <h2 className="font-semibold">Listening</h2>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        <Button
          className="min-h-10 px-3"
          aria-pressed={isOn}
          disabled={listening.kind === 'asking'}
          onClick={listener.toggle}
        >
          {isOn ? <EarOff size={16} aria-hidden="true" /> : <Ear size={16} aria-hidden="true" />}
          {isOn ? 'Stop listening' : 'Listen to me'}
        </Button>
        {isOn && (
          <Select
            look="word"
            label="How you play"
            value={pace}
            options={(Object.keys(PACE_WORDS) as Pace[]).map((value) => ({ value, label: PACE_WORDS[value] }))}
            onChange={listener.setPace}
          />
        )}
      </p>
      {isOn && pace === 'free' && (
        <Button className="mt-2 min-h-10 px-3" onClick={listener.toggleTake}>
          {listening.kind === 'taking' && <Square size={14} fill="currentColor" aria-hidden="true" />}
          {listening.kind === 'taking' ? 'I have played it' : 'I begin'}
        </Button>
      )}
      {isOn && pace === 'in-time' && (
        <label className="mt-1 flex min-h-9 items-center gap-2 text-[13.5px]">
          <input
            type="checkbox"
            className="size-5 accent-cane"
            checked={listener.counts}
            onChange={({ target }) => listener.setCounts(target.checked)}
          />
          a round with nine notes of ten right counts as good
        </label>
      )}
      {listening.kind === 'failed' && (
        <p role="alert" className="mt-1 text-[13px] text-warn">
          {listening.message}
        </p>
      )}
      <p className="mt-1 text-[12.5px] text-ink-soft">
        {isOn && pace === 'in-time'
          ? 'Use headphones, not too loud: the microphone hears the loudspeaker as well. '
          : ''}
        Only the pitch is followed as it comes: nothing is recorded, and nothing is sent anywhere.
      </p>
      {report && (
        <div role="status" aria-label="What was heard" className="mt-2 rounded border border-line bg-paper px-2 py-1.5">
          <p className="font-medium">{takeWords(report)}</p>
          {report.bars.length > 0 && !report.isSilent && (
            <ul className="mt-1 max-h-48 overflow-y-auto text-[13px]">
              {report.bars.map(({ bar, text }) => (
                <li key={bar}>
                  <span className="text-ink-soft">bar {numbers[bar]}:</span> {text}
                </li>
              ))}
            </ul>
          )}
          {report.worst.length > 0 && (
            <p className="mt-1 flex flex-wrap items-center gap-1 text-[13px]">
              Practise
              {report.worst.map(({ from, to }) => (
                <Button key={from} className="min-h-8 px-2" onClick={() => practice.pickSpot({ from, to })}>
                  {to - from === 1 ? `bar ${numbers[from]}` : `bars ${numbers[from]}–${numbers[to - 1]}`}
                </Button>
              ))}
            </p>
          )}
        </div>
      )}
    </section>
  );
}
