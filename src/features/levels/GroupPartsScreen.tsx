'use client';

import { ArrowLeft, FileArchive, Printer } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { type Level, LEVELS } from '../../core/instruments';
import type { Recipes, SavedRecipe } from '../../core/work';
import type { Rights } from '../../core/score';
import { fileSlug } from '../../core/formats';
import { Select } from '../../ui/Select';
import { GroupSounds } from './GroupSounds';
import { LEVEL_NAMES, LevelSign } from '../../ui/LevelSign';
import { Rail } from '../../ui/Rail';
import { HelpSheet } from '../../ui/HelpSheet';
import { GroupRecipes } from './GroupRecipes';

interface Sheet {
  readonly rows: readonly {
    readonly id: string;
    readonly name: string;
    readonly level: Level;
    readonly instrument: string;
    readonly reads: string;
    readonly sounds: string;
    readonly perMinute: number;
    readonly range: string;
    readonly difficulty: string;
    readonly attention: readonly string[];
  }[];
  readonly sets: readonly {
    readonly levels: readonly Level[];
    readonly key: string;
    readonly perMinute: number;
    readonly apart: string;
  }[];
}

/**
 * Parts for everyone in a group: what each gets, who needs attention, who can play together, and all of it to take
 * away.
 */
export function GroupPartsScreen({
  id,
  groupId,
  title,
  rights,
  groupName,
  sheet,
  saved,
  recipes,
}: {
  readonly id: string;
  readonly groupId: string;
  readonly title: string;
  readonly rights: Rights;
  readonly groupName: string;
  readonly sheet: Sheet;
  readonly saved: readonly SavedRecipe[];
  readonly recipes: Recipes;
}) {
  const [help, setHelp] = useState(false);
  const [paper, setPaper] = useState<'a4' | 'letter'>('a4');
  const files = `/api/tunes/${id}/groups/${groupId}`;
  const link =
    'inline-flex min-h-9 items-center gap-1.5 rounded border border-edge bg-paper px-3 font-medium whitespace-nowrap hover:bg-cane-pale';
  const needing = sheet.rows.filter(({ attention }) => attention.length > 0).length;
  return (
    <div className="app-frame print-plain flex h-dvh">
      <Rail here="bench" onHelp={() => setHelp(true)} />
      <div className="print-plain flex min-w-0 flex-1 flex-col">
        <header className="flex flex-wrap items-end justify-between gap-x-4 gap-y-2 border-b border-line bg-panel px-6 py-3">
          <div>
            <p className="no-print text-[13px]">
              <Link
                href={`/tunes/${id}/levels`}
                className="inline-flex min-h-6 items-center gap-1 text-cane underline underline-offset-2"
              >
                <ArrowLeft size={13} aria-hidden="true" />
                Back to the bench
              </Link>
            </p>
            <h1 className="font-serif text-[22px] leading-7 font-semibold">
              {title || 'Untitled'}: parts for {groupName}
            </h1>
            <p className="text-[13px] text-ink-soft">
              {sheet.rows.length === 1 ? 'One part' : `${sheet.rows.length} parts`}, each at the player&apos;s level, on
              their instrument and inside their limits.{' '}
              {needing === 0
                ? 'No part needs checking.'
                : `${needing === 1 ? 'One part needs' : `${needing} parts need`} checking.`}
            </p>
          </div>
          <div className="no-print flex flex-wrap items-center gap-2">
            <span className="whitespace-nowrap">
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
            </span>
            <a className={link} href={`${files}/score.pdf?paper=${paper}`} target="_blank" rel="noopener">
              <Printer size={15} aria-hidden="true" />
              Score
            </a>
            <a className={link} href={`${files}/all.pdf?paper=${paper}`} target="_blank" rel="noopener">
              <Printer size={15} aria-hidden="true" />
              All in one PDF
            </a>
            <a className={link} href={`${files}/all.pdf.zip?paper=${paper}`} download>
              <FileArchive size={15} aria-hidden="true" />
              All as PDF
            </a>
            <a className={link} href={`${files}/all.musicxml.zip`} download>
              <FileArchive size={15} aria-hidden="true" />
              All as MusicXML
            </a>
            <GroupSounds
              address={`${files}/all.mp3.zip`}
              name={`${fileSlug(title)}.${fileSlug(groupName)}.sounds.zip`}
            />
          </div>
        </header>
        <main
          className="print-plain relative min-h-0 flex-1 overflow-auto bg-paper px-4 py-4 md:px-6"
          tabIndex={0}
          aria-label="Parts"
        >
          {(rights === 'unknown' || rights === 'not-cleared') && (
            <p role="note" className="mb-3 text-warn">
              The rights of this tune are {rights === 'unknown' ? 'not checked' : 'not cleared'}: arranging and handing
              out what somebody owns may need permission where you live.
            </p>
          )}
          <section aria-label="Who plays together" className="mb-4">
            <h2 className="font-serif text-base font-semibold">Who plays together</h2>
            <ul>
              {sheet.sets.map((set) => (
                <li key={set.levels.join()} className="py-0.5">
                  {set.levels.map((level) => LEVEL_NAMES[level]).join(' and ')}: {set.key} sounding, {set.perMinute} a
                  minute{set.apart && <span className="text-warn"> — not with the first: {set.apart}</span>}.
                </li>
              ))}
            </ul>
          </section>
          <GroupRecipes
            id={id}
            levels={LEVELS.filter((level) => sheet.rows.some((row) => row.level === level))}
            saved={saved}
            recipes={recipes}
          />
          <table className="w-full border-collapse text-left">
            <caption className="sr-only">The parts of {groupName}</caption>
            <thead className="text-[12.5px] text-ink-soft">
              <tr className="border-b border-line">
                {[
                  'Player',
                  'Level',
                  'Instrument',
                  'Reads',
                  'Tempo',
                  'Lowest and highest note',
                  'Difficulty',
                  'Check',
                ].map((head) => (
                  <th key={head} scope="col" className="px-1.5 py-1 font-medium">
                    {head}
                  </th>
                ))}
                <th scope="col" className="no-print">
                  <span className="sr-only">Print</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {sheet.rows.map((row, index) => (
                <tr key={row.id} className="border-b border-line align-baseline">
                  <th scope="row" className="px-1.5 py-1.5 font-semibold">
                    {row.name || `Player ${index + 1}`}
                  </th>
                  <td className="px-1.5">
                    <span className="inline-flex items-center gap-1">
                      <LevelSign level={row.level} size={17} />
                      {LEVEL_NAMES[row.level]}
                    </span>
                  </td>
                  <td className="px-1.5">{row.instrument}</td>
                  <td className="px-1.5">
                    {row.reads}
                    {row.reads !== row.sounds && <span className="text-ink-soft"> (sounds {row.sounds})</span>}
                  </td>
                  <td className="px-1.5 tabular-nums">{row.perMinute || ''}</td>
                  <td className="px-1.5 tabular-nums">{row.range}</td>
                  <td className="px-1.5">{row.difficulty}</td>
                  <td className={`px-1.5 ${row.attention.length > 0 ? 'text-warn' : 'text-ink-soft'}`}>
                    {row.attention.length > 0 ? row.attention.join('; ') : 'nothing'}
                  </td>
                  <td className="no-print px-1.5 text-right">
                    <a
                      className="inline-flex min-h-7 items-center gap-1 text-cane underline underline-offset-2"
                      href={`${files}/${row.id}.pdf?paper=${paper}`}
                      target="_blank"
                      rel="noopener"
                      aria-label={`Print ${row.name || `player ${index + 1}`}`}
                    >
                      <Printer size={14} aria-hidden="true" />
                      Print
                    </a>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {sheet.rows.length === 0 && (
            <p className="py-6 text-ink-soft">
              Nobody is in this group yet.{' '}
              <Link href="/groups" className="text-cane underline underline-offset-2">
                Add players
              </Link>
            </p>
          )}
        </main>
      </div>
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}
