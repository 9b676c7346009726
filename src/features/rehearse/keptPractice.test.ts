import { keepPractice, keptPractice, type KeptPractice } from './keptPractice';

const PRACTICE: KeptPractice = {
  plan: { start: 60, step: 4, goal: 96, rounds: 2 },
  place: { perMinute: 68, good: 1, again: 0, isDone: false },
  practised: 'chunk',
  picked: 3,
  round: 7,
};

let stored: Map<string, string>;
let isForbidden: boolean;
beforeEach(() => {
  stored = new Map();
  isForbidden = false;
  const guarded = <Value>(value: Value): Value => {
    if (isForbidden) throw new DOMException('The operation is insecure.', 'SecurityError');
    return value;
  };
  Object.defineProperty(globalThis, 'localStorage', {
    configurable: true,
    value: {
      getItem: (name: string) => guarded(stored.get(name) ?? null),
      setItem: (name: string, text: string) => void guarded(stored.set(name, text)),
    },
  });
});

test('practising goes on where it stopped, each part for itself', () => {
  keepPractice('kelp/beginner', PRACTICE);
  expect(keptPractice('kelp/beginner')).toEqual(PRACTICE);
  expect(keptPractice('kelp/advanced')).toBeUndefined();
});

test.each([
  ['half a text', '{"plan":'],
  ['another program’s note', '{"hello":1}'],
  ['a tempo that nobody plays', JSON.stringify({ ...PRACTICE, plan: { ...PRACTICE.plan, goal: 0 } })],
  ['a way of practising that there is not', JSON.stringify({ ...PRACTICE, practised: 'backwards' })],
])('%s is as good as none', (_, text) => {
  stored.set('reed-practice/kelp', text);
  expect(keptPractice('kelp')).toBeUndefined();
});

test('a browser that keeps nothing is no fault: practising begins anew', () => {
  isForbidden = true;
  expect(() => keepPractice('kelp', PRACTICE)).not.toThrow();
  expect(keptPractice('kelp')).toBeUndefined();
});
