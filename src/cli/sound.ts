import { existsSync, readFileSync } from 'node:fs';
import { extname, resolve } from 'node:path';
import { inKey } from '../core/levels';
import { LEVELS } from '../core/instruments';
import { FIRST_RECIPES, type Work } from '../core/work';
import { printKey } from '../core/pitch';
import { barNumbers } from '../core/score';
import { withProposedChords } from '../core/pools';
import { FEELS } from '../sound/backing';
import { planPlaying, type Heard, type PlayWishes } from '../sound/playPlan';
import { UnreadableBank } from '../sound/renderer';
import { soundFile, SOUND_FORMATS, type SoundFormat } from '../sound/soundFile';
import { voiceOf } from '../sound/voices';
import { noMoreThan, parseArguments, required, UsageError, type Arguments } from './arguments';
import { readInput, writeAll } from './files';
import { knownInstrument } from './instruments';
import { asWritten, keyFor, tempoOf } from './parts';
import { oneOf } from './scale';

/** Where Debian's packages put a General MIDI sound bank. */
const BANKS = [
  '/usr/share/sounds/sf2/TimGM6mb.sf2',
  '/usr/share/sounds/sf2/default-GM.sf2',
  '/usr/share/sounds/sf2/FluidR3_GM.sf2',
];
const LANES = ['tune', 'none', ...LEVELS] as const;
const BACKINGS = ['none', ...FEELS] as const;
const MAX_TIMES = 100;
const MAX_COUNT_IN = 8;
/** Longer than this no sound file is made, seconds. */
const LONGEST = 3_600;

/**
 * `reed sound INPUT [--lane tune|none|LEVEL] [--for ID] [--key KEY] [--tempo BPM] [--backing …] [--count-in N] [--click
 * all|N/M] [--from BAR --to BAR --times N] --out FILE.wav|.mp3`
 */
export async function sound(words: readonly string[]): Promise<unknown> {
  const given = parseArguments(
    words,
    ['lane', 'for', 'key', 'tempo', 'backing', 'count-in', 'click', 'from', 'to', 'times', 'out'],
    ['written'],
  );
  noMoreThan(given, 1);
  const input = required(given, 0, 'INPUT');
  const out = given.options.get('out');
  if (out === undefined) throw new UsageError('--out is missing: name the file, like --out tune.wav or --out tune.mp3');
  const format = formatOf(out);
  const lane = oneOf(given, 'lane', LANES, 'tune');
  const backing = oneOf(given, 'backing', BACKINGS, 'none');
  const clickBars = clickOf(given);
  const hasClick = given.options.has('click');
  if (lane === 'none' && backing === 'none' && !hasClick)
    throw new UsageError('--lane none leaves nothing to be heard: ask for --backing or --click as well');
  const forId = given.options.get('for');
  const instrument = forId === undefined ? undefined : knownInstrument(forId.trim());
  const toConcert = asWritten(given, instrument);
  const perMinute = tempoOf(given);
  const countInBars = wholeNumber(given, 'count-in', 0, MAX_COUNT_IN);
  const bank = bankFile();
  const { tune: read, warnings } = readInput(input);
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  const tune = backing === 'none' || backing === 'drone' ? read : withProposedChords(read);
  if (tune !== read)
    process.stderr.write(`${input} has no chord symbols: the backing plays proposals that fit the melody\n`);
  const keyText = given.options.get('key');
  const key = keyText === undefined ? undefined : keyFor(tune, keyText, toConcert);
  const level = LEVELS.find((one) => one === lane);
  const work: Work = level
    ? {
        tune,
        recipes: {
          [level]: {
            ...FIRST_RECIPES[level],
            ...(instrument && { instrument: instrument.id }),
            ...(key && { keyAndTempo: { key } }),
          },
        },
      }
    : { tune: key ? { ...tune, ...inKey(tune, key) } : tune, recipes: {} };
  const stretch = stretchOf(given, work);
  const heard: Heard = level ?? 'tune';
  const wishes: PlayWishes = {
    heard,
    backing,
    click: hasClick,
    countIn: false,
    from: 0,
    ...(countInBars ? { countInBars } : {}),
    ...(clickBars && { clickBars }),
    ...(perMinute !== undefined && { perMinute }),
    ...(stretch && { stretch }),
    ...(lane === 'none' && { isSilent: true }),
    ...(instrument && { tuneProgram: voiceOf(instrument) }),
  };
  const plan = planPlaying(work, wishes);
  plan.messages.forEach((said) => process.stderr.write(`${said}\n`));
  if (plan.seconds > LONGEST)
    throw new UsageError(
      `--times makes ${Math.round(plan.seconds / 60)} minutes: at most ${LONGEST / 60} are rendered; give fewer times or bars`,
    );
  const made = await soundFile(plan, bank.data, format).catch((error: unknown) => {
    if (error instanceof UnreadableBank)
      throw new UsageError(`${bank.path} is not a SoundFont file that can be read: give one (.sf2) in REED_SOUND_BANK`);
    throw error;
  });
  const path = resolve(out);
  writeAll([{ path, data: made.data }]);
  return {
    file: path,
    seconds: Math.round(made.seconds * 1_000) / 1_000,
    tempo: plan.tempo.perMinute,
    key: printKey(key ?? tune.key),
    channels: made.channels,
    sampleRate: made.sampleRate,
  };
}

function formatOf(out: string): SoundFormat {
  const format = SOUND_FORMATS.find((known) => `.${known}` === extname(out).toLowerCase());
  if (!format) throw new UsageError(`--out ${out}: the file's ending says what it is: use .wav or .mp3`);
  return format;
}

function bankFile(): { readonly path: string; readonly data: ArrayBuffer } {
  const own = process.env['REED_SOUND_BANK'];
  const path = (own ? [own] : BANKS).find((place) => existsSync(place));
  if (path === undefined)
    throw new UsageError(
      own
        ? `REED_SOUND_BANK ${own} is not there: give the path of a SoundFont file (.sf2)`
        : 'INPUT cannot be sounded without a sound bank: install the Debian package timgm6mb-soundfont, or give the path of a SoundFont file in REED_SOUND_BANK',
    );
  try {
    const file = readFileSync(path);
    return { path, data: file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) };
  } catch (error) {
    if (typeof error !== 'object' || error === null || !('code' in error)) throw error;
    throw new UsageError(
      `${path} cannot be read (${String(error.code)}): give a SoundFont file (.sf2) in REED_SOUND_BANK`,
    );
  }
}

/** `all`, or `2/4`: two bars sound, four are silent. */
function clickOf(given: Arguments): PlayWishes['clickBars'] {
  const text = given.options.get('click');
  if (text === undefined || text === 'all') return undefined;
  const [, on, off] = /^(\d{1,2})\/(\d{1,2})$/.exec(text) ?? [];
  const [sounding, silent] = [Number(on), Number(off)];
  if (on === undefined || off === undefined || sounding < 1 || sounding > 64 || silent > 64)
    throw new UsageError(`--click ${text}: use all, or bars that sound and bars that are silent, like 2/4`);
  return { on: sounding, off: silent };
}

function wholeNumber(given: Arguments, name: string, least: number, most: number): number | undefined {
  const text = given.options.get(name);
  if (text === undefined) return undefined;
  const number = Number(text);
  if (!/^\d{1,5}$/.test(text) || number < least || number > most)
    throw new UsageError(`--${name} ${text}: give a whole number from ${least} to ${most}`);
  return number;
}

/** Bars as they are written, by their printed numbers. */
function stretchOf(given: Arguments, { tune }: Work): PlayWishes['stretch'] {
  const numbers = barNumbers(tune);
  const [first, last] = [numbers[0] ?? 1, numbers.at(-1) ?? 1];
  const from = wholeNumber(given, 'from', first, last);
  const to = wholeNumber(given, 'to', first, last);
  const times = wholeNumber(given, 'times', 1, MAX_TIMES);
  if (from === undefined && to === undefined && times === undefined) return undefined;
  const [begin, end] = [from ?? first, to ?? last];
  if (begin > end) throw new UsageError(`--from ${begin} lies after --to ${end}: give the first bar first`);
  return { from: numbers.indexOf(begin), to: numbers.lastIndexOf(end), times: times ?? 1 };
}
