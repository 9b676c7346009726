import { readAbc } from '../src/core/formats';
import { soundBank } from '../src/server/soundBank';
import { planPlaying, type PlayWishes } from '../src/sound/playPlan';
import { SoundRenderer } from '../src/sound/renderer';
import { soundFile } from '../src/sound/soundFile';
import { PitchTracker } from '../src/sound/hearing/pitchTrack';

const RATE = 44_100;
/**
 * What a player makes before the first sound is heard, and how long it waits so that nothing is late: see the player.
 */
const [FIRST, LEAD_IN] = [0.15, 0.08];

/**
 * A three-minute backing to MP3, from play to the first sound, and how much faster than it sounds a take is listened
 * to.
 */
export async function soundTimes(line: (text: string) => void): Promise<void> {
  const bank = await soundBank();
  if (!bank) return line('Sounds: no sound bank on this machine');
  const body = Array.from({ length: 90 }, (_, k) => (k % 4 === 3 ? '"G7"B2 d2 g4' : '"C"c2 e2 "Am"a2 e2')).join('|');
  const read = readAbc(`X:1\nT:Three minutes\nM:4/4\nL:1/8\nQ:1/4=120\nK:C\n${body}|]\n`);
  if (!read.ok) throw new Error('a bench tune that cannot be read');
  const work = { tune: read.value.tune, recipes: {} };
  const wishes: PlayWishes = { heard: 'tune', backing: 'beats', click: false, countIn: true, from: 0 };
  const copy = () => new Uint8Array(bank).buffer;
  line('Sounds');
  const plan = planPlaying(work, { ...wishes, isSilent: true });
  const begun = performance.now();
  const { data, seconds } = await soundFile(plan, copy(), 'mp3');
  const took = (performance.now() - begun) / 1000;
  line(
    `  ${Math.round(seconds)} s of backing to MP3 (${Math.round(data.length / 1024)} kB) in ${took.toFixed(1)} s: ${(seconds / took).toFixed(0)} × faster than it sounds (aim 20)`,
  );
  const renderer = await SoundRenderer.start(copy(), RATE);
  const firsts = Array.from({ length: 12 }, () => {
    const pressed = performance.now();
    renderer.load(planPlaying(work, wishes));
    renderer.render(Math.round(FIRST * RATE));
    return performance.now() - pressed + LEAD_IN * 1000;
  }).toSorted((a, b) => a - b);
  line(
    `  from play to the first sound, warm: ${Math.round(firsts[6] ?? 0)} ms (aim 150), of which ${LEAD_IN * 1000} ms are waited so that nothing comes late`,
  );
  renderer.load(plan);
  const { left } = renderer.render(10 * RATE);
  const tracker = PitchTracker.forNotes(RATE, [{ key: 60 }, { key: 81 }]);
  const heard = performance.now();
  for (let at = 0; at < left.length; at += 1024) tracker.push(left.subarray(at, at + 1024));
  line(`  listening to a take: ${(10_000 / (performance.now() - heard)).toFixed(0)} × faster than it sounds`);
}
