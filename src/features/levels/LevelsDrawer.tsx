'use client';

import { FileMusic, FileText, Printer } from 'lucide-react';
import { useState } from 'react';
import { INSTRUMENTS } from '../../core/instruments/catalogue';
import { LEVELS, type Level } from '../../core/instruments/instrument';
import { TEMPO_LIMITS, levelTempo } from '../../core/levels/recipe';
import { recipesOf, withRecipe, type Work } from '../../core/levels/work';
import { nameKey, printKey } from '../../core/pitch/key';
import type { LaneInfo } from '../../engrave/lanes';
import { BeatSign } from '../../ui/BeatSign';
import { Choice } from '../../ui/Choice';
import { TextInput } from '../../ui/Field';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import type { Selection } from '../bench/benchStore';
import { keyOf, keyOptions } from '../keyOptions';

interface Props {
  readonly work: Work;
  readonly infos: readonly LaneInfo[];
  readonly numbers: readonly number[];
  readonly selection: Selection | undefined;
  readonly onChange: (name: string, after: Work) => void;
  readonly onSelect: (selection: Selection) => void;
  /** Opens a file once everything is saved; `true` downloads it. */
  readonly onFile: (name: string, download: boolean) => void;
}

const INSTRUMENT_OPTIONS = INSTRUMENTS.map(({ id, name }) => ({ value: id, label: name }));

/** The drawer of the Levels step: one level at a time, its recipe as sentences, what it changed, and its files. */
export function LevelsDrawer(props: Props) {
  const { selection, infos } = props;
  const [chosen, setChosen] = useState<Level>('beginner');
  const picked = LEVELS.find((level) => level === selection?.lane);
  const level = picked ?? chosen;
  const info = infos.find(({ id }) => id === level);
  return (
    <div>
      <div role="group" aria-label="Level" className="mb-3 flex gap-1">
        {LEVELS.map((one) => (
          <button
            key={one} type="button" aria-pressed={one === level}
            onClick={() => { setChosen(one); props.onSelect({ lane: one, bar: selection?.bar ?? 0 }); }}
            className={`flex min-h-9 flex-1 items-center justify-center gap-1 rounded px-1 text-[13px] ${one === level ? 'bg-paper font-semibold outline outline-[#8f8d7c]' : 'hover:bg-cane-pale'}`}
          >
            <LevelSign level={one} size={18} />{LEVEL_NAMES[one]}
          </button>
        ))}
      </div>
      {info && <Recipe {...props} level={level} info={info} />}
    </div>
  );
}

function Recipe({ work, level, info, selection, numbers, onChange, onSelect, onFile }: Props & { readonly level: Level; readonly info: LaneInfo }) {
  const recipe = recipesOf(work)[level];
  const [tempoProblem, setTempoProblem] = useState<string>();
  const tempo = levelTempo(work.tune, level, recipe.perMinute);
  const key = recipe.key ?? work.tune.key;
  const set = (what: string, change: Parameters<typeof withRecipe>[2]) => onChange(`${LEVEL_NAMES[level]}: ${what}`, withRecipe(work, level, change));
  const setTempo = (text: string) => {
    const number = Number(text);
    const isTempo = /^\d+$/.test(text.trim()) && number >= TEMPO_LIMITS.slowest && number <= TEMPO_LIMITS.fastest;
    setTempoProblem(isTempo ? undefined : `"${text}" is no tempo: beats a minute go from ${TEMPO_LIMITS.slowest} to ${TEMPO_LIMITS.fastest}.`);
    if (isTempo) set(`tempo ${number}`, { perMinute: number });
  };
  return (
    <>
      <p className="leading-8">
        <Choice look="word" label={`${LEVEL_NAMES[level]}: instrument`} value={recipe.instrument} options={INSTRUMENT_OPTIONS} onChange={(instrument) => set('instrument', { instrument })} />, sounding in{' '}
        <Choice look="word" label={`${LEVEL_NAMES[level]}: concert key`} value={printKey(key)} options={keyOptions(work.tune.key.mode, [key])} onChange={(value) => set('key', { key: keyOf(value) })} />
        {', '}<span className="whitespace-nowrap"><BeatSign beat={tempo.beat} /> ={' '}
        <TextInput label={`${LEVEL_NAMES[level]}: beats a minute`} value={String(tempo.perMinute)} maxLength={4} onCommit={setTempo} className="min-h-6 w-9 rounded-t border-b-2 leading-5 border-cane bg-transparent px-0.5 font-semibold tabular-nums hover:bg-cane-pale" />.</span>
      </p>
      {tempoProblem && <p role="alert" className="text-[12.5px] text-warn">{tempoProblem}</p>}
      <p className="mt-1 text-ink-soft">
        {info.writtenKey === info.concertKey ? `Reads ${info.writtenKey}` : `Reads ${info.writtenKey}, sounds ${info.concertKey}`}; {info.range}.{' '}
        {octaveText(info.octaves)}{keyAdvice(work, level)}
      </p>
      <p className="mt-1 text-ink-soft">{MELODY_TEXT[level]}{level === 'beginner' ? ` ${info.fidelity} of 100 of the tune's weight is kept.` : ''}</p>
      <Changes info={info} level={level} selection={selection} numbers={numbers} onSelect={onSelect} />
      <Files level={level} onFile={onFile} />
    </>
  );
}

const MELODY_TEXT: Readonly<Record<Level, string>> = {
  beginner: 'The melody in long notes: those that carry the tune stay, passing ones and ornaments wait.',
  intermediate: 'The melody as written.',
  advanced: 'The melody as written.',
};

function octaveText(octaves: number): string {
  if (octaves === 0) return '';
  const count = Math.abs(octaves) === 1 ? 'An octave' : `${Math.abs(octaves)} octaves`;
  return `${count} ${octaves > 0 ? 'above' : 'below'} the tune. `;
}

function keyAdvice(work: Work, level: Level): string {
  const { key } = recipesOf(work)[level];
  return key && printKey(key) !== printKey(work.tune.key) ? `Not the tune's own key: ask the accompanist for ${nameKey(key)}; a recording will not fit.` : '';
}

/** What the level changed: at the picked bar, or all of it by bar. */
function Changes({ info, level, selection, numbers, onSelect }: { readonly info: LaneInfo; readonly level: Level; readonly selection: Selection | undefined; readonly numbers: readonly number[]; readonly onSelect: (selection: Selection) => void }) {
  const [showAll, setShowAll] = useState(false);
  const bar = selection?.lane === level ? selection.bar : undefined;
  const isAtBar = bar !== undefined && !showAll;
  const shown = isAtBar ? info.changes.filter(({ barIndex }) => barIndex === bar) : info.changes;
  const outside = isAtBar ? info.outside.filter(({ barIndex }) => barIndex === bar) : info.outside;
  return (
    <section className="mt-4" aria-label="Changes">
      <div className="flex items-baseline justify-between">
        <h3 className="font-semibold">{isAtBar ? `Bar ${numbers[bar] ?? ''}` : 'What was changed'}</h3>
        {bar !== undefined && <button type="button" onClick={() => setShowAll(!showAll)} className="min-h-6 text-[13px] text-cane underline underline-offset-2">{showAll ? `bar ${numbers[bar] ?? ''} only` : 'all bars'}</button>}
      </div>
      {isAtBar && <p className="mt-1 text-[13px] text-ink-soft">{info.barTexts[bar]}</p>}
      {shown.length === 0 && outside.length === 0 && <p className="mt-1 text-ink-soft">{isAtBar ? 'This bar is as in the tune.' : 'Nothing: every bar is as in the tune.'}</p>}
      <ul className="mt-1">
        {isAtBar && shown.map((change, index) => (
          <li key={index} className="py-1">{change.what} <span className="text-ink-soft">({change.why})</span></li>
        ))}
        {!isAtBar && reasonsOf(shown).map(({ why, changes }) => (
          <li key={why} className="mt-2">
            <p className="text-[13px] text-ink-soft">{why[0]?.toUpperCase()}{why.slice(1)}:</p>
            <ul>
              {changes.map((change, index) => (
                <li key={index} className="border-t border-line py-1 first:border-t-0">
                  <button type="button" onClick={() => { setShowAll(false); onSelect({ lane: level, bar: change.barIndex }); }} className="mr-1.5 min-h-6 font-semibold text-cane underline underline-offset-2">Bar {change.bar}</button>
                  {change.what}
                </li>
              ))}
            </ul>
          </li>
        ))}
        {outside.map((note, index) => (
          <li key={`outside-${index}`} className="border-t border-line py-1.5 text-warn">
            {isAtBar ? '' : `Bar ${note.bar}: `}{note.pitch} lies outside what this level usually plays.
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Changes under their reasons: a reason is said once, however many bars it has. */
function reasonsOf(changes: LaneInfo['changes']): readonly { readonly why: string; readonly changes: LaneInfo['changes'] }[] {
  return [...new Set(changes.map(({ why }) => why))].map((why) => ({ why, changes: changes.filter((change) => change.why === why) }));
}

function Files({ level, onFile }: { readonly level: Level; readonly onFile: Props['onFile'] }) {
  const [paper, setPaper] = useState<'a4' | 'letter'>('a4');
  const item = 'flex min-h-8 flex-1 items-center justify-center gap-1.5 rounded border border-[#8f8d7c] bg-paper px-2 font-medium hover:bg-cane-pale';
  return (
    <section className="mt-4 border-t border-line pt-3" aria-label="Take away">
      <div className="mb-2 flex items-center justify-between">
        <h3 className="font-semibold">The {LEVEL_NAMES[level].toLowerCase()} part on</h3>
        <Choice look="word" label="Paper" value={paper} options={[{ value: 'a4', label: 'A4' }, { value: 'letter', label: 'Letter' }]} onChange={setPaper} />
      </div>
      <div className="flex gap-1.5">
        <button type="button" className={item} onClick={() => onFile(`${level}.pdf?paper=${paper}`, false)}><Printer size={15} aria-hidden="true" />Print</button>
        <button type="button" className={item} onClick={() => onFile(`${level}.pdf?paper=${paper}`, true)}><FileText size={15} aria-hidden="true" />PDF</button>
        <button type="button" className={item} onClick={() => onFile(`${level}.musicxml`, true)}><FileMusic size={15} aria-hidden="true" />MusicXML</button>
      </div>
    </section>
  );
}
