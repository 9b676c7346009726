import { zipSync, strToU8 } from 'fflate';
import { quartersPerMinute } from '../score/tune';
import { readAbc } from './abc/readAbc';
import { readJson, writeJson } from './json/readJson';
import { writeMidi } from './midi/writeMidi';
import { writeMusicXml } from './musicxml/writeMusicXml';
import { formatProblemText } from './problem';
import { readTune } from './readTune';
import type { ReadResult } from './readResult';
import { tuneStaff } from './musicxml/scoreFile';

const abc = (tempo: string) => `X:1\nT:T\nM:4/4\nL:1/4\nQ:${tempo}\nK:C\nCDEF|\n`;
const told = (result: ReadResult) =>
  result.ok
    ? [quartersPerMinute(result.value.tune.tempo), ...result.value.warnings.map(formatProblemText)]
    : result.problem.map(formatProblemText);
const tune = (() => {
  const read = readAbc(abc('1/4=90'));
  if (!read.ok) throw new Error('not read');
  return read.value.tune;
})();

describe('a tempo that no metronome has is mended and said, in every reader', () => {
  const sentence = (found: number, set: number) => `The tempo ${found} is not one that can be played; ${set} was set`;

  test.each([
    ['1/4=1000000000', 400, sentence(1_000_000_000, 400)],
    ['1/4=3', 20, sentence(3, 20)],
  ])('ABC, Q:%s', (tempo, quarters, words) => {
    expect(told(readAbc(abc(tempo)))).toEqual([quarters, words]);
  });

  test('ABC, on the way', () => {
    const read = readAbc(`${abc('1/4=90')}[Q:1/4=5000]GABc|\n`);
    expect(read.ok && [read.value.tune.bars[1]?.tempos?.[0]?.tempo.perMinute, ...told(read)]).toEqual([
      400,
      90,
      sentence(5_000, 400),
    ]);
  });

  test('MusicXML, MIDI and our own documents', () => {
    const fast = { ...tune, tempo: { ...tune.tempo, perMinute: 900 } };
    const xml = new TextEncoder().encode(writeMusicXml(tuneStaff(fast)));
    const midi = writeMidi(fast).data;
    const json = readJson(writeJson(fast));
    for (const result of [readTune(xml, 'a.musicxml'), readTune(midi, 'a.mid'), json])
      expect(told(result)).toContain(sentence(900, 400));
  });

  test('a usual one is left as it is', () => {
    expect(told(readAbc(abc('1/4=20')))).toEqual([20]);
    expect(told(readAbc(abc('1/4=400')))).toEqual([400]);
  });
});

test('an archive whose container names a file that is not there is read, and it is said', () => {
  const container = '<container><rootfiles><rootfile full-path="gone.xml"/></rootfiles></container>';
  const packed = zipSync({
    'META-INF/container.xml': strToU8(container),
    'score.xml': strToU8(writeMusicXml(tuneStaff(tune))),
  });
  expect(told(readTune(packed, 'a.mxl'))).toEqual([
    90,
    'The archive says that the score is in gone.xml, which is not there; score.xml was read instead',
  ]);
});
