import { fileSlug } from '../core/formats';
import { printChord } from '../core/harmony';
import type { Instrument, Level } from '../core/instruments';
import { pageRequest, type Part, shortestSpoken, soloAsPart, soloTempo } from '../core/levels';
import { printKey, printPitch } from '../core/pitch';
import type { ImprovisingForm } from '../core/pools';
import type { Style, Swing, Tempo, Tune } from '../core/score';
import { composeSolo, type FormBar, type Solo, type SoloNote } from '../core/solos';
import { beatNumberAt, type Ticks, TICKS_PER_QUARTER } from '../core/time';
import { noMoreThan, parseArguments, required, UsageError, type Arguments } from './arguments';
import { inFolder, writeAll } from './files';
import {
  difficultyOf,
  ENDINGS,
  formatOf,
  levelsOf,
  partFile,
  pdfWriter,
  pageOf,
  phrasingWish,
  playersOf,
  asWritten,
  checkTab,
  tempoOf,
} from './parts';
import { improvisingForm } from './pools';
import { seedOf } from './drill';

/** Of bare chords: a moderate walk. */
const BARE_TEMPO: Tempo = { beat: { type: 'quarter', dots: 0 }, perMinute: 112 };
const MAX_CHORUSES = 12;
/** Bare chords of these styles are swung, as people play them; a tune says so itself. */
const SWUNG: ReadonlySet<Style> = new Set(['blues', 'jazz']);
const USUAL_SWING: Swing = { unit: 'eighth', ratio: 2 };

interface Made {
  readonly instrument: Instrument;
  readonly level: Level;
  readonly solo: Solo;
  readonly part: Part;
  readonly tune: Tune;
}

/**
 * `reed solo INPUT|"CHORDS" --for ID[,ID…] --level LEVEL|all [--key KEY] [--tempo BPM] [--choruses N] [--seed N]
 * [--phrasing STYLE|none] [--format …] [--out DIR]`
 */
export async function solo(words: readonly string[]): Promise<unknown> {
  const given = parseArguments(
    words,
    ['for', 'level', 'key', 'tempo', 'choruses', 'seed', 'phrasing', 'format', 'out'],
    ['written', 'tab'],
  );
  noMoreThan(given, 1);
  const input = required(given, 0, 'INPUT or "CHORDS"');
  const players = playersOf(given);
  checkTab(given, players);
  const levels = levelsOf(given);
  const format = formatOf(given);
  const perMinute = tempoOf(given);
  const seed = seedOf(given);
  const choruses = chorusesOf(given);
  const phrasing = phrasingWish(given);
  const keyText = given.options.get('key');
  const { form, bars, tune } = improvisingForm(input, keyText, asWritten(given, players[0]));
  const title = tune ? `Solo on ${tune.title || 'a tune'}` : 'Solo';
  const made = players.flatMap((instrument) =>
    levels.map((level): Made => {
      const tempo = tempoOfLevel(tune, level, perMinute);
      const shortest = shortestSpoken(tempo, level, instrument);
      const composed = composeSolo({ form, bars, level, instrument, seed, choruses, shortest });
      if (!composed)
        throw new UsageError(
          `${tune ? 'INPUT' : 'CHORDS'}: no solo for ${instrument.id} (${level}) comes home over these chords: give a form whose chords hold a tone of the tonic chord in ${printKey(form.key)}, or state the key with --key`,
        );
      const page = pageRequest({ ...pageOf(given, []), marks: 'none' }, instrument, level);
      const swing = tune ? tune.swing : SWUNG.has(form.style) ? USUAL_SWING : undefined;
      const { part, tune: line } = soloAsPart(composed, {
        form,
        title,
        tempo,
        ...(swing && { swing }),
        level,
        instrument,
        page,
        ...(phrasing && { phrasing }),
      });
      return { instrument, level, solo: composed, part, tune: line };
    }),
  );
  const toPdf = format === 'pdf' ? await pdfWriter() : undefined;
  const files: { readonly path: string; readonly data: string | Uint8Array }[] = [];
  for (const { instrument, level, part, tune: line } of made) {
    const name = `${fileSlug(tune?.title ?? 'solo')}.${instrument.id}.${level}.solo.${ENDINGS[format]}`;
    files.push({
      path: inFolder(given.options.get('out') ?? '.', name),
      data: toPdf ? await toPdf(part) : partFile(part, line, format),
    });
  }
  writeAll(files);
  return made.map(({ instrument, level, solo: composed, part }, index) => ({
    file: files[index]?.path,
    instrument: instrument.id,
    level,
    seed,
    concertKey: printKey(part.concertKey),
    writtenKey: printKey(part.writtenKey),
    tempo: part.tempo.perMinute,
    bars: part.bars.length,
    lowest: part.lowest ? printPitch(part.lowest) : null,
    highest: part.highest ? printPitch(part.highest) : null,
    difficulty: difficultyOf(part),
    plan: composed.phrases.map(({ start, end, kind, of }, phrase) => {
      const [from, to] = [placeOf(start, composed.bars), placeOf(end, composed.bars)];
      return {
        phrase: phrase + 1,
        fromBar: from.bar,
        fromBeat: from.beat,
        toBar: to.bar,
        toBeat: to.beat,
        kind,
        ...(of !== undefined && { of: of + 1 }),
      };
    }),
    notes: composed.notes.map((note) => noteFacts(note, form, composed.bars)),
    measures: roundedMeasures(composed),
  }));
}

function tempoOfLevel(tune: Tune | undefined, level: Level, perMinute: number | undefined): Tempo {
  return soloTempo({ tempo: tune?.tempo ?? BARE_TEMPO }, level, perMinute);
}

function placeOf(at: Ticks, bars: readonly FormBar[]): { readonly bar: number; readonly beat: number } {
  const index = bars.findLastIndex(({ start }) => start <= at);
  const bar = bars[index];
  if (!bar) return { bar: 1, beat: 1 };
  if (at >= bar.start + bar.length) return { bar: index + 2, beat: 1 };
  return { bar: index + 1, beat: beatNumberAt(bar.meter, at - bar.start) };
}

function noteFacts(note: SoloNote, form: ImprovisingForm, bars: readonly FormBar[]) {
  const { bar, beat } = placeOf(note.at, bars);
  const symbol = form.reading.chords[note.chord]?.chord.symbol;
  return {
    bar,
    beat,
    length: Math.round((note.length / TICKS_PER_QUARTER) * 10_000) / 10_000,
    pitch: printPitch(note.pitch),
    concert: printPitch(note.concert),
    chord: symbol ? printChord(symbol) : null,
    degree: note.degree.replaceAll('♭', 'b').replaceAll('♯', '#'),
    role: note.role,
    ...(note.device && { device: note.device }),
  };
}

function roundedMeasures({ measures }: Solo) {
  const two = (value: number) => Math.round(value * 100) / 100;
  return { ...measures, strongBeatHome: two(measures.strongBeatHome), repeatedIdeas: two(measures.repeatedIdeas) };
}

function chorusesOf(given: Arguments): number {
  const text = given.options.get('choruses') ?? '1';
  const count = Number(text);
  if (!/^\d{1,3}$/.test(text) || count < 1 || count > MAX_CHORUSES)
    throw new UsageError(`--choruses ${text}: give a whole number from 1 to ${MAX_CHORUSES}`);
  return count;
}
