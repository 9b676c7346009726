import fc from 'fast-check';
import { partFor } from '../levels/parts/partFor';
import { instrument, tuneOf } from '../../../tests/given';
import { chain, roundName } from './chain';
import { chunksFrom, likeWords, proposeChunks } from './chunks';
import { type CLICK_PATTERNS, isClicked } from './clicks';
import { afterRound, beginLadder, roundsToGoal, type LadderPlan } from './ladder';
import { printPitch } from '../pitch/pitch';
import { earNotes, earSteps, shapeOfBars } from './byEar';
import { tappedTempo } from './tapTempo';

test('chunks are joined one after the other, from the front or from the end', () => {
  expect(chain(3, 'forward').map(roundName)).toEqual(['1', '2', '1+2', '3', '2+3', '1+2+3']);
  expect(chain(3, 'backward').map(roundName)).toEqual(['3', '2', '2+3', '1', '1+2', '1+2+3']);
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 12 }), fc.constantFrom('forward', 'backward'), (count, direction) => {
      const rounds = chain(count, direction as 'forward');
      expect(rounds.length).toBe((count * (count + 1)) / 2);
      expect(new Set(rounds.map(roundName)).size).toBe(rounds.length);
      expect(rounds.at(-1)).toEqual({ from: 0, to: count });
      // Nothing is joined before it was played by itself.
      rounds.forEach(({ from, to }, k) => {
        for (let chunk = from; chunk < to; chunk += 1)
          expect(rounds.slice(0, k + 1).some((one) => one.from === chunk && one.to === chunk + 1)).toBe(true);
      });
    }),
  );
});

const aPlan = fc.record({
  start: fc.integer({ min: 30, max: 120 }),
  step: fc.integer({ min: 1, max: 20 }),
  goal: fc.integer({ min: 40, max: 200 }),
  rounds: fc.integer({ min: 1, max: 5 }),
});

test('a tempo ladder goes up by good rounds alone, back after two that were not, and ends at its goal', () => {
  fc.assert(
    fc.property(aPlan, fc.array(fc.constantFrom('good', 'again'), { maxLength: 80 }), (plan, heard) => {
      let place = beginLadder(plan);
      for (const round of heard) {
        const next = afterRound(place, round as 'good', plan);
        expect(next.perMinute).toBeGreaterThanOrEqual(Math.min(plan.start, plan.goal));
        expect(next.perMinute).toBeLessThanOrEqual(plan.goal);
        if (next.perMinute > place.perMinute) expect([round, place.good]).toEqual(['good', plan.rounds - 1]);
        if (next.perMinute < place.perMinute) expect([round, place.again]).toEqual(['again', 1]);
        if (next.isDone) expect(next.perMinute).toBe(plan.goal);
        place = next;
      }
    }),
  );
  fc.assert(
    fc.property(aPlan, (plan: LadderPlan) => {
      let [place, played] = [beginLadder(plan), 0];
      while (!place.isDone) [place, played] = [afterRound(place, 'good', plan), played + 1];
      expect(played).toBe(roundsToGoal(plan));
    }),
  );
});

test('a metronome drops what its pattern says, and fades more and more', () => {
  const bar = (pattern: (typeof CLICK_PATTERNS)[number], at: number) =>
    [0, 1, 2, 3].map((beat) => (isClicked(pattern, at, beat) ? 'x' : '-')).join('');
  expect([0, 1, 2, 3].map((at) => bar('every-other-bar', at))).toEqual(['xxxx', '----', 'xxxx', '----']);
  expect([0, 1, 2, 3, 4].map((at) => bar('two-and-two', at))).toEqual(['xxxx', 'xxxx', '----', '----', 'xxxx']);
  expect([bar('back-beats', 0), bar('first', 3), bar('all', 7)]).toEqual(['-x-x', 'x---', 'xxxx']);
  const share = (from: number) =>
    Array.from({ length: 400 }, (_, k) => isClicked('fading', from, k % 4, k)).filter(Boolean).length / 400;
  expect(share(0)).toBeGreaterThan(0.85);
  expect(share(8)).toBeLessThan(share(0));
  expect(share(60)).toBeLessThan(0.4);
});

test('chunks follow phrases, hard bars stand by themselves, and what comes again is told', () => {
  const tune = tuneOf(
    'C2E2G2E2|D2F2A2F2|E2G2c2G2|C8|C2E2G2E2|D2F2A2F2|E2G2c2G2|D8|^c/d/e/f/g/^f/e/d/ ^c/B/^A/B/c/d/e/f/|c8|G2E2C2E2|C8|',
  );
  const { value } = partFor(tune, { level: 'intermediate', melody: 'as written', instrument: instrument('flute') });
  const chunks = proposeChunks(value);
  expect(chunks.map(({ from, to }) => to - from).reduce((sum, size) => sum + size)).toBe(12);
  chunks.forEach(({ from }, k) => expect(from).toBe(chunks[k - 1]?.to ?? 0));
  expect(chunks.every(({ from, to }) => to - from <= 4)).toBe(true);
  expect(chunks.find(({ from, to }) => from <= 8 && to > 8)).toMatchObject({ from: 8, to: 9, isHard: true });
  const again = chunks.find(({ from }) => from === 4);
  expect(again?.like && likeWords(again.like)).toBe('the same as chunk 1, but for the last note');
});

test('a tempo is tapped from three taps on; one slip counts for nothing, a pause begins anew', () => {
  expect(tappedTempo([0, 0.5])).toBeUndefined();
  expect(tappedTempo([0, 0.5, 1])).toBe(120);
  expect(tappedTempo([0, 0.5, 1, 1.8, 2.3, 2.8])).toBe(120);
  expect(tappedTempo([0, 0.5, 1, 9, 10])).toBeUndefined();
  expect(tappedTempo([0, 0.5, 1, 9, 10, 11])).toBe(60);
});

test('by ear: home, the first note, each phrase and its neighbour, the whole, and the notes last', () => {
  expect(earSteps(3).map((step) => ('chunk' in step ? `${step.kind} ${step.chunk}` : step.kind))).toEqual([
    'home',
    'start',
    'phrase 0',
    'phrase 1',
    'joined 1',
    'phrase 2',
    'joined 2',
    'whole',
    'notes',
  ]);
  expect(earSteps(1).map(({ kind }) => kind)).toEqual(['home', 'start', 'phrase', 'notes']);
  const tune = tuneOf('G2 c2 e4|d8|B8|', 'M:4/4\nL:1/8\nK:C');
  expect(shapeOfBars(tune, { from: 0, to: 2 })).toEqual([
    { from: 0, to: 0.125, height: 0 },
    { from: 0.125, to: 0.25, height: 5 / 9 },
    { from: 0.25, to: 0.5, height: 1 },
    { from: 0.5, to: 1, height: 7 / 9 },
  ]);
  const found = earNotes({ soundingBars: tune.bars, concertKey: tune.key });
  expect([found?.home, found?.start].map((pitch) => pitch && printPitch(pitch))).toEqual(['C5', 'G4']);
});

test('chunks that were cut and joined still tell what comes again', () => {
  const part = tuneOf('C2E2 G2E2 | C2E2 G4 | D2F2 A2F2 | D8 | C2E2 G2E2 | C2E2 G4 | D2F2 A2F2 | C8 |]');
  const proposed = [{ from: 0, to: 8, isHard: false }];
  const halves = chunksFrom(part, [0, 4], proposed);
  expect(halves.map(({ from, to, like }) => [from, to, like && likeWords(like)])).toEqual([
    [0, 4, undefined],
    [4, 8, 'the same as chunk 1, but for the last note'],
  ]);
  expect(chunksFrom(part, [0, 2, 4, 6], proposed)[2]?.like).toEqual({ chunk: 0, butLast: 0 });
  expect(chunksFrom(part, [0], proposed)).toEqual([{ from: 0, to: 8, isHard: false }]);
});
