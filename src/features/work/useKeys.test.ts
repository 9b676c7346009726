import { historyKey, plainKey } from './useKeys';

const press = (key: string, held: Partial<KeyboardEvent> = {}) =>
  ({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held }) as KeyboardEvent;

test('undo and redo are what the platforms have, and nothing else is', () => {
  expect(
    [
      press('z', { ctrlKey: true }),
      press('Z', { metaKey: true, shiftKey: true }),
      press('y', { ctrlKey: true }),
      press('z'),
      press('x', { ctrlKey: true }),
    ].map(historyKey),
  ).toEqual(['undo', 'redo', 'redo', undefined, undefined]);
});

test('a plain key has no modifier that would make a command of it; Shift is none', () => {
  expect([press('L', { shiftKey: true }), press('l', { altKey: true }), press('?')].map(plainKey)).toEqual([
    'l',
    undefined,
    '?',
  ]);
});
