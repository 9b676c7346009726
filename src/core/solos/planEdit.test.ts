import { cutPhrase, joinedPhrase, movedPhrase, withKind, withSpan, type EditedPlan } from './planEdit';

const kept = { notes: [{ at: 0, length: 10_080, pitch: { step: 'C', alter: 0, octave: 4 } }] } as const;
const edited: EditedPlan = {
  plan: [
    { bars: 2, kind: 'idea' },
    { bars: 2, kind: 'varied', of: 0 },
    { bars: 2, kind: 'answer' },
    { bars: 2, kind: 'same', of: 2 },
  ],
  given: { '2': kept },
};
const words = ({ plan, given }: EditedPlan) =>
  `${plan.map(({ bars, kind, of }) => `${kind}${bars}${of === undefined ? '' : `<${of}`}`).join(' ')} | ${Object.keys(given).join()}`;

test('phrases keep their kin and what is kept in them when the plan is changed', () => {
  expect(words(movedPhrase(edited, 2, 0))).toBe('answer2 idea2 varied2<1 same2<0 | 0');
  // What goes back to a phrase that now comes later is new.
  expect(words(movedPhrase(edited, 0, 3))).toBe('idea2 answer2 same2<1 idea2 | 1');
  expect(words(joinedPhrase(edited, 0))).toBe('idea4 answer2 same2<1 | 1');
  expect(words(cutPhrase(edited, 0))).toBe('idea1 answer1 varied2<0 answer2 same2<3 | 3');
  expect(words(cutPhrase(edited, 2))).toBe('idea2 varied2<0 answer1 answer1 same2<2 | ');
  expect(words(withKind(edited, 2, 'moved', 0))).toBe('idea2 varied2<0 moved2<0 same2<2 | 2');
});

test('a lick gets a phrase of its own where it lies; what it cuts through begins anew', () => {
  expect(words(withSpan(edited, 2, 4, kept))).toBe('idea2 idea2 answer2 same2<2 | 1,2');
  expect(words(withSpan(edited, 3, 5, kept))).toBe('idea2 answer1 idea2 answer1 answer2 | 2');
  expect(words(withSpan(edited, 0, 8, kept))).toBe('idea8 | 0');
  for (let from = 0; from < 8; from += 1)
    for (let to = from + 1; to <= 8; to += 1)
      expect(withSpan(edited, from, to, kept).plan.reduce((sum, { bars }) => sum + bars, 0)).toBe(8);
});
