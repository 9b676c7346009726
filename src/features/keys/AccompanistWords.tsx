'use client';

import { Copy } from 'lucide-react';
import type { Level } from '../../core/instruments';
import { accompanistText, type Group, instrumentOfPlayer } from '../../core/keys';
import { instrumentOf, recipesOf, type Work } from '../../core/work';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { useToast } from '../../ui/Toast';
import type { LevelSetting } from './levelSettings';

/** What each player says to the accompanist, to be read out or copied. */
export function AccompanistWords({
  work,
  group,
  settings,
}: {
  readonly work: Work;
  readonly group: Group | undefined;
  readonly settings: readonly LevelSetting[];
}) {
  const tell = useToast();
  const sentences = sentencesFor(work, group, settings);
  return (
    <section aria-label="Accompanist" className="mt-4 border-t border-line pt-3">
      <div className="mb-1 flex items-center justify-between">
        <h3 className="font-semibold">Tell your accompanist</h3>
        <button
          type="button"
          aria-label="Copy all sentences"
          title="Copy"
          className="flex size-7 items-center justify-center rounded text-ink-soft hover:bg-cane-pale"
          onClick={() =>
            void navigator.clipboard.writeText(sentences.map(({ who, text }) => `${who}: ${text}`).join('\n')).then(
              () => tell('Copied.'),
              () => tell('The browser did not let it be copied.'),
            )
          }
        >
          <Copy size={14} aria-hidden="true" />
        </button>
      </div>
      <ul>
        {sentences.map(({ level, who, text }, index) => (
          <li key={index} className="flex gap-1.5 py-1 text-[13px] leading-[18px]">
            <LevelSign level={level} size={15} />
            <span>
              <b>{who}:</b> “{text}”
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Each player's sentence; players who would say the same share it. */
function sentencesFor(work: Work, group: Group | undefined, settings: readonly LevelSetting[]) {
  const sentences: { level: Level; who: string; text: string }[] = [];
  for (const setting of settings) {
    const players = group?.players.filter(({ level }) => level === setting.level) ?? [];
    const readers = group
      ? players.flatMap((player) => {
          const instrument = instrumentOfPlayer(player);
          return instrument ? [{ name: player.name || instrument.shortName, instrument }] : [];
        })
      : [{ name: LEVEL_NAMES[setting.level], instrument: instrumentOf(recipesOf(work)[setting.level]) }];
    for (const { name, instrument } of readers) {
      const text = accompanistText(setting, instrument);
      const same = sentences.find((one) => one.level === setting.level && one.text === text);
      if (same) same.who += `, ${name}`;
      else sentences.push({ level: setting.level, who: name, text });
    }
  }
  return sentences;
}
