import { parseMidi as peerMidi } from 'midi-file';
import { SaxesParser } from 'saxes';
import { analyseTune } from '../src/core/analysis';
import { parseMidi, readMidi, readMusicXml, tuneStaff, writeMidi, writeMusicXml } from '../src/core/formats';
import type { Tune } from '../src/core/score';

type Timer = (rounds: number, work: () => unknown) => number;

/** MIDI beside `midi-file`: the bytes alone, and the whole way to a tune. */
export function midiReading(line: (text: string) => void, time: Timer, tuneOf: (bars: number) => Tune): void {
  line('Reading MIDI, ours beside midi-file (its bytes alone)');
  for (const bars of [16, 128, 512]) {
    const { data } = writeMidi(tuneOf(bars));
    const ours = time(15, () => parseMidi(data));
    const theirs = time(15, () => peerMidi(data));
    const whole = time(9, () => readMidi(data));
    line(
      `  ${String(bars).padStart(4)} bars: ${ours.toFixed(2)} ms against ${theirs.toFixed(2)} ms: ${(theirs / ours).toFixed(1)} times as fast; quantised, spelled and barred ${whole.toFixed(1)} ms`,
    );
  }
}

/** MusicXML beside a bare pass of the XML parser over the same text, which no reader can go below. */
export function musicXmlReading(line: (text: string) => void, time: Timer, tuneOf: (bars: number) => Tune): void {
  line('Reading MusicXML, ours beside a bare saxes pass over the same file (the floor)');
  for (const bars of [64, 512, 2_000]) {
    const text = writeMusicXml(tuneStaff(tuneOf(bars)));
    const megabytes = text.length / 1_048_576;
    const rounds = bars > 1_000 ? 5 : 9;
    const ours = time(rounds, () => readMusicXml(text));
    const floor = time(rounds, () => new SaxesParser({ position: true, xmlns: false }).write(text).close());
    line(
      `  ${megabytes.toFixed(2)} MB: ${(megabytes / (ours / 1000)).toFixed(1)} MB a second against ${(megabytes / (floor / 1000)).toFixed(1)}: ${(ours / floor).toFixed(2)} times the floor (aim: 3 or less)`,
    );
  }
}

export function analysing(line: (text: string) => void, time: Timer, tuneOf: (bars: number) => Tune): void {
  line('Analysing a tune');
  let before: { readonly bars: number; readonly milliseconds: number } | undefined;
  for (const bars of [32, 128, 512]) {
    const tune = tuneOf(bars);
    const milliseconds = time(9, () => analyseTune(tune));
    const grows = before
      ? `, ${(milliseconds / before.milliseconds).toFixed(1)} times the time for ${bars / before.bars} times the bars`
      : '';
    line(
      `  ${String(bars).padStart(4)} bars: ${milliseconds.toFixed(1)} ms${bars === 128 ? ' (aim: 20)' : ''}${grows}`,
    );
    before = { bars, milliseconds };
  }
}
