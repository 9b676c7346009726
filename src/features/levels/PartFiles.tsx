'use client';

import { FileMusic, FileText, Headphones, Printer } from 'lucide-react';
import { useState } from 'react';
import type { Level } from '../../core/instruments';
import { LEAVE_OUTS, type LeaveOut, type Recipe } from '../../core/work';
import { slowTempo } from '../../core/score';
import { Select } from '../../ui/Select';
import { LEVEL_NAMES } from '../../ui/LevelSign';
import type { SetRecipe } from './setRecipe';

/** How optional passages are printed. */
const LEAVE_OUT_WORDS: Readonly<Record<LeaveOut, string>> = {
  bracket: 'in a bracket',
  rests: 'as bars of rest, with cues before the player comes in',
};

/** A level's part to print or to save as a file. */
export function PartFiles({
  level,
  recipe,
  onSet,
  onFile,
  perMinute,
}: {
  readonly level: Level;
  readonly recipe: Recipe;
  readonly onSet: SetRecipe;
  readonly onFile: (name: string, download: boolean) => void;
  /** Beats a minute of the level. */
  readonly perMinute: number;
}) {
  const slowly = slowTempo(perMinute);
  const [paper, setPaper] = useState<'a4' | 'letter'>('a4');
  const item =
    'flex min-h-8 flex-1 items-center justify-center gap-1.5 rounded border border-edge bg-paper px-2 font-medium hover:bg-cane-pale';
  return (
    <section aria-label="Download">
      <div className="mb-2 flex items-center justify-between">
        <h3 className="font-semibold">The {LEVEL_NAMES[level].toLowerCase()} part on</h3>
        <Select
          look="word"
          label="Paper"
          value={paper}
          options={[
            { value: 'a4', label: 'A4' },
            { value: 'letter', label: 'Letter' },
          ]}
          onChange={setPaper}
        />
      </div>
      <div className="flex gap-1.5">
        <button type="button" className={item} onClick={() => onFile(`${level}.pdf?paper=${paper}`, false)}>
          <Printer size={15} aria-hidden="true" />
          Print
        </button>
        <button type="button" className={item} onClick={() => onFile(`${level}.pdf?paper=${paper}`, true)}>
          <FileText size={15} aria-hidden="true" />
          PDF
        </button>
        <button type="button" className={item} onClick={() => onFile(`${level}.musicxml`, true)}>
          <FileMusic size={15} aria-hidden="true" />
          MusicXML
        </button>
      </div>
      <div role="group" aria-label="Sound files" className="mt-1.5 flex flex-wrap gap-1.5">
        <button type="button" className={item} onClick={() => onFile(`${level}.mp3`, true)}>
          <Headphones size={15} aria-hidden="true" />
          MP3
        </button>
        <button type="button" className={item} onClick={() => onFile(`${level}.mp3?tempo=${slowly}`, true)}>
          slowly
        </button>
        <button type="button" className={item} onClick={() => onFile(`${level}.backing.mp3`, true)}>
          backing alone
        </button>
        <button type="button" className={item} onClick={() => onFile(`${level}.click.mp3`, true)}>
          click alone
        </button>
      </div>
      <p className="mt-2 leading-8">
        Optional passages are printed{' '}
        <Select<LeaveOut>
          look="word"
          label={`${LEVEL_NAMES[level]}: optional passages`}
          value={recipe.form?.leaveOut ?? 'bracket'}
          options={LEAVE_OUTS.map((value) => ({ value, label: LEAVE_OUT_WORDS[value] }))}
          onChange={(leaveOut) =>
            onSet(`optional passages ${LEAVE_OUT_WORDS[leaveOut]}`, {
              form: { leaveOut: leaveOut === 'bracket' ? undefined : leaveOut },
            })
          }
        />
        .
      </p>
    </section>
  );
}
