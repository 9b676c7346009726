import { CHORD_FUNCTIONS } from '../../harmony';
import { parseKey, printKey } from '../../pitch';
import { type HarmonyNotes, type ReadingNote, STYLES, type Tune } from '../../score';

/**
 * A tune's style and readings as one line of a file: `style jazz; 4:0 key Bb; 6:20160 function tonic`. Bars are counted
 * from 0.
 */
export function printHarmony({ harmony, bars }: Pick<Tune, 'harmony' | 'bars'>): string {
  if (!harmony) return '';
  const readings = (harmony.readings ?? []).flatMap(({ bar, at, key, function: does }) => {
    const index = bars.findIndex(({ id }) => id === bar);
    if (index < 0) return [];
    return [
      ...(key ? [`${index}:${at} key ${printKey(key)}`] : []),
      ...(does ? [`${index}:${at} function ${does}`] : []),
    ];
  });
  return [...(harmony.style ? [`style ${harmony.style}`] : []), ...readings].join('; ');
}

/** The line read back for the bars of a tune; what it does not say well is left out. */
export function readHarmony(text: string, bars: Tune['bars']): HarmonyNotes | undefined {
  let style: HarmonyNotes['style'];
  const readings = new Map<string, ReadingNote>();
  for (const word of text.split(';')) {
    const [, kind, value] = /^\s*(style|\d+:\d+ (?:key|function)) (.+?)\s*$/.exec(word) ?? [];
    if (kind === undefined || value === undefined) continue;
    if (kind === 'style') {
      style = STYLES.find((known) => known === value);
      continue;
    }
    const [place = '', what] = kind.split(' ');
    const [index, at] = place.split(':').map(Number);
    const bar = index === undefined ? undefined : bars[index];
    if (!bar || at === undefined) continue;
    const before = readings.get(place) ?? { bar: bar.id, at };
    const key = what === 'key' ? parseKey(value) : undefined;
    const does = what === 'function' ? CHORD_FUNCTIONS.find((known) => known === value) : undefined;
    if (key?.ok) readings.set(place, { ...before, key: key.value });
    if (does) readings.set(place, { ...before, function: does });
  }
  const list = [...readings.values()];
  return style || list.length > 0 ? { ...(style && { style }), ...(list.length > 0 && { readings: list }) } : undefined;
}
