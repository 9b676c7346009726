import { tuneOf } from '../../tests/given';
import { PLAYER_SHEETS, playerSheet } from './playerSheets';

const work = { tune: tuneOf('"C"C2E2 G2E2|"G7"B2G2 F2D2|"C"c8|'), recipes: {} };
const player = (instrument: string) => ({ id: '1', name: 'Kit', instrument, level: 'beginner' as const });

test('a player whose instrument is not there any more has no part, and no fault', async () => {
  expect(await playerSheet(work, player('no-such-flute'), 'part', 'musicxml', 'a4')).toBeUndefined();
  const part = await playerSheet(work, player('flute'), 'part', 'musicxml', 'a4');
  expect(String(part)).toContain('<score-partwise');
});

test('every sheet of a tune with chords is made; of a drill, its pages alone', async () => {
  const drill = { ...work, tune: { ...work.tune, drill: { steps: [] } as never } };
  for (const sheet of PLAYER_SHEETS) {
    const pdf = await playerSheet(work, player('flute'), sheet, 'pdf', 'a4');
    expect(Buffer.from(pdf ?? '').toString('latin1', 0, 5)).toBe('%PDF-');
    if (sheet !== 'part') expect(await playerSheet(drill, player('flute'), sheet, 'pdf', 'a4')).toBeUndefined();
  }
});
