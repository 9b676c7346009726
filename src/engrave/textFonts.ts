import bidiFactory from 'bidi-js';
import { existsSync } from 'node:fs';
import { join } from 'node:path';

/** The faces in which words are set on paper. */
const FACES = ['serif', 'serif-bold', 'sans'] as const;
export type Face = (typeof FACES)[number];

/** A stretch of text in one font and one direction, as it is handed to the font. */
export interface TextRun {
  readonly font: string;
  readonly text: string;
}

/** A font as the PDF library registers it. */
export interface FontFile {
  readonly name: string;
  readonly path: string;
  /** The font's own name, in a collection of several. */
  readonly family?: string;
}

/** The subsets in which our own two typefaces come. */
const OWN_SUBSETS = ['latin', 'latin-ext', 'greek', 'cyrillic'] as const;
const OWN_FILES: Readonly<Record<Face, readonly [string, number]>> = {
  serif: ['literata', 400],
  'serif-bold': ['literata', 700],
  sans: ['commissioner', 400],
};

/** Where Debian's packages of Noto fonts put their files. */
const NOTO = '/usr/share/fonts/truetype/noto';
const NOTO_CJK = '/usr/share/fonts/opentype/noto';

interface Script {
  readonly name: string;
  /** What the script's characters are. Source: Unicode 15.1, Scripts.txt. */
  readonly pattern: RegExp;
  readonly file: (weight: 'Regular' | 'Bold') => Omit<FontFile, 'name'>;
}

const noto = (name: string) => (weight: string) => ({ path: `${NOTO}/NotoSans${name}-${weight}.ttf` });
const cjk = (language: string) => (weight: string) => ({
  path: `${NOTO_CJK}/NotoSansCJK-${weight}.ttc`,
  family: `NotoSansCJK${language}-${weight}`,
});
// Both the server and the command line run in the project's folder; a bundler must not follow this.
const packaged = (...parts: readonly string[]) =>
  join(/* turbopackIgnore: true */ process.cwd(), 'node_modules', ...parts);

/** Scripts that our own typefaces do not have, in the order in which they are tried. */
const SCRIPTS: readonly Script[] = [
  { name: 'hebrew', pattern: /\p{Script=Hebrew}/u, file: noto('Hebrew') },
  { name: 'arabic', pattern: /\p{Script=Arabic}/u, file: noto('Arabic') },
  { name: 'devanagari', pattern: /\p{Script=Devanagari}/u, file: noto('Devanagari') },
  { name: 'thai', pattern: /\p{Script=Thai}/u, file: noto('Thai') },
  { name: 'georgian', pattern: /\p{Script=Georgian}/u, file: noto('Georgian') },
  { name: 'armenian', pattern: /\p{Script=Armenian}/u, file: noto('Armenian') },
  { name: 'korean', pattern: /\p{Script=Hangul}/u, file: cjk('kr') },
  { name: 'japanese', pattern: /[\p{Script=Hiragana}\p{Script=Katakana}\u30fc]/u, file: cjk('jp') },
  { name: 'chinese', pattern: /[\p{Script=Han}\p{Script=Bopomofo}\u3000-\u303f\uff00-\uffef]/u, file: cjk('sc') },
  {
    name: 'emoji',
    pattern: /[\p{Emoji_Presentation}\p{Extended_Pictographic}\u{1f1e6}-\u{1f1ff}]/u,
    file: () => ({ path: packaged('@fontsource', 'noto-emoji', 'files', 'noto-emoji-emoji-400-normal.woff') }),
  },
];

/** What has Latin, Greek and Cyrillic letters that our own typefaces lack. */
const OTHERS: Script = { name: 'other', pattern: /[^]/u, file: noto('') };

/** Which of the scripts' fonts are installed; told once, since packages do not come and go while the program runs. */
const installed = new Map<string, boolean>();

function isInstalled(path: string): boolean {
  const known = installed.get(path);
  if (known !== undefined) return known;
  const found = existsSync(/* turbopackIgnore: true */ path);
  installed.set(path, found);
  return found;
}

const weightOf = (face: Face) => (face === 'serif-bold' ? ('Bold' as const) : ('Regular' as const));

/** Every font that words may be set in; those of scripts alone that are installed. */
export function textFontFiles(): readonly FontFile[] {
  const own = FACES.flatMap((face) => {
    const [family, weight] = OWN_FILES[face];
    return OWN_SUBSETS.map((subset) => ({
      name: `${face}:${subset}`,
      path: packaged('@fontsource', family, 'files', `${family}-${subset}-${weight}-normal.woff`),
    }));
  });
  const others = [...SCRIPTS, OTHERS].flatMap(({ name, file }) =>
    FACES.map((face) => ({ name: `${face}:${name}`, ...file(weightOf(face)) })),
  );
  return [...own, ...others.filter(({ path }) => isInstalled(path))];
}

/** SMuFL code points of the accidentals, for the music font. Source: SMuFL 1.4, standard accidentals. */
const MUSIC_SIGNS: Readonly<Record<string, string>> = { '♭': '\uE260', '♮': '\uE261', '♯': '\uE262' };
/** Joins what stands before and after, or chooses how it looks: nothing is drawn for it. */
const UNSEEN = /[\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufe00-\ufe0f\u{e0020}-\u{e007f}]/u;

/** Han characters are drawn as in the language of the other signs of a text: kana, Hangul, or neither. */
function hanScript(text: string): string {
  if (SCRIPTS.some(({ name, pattern }) => name === 'japanese' && pattern.test(text))) return 'japanese';
  return SCRIPTS.some(({ name, pattern }) => name === 'korean' && pattern.test(text)) ? 'korean' : 'chinese';
}

/** The font that has a character. */
function fontFor(character: string, face: Face, han: string): string {
  const code = character.codePointAt(0) ?? 0;
  if (character in MUSIC_SIGNS) return 'music';
  if (code < 0x100 || (code >= 0x2010 && code < 0x2070)) return `${face}:latin`;
  if (code < 0x250) return `${face}:latin-ext`;
  if (code >= 0x370 && code < 0x400) return `${face}:greek`;
  if (code >= 0x400 && code < 0x460) return `${face}:cyrillic`;
  const script = SCRIPTS.find(({ pattern }) => pattern.test(character)) ?? OTHERS;
  const isThere = isInstalled(script.file(weightOf(face)).path);
  if (!isThere) return `${face}:latin`;
  return `${face}:${script.name === 'chinese' ? han : script.name}`;
}

const bidi = bidiFactory();
const JOINS = /\p{M}/u;

interface Run {
  font: string;
  text: string;
  readonly level: number;
}

/**
 * A line of text as runs from left to right: each in a font that has its characters, text that is written from right to
 * left in its place by the Unicode bidirectional algorithm (UAX #9). Fonts of right-to-left scripts turn their own runs
 * round.
 */
export function textRuns(text: string, face: Face): readonly TextRun[] {
  const { levels } = bidi.getEmbeddingLevels(text, 'auto');
  const han = hanScript(text);
  const runs: Run[] = [];
  let at = 0;
  for (const character of text) {
    const level = levels[at] ?? 0;
    at += character.length;
    if (UNSEEN.test(character)) continue;
    const last = runs.at(-1);
    // A mark belongs to the letter before it, whatever font has it alone.
    const font = last && JOINS.test(character) ? last.font : fontFor(character, face, han);
    const shown =
      MUSIC_SIGNS[character] ?? (level % 2 === 1 ? (bidi.getMirroredCharacter(character) ?? character) : character);
    if (last?.font === font && last.level === level) last.text += shown;
    else runs.push({ font, text: shown, level });
  }
  return inVisualOrder(runs).map(({ font, text: words, level }) => ({ font, text: turned(words, font, level) }));
}

/**
 * Rule L2: from the highest level down to the lowest odd one, what lies together at that level or above is turned
 * round.
 */
function inVisualOrder(runs: readonly Run[]): readonly Run[] {
  const order = [...runs];
  const highest = order.reduce((most, { level }) => Math.max(most, level), 0);
  for (let level = highest; level > 0; level -= 1) {
    for (let from = 0; from < order.length; from += 1) {
      if ((order[from]?.level ?? 0) < level) continue;
      let to = from;
      while (to < order.length && (order[to]?.level ?? 0) >= level) to += 1;
      order.splice(from, to - from, ...order.slice(from, to).toReversed());
      from = to;
    }
  }
  return order;
}

/** Words that a font takes for left to right, though they stand in text from right to left: brackets, signs, spaces. */
function turned(text: string, font: string, level: number): string {
  const turnsItself = /:(hebrew|arabic)$/.test(font);
  return level % 2 === 1 && !turnsItself ? [...text].toReversed().join('') : text;
}

/** Whether our own Latin typeface has all of a text, so that it needs no look. */
export function isPlainLatin(text: string): boolean {
  return /^[\u0000-\u00ff\u2010-\u206f]*$/.test(text);
}
