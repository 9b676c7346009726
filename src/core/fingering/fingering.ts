import { namePitchClass, type PitchClass } from '../pitch';

/** Lies lower or higher than the finger's usual place in its position. */
export type Placement = 'low' | 'usual' | 'high' | 'stretched';

export interface HolesFingering {
  readonly kind: 'holes';
  /** Keys and holes as named in the chart's layout; `1h` is a hole half closed. */
  readonly keys: readonly string[];
  /** When an alternative serves; absent for the main fingering. */
  readonly when?: string;
}

export interface ValvesFingering {
  readonly kind: 'valves';
  /** Valves held down, 1 to 4; none for open. */
  readonly valves: readonly number[];
  /** Partial of the open tube that sounds, 2 for the octave. */
  readonly partial: number;
  /** The thumb of a double horn takes the B♭ side. */
  readonly thumb?: true;
}

export interface SlideFingering {
  readonly kind: 'slide';
  /** 1 to 7. */
  readonly position: number;
  readonly partial: number;
}

export interface BowedFingering {
  readonly kind: 'bowed';
  /** 1 is the highest string. */
  readonly string: number;
  /** 0 is the open string. */
  readonly finger: number;
  /** 0 is the half position; where an open string sounds, where the hand stays. */
  readonly position: number;
  readonly placement: Placement;
  /** Half steps above the open string. */
  readonly above: number;
}

export interface FrettedFingering {
  readonly kind: 'fretted';
  /** 1 is the highest string as strung, the one nearest the floor. */
  readonly string: number;
  /** 0 is the open string. */
  readonly fret: number;
  readonly finger: number;
  /** Fret over which the first finger stays. */
  readonly hand: number;
}

export interface BarFingering {
  readonly kind: 'bar';
  readonly name: PitchClass;
}

export interface ReedFingering {
  readonly kind: 'reed';
  readonly hole: number;
  readonly breath: 'blow' | 'draw';
}

export type Fingering =
  HolesFingering | ValvesFingering | SlideFingering | BowedFingering | FrettedFingering | BarFingering | ReedFingering;

/** The short form over a note: `L2`, `T12`, `4`, `3-5` (string 3, fret 5), `T123 45`. */
export function markOf(fingering: Fingering): string {
  switch (fingering.kind) {
    case 'holes':
      return holesText(fingering.keys) || 'open';
    case 'valves':
      return `${fingering.thumb ? 'T' : ''}${fingering.valves.length === 0 ? '0' : fingering.valves.join('')}`;
    case 'slide':
      return String(fingering.position);
    case 'bowed':
      return `${fingering.placement === 'low' ? 'L' : fingering.placement === 'high' ? 'H' : fingering.placement === 'stretched' ? 'x' : ''}${fingering.finger}`;
    case 'fretted':
      return `${fingering.string}-${fingering.fret}`;
    case 'bar':
      return namePitchClass(fingering.name);
    case 'reed':
      return `${fingering.breath === 'draw' ? '−' : ''}${fingering.hole}`;
  }
}

/** Names one fingering among those of a pitch; what a pin holds on to. */
export function fingeringId(fingering: Fingering): string {
  switch (fingering.kind) {
    case 'bowed':
      return `string ${fingering.string} finger ${fingering.finger} position ${fingering.position}`;
    case 'fretted':
      return `string ${fingering.string} fret ${fingering.fret} finger ${fingering.finger}`;
    default:
      return markOf(fingering);
  }
}

const ORDINALS = ['open', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'] as const;

export function ordinal(number: number): string {
  return ORDINALS[number] ?? `${number}th`;
}

export function positionName(position: number): string {
  return position === 0 ? 'half position' : `${ordinal(position)} position`;
}

/**
 * In words, for hover and reading aloud.
 * @param strings names of the open strings, lowest first
 */
export function describeFingering(fingering: Fingering, strings: readonly string[] = []): string {
  const stringName = (number: number) =>
    strings.length > 0 ? `${strings[strings.length - number] ?? number} string` : `string ${number}`;
  switch (fingering.kind) {
    case 'holes':
      return `${holesText(fingering.keys) || 'all open'}${fingering.when ? ` (${fingering.when})` : ''}`;
    case 'valves':
      return `${fingering.thumb ? 'B♭ side, ' : ''}${fingering.valves.length === 0 ? 'open' : `valve${fingering.valves.length > 1 ? 's' : ''} ${fingering.valves.join(' and ')}`}`;
    case 'slide':
      return `${ordinal(fingering.position)} position`;
    case 'bowed':
      return fingering.finger === 0
        ? `open ${stringName(fingering.string)}`
        : `${stringName(fingering.string)}, ${ordinal(fingering.finger)} finger${fingering.placement === 'usual' ? '' : ` ${fingering.placement}`}, ${positionName(fingering.position)}`;
    case 'fretted':
      return fingering.fret === 0
        ? `open ${stringName(fingering.string)}`
        : `${stringName(fingering.string)}, fret ${fingering.fret}, ${ordinal(fingering.finger)} finger`;
    case 'bar':
      return `bar ${namePitchClass(fingering.name)}`;
    case 'reed':
      return `hole ${fingering.hole}, ${fingering.breath}`;
  }
}

/** `T123 456 E♭`: thumb and left hand, right hand, then keys by name. */
function holesText(keys: readonly string[]): string {
  const isHole = (key: string, holes: string) => holes.includes(key[0] ?? '') && /^[0-9TR]h?$/.test(key);
  const left = keys.filter((key) => isHole(key, '8TR123')).map(half);
  const right = keys.filter((key) => isHole(key, '4567')).map(half);
  const named = keys.filter((key) => !isHole(key, '8TR1234567'));
  return [left.join(''), right.join(''), ...named.map(keyName)].filter((piece) => piece !== '').join(' ');
}

/** `leftF#` is the left hand's F♯ key. */
export function keyName(key: string): string {
  return key
    .replace(/^(left|low|side|palm|front|high|thumb|right)(?=[A-Z0-9])/, '$1 ')
    .replace(/([A-G])b/g, '$1♭')
    .replace('#', '♯');
}

function half(key: string): string {
  return key.endsWith('h') ? `${key[0]}½` : key;
}
