import { isStep, type Key, type Letter, type Mode, MODES, parseKey } from '../../pitch';
import type { Tempo } from '../../score';
import { barTicks, type Meter, type Ticks, TICKS_PER_QUARTER, TICKS_PER_WHOLE, valueOfTicks } from '../../time';

/** A `K:` field: the key, and accidentals that hold beyond its signature. */
export interface AbcKey {
  readonly key: Key;
  readonly extra: ReadonlyMap<Letter, number>;
  /** Words of the field that were not understood. */
  readonly ignored: readonly string[];
}

const ACCIDENTALS: Readonly<Record<string, number>> = { '^': 1, '^^': 2, _: -1, __: -2, '=': 0 };

/** Reads the value of a `K:` field (ABC 2.1, section 4.6): `Bb`, `Em`, `D mixolydian`, `Amin ^c`, `none`. */
export function parseAbcKey(value: string): AbcKey | undefined {
  const words = value
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '');
  const extra = new Map<Letter, number>();
  const ignored: string[] = [];
  let tonicText = words.shift() ?? '';
  if (/^(none|clef=|[a-z]+=)/i.test(tonicText) && tonicText !== 'none') {
    words.unshift(tonicText);
    tonicText = 'none';
  }
  if (tonicText === 'HP' || tonicText === 'Hp') return undefined;
  let modeText = '';
  for (const word of words) {
    const accidental = /^(\^{1,2}|_{1,2}|=)([A-Ga-g])$/.exec(word);
    const step = accidental?.[2]?.toUpperCase();
    if (accidental && isStep(step)) extra.set(step, ACCIDENTALS[accidental[1] ?? ''] ?? 0);
    else if (modeText === '' && modeOf(word)) modeText = word;
    else if (word !== 'exp') ignored.push(word);
  }
  if (tonicText.toLowerCase() === 'none')
    return { key: { tonic: { step: 'C', alter: 0 }, mode: 'major' }, extra, ignored };
  const match = /^([A-G])([#b])?([A-Za-z]*)$/.exec(tonicText);
  if (!match) return undefined;
  const mode = modeOf(match[3] || modeText) ?? (match[3] || modeText ? undefined : 'major');
  if (!mode) return undefined;
  const parsed = parseKey(`${match[1]}${match[2] ?? ''} ${mode}`);
  return parsed.ok ? { key: parsed.value, extra, ignored } : undefined;
}

/** Modes go by their first three letters in any case; a lone `m` is minor. */
function modeOf(word: string): Mode | undefined {
  const lower = word.toLowerCase();
  if (lower === 'm') return 'minor';
  return lower.length >= 3 ? MODES.find((mode) => mode.startsWith(lower.slice(0, 3))) : undefined;
}

/** Default unit length (ABC 2.1, section 3.1.7): a sixteenth for meters below 3/4, else an eighth. */
export function defaultUnit(meter: Meter | undefined): Ticks {
  return meter && barTicks(meter) < (3 * TICKS_PER_WHOLE) / 4 ? TICKS_PER_WHOLE / 16 : TICKS_PER_WHOLE / 8;
}

/** Reads `L:1/8`. */
export function parseUnit(value: string): Ticks | undefined {
  const match = /^1(?:\/(\d{1,3}))?$/.exec(value.trim());
  const ticks = match ? TICKS_PER_WHOLE / Number(match[1] ?? 1) : undefined;
  return ticks !== undefined && Number.isInteger(ticks) && ticks > 0 ? ticks : undefined;
}

/**
 * Reads `Q:1/4=120`, `Q:"Slow" 3/8=60`, `Q:100` (units a minute), `Q:"Lively"`. `undefined` when it is none of these.
 */
export function parseAbcTempo(value: string, unit: Ticks): Tempo | undefined {
  const words = /"([^"]*)"/.exec(value)?.[1]?.trim();
  const figures = value.replace(/"[^"]*"/g, '').trim();
  const said = words ? { words } : {};
  if (figures === '') return words ? { beat: { type: 'quarter', dots: 0 }, perMinute: 100, words } : undefined;
  const match = /^(?:((?:\d+\/\d+\s*)+)=\s*)?(\d+(?:\.\d+)?)$/.exec(figures.replace(/^C\d*\s*=/, ''));
  if (!match) return undefined;
  const lengths = (match[1] ?? '').trim();
  const beatTicks =
    lengths === ''
      ? unit
      : lengths.split(/\s+/).reduce((sum, length) => {
          const [over, under] = length.split('/').map(Number);
          return sum + ((over ?? 1) * TICKS_PER_WHOLE) / (under ?? 4);
        }, 0);
  const beat = valueOfTicks(beatTicks);
  const perMinute = Math.round(Number(match[2]));
  if (!beat || perMinute < 1) return undefined;
  // A count of eighths in a bare `Q:240` reads better as quarters.
  if (lengths === '' && beatTicks < TICKS_PER_QUARTER) {
    return {
      beat: { type: 'quarter', dots: 0 },
      perMinute: Math.max(1, Math.round((perMinute * beatTicks) / TICKS_PER_QUARTER)),
      ...said,
    };
  }
  return { beat, perMinute, ...said };
}
