import { collisionsIn } from '../../tests/collisions';
import { likelyTune } from '../../tests/likelyTune';
import { readAbc } from '../core/formats/abc/readAbc';
import { instrumentById } from '../core/instruments/catalogue';
import { LEVELS } from '../core/instruments/instrument';
import { pageRequest } from '../core/levels/page/pageRequest';
import { partFor } from '../core/levels/partFor';
import type { Tune } from '../core/score/tune';
import { DEMO_TUNES } from '../demo/studio';
import { Engraver, lyricMargin } from './engraver';
import { partSource } from './pdf';

/** Parts on paper, with what is usual for their level and with names under the notes. */
const PLAYERS = ['trombone', 'violin', 'clarinet-bb', 'guitar'] as const;

let engraver: Engraver;
beforeAll(async () => {
  engraver = await Engraver.start();
});

test('nothing lies on anything else on a printed page', () => {
  const demo = DEMO_TUNES.map(({ abc }): Tune => {
    const read = readAbc(abc);
    if (!read.ok) throw new Error(JSON.stringify(read.problem));
    return read.value.tune;
  });
  const found: string[] = [];
  let pages = 0;
  for (const tune of [...demo, ...[1, 2, 3, 4, 5, 6].map((seed) => likelyTune(seed))])
    for (const [k, id] of PLAYERS.entries())
      for (const level of LEVELS) {
        const instrument = instrumentById(id);
        if (!instrument) throw new Error(id);
        const usual = pageRequest({}, instrument, level);
        const page = k % 2 === 0 ? usual : { ...usual, aids: { ...usual.aids, names: 'stays' as const } };
        const { value } = partFor(tune, { level, instrument, page });
        const { xml, width, staffSpace, staff } = partSource(value);
        const svg = engraver.systems(xml, { width, staffSpace, lyricMargin: lyricMargin([staff]), boxes: true });
        found.push(...collisionsIn(svg).map((what) => `${tune.title}, ${id}, ${level}: ${what}`));
        pages += 1;
      }
  expect(found).toEqual([]);
  expect(pages).toBeGreaterThan(100);
}, 120_000);

test('and what does is seen', () => {
  const read = readAbc("X:1\nT:T\nM:4/4\nL:1/8\nK:C\nG,2 E2 c2 g2|c'2 e'2 g'2 a'2|G,8|]\n");
  const instrument = instrumentById('violin');
  if (!read.ok || !instrument) throw new Error('no tune');
  const { xml, width, staffSpace } = partSource(
    partFor(read.value.tune, { level: 'advanced', instrument, page: { aids: { names: 'stays' } } }).value,
  );
  // Without its margin, the name of a low note is printed into its head.
  const svg = engraver.systems(xml, { width, staffSpace, boxes: true });
  expect(collisionsIn(svg).join()).toMatch(/^syl . on note/);
});
