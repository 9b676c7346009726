import { watchdog } from '../../scripts/setup/watchdog.mjs';

const EVERY = 4;

/**
 * When a process is replaced, in seconds after its start; nothing where it is not within ten minutes.
 * @param answers whether it answers at a second
 * @param works how much of a processor it uses at a second
 */
function replacedAt(answers: (second: number) => boolean, works: (second: number) => number): number | undefined {
  const dog = watchdog(0);
  let used = 0;
  for (let second = EVERY; second <= 600; second += EVERY) {
    used += EVERY * 1_000 * works(second);
    if (dog.look({ now: second * 1_000, answers: answers(second), used })) return second;
  }
  return undefined;
}
const [idle, busy] = [() => 0.01, () => 0.9];

test('one that answers stays, however idle', () => {
  expect(replacedAt(() => true, idle)).toBeUndefined();
});

test('one that is deaf and idle after it has answered is replaced after twenty seconds', () => {
  expect(replacedAt((second) => second < 60, idle)).toBe(80);
});

test('one that is deaf because it works is given two minutes, and is not replaced if it comes back', () => {
  expect(replacedAt((second) => second < 60 || second >= 160, busy)).toBeUndefined();
  expect(replacedAt((second) => second < 60, busy)).toBe(180);
});

test('one that stops working without answering is deaf from then on', () => {
  expect(
    replacedAt(
      (second) => second < 60,
      (second) => (second < 100 ? 0.9 : 0),
    ),
  ).toBe(120);
});

test('one that is still starting is left alone while it works, and replaced when it has long done nothing', () => {
  expect(replacedAt((second) => second > 300, busy)).toBeUndefined();
  expect(
    replacedAt(
      () => false,
      (second) => (second < 40 ? 1 : 0),
    ),
  ).toBe(220);
});

test('where the system does not tell of the processor, deafness alone counts', () => {
  const dog = watchdog(0);
  expect(dog.look({ now: 4_000, answers: true, used: undefined })).toBeUndefined();
  expect(dog.look({ now: 20_000, answers: false, used: undefined })).toBeUndefined();
  expect(dog.look({ now: 28_000, answers: false, used: undefined })).toMatch(/not answered for 24 s/);
});
