import { tuneOf } from '../../tests/given';
import { playerFile } from './groupParts';

const work = { tune: tuneOf('C2E2 G2E2|c8|'), recipes: {} };
const player = (instrument: string) => ({ id: '1', name: 'Kit', instrument, level: 'beginner' as const });

test('a player whose instrument is not there any more has no part, and no fault', async () => {
  expect(await playerFile(work, player('no-such-flute') as never, 'musicxml', 'a4')).toBeUndefined();
  const part = await playerFile(work, player('flute') as never, 'musicxml', 'a4');
  expect(String(part)).toContain('<score-partwise');
});
