import { tonicsInOrder } from '../drills/keyOrder';
import { namePitchClass } from '../pitch/pitch';
import { instrument } from '../../../tests/given';
import { bestKeys, keyTable } from './drillKeys';

const twelve = tonicsInOrder('fifths', { step: 'C', alter: 0 });

test('each key says what a player reads and what does not fit; the best have few signs and fit', () => {
  const clarinet = { instrument: instrument('clarinet-bb'), level: 'beginner' } as const;
  const table = keyTable({ steps: [{ set: 'major', pattern: 'scale' }] }, [clarinet], twelve);
  const told = Object.fromEntries(
    table.map(({ tonic, players }) => [
      namePitchClass(tonic),
      players[0]?.written && namePitchClass(players[0].written),
    ]),
  );
  expect([told['C'], told['B♭'], told['E♭']]).toEqual(['D', 'C', 'F']);
  const [best] = bestKeys(table);
  const found = table.find(({ tonic }) => tonic === best)?.players[0];
  expect([found?.messages, (found?.signs ?? 9) < 3]).toEqual([[], true]);
});

test('a key that somebody cannot play at all comes last', () => {
  const trumpet = { instrument: instrument('trumpet-bb'), level: 'intermediate' } as const;
  const table = keyTable({ steps: [{ set: 'major', pattern: 'lip-slurs' }] }, [trumpet], twelve);
  const cannot = table.filter(({ players }) => !players[0]?.written);
  expect(cannot.length).toBeGreaterThan(0);
  expect(bestKeys(table).slice(-cannot.length)).toEqual(cannot.map(({ tonic }) => tonic));
  expect(cannot[0]?.players[0]?.messages[0]?.why).toContain('partials');
});
