import { togetherWish } from './togetherFiles';

test('what a file name asks for, and names that are no file', () => {
  expect(
    ['score.pdf', 'concert-score.musicxml', 'all.pdf', 'all.mp3', 'p-1.pdf', 'a.b.without.mp3', 'p1.slow.mp3'].map(
      togetherWish,
    ),
  ).toEqual([
    { kind: 'score', pitch: 'written', format: 'pdf' },
    { kind: 'score', pitch: 'concert', format: 'musicxml' },
    { kind: 'parts' },
    { kind: 'sound', how: 'all' },
    { kind: 'part', player: 'p-1', format: 'pdf' },
    { kind: 'sound', player: 'a.b', how: 'without' },
    { kind: 'sound', player: 'p1', how: 'slow' },
  ]);
  for (const name of ['score.doc', '.pdf', 'all.wav', '../x.pdf', `${'x'.repeat(61)}.pdf`])
    expect(togetherWish(name)).toBeUndefined();
});
