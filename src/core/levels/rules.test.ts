import fc from 'fast-check';
import { anyLevelCase, brokenRules } from '../../../tests/levelRules';

// `npm run fuzz -- levels 20000` tries as many as wanted.
test('any tune by any recipe keeps the hard rules, through its form too', () => {
  fc.assert(
    fc.property(anyLevelCase, (one) => {
      expect(brokenRules(one)).toEqual([]);
    }),
  );
});
