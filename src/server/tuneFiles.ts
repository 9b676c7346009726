import { writeAbc } from '../core/formats/abc/writeAbc';
import { writeJson } from '../core/formats/json/readJson';
import { writeMidi } from '../core/formats/midi/writeMidi';
import { writeMxl } from '../core/formats/musicxml/mxl';
import { tuneStaff } from '../core/formats/musicxml/scoreFile';
import { writeMusicXml } from '../core/formats/musicxml/writeMusicXml';
import { instrumentById } from '../core/instruments/catalogue';
import { LEVELS, type Level } from '../core/instruments/instrument';
import { BOW_RHYTHMS, USUAL_RHYTHM } from '../core/levels/accompany/stringChords';
import { UNDER_PACES } from '../core/levels/accompany/underPart';
import { soloOfLevel } from '../core/levels/levelPart';
import { soloPage, type SoloPage } from '../core/levels/soloPages';
import { analysed } from '../core/levels/soloPart';
import { recipesOf, type Work } from '../core/levels/recipe/work';
import type { Extent } from '../core/pools/setLine';
import type { SheetWords } from '../engrave/poolSheet';
import type { Paper } from '../engrave/sheet';
import { LEVEL_SOUNDS, soundOfLevel } from './levelSounds';
import {
  musicXmlOfLevel,
  openingOf,
  partFile,
  pdfOfLevel,
  stringChordsOf,
  underMusicXml,
  underPdf,
  warmUpPdf,
} from './engraving';
import { poolsOfLevelFile, setsOfLevelPdf } from './poolFiles';

const TYPES: Readonly<Record<string, string>> = {
  pdf: 'application/pdf',
  svg: 'image/svg+xml; charset=utf-8',
  musicxml: 'application/vnd.recordare.musicxml+xml; charset=utf-8',
  mxl: 'application/vnd.recordare.musicxml',
  abc: 'text/vnd.abc; charset=utf-8',
  mid: 'audio/midi',
  json: 'application/json; charset=utf-8',
  mp3: 'audio/mpeg',
  wav: 'audio/wav',
};

const NAMES = new RegExp(
  `^(?:tune\\.(?:musicxml|mxl|abc|mid|reed\\.json)|warm-up\\.pdf|opening\\.svg|(?:${LEVELS.join('|')})(?:(?:\\.under|\\.chords|\\.pools|\\.solo)?\\.(?:pdf|musicxml)|\\.sets\\.pdf|(?:\\.backing|\\.click|\\.solo)?\\.(?:mp3|wav)))$`,
);

/** The media type of a file by its name; `undefined` for a name that no file of a tune has. */
export function fileType(name: string): string | undefined {
  return NAMES.test(name) ? TYPES[name.slice(name.lastIndexOf('.') + 1)] : undefined;
}

/** What of an address matters to a file. */
export interface FileWishes {
  readonly name: string;
  readonly paper: Paper;
  /** An instrument of the catalogue, for the warm-up. */
  readonly instrument: string;
  readonly notes: 3 | 5;
  readonly pace?: string | undefined;
  readonly rhythm?: string | undefined;
  /** Whether the names of a pool sheet are printed. */
  readonly words?: SheetWords;
  /** A set's name, for the page of twelve keys, and how far it goes. */
  readonly set?: string | undefined;
  readonly extent?: Extent;
  /** A drill through all twelve keys, whatever the level has. */
  readonly allKeys?: boolean;
  /** Of a sound file: beats a minute, as the level has it by default. */
  readonly perMinute?: number;
  /** A solo with the degrees of its notes, or what it is practised by; the line alone by default. */
  readonly soloAs?: 'analysis' | SoloPage | undefined;
}

/** Makes a file of a tune; `undefined` where there is none (chords for an instrument without two strings). */
export async function makeTuneFile(work: Work, wishes: FileWishes): Promise<string | Uint8Array | undefined> {
  const { name, paper } = wishes;
  switch (name) {
    case 'tune.musicxml':
      return writeMusicXml(tuneStaff(work.tune));
    case 'tune.mxl':
      return writeMxl(writeMusicXml(tuneStaff(work.tune)));
    case 'tune.abc':
      return writeAbc(work.tune).text;
    case 'tune.mid':
      return writeMidi(work.tune).data;
    case 'tune.reed.json':
      return writeJson(work.tune);
    case 'opening.svg':
      return openingOf(work.tune);
    case 'warm-up.pdf': {
      const instrument = instrumentById(wishes.instrument);
      return instrument && warmUpPdf(work.tune, instrument, paper);
    }
    default:
      return makeLevelFile(work, wishes);
  }
}

function soloPart(work: Work, level: Level, as: FileWishes['soloAs']) {
  const made = soloOfLevel(work.tune, level, work.recipes);
  if (!made || as === undefined) return made?.part;
  return as === 'analysis' ? analysed(made) : soloPage(work.tune, made, recipesOf(work)[level], as);
}

async function makeLevelFile(
  work: Work,
  {
    name,
    paper,
    notes,
    pace,
    rhythm,
    words = 'names',
    set,
    extent = 'full',
    allKeys = false,
    soloAs,
    perMinute,
  }: FileWishes,
): Promise<string | Uint8Array | undefined> {
  const level = LEVELS.find((known) => name.startsWith(`${known}.`));
  if (!level) return undefined;
  const sounds = /\.(mp3|wav)$/.exec(name)?.[1];
  if (sounds === 'mp3' || sounds === 'wav') {
    const what = LEVEL_SOUNDS.find((one) => name === `${level}.${one}.${sounds}`) ?? 'part';
    return soundOfLevel(work, level, what, sounds, perMinute);
  }
  const format = name.endsWith('.pdf') ? ('pdf' as const) : ('musicxml' as const);
  if (name === `${level}.under.${format}`) {
    const under = { level, notes, pace: UNDER_PACES.find((known) => known === pace) ?? UNDER_PACES[0] };
    return format === 'pdf' ? underPdf(work, under, paper) : underMusicXml(work, under);
  }
  if (name === `${level}.pools.${format}`) return poolsOfLevelFile(work, level, format, paper, words);
  if (name === `${level}.solo.${format}`) {
    const part = soloPart(work, level, soloAs);
    return part && partFile(part, format, paper, work.tune.rights);
  }
  if (name === `${level}.sets.pdf`) return setsOfLevelPdf(work, level, { set, extent, paper });
  if (name === `${level}.chords.${format}`) {
    const chosen = BOW_RHYTHMS.find((known) => known === rhythm) ?? USUAL_RHYTHM[level];
    const made = stringChordsOf(work, level, chosen);
    return made && partFile(made.part, format, paper, work.tune.rights);
  }
  return format === 'pdf' ? pdfOfLevel(work, level, paper, { words, allKeys }) : musicXmlOfLevel(work, level);
}
