import { readAbc } from '../core/formats/abc/readAbc';
import { readMusicXml } from '../core/formats/musicxml/readMusicXml';
import { writeMusicXml } from '../core/formats/musicxml/writeMusicXml';
import { formedPartOfLevel } from '../core/levels/levelPart';
import type { BarChoices } from '../core/work/groups';
import { printPitch } from '../core/pitch/pitch';
import { isNote, type Bar } from '../core/score/tune';
import { scoreWithOssias } from './staves';

const read = readAbc('X:1\nT:T\nM:4/4\nL:1/8\nQ:1/4=90\nK:C\n|:C2 E2 G2 E2 | F2 A2 c4 | B2 G2 F2 D2 | C8 :|\n');
const { tune } = read.ok ? read.value : fail();
function fail(): never {
  throw new Error('unreadable');
}
const idOf = (bar: number) => tune.bars[bar]?.id ?? '';
const file = (alternates: BarChoices) =>
  writeMusicXml(
    scoreWithOssias(
      formedPartOfLevel(tune, 'advanced', {
        advanced: { instrument: 'clarinet-bb', melody: 'as written', bars: { alternates } },
      }).part,
    ),
  );
const notes = (bars: readonly Bar[]) =>
  bars.map(({ events }) => events.map((event) => (isNote(event) ? printPitch(event.pitch) : 'z')).join(' '));

test('other versions of bars stand in the file on a small staff that is shown there alone; reading takes the staff under it, and says so', () => {
  const xml = file({ [idOf(1)]: { kind: 'simplest' }, [idOf(3)]: { kind: 'rest' } });
  const small = /<part id="O1">([\s\S]*?)<\/part>/.exec(xml)?.[1] ?? '';
  const measures = small.split('</measure>').slice(0, 4);
  expect(measures.map((one) => /<staff-details print-object="(\w+)"/.exec(one)?.[1])).toEqual([
    'no',
    'yes',
    'no',
    'yes',
  ]);
  expect(measures.map((one) => (one.match(/<pitch>/g) ?? []).length)).toEqual([0, 2, 0, 0]);
  // Both staves repeat together, and only one says the tempo.
  expect(xml.match(/<repeat direction="backward"/g)).toHaveLength(2);
  expect(xml.match(/<metronome/g)).toHaveLength(1);
  const back = readMusicXml(xml);
  if (!back.ok) throw new Error(JSON.stringify(back.problem));
  expect(notes(back.value.tune.bars)).toEqual(notes(tune.bars));
  expect(back.value.warnings.map(({ code, found }) => [code, found])).toContainEqual([
    'left-out',
    'other versions of bars on a small staff',
  ]);
});

test('a part without other versions has one staff', () => {
  expect(file({})).not.toContain('ossia');
});
