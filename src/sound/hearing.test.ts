import { instrumentById } from '../core/instruments/catalogue';
import { judgeTake } from '../core/rehearsal/judgeTake';
import { soundBank } from '../server/soundBank';
import { likelyTune } from '../../tests/likelyTune';
import { listenTo, playTake, withMistakes } from '../../tests/renderedTake';
import { planPlaying, type PlayWishes } from './playPlan';
import { SoundRenderer } from './renderer';
import { wantedNotes } from './wantedNotes';
import { PitchTracker, type HeardFrame } from './hearing/pitchTrack';

const RATE = 44_100;

test('samples give the same frames however they are cut into blocks, and the pitch of a tone to a hundredth', () => {
  const tone = Float32Array.from({ length: RATE }, (_, k) => 0.2 * Math.sin((2 * Math.PI * 220 * k) / RATE));
  const framesBy = (block: number) => {
    const tracker = new PitchTracker(RATE, 50, 80);
    const frames: HeardFrame[] = [];
    for (let at = 0; at < tone.length; at += block) frames.push(...tracker.push(tone.subarray(at, at + block)));
    return frames;
  };
  const frames = framesBy(1024);
  expect(frames.length).toBeGreaterThan(80);
  for (const { key } of frames) expect(key).toBeCloseTo(57, 1);
  expect(framesBy(333)).toEqual(frames);
  expect(new PitchTracker(RATE, 50, 80).push(new Float32Array(RATE)).every(({ key }) => key === undefined)).toBe(true);
});

test('a take with known mistakes is judged rightly, and a clean one raises no alarm, on winds, bow and strings', async () => {
  const bank = await soundBank();
  if (!bank) throw new Error('the sound bank is installed by the tests');
  const renderer = await SoundRenderer.start(new Uint8Array(bank).buffer, RATE, true);
  let [right, all, mistakes] = [0, 0, 0];
  for (const [k, player] of ['flute', 'clarinet-bb', 'violin', 'trombone', 'guitar'].entries()) {
    const instrument = instrumentById(player);
    if (!instrument) throw new Error(player);
    const work = { tune: likelyTune(40 + k), recipes: { intermediate: { instrument: player } } };
    const wishes: PlayWishes = { heard: 'intermediate', backing: 'none', click: false, countIn: false, from: 0 };
    const { notes: page, beat } = wantedNotes(work, wishes);
    const wanted = page.filter(({ start }) => start < 7);
    const sounded = planPlaying(work, wishes).voices[0]?.notes ?? [];
    for (const oneIn of [0, 3]) {
      const { notes, expected } = withMistakes(wanted, sounded, { oneIn, seed: k, beat });
      const heard = listenTo(playTake(notes, instrument, renderer), RATE, wanted);
      const { verdicts } = judgeTake(wanted, heard, { beat });
      const kinds = verdicts.map(({ kind }) => kind);
      if (oneIn === 0) expect([player, kinds]).toEqual([player, expected]);
      mistakes += expected.filter((kind) => kind !== 'right').length;
      all += kinds.length;
      right += kinds.filter((kind, n) => kind === expected[n]).length;
    }
  }
  expect(mistakes).toBeGreaterThan(8);
  expect(right / all).toBeGreaterThanOrEqual(0.98);
});
