import { readFileSync } from 'node:fs';
import { instrument, tuneOf } from '../../tests/given';
import { ensembleOfGroup, partOfVoice, workOfVoice } from '../core/ensemble';
import type { Group } from '../core/keys';
import { soundingNotes } from '../core/score';
import type { Work } from '../core/work';
import { planPlaying, type PlayWishes } from './playPlan';
import { SoundRenderer } from './renderer';

const WORK: Work = {
  tune: tuneOf('"G"G4 B4|"C"c4 e4|"D7"d4 A4|"G"B8|', 'M:4/4\nL:1/8\nQ:1/4=100\nK:G'),
  recipes: {},
};
const GROUP: Group = {
  name: 'Loft',
  players: (['flute', 'clarinet-bb', 'cello'] as const).map((id, k) => ({
    id: `p${k}`,
    name: instrument(id).name,
    instrument: id,
    level: 'intermediate',
  })),
};
const wishes = (more: Partial<PlayWishes> = {}): PlayWishes => ({
  heard: 'group',
  group: { group: GROUP },
  backing: 'none',
  click: false,
  countIn: false,
  from: 0,
  ...more,
});

test('everybody’s part sounds on a channel of its own, at the beats of the page; all but one, and one alone', () => {
  const plan = planPlaying(WORK, wishes());
  const ensemble = ensembleOfGroup(WORK, GROUP);
  const second = 60 / (ensemble?.perMinute ?? 60);
  expect(plan.voices.map(({ who }) => who)).toEqual(['v1', 'v2', 'v3']);
  expect(new Set(plan.voices.map(({ channel }) => channel)).size).toBe(3);
  plan.voices.forEach(({ notes }, k) => {
    const part = ensemble && partOfVoice(ensemble, k).part;
    const starts = soundingNotes({ bars: part?.soundingBars ?? [], meter: WORK.tune.meter }).map(
      ({ start }) => (start / 10_080) * second,
    );
    expect(notes.map(({ start }) => Math.round(start * 1_000))).toEqual(
      starts.map((start) => Math.round(start * 1_000)),
    );
  });
  expect(plan.marks.some(({ lane }) => lane === 'v3')).toBe(true);
  const who = (more: { readonly only?: number; readonly without?: number }) =>
    planPlaying(WORK, wishes({ group: { group: GROUP, ...more } })).voices.map((voice) => voice.who);
  expect([who({ without: 1 }), who({ only: 2 })]).toEqual([['v1', 'v3'], ['v3']]);
});

test('an introduction is played first, and lights the bars that it is made of', () => {
  const plan = planPlaying({ ...WORK, tune: { ...WORK.tune, together: { intro: 'two' } } }, wishes());
  expect(plan.bars.map(({ bar }) => bar)).toEqual([2, 3, 0, 1, 2, 3]);
});

test('on a stand the others play behind the player’s own line, each as loud as asked', () => {
  const own = workOfVoice(WORK, GROUP, 'p1');
  const plan = planPlaying(
    own?.work ?? WORK,
    wishes({
      heard: own?.level ?? 'beginner',
      group: { group: GROUP, of: WORK, without: own?.place ?? 0 },
      volumes: { v3: 0 },
    }),
  );
  expect(plan.voices.map(({ who, volume }) => [who, volume > 0])).toEqual([
    ['line', true],
    ['v1', true],
    ['v3', false],
  ]);
  expect(new Set(plan.voices.map(({ channel }) => channel)).size).toBe(3);
  const line = soundingNotes({ bars: own?.work.tune.bars ?? [], meter: WORK.tune.meter });
  expect(plan.voices[0]?.notes).toHaveLength(line.length);
});

test('it is heard: sound at each beat that somebody begins, softer without the tune, silent at the end', async () => {
  const rate = 44_100;
  const bank = readFileSync('/usr/share/sounds/sf2/TimGM6mb.sf2');
  const renderer = await SoundRenderer.start(
    bank.buffer.slice(bank.byteOffset, bank.byteOffset + bank.byteLength),
    rate,
  );
  const loudness = (more: { readonly without?: number }) => {
    const plan = planPlaying(WORK, wishes({ group: { group: GROUP, ...more } }));
    renderer.load(plan);
    const { left } = renderer.render(Math.round(rate * (plan.seconds + 3)));
    const level = (from: number, to: number) => {
      const part = left.slice(Math.round(from * rate), Math.round(to * rate));
      return Math.sqrt(part.reduce((sum, x) => sum + x * x, 0) / Math.max(1, part.length));
    };
    return { plan, level };
  };
  const all = loudness({});
  const starts = [...new Set(all.plan.voices.flatMap(({ notes }) => notes.map(({ start }) => start)))];
  const whole = all.level(0, all.plan.seconds);
  expect(starts.length).toBeGreaterThan(6);
  for (const start of starts) expect(all.level(start + 0.05, start + 0.3)).toBeGreaterThan(whole * 0.25);
  expect(all.level(all.plan.seconds + 2.5, all.plan.seconds + 3)).toBeLessThan(whole * 0.05);
  const less = loudness({ without: 0 });
  expect(less.level(0, less.plan.seconds)).toBeLessThan(whole);
});
