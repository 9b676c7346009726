import { collisionsIn } from '../../tests/collisions';
import { likelyTune } from '../../tests/likelyTune';
import { readAbc } from '../core/formats/abc/readAbc';
import { instrumentById } from '../core/instruments/catalogue';
import { LEVELS } from '../core/instruments/instrument';
import { pageRequest } from '../core/levels/page/pageRequest';
import { partFor } from '../core/levels/parts/partFor';
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
  const chord = (x: number, text: string) =>
    `<g class="harm"><text><tspan class="text"><g class="text bounding-box"><rect x="${x}" y="0" width="900" height="320"/></g>${text}</tspan></text></g>`;
  const page = (second: number) => `<svg><g class="system">${chord(0, 'B7sus4')}${chord(second, 'B7')}</g></svg>`;
  expect(collisionsIn(page(800))).toEqual(['harm B7sus4 on harm B7']);
  expect(collisionsIn(page(1_100))).toEqual([]);
});
