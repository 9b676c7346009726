import { readFileSync } from 'node:fs';
import { plan, tuneOf } from '../../tests/soundPlans';
import { planPlaying } from './playPlan';
import { SoundRenderer } from './renderer';

describe('rendered without a device', () => {
  const rate = 44_100;
  const bank = readFileSync('/usr/share/sounds/sf2/TimGM6mb.sf2');
  const started = SoundRenderer.start(bank.buffer.slice(bank.byteOffset, bank.byteOffset + bank.byteLength), rate);

  /** Loudness of each stretch of 10 ms. */
  const levels = (samples: Float32Array) =>
    Array.from({ length: Math.floor(samples.length / 441) }, (_, k) =>
      Math.sqrt(samples.slice(k * 441, (k + 1) * 441).reduce((sum, x) => sum + x * x, 0) / 441),
    );
  /** The period of most agreement, as a MIDI key number. */
  const heardKey = (samples: Float32Array, at: number) => {
    const part = samples.slice(Math.round(at * rate), Math.round(at * rate) + 4096);
    const agreement = Array.from({ length: 700 }, (_, lag) => {
      let sum = 0;
      for (let k = 0; k < 2048; k += 1) sum += (part[k] ?? 0) * (part[k + lag] ?? 0);
      return sum;
    });
    const best = Math.max(...agreement.slice(30));
    // Two or three periods agree as well as one: the first peak that is nearly the highest.
    const bestLag = agreement.findIndex(
      (sum, lag) =>
        lag >= 30 && sum > best * 0.93 && sum >= (agreement[lag - 1] ?? 0) && sum >= (agreement[lag + 1] ?? 0),
    );
    return 69 + 12 * Math.log2(rate / bestLag / 440);
  };

  test('notes begin when planned and have the pitch of the page', async () => {
    const renderer = await started;
    const tune = tuneOf('M:4/4\nL:1/4\nQ:1/4=60\nK:D\n.D.F.A.d|.F.E.C.D|');
    const made = planPlaying(
      {
        tune,
        recipes: {
          advanced: { instrument: 'flute', melody: 'as written', articulation: { phrasing: 'none' } },
        },
      },
      { heard: 'advanced', backing: 'none', click: false, countIn: false, from: 0 },
    );
    const [voice] = made.voices;
    renderer.load(made);
    const { left } = renderer.render(rate * 8);
    const loud = levels(left);
    const most = Math.max(...loud);
    voice?.notes.forEach(({ start, key }) => {
      const from = Math.round(start * 100);
      // Silent just before (the notes are short), sounding just after.
      if (from > 0) expect(loud[from - 2] ?? 0).toBeLessThan(most * 0.12);
      expect(Math.max(...loud.slice(from, from + 8))).toBeGreaterThan(most * 0.3);
      expect(heardKey(left, start + 0.2)).toBeCloseTo(key, 0);
    });
    expect(voice?.notes).toHaveLength(8);
  });

  test('a loop comes round on time, without an end', async () => {
    const renderer = await started;
    renderer.load(plan(tuneOf('M:2/4\nL:1/4\nQ:1/4=120\nK:C\n.cz|'), { loopTo: 0 }));
    const loud = levels(renderer.render(rate * 4).left);
    const most = Math.max(...loud);
    for (const at of [0, 100, 200, 300]) expect(Math.max(...loud.slice(at, at + 8))).toBeGreaterThan(most * 0.5);
    for (const at of [95, 195, 295]) expect(loud[at] ?? 0).toBeLessThan(most * 0.2);
    expect(renderer.isOver).toBe(false);
  });

  test('a file that is no sound bank is refused in words', async () => {
    await expect(
      SoundRenderer.start(
        new TextEncoder().encode('not a bank at all, and long enough to be looked at').buffer as ArrayBuffer,
        rate,
      ),
    ).rejects.toThrow('The sound bank cannot be read');
  });
});
