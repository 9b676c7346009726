'use client';

import { FileArchive, FileMusic, PencilLine, Pin, Printer, Volume2 } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { ensembleOfGroup, partOfVoice } from '../../core/ensemble';
import type { Group } from '../../core/keys';
import { barNumbers, type TogetherBar } from '../../core/score';
import type { Work } from '../../core/work';
import type { TogetherVersion } from '../../engrave/togetherEngraver';
import { Button } from '../../ui/Button';
import { Select } from '../../ui/Select';
import type { Bench } from '../work/step';
import type { Draws } from '../work/useEngraving';
import { BarSheet } from '../work/writing/BarSheet';
import type { PickedBar } from './words';

interface Props {
  readonly bench: Bench;
  readonly group: Group;
  readonly work: Work;
  readonly draws: Draws;
  readonly picked: PickedBar | undefined;
  readonly onPick: (picked: PickedBar | undefined) => void;
  readonly alone: string | undefined;
  readonly onAlone: (player: string | undefined) => void;
}

/** The picked bar with what it is and its other versions; all of it on paper and as files. */
export function TogetherDrawer({ bench, group, work, draws, picked, onPick, alone, onAlone }: Props) {
  const chosen = group.players.find(({ id }) => id === picked?.player);
  return (
    <div>
      {picked && chosen ? (
        <PickedWords
          key={`${picked.player}/${picked.bar}`}
          bench={bench}
          group={group}
          work={work}
          draws={draws}
          picked={picked}
          name={chosen.name}
          alone={alone}
          onAlone={onAlone}
          onPick={onPick}
        />
      ) : (
        <p className="leading-6">
          Press a bar in the score to read what it is and to give the player another version, and a name in the table to
          see one part alone.
        </p>
      )}
      <Files bench={bench} group={group} alone={alone} />
    </div>
  );
}

function PickedWords({
  bench,
  group,
  work,
  draws,
  picked,
  name,
  alone,
  onAlone,
  onPick,
}: Props & { readonly picked: PickedBar; readonly name: string }) {
  const { dispatch } = bench.store.getState();
  const { tune } = work;
  const [isEdited, setEdited] = useState(false);
  const [versions, setVersions] = useState<readonly TogetherVersion[]>();
  const bar = tune.bars[picked.bar];
  const number = barNumbers(tune)[picked.bar] ?? 0;
  const made = useMemo(() => {
    const ensemble = ensembleOfGroup(work, group);
    const index = ensemble?.voices.findIndex(({ player }) => player.id === picked.player) ?? -1;
    return ensemble && index >= 0 ? partOfVoice(ensemble, index) : undefined;
  }, [work, group, picked.player]);
  useEffect(() => {
    let isNewest = true;
    // The score is drawn first; the versions may follow.
    const timer = setTimeout(
      () =>
        void draws.togetherVersions(work, group, picked.player, picked.bar).then((drawn) => {
          if (isNewest) setVersions(drawn);
        }),
      120,
    );
    return () => {
      isNewest = false;
      clearTimeout(timer);
    };
  }, [draws, work, group, picked]);
  if (!bar || !made) return null;
  const said = made.reasons.filter(({ barIndex }) => barIndex === picked.bar);
  const now = tune.together?.bars?.[picked.player]?.[bar.id];
  const set = (choice: TogetherBar | undefined) =>
    dispatch({
      kind: 'together-bar',
      words: choice ? `${name}, bar ${number}: ${versionName(choice)}` : `${name}, bar ${number} as it was found`,
      player: picked.player,
      bar: bar.id,
      choice,
    });
  return (
    <section aria-label={`${name}, bar ${number}`}>
      <h3 className="font-serif text-[17px] font-semibold">
        {name}, bar {number}
      </h3>
      {said.map(({ what, why }, k) => (
        <p key={k} className="leading-6">
          <span className="first-letter:uppercase">{what}</span>
          <span className="text-ink-soft">: {why}.</span>
        </p>
      ))}
      <p className="mt-1 flex flex-wrap gap-1.5">
        <Button onClick={() => onAlone(alone === picked.player ? undefined : picked.player)}>
          {alone === picked.player ? 'The whole score' : 'This part alone'}
        </Button>
        <Button onClick={() => setEdited(true)}>
          <PencilLine size={14} aria-hidden="true" />
          {now?.kind === 'own' ? 'Edit this bar' : 'Write this bar by hand'}
        </Button>
        {now && <Button onClick={() => set(undefined)}>As it was found</Button>}
      </p>
      <h4 className="mt-3 font-semibold">Versions of bar {number}</h4>
      {!versions && (
        <p className="text-[13px] text-ink-soft" aria-busy="true">
          Drawing them …
        </p>
      )}
      <ul className="mt-1 grid gap-1.5">
        {versions?.map(({ choice, svg }, k) => {
          const isNow = JSON.stringify(choice) === JSON.stringify(now);
          return (
            <li key={k}>
              <button
                type="button"
                aria-pressed={isNow}
                onClick={() => set(choice)}
                className={`w-full rounded border px-2 pt-1 text-left hover:bg-cane-pale ${isNow ? 'border-cane bg-cane-pale' : 'border-line bg-paper'}`}
              >
                <span className="flex items-center gap-1 text-[12.5px] first-letter:uppercase">
                  {isNow && <Pin size={12} aria-hidden="true" />}
                  {choice ? versionName(choice) : 'as it was found'}
                </span>
                <span className="music block" aria-hidden="true" dangerouslySetInnerHTML={{ __html: svg }} />
              </button>
            </li>
          );
        })}
      </ul>
      {isEdited && (
        <BarSheet
          tune={tune}
          part={made.part}
          bar={picked.bar}
          number={number}
          draws={draws}
          onClose={() => setEdited(false)}
          onKeep={(events) => {
            set({ kind: 'own', events, key: made.part.concertKey });
            setEdited(false);
            onPick(picked);
          }}
        />
      )}
    </section>
  );
}

function versionName(choice: TogetherBar): string {
  switch (choice.kind) {
    case 'simpler':
      return 'simpler';
    case 'other':
      return `another way (${choice.seed})`;
    case 'octave-up':
      return 'an octave up';
    case 'octave-down':
      return 'an octave down';
    case 'rest':
      return 'a rest';
    case 'own':
      return 'written by hand';
  }
}

function Files({ bench, group, alone }: Pick<Props, 'bench' | 'group' | 'alone'>) {
  const [paper, setPaper] = useState<'a4' | 'letter'>('a4');
  const [pitch, setPitch] = useState<'written' | 'concert'>('written');
  const one = group.players.find(({ id }) => id === alone);
  const open = (name: string, isSaved: boolean) => bench.openGroupFile(`together/${name}`, isSaved);
  const score = pitch === 'written' ? 'score' : 'concert-score';
  return (
    <section aria-label="On paper and as files" className="mt-4 border-t border-line pt-3">
      <h3 className="font-semibold">On paper and as files</h3>
      <p className="leading-8">
        On{' '}
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
        , the score{' '}
        <Select
          look="word"
          label="Pitch of the score"
          value={pitch}
          options={[
            { value: 'written', label: 'as everybody reads it' },
            { value: 'concert', label: 'as it sounds' },
          ]}
          onChange={setPitch}
        />
        .
      </p>
      <p className="flex flex-wrap gap-1.5">
        <Button onClick={() => open(`${score}.pdf?paper=${paper}`, false)}>
          <Printer size={14} aria-hidden="true" />
          Score
        </Button>
        <Button onClick={() => open(`all.pdf?paper=${paper}`, false)}>
          <Printer size={14} aria-hidden="true" />
          All parts
        </Button>
        <Button onClick={() => open(`all.pdf.zip?paper=${paper}`, true)}>
          <FileArchive size={14} aria-hidden="true" />
          Parts as PDF
        </Button>
        <Button onClick={() => open(`${score}.musicxml`, true)}>
          <FileMusic size={14} aria-hidden="true" />
          Score as MusicXML
        </Button>
        <Button onClick={() => open('all.musicxml.zip', true)}>
          <FileArchive size={14} aria-hidden="true" />
          Parts as MusicXML
        </Button>
        <Button onClick={() => open('all.mp3', true)}>
          <Volume2 size={14} aria-hidden="true" />
          All as sound
        </Button>
      </p>
      {one && (
        <>
          <h4 className="mt-2 font-semibold">{one.name}</h4>
          <p className="flex flex-wrap gap-1.5">
            <Button onClick={() => open(`${one.id}.pdf?paper=${paper}`, false)}>
              <Printer size={14} aria-hidden="true" />
              Part
            </Button>
            <Button onClick={() => open(`${one.id}.musicxml`, true)}>
              <FileMusic size={14} aria-hidden="true" />
              MusicXML
            </Button>
            <Button onClick={() => open(`${one.id}.without.mp3`, true)}>
              <Volume2 size={14} aria-hidden="true" />
              All but {one.name}
            </Button>
            <Button onClick={() => open(`${one.id}.slow.mp3`, true)}>
              <Volume2 size={14} aria-hidden="true" />
              {one.name} slowly
            </Button>
            <Button onClick={() => bench.openPage(`stand?group=${bench.groupId}&player=${one.id}&together`)}>
              On the stand
            </Button>
          </p>
        </>
      )}
    </section>
  );
}
