import fc from 'fast-check';
import { parseMidi as peerParse } from 'midi-file';
import { anySeed, richTune } from '../../../tests/richTune';
import { midiNumber } from '../pitch/pitch';
import { soundingNotes } from '../score/sounding';
import { isNote, type Tune } from '../score/tune';
import { unfold } from '../score/unfold';
import { readAbc } from './abc/readAbc';
import { writeAbc } from './abc/writeAbc';
import { readJson, writeJson } from './json/readJson';
import { readMidi } from './midi/readMidi';
import { writeMidi } from './midi/writeMidi';
import { readMusicXml } from './musicxml/readMusicXml';
import { writeMusicXml } from './musicxml/writeMusicXml';
import { formatProblemText } from './problem';
import type { ReadResult } from './readResult';
import { tuneStaff } from './musicxml/scoreFile';

const opened = (result: ReadResult): Tune => {
  if (!result.ok) throw new Error(result.problem.map(formatProblemText).join('\n'));
  return result.value.tune;
};

test('everything that a tune can hold comes back from MusicXML and JSON, with nothing to remark', () => {
  fc.assert(
    fc.property(anySeed, fc.boolean(), (seed, second) => {
      const tune = richTune(seed, { oddTuplets: true, ownMarks: true, second });
      const read = readMusicXml(writeMusicXml(tuneStaff(tune)));
      expect(opened(read)).toEqual(tune);
      expect(read.ok && read.value.warnings).toEqual([]);
      expect(opened(readJson(writeJson(tune)))).toEqual(tune);
    }),
  );
});

test('what ABC can hold comes back from it; what it cannot is listed', () => {
  fc.assert(
    fc.property(anySeed, fc.boolean(), (seed, second) => {
      const tune: Tune = { ...richTune(seed, { oddTuplets: false, ownMarks: false, second }), rights: 'unknown' };
      const { text, warnings } = writeAbc(tune);
      expect(warnings).toEqual([]);
      expect(opened(readAbc(text))).toEqual(tune);
    }),
  );
  const own = Array.from({ length: 200 }, (_, seed) =>
    richTune(seed, { oddTuplets: true, ownMarks: true, second: false }),
  ).find(({ bars }) => ['outer', 'optional', 'phrase'].every((mark) => JSON.stringify(bars).includes(mark)));
  if (!own) throw new Error('no such tune among the first seeds');
  const written = writeAbc({ ...own, swing: { unit: 'eighth', ratio: 2 }, rights: 'own' });
  const said = written.warnings.map(formatProblemText).join('\n');
  for (const words of [
    'rights status "own"',
    'optional passages',
    'phrase marks set by hand',
    'swing (2 to 1)',
    'a tuplet inside another',
  ])
    expect(said).toContain(words);
  expect(readAbc(written.text).ok).toBe(true);
});

/** Key numbers, starts and lengths in quarters as played. */
const heard = (tune: Tune) => soundingNotes(tune).map(({ pitch, start, length }) => [midiNumber(pitch), start, length]);

test('MIDI holds every note as it sounds, and reads back exactly', () => {
  fc.assert(
    fc.property(anySeed, (seed) => {
      const rich = richTune(seed, { oddTuplets: false, ownMarks: false, second: false });
      // Folded signs would be played out; here the notes themselves are at stake.
      const tune: Tune = {
        ...rich,
        bars: rich.bars.map(
          ({ repeatStart: _s, repeatEnd: _e, ending: _n, endingStops: _t, jumps: _j, ...bar }) => bar,
        ),
      };
      fc.pre(heard(tune).length > 0);
      const back = opened(readMidi(writeMidi(tune).data));
      const lead = heard(tune)[0]?.[1] ?? 0;
      const shift = (heard(back)[0]?.[1] ?? 0) - lead;
      expect(heard(back)).toEqual(heard(tune).map(([pitch, start, length]) => [pitch, (start ?? 0) + shift, length]));
    }),
  );
});

test('another reader finds in our MIDI file the notes of the tune played out', () => {
  fc.assert(
    fc.property(anySeed, (seed) => {
      const tune = richTune(seed, { oddTuplets: true, ownMarks: false, second: true });
      const file = peerParse(writeMidi(tune).data);
      const melody = file.tracks[1]
        ?.filter((event) => event.type === 'noteOn')
        .map((event) => (event.type === 'noteOn' ? event.noteNumber : -1));
      const { order } = unfold(tune.bars);
      const expected: number[] = [];
      let tiedTo: number | undefined;
      order.forEach((index) =>
        tune.bars[index]?.events.forEach((event) => {
          if (!isNote(event)) tiedTo = undefined;
          else {
            const number = midiNumber(event.pitch);
            if (tiedTo !== number) expected.push(number);
            tiedTo = event.tied ? number : undefined;
          }
        }),
      );
      expect([file.header.format, file.tracks.length, melody]).toEqual([1, 3, expected]);
    }),
  );
});

test('a document of the first shape is upgraded on reading', () => {
  const bar = {
    id: 'b1',
    chords: [],
    events: [
      {
        kind: 'note',
        id: 'n1',
        length: 40_320,
        pitch: { step: 'C', alter: 0, octave: 4 },
        lyric: { text: 'la', hyphen: true },
      },
    ],
  };
  const old = {
    schema: 1,
    title: 'Old',
    rights: 'own',
    key: { tonic: { step: 'C', alter: 0 }, mode: 'major' },
    meter: { count: 4, unit: 4 },
    tempo: { beat: { type: 'quarter', dots: 0 }, perMinute: 90 },
    bars: [bar],
  };
  const tune = opened(readJson(JSON.stringify({ format: 'reed-hook-tune', tune: old })));
  expect([tune.schema, tune.bars[0]?.events.map((event) => isNote(event) && event.lyrics)]).toEqual([
    2,
    [[{ verse: 1, text: 'la', hyphen: true }]],
  ]);
});
