import { shownOnce, type ShelfTune } from './shelfPages';

const tune = (id: string, title = id): ShelfTune => ({
  id,
  kind: 'tune',
  title,
  composer: '',
  keyName: 'C major',
  meter: '4/4',
  bars: 8,
  levels: [],
  updatedAt: '2026-11-27T10:00:00.000Z',
});

test('a tune that was renamed between two pages stands where it was met first, and once', () => {
  const shown = shownOnce([tune('a'), tune('b'), tune('c'), tune('a', 'renamed'), tune('d')]);
  expect(shown.map(({ id, title }) => `${id} ${title}`)).toEqual(['a a', 'b b', 'c c', 'd d']);
});

test('tunes of one title are told apart by their ids', () => {
  expect(shownOnce([tune('a', 'Reel'), tune('b', 'Reel')])).toHaveLength(2);
});
