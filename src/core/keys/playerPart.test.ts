import { instrument, pitch, tuneOf } from '../../../tests/given';
import type { Work } from '../work/work';
import { semitones } from '../pitch/pitch';
import { isNote } from '../score/tune';
import { instrumentOfPlayer, keyPlayers, type GroupPlayer } from './group';
import { formedPartForPlayer, partForPlayer } from './playerPart';

const ADA: GroupPlayer = { id: '1', name: 'Ada', instrument: 'flute', level: 'beginner' };
const TUNE = tuneOf('"C"G2 A2 c2 e2 | "G"d2 B2 G4 | "C"c2 e2 g2 e2 | c8 |]');
const work = (recipes: Work['recipes'] = {}): Work => ({ tune: TUNE, recipes });
const heights = (player: GroupPlayer, of = work()) =>
  (partForPlayer(of, player)?.part.bars ?? []).flatMap(({ events }) =>
    events.filter(isNote).map((note) => semitones(note.pitch)),
  );

describe('the part of one player', () => {
  test('has their name and their instrument, whatever the level’s lane is for', () => {
    const part = partForPlayer(work({ beginner: { instrument: 'trombone' } }), ADA)?.part;
    expect([part?.playerName, part?.instrument.id, part?.level]).toEqual(['Ada', 'flute', 'beginner']);
  });

  test('of a player without a name has none', () => {
    expect(partForPlayer(work(), { ...ADA, name: '' })?.part.playerName).toBeUndefined();
  });

  test('stays under their own top note', () => {
    expect(Math.max(...heights({ ...ADA, high: pitch('D5') }))).toBeLessThanOrEqual(semitones(pitch('D5')));
  });

  test('has only notes that they know', () => {
    const known = ['G4', 'A4', 'B4', 'C5', 'D5'].map(pitch);
    const names = new Set(known.map(semitones));
    expect(heights({ ...ADA, known }).filter((height) => !names.has(height))).toEqual([]);
  });

  test('is none where their instrument is gone', () => {
    const gone: GroupPlayer = { ...ADA, instrument: 'own-1', custom: { id: 'own-1', name: 'Old', base: 'no-such' } };
    expect(partForPlayer(work(), gone)).toBeUndefined();
    expect(formedPartForPlayer(work(), gone)).toBeUndefined();
  });
});

describe('what a level was told of its own instrument', () => {
  const known = ['C4', 'D4', 'E4', 'F4', 'G4'].map(pitch);
  const level = (id: string): Work['recipes'] => ({ beginner: { instrument: id, limits: { known } } });

  test('holds for a player of that instrument, unless they know notes of their own', () => {
    const low = new Set(known.map(semitones));
    expect(heights(ADA, work(level('flute'))).every((height) => low.has(height))).toBe(true);
    const own = ['G4', 'A4', 'B4', 'C5', 'D5'].map(pitch);
    expect(heights({ ...ADA, known: own }, work(level('flute'))).every((height) => low.has(height))).toBe(false);
  });

  test('says nothing of players of other instruments', () => {
    const low = new Set(known.map(semitones));
    expect(heights(ADA, work(level('recorder-descant'))).every((height) => low.has(height))).toBe(false);
  });
});

describe('aids', () => {
  const named = (player: GroupPlayer, of = work()) =>
    (partForPlayer(of, player)?.part.bars ?? [])
      .flatMap(({ events }) => events.filter(isNote))
      .filter(({ lyrics }) => lyrics !== undefined).length;
  const levelWith = (aids: NonNullable<NonNullable<Work['recipes']['beginner']>['page']>['aids']): Work =>
    work({ beginner: { instrument: 'flute', page: { ...(aids && { aids }) } } });

  test('are the level’s, unless the player has wishes of their own; an empty list is one', () => {
    const level = levelWith({ names: 'stays' });
    expect(named(ADA, level)).toBeGreaterThan(0);
    expect(named({ ...ADA, aids: [] }, level)).toBe(0);
    expect(named({ ...ADA, aids: ['names'] }, levelWith({}))).toBe(named(ADA, level));
  });

  test('a bare part has none, nor finger marks', () => {
    const bare = partForPlayer(
      work(),
      { ...ADA, aids: ['names'], marks: 'all' as NonNullable<GroupPlayer['marks']> },
      'bare',
    )?.part;
    expect([
      bare?.fingered,
      bare?.bars.some(({ events }) => events.some((event) => isNote(event) && event.lyrics)),
    ]).toEqual([undefined, false]);
  });
});

describe('a group’s players for the ranking of keys', () => {
  test('come with their limits and the notes they know; without an instrument they do not come', () => {
    const gone: GroupPlayer = { ...ADA, id: '2', instrument: 'no-such' };
    const [one, ...others] = keyPlayers({
      name: 'G',
      players: [{ ...ADA, high: pitch('A5'), known: [pitch('G4')] }, gone],
    });
    expect(others).toEqual([]);
    expect(one?.instrument.range.beginner.high).toEqual(pitch('A5'));
    expect([...(one?.known ?? [])]).toEqual([semitones(pitch('G4'))]);
  });

  test('a limit beyond the usual is the teacher’s word, and the ranges of all levels stay nested', () => {
    const range = instrumentOfPlayer({ ...ADA, level: 'intermediate', low: pitch('B3'), high: pitch('D7') })?.range;
    const order = ['beginner', 'intermediate', 'advanced', 'full'] as const;
    const bounds = order.map((one) => [
      semitones(range?.[one].low ?? pitch('C9')),
      semitones(range?.[one].high ?? pitch('C0')),
    ]);
    expect(bounds[1]).toEqual([semitones(pitch('B3')), semitones(pitch('D7'))]);
    bounds.slice(1).forEach(([low = 0, high = 0], k) => {
      expect(low).toBeLessThanOrEqual(bounds[k]?.[0] ?? 0);
      expect(high).toBeGreaterThanOrEqual(bounds[k]?.[1] ?? 0);
    });
  });

  test('a limit leaves alone who has none', () => {
    expect(instrumentOfPlayer(ADA)).toBe(instrument('flute'));
  });
});
