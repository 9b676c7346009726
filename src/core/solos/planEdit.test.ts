import fc from 'fast-check';
import { placedGiven, placedPlan, withPlanEdit, type EditedPlan, type PlanEdit } from './planEdit';

const kept = { notes: [{ at: 0, length: 10_080, pitch: { step: 'C', alter: 0, octave: 4 } }] } as const;
const edited: EditedPlan = {
  plan: [
    { id: 'p1', bars: 2, kind: 'idea' },
    { id: 'p2', bars: 2, kind: 'varied', of: 'p1' },
    { id: 'p3', bars: 2, kind: 'answer' },
    { id: 'p4', bars: 2, kind: 'same', of: 'p3' },
  ],
  given: { p3: kept },
};
/** The plan as a solo is composed by it: places, and which of them are kept. */
const words = (one: EditedPlan) =>
  `${placedPlan(one.plan)
    .map(({ bars, kind, of }) => `${kind}${bars}${of === undefined ? '' : `<${of}`}`)
    .join(' ')} | ${[...placedGiven(one).keys()].join()}`;
const after = (edit: PlanEdit) => words(withPlanEdit(edited, edit));

test('phrases keep their kin and what is kept in them when the plan is changed', () => {
  expect(after({ kind: 'move', phrase: 'p3', before: 'p1' })).toBe('answer2 idea2 varied2<1 same2<0 | 0');
  // What goes back to a phrase that now comes later is new.
  expect(after({ kind: 'move', phrase: 'p1', before: undefined })).toBe('idea2 answer2 same2<1 idea2 | 1');
  expect(after({ kind: 'join', phrase: 'p1', next: 'p2' })).toBe('idea4 answer2 same2<1 | 1');
  expect(after({ kind: 'join', phrase: 'p2', next: 'p3' })).toBe('idea2 varied4<0 idea2 | ');
  expect(after({ kind: 'cut', phrase: 'p1', second: 'p5' })).toBe('idea1 answer1 varied2<0 answer2 same2<3 | 3');
  expect(after({ kind: 'cut', phrase: 'p3', second: 'p5' })).toBe('idea2 varied2<0 answer1 answer1 same2<2 | ');
  expect(after({ kind: 'does', phrase: 'p3', does: 'moved', of: 'p1' })).toBe('idea2 varied2<0 moved2<0 same2<2 | ');
  expect(after({ kind: 'release', phrase: 'p3' })).toBe('idea2 varied2<0 answer2 same2<2 | ');
});

test('a lick gets a phrase of its own where it lies; what it cuts through begins anew', () => {
  const put = (from: number, to: number): PlanEdit => ({ kind: 'put', from, to, id: 'p5', given: kept });
  expect(after(put(2, 4))).toBe('idea2 idea2 answer2 same2<2 | 2,1');
  expect(after(put(3, 5))).toBe('idea2 answer1 idea2 answer1 answer2 | 2');
  expect(after(put(0, 8))).toBe('idea8 | 0');
  for (let from = 0; from < 8; from += 1)
    for (let to = from + 1; to <= 8; to += 1) {
      const { plan } = withPlanEdit(edited, put(from, to));
      expect(plan.reduce((sum, { bars }) => sum + bars, 0)).toBe(8);
      expect(new Set(plan.map(({ id }) => id)).size).toBe(plan.length);
    }
});

const anyId = fc.constantFrom('p1', 'p2', 'p3', 'p4', 'p5', 'p6', 'gone');
const anyEdit: fc.Arbitrary<PlanEdit> = fc.oneof(
  fc.record({ kind: fc.constant('does' as const), phrase: anyId, does: fc.constant('moved' as const), of: anyId }),
  fc.record({ kind: fc.constant('height' as const), phrase: anyId, height: fc.constantFrom(0.2, undefined) }),
  fc.record({ kind: fc.constant('move' as const), phrase: anyId, before: fc.option(anyId, { nil: undefined }) }),
  fc.record({ kind: fc.constant('join' as const), phrase: anyId, next: anyId }),
  fc.record({ kind: fc.constant('cut' as const), phrase: anyId, second: fc.constantFrom('p5', 'p6') }),
  fc.record({ kind: fc.constant('keep' as const), phrase: anyId, given: fc.constant(kept) }),
  fc.record({ kind: fc.constant('release' as const), phrase: anyId }),
  fc.record({
    kind: fc.constant('put' as const),
    from: fc.constant(1),
    to: fc.constantFrom(2, 5),
    id: fc.constantFrom('p7', 'p8'),
    given: fc.constant(kept),
  }),
);

test('an edit done twice is done once, and whatever is done the bars stay as many and nothing goes back to what comes later', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 8 }), anyEdit, (before, edit) => {
      const now = before.reduce(withPlanEdit, edited);
      const once = withPlanEdit(now, edit);
      expect(withPlanEdit(once, edit)).toEqual(once);
      expect(once.plan.reduce((sum, { bars }) => sum + bars, 0)).toBe(8);
      expect(Object.keys(once.given).every((id) => once.plan.some((phrase) => phrase.id === id))).toBe(true);
    }),
  );
});
