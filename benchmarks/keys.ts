import { fingerLine, type FingerNote } from '../src/core/fingering';
import { instrumentById, LEVELS } from '../src/core/instruments';
import { rankKeys } from '../src/core/keys';
import { parsePitch, type Pitch, semitones } from '../src/core/pitch';
import { soundingNotes, type Tune } from '../src/core/score';

type Timer = (rounds: number, work: () => unknown) => number;

function instrument(id: string) {
  const found = instrumentById(id);
  if (!found) throw new Error(id);
  return found;
}

/** Twelve keys for a group, beside one bare pass over the notes for each key and player (lowest, highest, sum). */
export function rankingKeys(line: (text: string) => void, time: Timer, tuneOf: (bars: number) => Tune): void {
  line('Ranking 12 keys for 8 players');
  const players = ['flute', 'clarinet-bb', 'alto-sax', 'trombone', 'violin', 'cello', 'guitar', 'trumpet-bb'].map(
    (id, k) => ({ instrument: instrument(id), level: LEVELS[k % 3] ?? 'beginner' }),
  );
  for (const bars of [64, 256]) {
    const tune = tuneOf(bars);
    const heights = soundingNotes(tune).map(({ pitch }) => semitones(pitch));
    const ours = time(15, () => rankKeys(tune, players));
    const bare = time(15, () => {
      let all = 0;
      for (let player = 0; player < players.length; player += 1) {
        for (let key = 0; key < 12; key += 1) {
          let [lowest, highest, sum] = [Infinity, -Infinity, 0];
          for (const height of heights) {
            const here = height + key + player;
            lowest = Math.min(lowest, here);
            highest = Math.max(highest, here);
            sum += here;
          }
          all += lowest + highest + sum;
        }
      }
      return all;
    });
    line(
      `  ${String(bars).padStart(4)} bars, ${heights.length} notes: ${ours.toFixed(1)} ms${bars === 64 ? ' (aim: 25)' : ''}; ${(ours / bare).toFixed(0)} times a bare pass${bars === 64 ? ' (aim: 30 or less)' : ''}`,
    );
  }
}

/** A melody that climbs and falls over two octaves, as many notes as wanted. */
function melody(count: number): readonly FingerNote[] {
  const names = 'D5 E5 F#5 G5 A5 B4 C#5 D5 G4 A4 B4 C5 E4 F#4 A5 B5 G5 C6 D6 Bb5 Eb5'.split(' ').map((name): Pitch => {
    const parsed = parsePitch(name);
    if (!parsed.ok) throw new Error(name);
    return parsed.value;
  });
  return Array.from({ length: count }, (_, k) => ({
    id: `n${k}`,
    pitch: names[(k * 7 + (k >> 3)) % names.length] as Pitch,
    seconds: 0.25,
  }));
}

export function fingeringLines(line: (text: string) => void, time: Timer): void {
  line('Fingering a line by the shortest path');
  for (const id of ['violin', 'guitar', 'clarinet-bb']) {
    const [short, long] = [512, 4_096].map((count) => {
      const notes = melody(count);
      return time(15, () => fingerLine(notes, instrument(id)));
    });
    line(
      `  ${id}: 512 notes ${(short ?? 0).toFixed(1)} ms (aim: 10), 4,096 notes ${(long ?? 0).toFixed(1)} ms: ${((long ?? 0) / (short ?? 1)).toFixed(1)} times for 8 times the notes`,
    );
  }
}
