/** @jest-environment jsdom */
import { useState } from 'react';
import { alertText, choose, field, offered, press, screen, shown, words, write } from '../../../tests/screen';
import { instrument, pitch, withCommand } from '../../../tests/given';
import { drillTune } from '../../core/drills/sketch';
import type { Level } from '../../core/instruments/instrument';
import type { Recipe } from '../../core/work/recipe';

import { recipesOf, type Work } from '../../core/work/work';
import { printPitch } from '../../core/pitch/pitch';
import type { DrillIdea } from '../../core/score/drillIdea';
import { lanesFor } from '../../engrave/lanes';
import { DrillLevelWords } from './DrillLevelWords';
import { recipeCommand } from './setRecipe';

const THIRDS: DrillIdea = { steps: [{ set: 'major', pattern: 'thirds' }] };

function opened(first: Partial<Recipe> = {}, idea = THIRDS, level: Level = 'beginner', group?: string) {
  let work: Work = { tune: drillTune(idea), recipes: { [level]: { instrument: 'flute', ...first } } };
  const said: string[] = [];
  const asked: unknown[] = [];
  function Words() {
    const [now, setNow] = useState(work);
    const { infos } = lanesFor(now, 'written', 900);
    const info = infos.find(({ id }) => id === level);
    return (
      info && (
        <DrillLevelWords
          work={now}
          level={level}
          info={info}
          infos={infos}
          custom={[]}
          groupLink={group === undefined ? undefined : { name: group, onOpen: () => asked.push('group') }}
          onSet={(what, change) => {
            said.push(what);
            work = withCommand(work, recipeCommand(work, level, what, change));
            setNow(work);
          }}
          onFile={(name) => asked.push(name)}
          onGo={(page) => asked.push(page)}
        />
      )
    );
  }
  const { user } = shown(<Words />);
  return { user, said, asked, recipe: () => recipesOf(work)[level] };
}

test('a level goes through some keys, in a rhythm of its own, as far as it is told; what the drill says is no wish', async () => {
  const { user, recipe, said } = opened();
  await choose(user, 'Beginner: keys', 'the first 5 keys');
  await choose(user, 'Beginner: rhythm', 'triplet');
  await choose(user, 'Beginner: how far', 'two octaves');
  expect(recipe().drill).toEqual({ keys: 5, rhythm: 'triplet', extent: 'two' });
  await choose(user, 'Beginner: keys', /^\d+ keys$/);
  await choose(user, 'Beginner: rhythm', 'the rhythm of the drill');
  await choose(user, 'Beginner: how far', 'as far as the drill says');
  expect([recipe(), said]).toEqual([
    { instrument: 'flute' },
    ['keys', 'rhythm', 'how far', 'keys', 'rhythm', 'how far'],
  ]);
});

test('where the drill says its keys, a level goes through all of them unless it is told otherwise', async () => {
  const { user } = opened({}, { ...THIRDS, keys: 'fourths' });
  expect((await offered(user, 'Beginner: keys'))[0]).toBe('all keys of the drill');
});

test('a tempo is a whole number of beats a minute', async () => {
  const { user, recipe } = opened();
  await write(user, 'Beginner: beats a minute', '12.5');
  expect([alertText(), recipe().keyAndTempo]).toEqual([
    '"12.5" is no tempo: beats a minute go from 20 to 400.',
    undefined,
  ]);
  await write(user, 'Beginner: beats a minute', '66');
  expect([recipe().keyAndTempo?.perMinute, alertText()]).toEqual([66, undefined]);
});

test('the range: its edges are notes, the lower one below the higher', async () => {
  const { user, recipe, said } = opened();
  const { low, high } = instrument('flute').range.beginner;
  expect([field('Beginner: lowest note').value, field('Beginner: highest note').value]).toEqual([
    printPitch(low),
    printPitch(high),
  ]);
  await write(user, 'Beginner: lowest note', 'B7');
  expect(alertText()).toBe('"B7" is no lowest note here: write it like B♭3 or A5.');
  await write(user, 'Beginner: highest note', 'high');
  expect([alertText(), said]).toEqual(['"high" is no highest note here: write it like B♭3 or A5.', []]);
  await write(user, 'Beginner: highest note', 'A5');
  expect([recipe().limits?.range, said, alertText()]).toEqual([
    { low, high: pitch('A5') },
    ['highest note A5'],
    undefined,
  ]);
});

test('places of a hand on frets are offered by name, and go with their range', async () => {
  const { user, recipe } = opened({ instrument: 'guitar' });
  const extents = await offered(user, 'Beginner: how far');
  const place = extents.find((one) => /fret|string/.test(one)) ?? '';
  await choose(user, 'Beginner: how far', place);
  expect([typeof recipe().drill?.extent, words(screen.getByRole('combobox', { name: 'Beginner: how far' }))]).toEqual([
    'object',
    place,
  ]);
});

test('another instrument takes places and limits of the one before away and keeps how far it goes by name', async () => {
  const own = { low: pitch('E3'), high: pitch('B3') };
  const { user, recipe } = opened({ instrument: 'guitar', drill: { extent: own }, limits: { range: own } });
  expect(words(screen.getByRole('combobox', { name: 'Beginner: how far' }))).toBe('from E3 to B3');
  await user.selectOptions(screen.getByRole('combobox', { name: 'Beginner: instrument' }), 'oboe');
  expect(recipe()).toEqual({ instrument: 'oboe' });
});

test('an extent by name stays with another instrument', async () => {
  const { user, recipe } = opened({ drill: { extent: 'five' } });
  await user.selectOptions(screen.getByRole('combobox', { name: 'Beginner: instrument' }), 'oboe');
  expect(recipe()).toEqual({ instrument: 'oboe', drill: { extent: 'five' } });
});

test('how hard it is, what is printed, its files and the group’s parts', async () => {
  const { user, asked } = opened({}, THIRDS, 'advanced', 'Thursday');
  expect(words()).toMatch(/\d\.\d of 10/);
  await press(user, 'Parts for Thursday');
  await press(user, 'Print');
  expect(asked).toEqual(['group', 'advanced.pdf?paper=a4']);
  expect(screen.getByRole('region', { name: 'Aids' })).toBeTruthy();
});

test('without a group there are no parts to go to', () => {
  opened();
  expect(screen.queryByRole('button', { name: /^Parts for/ })).toBeNull();
});
