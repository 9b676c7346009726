import fc from 'fast-check';
import { cutText, isPlainText, plainText, articleOf } from './plainText';

test('half a character and NUL are told and taken out, whole ones stay', () => {
  expect(['🎺', 'a\u0000b', '🎺'.slice(0, 1), '🎺'.slice(1), 'é', ''].map(isPlainText)).toEqual([
    true,
    false,
    false,
    false,
    true,
    true,
  ]);
  expect([plainText(`a${'🎺'.slice(0, 1)}b\u0000`), cutText('ab🎺', 3), cutText('ab🎺', 4)]).toEqual([
    'ab',
    'ab',
    'ab🎺',
  ]);
});

test('what is cut is a beginning of the text, whole and no longer than wanted', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', maxLength: 30 }), fc.nat({ max: 30 }), (text, most) => {
      const plain = plainText(text);
      const cut = cutText(plain, most);
      expect([plain.startsWith(cut), cut.length <= most, isPlainText(cut)]).toEqual([true, true, true]);
      expect(plain.length - cut.length <= 1 || cut.length >= most - 1).toBe(true);
    }),
  );
});

test('an article goes by the sound a noun begins with', () =>
  expect(['eighth', 'quarter', 'half', 'oboe'].map(articleOf)).toEqual(['an', 'a', 'a', 'an']));
