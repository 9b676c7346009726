import { chanceFrom } from '../src/core/chance';
import { instrumentById, LEVELS } from '../src/core/instruments';
import { judgeTake, type Verdict } from '../src/core/rehearsal';
import { soundBank } from '../src/server/soundBank';
import { planPlaying, type PlayWishes } from '../src/sound/playPlan';
import { SoundRenderer } from '../src/sound/renderer';
import { wantedNotes } from '../src/sound/wantedNotes';
import { likelyTune } from '../tests/likelyTune';
import { listenTo, playTake, withMistakes } from '../tests/renderedTake';

const PLAYERS = ['flute', 'clarinet-bb', 'violin', 'trombone', 'guitar'] as const;
const RATE = 44_100;

/** Takes with known mistakes, rendered by the bank's instruments and judged: `npm run fuzz -- hear N`. */
export async function measureHearing(count: number, line: (text: string) => void): Promise<void> {
  const bank = await soundBank();
  if (!bank) throw new Error('no sound bank');
  const renderer = await SoundRenderer.start(new Uint8Array(bank).buffer, RATE);
  const sums = new Map<string, { notes: number; wrong: number; alarms: number; clean: number; added: number }>();
  let [milliseconds, seconds] = [0, 0];
  for (let k = 0; k < count; k += 1) {
    const player = PLAYERS[k % PLAYERS.length] ?? 'flute';
    const instrument = instrumentById(player);
    const level = LEVELS[Math.floor(k / PLAYERS.length) % 3] ?? 'beginner';
    if (!instrument) continue;
    const tune = likelyTune(Math.floor(k / 3));
    const work = { tune, recipes: { [level]: { instrument: player } } };
    const wishes: PlayWishes = { heard: level, backing: 'none', click: false, countIn: false, from: 0 };
    const take = wantedNotes(work, wishes);
    const until = take.notes.findIndex(({ start }) => start > 24);
    const wanted = until < 0 ? take.notes : take.notes.slice(0, until);
    if (wanted.length < 4) continue;
    const isClean = chanceFrom(`clean/${k}`)() < 0.3;
    const sounded = planPlaying(work, wishes).voices[0]?.notes ?? [];
    const { notes, expected } = withMistakes(wanted, sounded, { oneIn: isClean ? 0 : 7, seed: k, beat: take.beat });
    const samples = playTake(notes, instrument, renderer);
    const begun = performance.now();
    const heard = listenTo(samples, RATE, wanted);
    const { verdicts, added } = judgeTake(wanted, heard, { beat: take.beat });
    milliseconds += performance.now() - begun;
    seconds += samples.length / RATE;
    const own = sums.get(player) ?? { notes: 0, wrong: 0, alarms: 0, clean: 0, added: 0 };
    sums.set(player, own);
    own.added += added.length;
    if (process.env['REED_TELL']) for (const one of added) line(`  ${k} ${player} added ${JSON.stringify(one)}`);
    if (isClean) own.clean += 1;
    verdicts.forEach((verdict, n) => {
      const wish: Verdict['kind'] = expected[n] ?? 'right';
      own.notes += 1;
      if (verdict.kind === wish) return;
      own.wrong += 1;
      if (isClean) own.alarms += 1;
      if (process.env['REED_TELL'])
        line(
          `  ${k} ${player} ${level} note ${n} at ${wanted[n]?.start.toFixed(2)} key ${wanted[n]?.key} lasting ${((wanted[n]?.end ?? 0) - (wanted[n]?.start ?? 0)).toFixed(2)}: ${wish}, heard ${JSON.stringify(verdict)}`,
        );
    });
  }
  for (const [player, { notes, wrong, alarms, clean, added }] of sums)
    line(
      `${player}: ${notes} notes, ${((100 * (notes - wrong)) / notes).toFixed(2)} % judged rightly, ${alarms} false alarms in ${clean} clean takes, ${added} notes that nobody played`,
    );
  const all = [...sums.values()];
  const [notes, wrong] = [all.reduce((sum, one) => sum + one.notes, 0), all.reduce((sum, one) => sum + one.wrong, 0)];
  line(
    `all: ${((100 * (notes - wrong)) / notes).toFixed(2)} % of ${notes} notes; ${((1000 * seconds) / milliseconds).toFixed(0)} × faster than it sounds`,
  );
}
