import { parsePitch, semitones } from '../../pitch';
import type { HolesFingering } from '../fingering';

/** Which finger presses a hole or key. */
export type Finger =
  | 'left thumb'
  | 'left 1'
  | 'left 2'
  | 'left 3'
  | 'left 4'
  | 'right thumb'
  | 'right 1'
  | 'right 2'
  | 'right 3'
  | 'right 4'
  | 'breath';

export interface Chart {
  readonly name: string;
  readonly source: string;
  /** Finger of every hole and key; those whose names are digits or T are drawn as round holes. */
  readonly fingers: Readonly<Record<string, Finger>>;
  /** By semitones above C0, written: the main fingering first. */
  readonly notes: ReadonlyMap<number, readonly HolesFingering[]>;
}

/**
 * Reads a chart: lines of `PITCH fingering`, alternatives behind `/`, when they serve in brackets.
 * `123` are three holes, `1h` a half-closed one, names are keys, `-` is nothing down.
 */
export function chart(name: string, source: string, fingers: Readonly<Record<string, Finger>>, text: string): Chart {
  const notes = new Map<number, readonly HolesFingering[]>();
  for (const line of text.trim().split('\n')) {
    const [, note = '', rest = ''] = /^\s*(\S+)\s+(.*)$/.exec(line) ?? [];
    const pitch = parsePitch(note);
    if (!pitch.ok) throw new Error(`chart ${name}: ${note} is no pitch`);
    notes.set(
      semitones(pitch.value),
      rest.split('/').map((way): HolesFingering => {
        const [, keys = '', when] = /^([^(]*)(?:\(([^)]*)\))?\s*$/.exec(way) ?? [];
        return { kind: 'holes', keys: keysOf(keys, fingers, `${name} ${note}`), ...(when && { when: when.trim() }) };
      }),
    );
  }
  return { name, source, fingers, notes };
}

function keysOf(text: string, fingers: Readonly<Record<string, Finger>>, place: string): readonly string[] {
  return text
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '-' && word !== '')
    .flatMap((word) => {
      if (word in fingers) return [word];
      const holes = word.match(/[0-9T]h?/g) ?? [];
      if (holes.join('') !== word || holes.some((hole) => !((hole[0] ?? '') in fingers)))
        throw new Error(`chart ${place}: "${word}" is no key`);
      return holes;
    });
}

/** The finger of a key, half closed or not. */
export function fingerOf({ fingers }: Chart, key: string): Finger {
  return fingers[key] ?? fingers[key[0] ?? ''] ?? 'breath';
}

/** The same chart for an instrument that reads so many semitones above it. */
export function shifted(source: Chart, by: number): Chart {
  return { ...source, notes: new Map([...source.notes].map(([height, ways]) => [height + by, ways])) };
}
