import { type Instrument, toSounding } from '../core/instruments';
import { type Part, withRests } from '../core/levels';
import {
  accidentalsFor,
  type Bar,
  type Clef,
  clefFor,
  isNote,
  type Tablature,
  type Tune,
  withTrueTies,
} from '../core/score';
import { type Key, nameKey, namePitchClass } from '../core/pitch';
import { capitalised } from '../core/plainText';
import type { ScoreFile, Staff } from '../core/formats';

/** A part as a file for other programs: written pitch, with the transposition that brings it back to what sounds. */
export function partScore(part: Part, rights?: string): ScoreFile {
  const { leftOut = [] } = part;
  // A run of rests is one sign; the last bar of it has small notes.
  const restRuns = new Map(
    leftOut.filter(({ from, to }) => to - from > 2).map(({ from, to }) => [from, to - from - 1]),
  );
  const words = new Map(
    leftOut.flatMap(({ from, to }): readonly (readonly [number, string])[] => [
      [to - 1, to - from === 1 ? 'left out; the others:' : `${to - from} bars left out; the others:`],
    ]),
  );
  const isHidden = (index: number) => leftOut.some(({ from, to }) => index >= from && index < to - 1);
  return {
    title: part.title,
    ...(part.composer && { composer: part.composer }),
    ...(rights && { rights }),
    ...(part.swing && { swing: part.swing }),
    staves: [
      {
        id: 'P1',
        name: part.instrument.name,
        clef: part.instrument.clef,
        key: part.writtenKey,
        meter: part.meter,
        tempo: part.tempo,
        bars:
          leftOut.length === 0
            ? part.bars
            : part.bars.map((bar, index) => (isHidden(index) ? { ...bar, chords: [] } : bar)),
        ...fingersOf(part),
        ...(restRuns.size > 0 && { restRuns }),
        ...(words.size > 0 && { words }),
        ...(part.words && { words: part.words }),
        ...(part.blank && { blank: part.blank }),
        ...(part.instrument.transposition.chromatic !== 0 && { toSounding: toSounding(part.instrument) }),
      },
      ...(part.tab ? [{ ...tabStaff('T1', part, part.tab), name: 'Tablature' }] : []),
      ...(part.below ? [emptyStaff('W1', part, part.below.key)] : []),
    ],
  };
}

/** A bar without what stands over and under its notes: that belongs to the staff it goes with. */
function bareBar(bar: Bar): Bar {
  const { counts: _, section: _s, jumps: _j, tempos: _t, ...bare } = bar;
  return { ...bare, chords: [] };
}

/** As many empty bars as a part has, in another key. */
function emptyStaff(id: string, part: Part, key: Key): Staff {
  const bars = withRests(part, [{ from: 0, to: part.bars.length }]).map((bar): Bar => {
    const { key: _, ...plain } = bareBar(bar);
    return { ...plain, id: `w${bar.id}` };
  });
  return {
    id,
    name: '',
    clef: part.instrument.clef,
    key,
    meter: part.meter,
    bars,
    blank: new Set(bars.keys()),
    ...(part.instrument.transposition.chromatic !== 0 && { toSounding: toSounding(part.instrument) }),
  };
}

/** The tablature under a part: its notes as frets, and nothing else of what stands over and under them. */
export function tabStaff(
  id: string,
  { bars, writtenKey, meter, instrument }: Pick<Part, 'bars' | 'writtenKey' | 'meter' | 'instrument'>,
  tab: Tablature,
): Staff {
  return {
    id,
    name: '',
    clef: instrument.clef,
    key: writtenKey,
    meter,
    bars: bars.map((bar): Bar => {
      return {
        ...bareBar(bar),
        events: bar.events.map((event) => {
          if (!isNote(event)) return event;
          const { kind, id: name, pitch, length, tied, tuplet } = event;
          return { kind, id: name, pitch, length, ...(tied && { tied }), ...(tuplet && { tuplet }) };
        }),
      };
    }),
    hideChords: true,
    accidentals: new Map(),
    tab,
    ...(instrument.transposition.chromatic !== 0 && { toSounding: toSounding(instrument) }),
  };
}

/**
 * A part as a file, other versions of its bars on a small staff over it: a part of its own that is shown in those bars
 * alone, since the format has no staff that begins in mid-line.
 */
export function scoreWithOssias(part: Part, rights?: string): ScoreFile {
  const score = partScore(part, rights);
  const [staff, ...under] = score.staves;
  const { ossias = [] } = part;
  if (!staff || ossias.length === 0) return score;
  const others = new Map(ossias.flatMap(({ at, bars }) => bars.map((bar, k) => [at + k, bar] as const)));
  return { ...score, staves: [{ ...smallStaff(staff, others), id: 'O1', name: 'Ossia' }, staff, ...under] };
}

/** A staff over another one that has bars of its own in some places, and is not seen elsewhere. */
function smallStaff(under: Staff, others: ReadonlyMap<number, Bar>): Staff {
  const { tempo: _tempo, words: _words, restRuns: _runs, blank: _blank, fingers: _fingers, ...plain } = under;
  const rests = withRests(under, [{ from: 0, to: under.bars.length }]);
  const bars = under.bars.map((bar, index): Bar => {
    return { ...bareBar(bar), id: `o${bar.id}`, events: (others.get(index) ?? rests[index] ?? bar).events };
  });
  return { ...plain, bars: withTrueTies(bars).bars, ossiaBars: new Set(others.keys()) };
}

/** The other versions of a lane's bars, for a small staff over it; `undefined` where it has none. */
export function ossiaLane(
  lane: Staff,
  others: Part,
  has: (index: number) => boolean,
  view: 'written' | 'sounding',
): Staff | undefined {
  const bars = new Map(
    laneStaff(lane.id, others, view).bars.flatMap((bar, index) => (has(index) ? [[index, bar] as const] : [])),
  );
  if (bars.size === 0) return undefined;
  const small = { ...smallStaff(lane, bars), id: `${lane.id}-over` };
  return { ...small, accidentals: accidentalsFor(small) };
}

/** A lane's staff as it is read, or as it sounds (then under the clef that suits the sound). */
export function laneStaff(id: string, part: Part, pitch: 'written' | 'sounding'): Staff {
  const bars = pitch === 'written' ? part.bars : withHelp(part);
  const key = pitch === 'written' ? part.writtenKey : part.concertKey;
  const clef = pitch === 'written' ? part.instrument.clef : soundingClef(part.instrument, bars);
  return { id, name: '', clef, key, meter: part.meter, bars, hideChords: true, ...fingersOf(part) };
}

/**
 * The part as it sounds, with what is printed to help the player: signs and words as they are, names of notes those
 * that sound.
 */
function withHelp({ bars, soundingBars }: Pick<Part, 'bars' | 'soundingBars'>): Tune['bars'] {
  return soundingBars.map((bar, index) => {
    const read = bars[index];
    if (!read || read.events.length !== bar.events.length) return bar;
    return {
      ...bar,
      ...(read.counts && { counts: read.counts }),
      events: bar.events.map((event, k) => {
        const there = read.events[k];
        if (!isNote(event) || !there || !isNote(there) || there.id !== event.id) return event;
        const { articulations, slurStarts, slurEnds, lyrics } = there;
        const words = lyrics?.map((lyric) => {
          const isOwn = event.lyrics?.some(({ verse }) => verse === lyric.verse) ?? false;
          return !isOwn && lyric.text === namePitchClass(there.pitch)
            ? { ...lyric, text: namePitchClass(event.pitch) }
            : lyric;
        });
        return {
          ...event,
          ...(articulations && { articulations }),
          ...(slurStarts && { slurStarts }),
          ...(slurEnds && { slurEnds }),
          ...(words && { lyrics: words }),
        };
      }),
    };
  });
}

/** Marks over the notes; those of woodwinds by hands, one over the other. */
function fingersOf({ fingered }: Part): Pick<Staff, 'fingers'> {
  return fingered && fingered.marks.size > 0
    ? { fingers: new Map([...fingered.marks].map(([event, text]) => [event, text.split(' ')])) }
    : {};
}

/** The tune's own lane: concert pitch, chord symbols, tempo. */
export function tuneLane(id: string, tune: Tune): Staff {
  return {
    id,
    name: '',
    clef: clefFor(pitchesOf(tune.bars), ['treble', 'bass']),
    key: tune.key,
    meter: tune.meter,
    bars: tune.bars,
  };
}

function soundingClef(instrument: Instrument, bars: Tune['bars']): Clef {
  return instrument.clef === 'treble' ? clefFor(pitchesOf(bars), ['treble', 'bass']) : instrument.clef;
}

function pitchesOf(bars: Tune['bars']) {
  return bars.flatMap((bar) => bar.events.flatMap((event) => (isNote(event) ? [event.pitch] : [])));
}

/** The line under a part's title: for whom, at which level, in which keys. */
export function playerLine(part: Part): string {
  const level = capitalised(part.level);
  const { written, sounding } = part.called ?? {
    written: nameKey(part.writtenKey),
    sounding: nameKey(part.concertKey),
  };
  const keys =
    part.instrument.transposition.chromatic % 12 === 0 || written === sounding
      ? written
      : `for you: ${written} · sounding: ${sounding}`;
  const swing = part.swing ? ` · ${part.swing.unit === 'eighth' ? 'eighths' : 'sixteenths'} swung` : '';
  return `${part.playerName ? `${part.playerName} · ` : ''}${part.instrument.name} · ${level} · ${keys}${swing}`;
}
