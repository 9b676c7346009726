import { onsets, plan, tuneOf } from '../../tests/soundPlans';
import type { Tune } from '../core/score/tune';
import { groupings } from './metronome';
import { planPlaying, type PlayWishes } from './playPlan';
import { wantedNotes } from './wantedNotes';

describe('what is practised with', () => {
  const line = tuneOf('M:4/4\nL:1/4\nQ:1/4=60\nK:C\nCDEF|GABc|cBAG|FEDC|');

  test('a phrase sounds, and then as long a silence for the answer, round and round', () => {
    const called = plan(line, { from: 1, loopTo: 2, hasAnswers: true, click: true });
    expect([onsets(called), called.seconds, called.loops]).toEqual([[0, 1, 2, 3, 4, 5, 6, 7], 16, true]);
    // The click goes on through the answer.
    expect(onsets(called, 9)).toHaveLength(16);
    expect(called.bars.map(({ bar }) => bar)).toEqual([1, 2, 1, 2]);
  });

  test('the metronome drops beats, divides them, and is soft in between', () => {
    const clicks = (wishes: Partial<PlayWishes>) => onsets(plan(line, { click: true, ...wishes }), 9);
    expect(clicks({ clickPattern: 'back-beats' })).toEqual([1, 3, 5, 7, 9, 11, 13, 15]);
    expect(clicks({ clickPattern: 'two-and-two' })).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    expect(clicks({ clickParts: 2, loopTo: 0 })).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5]);
    const [first, between] =
      plan(line, { click: true, clickParts: 2 }).voices.find(({ channel }) => channel === 9)?.notes ?? [];
    expect((between?.velocity ?? 99) < (first?.velocity ?? 0)).toBe(true);
    expect(plan(line).beats).toEqual([4, 4, 4, 4]);
  });
});

describe('who plays along, and how', () => {
  const clicksOf = (tune: Tune, wishes: Partial<PlayWishes> = {}) =>
    (plan(tune, { click: true, ...wishes }).voices.find(({ who }) => who === 'click')?.notes ?? []).map(
      ({ start, velocity }) => [Math.round(start * 100) / 100, velocity],
    );

  test('fives and sevens are told by the first of each group, as the teacher groups them', () => {
    const five = tuneOf('M:5/4\nL:1/4\nQ:1/4=60\nK:C\nCDEFG|');
    expect(clicksOf(five)).toEqual([
      [0, 110],
      [1, 88],
      [2, 88],
      [3, 100],
      [4, 88],
    ]);
    expect(clicksOf(five, { clickGroups: [2, 3] }).map(([, velocity]) => velocity)).toEqual([110, 88, 100, 88, 88]);
    const seven = tuneOf('M:7/8\nL:1/8\nQ:1/8=60\nK:C\nCDEFGAB|');
    expect(clicksOf(seven)).toEqual([
      [0, 110],
      [2, 100],
      [4, 100],
    ]);
    expect(clicksOf(seven, { clickGroups: [3, 2, 2], clickParts: 2 })).toEqual([
      [0, 110],
      [1, 60],
      [2, 60],
      [3, 100],
      [4, 60],
      [5, 100],
      [6, 60],
    ]);
    // A grouping of another meter is none.
    expect(clicksOf(five, { clickGroups: [2, 2] })).toEqual(clicksOf(five));
    expect(groupings({ count: 4, unit: 4 })).toEqual([]);
  });

  test('other levels play along where they are in the same key, silent line or not, each as loud as asked', () => {
    const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=90\nK:G\n"G"GABc d2 B2|"D"A2 F2 D4|"G"GABc d2 g2|"G"G8|');
    const wishes = { heard: 'beginner', band: ['advanced'], volumes: { advanced: 0.5, line: 1 } } as const;
    const both = plan(tune, wishes);
    expect(both.voices.map(({ who, volume }) => [who, volume])).toEqual([
      ['line', 92],
      ['advanced', 40],
    ]);
    expect(new Set(both.marks.map(({ lane }) => lane))).toEqual(new Set(['beginner']));
    expect(plan(tune, { ...wishes, isSilent: true }).voices.map(({ who }) => who)).toEqual(['advanced']);
    const elsewhere = planPlaying(
      {
        tune,
        recipes: {
          advanced: { instrument: 'flute', keyAndTempo: { key: { tonic: { step: 'A', alter: 0 }, mode: 'major' } } },
        },
      },
      { backing: 'none', click: false, countIn: false, from: 0, ...wishes },
    );
    expect(elsewhere.voices.map(({ who }) => who)).toEqual(['line']);
    expect(elsewhere.messages.join()).toContain('advanced');
    // While it answers, the band goes on.
    const answered = plan(tune, { ...wishes, hasAnswers: true, loopTo: 3 });
    const [line, band] = answered.voices.map(({ notes }) => notes.length);
    expect(band).toBe(2 * (both.voices[1]?.notes.length ?? 0));
    expect(line).toBe(both.voices[0]?.notes.length);
  });

  test('the easier part is heard alone and in the band, in the key of what it is under', () => {
    const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=90\nK:G\n"G"GABc d2 B2|"D"A2 F2 D4|"G"GABc d2 g2|"G"G8|');
    const alone = plan(tune, { heard: 'under' });
    expect(alone.voices.map(({ who, notes }) => [who, notes.length])).toEqual([['line', 4]]);
    const inA = { keyAndTempo: { key: { tonic: { step: 'A', alter: 0 }, mode: 'major' } } } as const;
    const both = planPlaying(
      { tune, recipes: { advanced: { instrument: 'flute', ...inA }, beginner: { instrument: 'violin' } } },
      { backing: 'none', click: false, countIn: false, from: 0, heard: 'advanced', band: ['under'] },
    );
    expect(both.voices.map(({ who, notes }) => [who, who === 'under' ? notes.map(({ key }) => key % 12) : 0])).toEqual([
      ['line', 0],
      ['under', [9, 4, 9, 9]],
    ]);
    expect(both.messages).toEqual([]);
  });

  test('eighths swing or not as asked; a drone lies on the fifth', () => {
    const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=60\nK:C\nCDEF G4|');
    expect(onsets(plan(tune, { swing: { unit: 'eighth', ratio: 2 } }))).toEqual([0, 0.6667, 1, 1.6667, 2]);
    expect(onsets(plan({ ...tune, swing: { unit: 'eighth', ratio: 2 } }, { swing: 'even' }))).toEqual([
      0, 0.5, 1, 1.5, 2,
    ]);
    const drone = plan(tune, { backing: 'fifth-drone' }).voices.filter(({ who }) => who !== 'line');
    expect(new Set(drone.flatMap(({ notes }) => notes.map(({ key }) => key % 12)))).toEqual(new Set([7]));
  });

  test('what should be played is told with its place, and in an answer by the time of the answer', () => {
    const tune = tuneOf('M:2/4\nL:1/4\nQ:1/4=60\nK:C\nCD-|D{E}F|z2|');
    const wishes: PlayWishes = { heard: 'tune', backing: 'held', click: true, countIn: true, from: 0, loopTo: 2 };
    const take = wantedNotes({ tune, recipes: {} }, wishes);
    expect(take.notes.map(({ bar, start, key }) => [bar, Math.round(start * 10) / 10, key])).toEqual([
      [0, 0, 60],
      [0, 1, 62],
      [1, 3.1, 65],
    ]);
    expect([take.seconds, take.beat]).toEqual([6, 1]);
    const answer = wantedNotes({ tune, recipes: {} }, { ...wishes, hasAnswers: true });
    expect(answer.seconds).toBe(12);
    expect(answer.notes[0]?.start).toBe(6);
    // Phrase by phrase: each call is answered before the next one comes.
    const each = wantedNotes({ tune, recipes: {} }, { ...wishes, hasAnswers: true, callStarts: [0, 1] });
    expect(each.notes.map(({ start }) => Math.round(start * 10) / 10)).toEqual([2, 3, 8, 9.1]);
    const calls = plan(tune, { from: 0, loopTo: 2, hasAnswers: true, callStarts: [0, 1] });
    expect(onsets(calls).filter((start) => start < 4)).toEqual([0, 1]);
  });
});
