/** @jest-environment jsdom */
import { useState } from 'react';
import {
  button,
  choose,
  field,
  offered,
  press,
  screen,
  shown,
  tick,
  words,
  write,
  alertText,
} from '../../../tests/screen';
import { tuneOf, pitch, withCommand } from '../../../tests/given';
import type { Level } from '../../core/instruments/instrument';
import { DEVICES } from '../../core/work/groups';
import { FIRST_RECIPES, LEVEL_DEFAULTS, type Recipe } from '../../core/work/recipe';

import { recipesOf, type Work } from '../../core/work/work';
import type { Tune } from '../../core/score/tune';
import { AidWords } from './AidWords';
import { FingerWords } from './FingerWords';
import { LimitWords } from './LimitWords';
import { MelodyWords } from './MelodyWords';
import { PartFiles } from './PartFiles';
import { recipeCommand, type SetRecipe } from './setRecipe';

const simple = tuneOf('CDEF GABc|c8|');
const compound = tuneOf('CDE FGA|B3 c3|', 'M:6/8\nL:1/8\nK:C');

type Words = (given: {
  readonly recipe: Recipe;
  readonly level: Level;
  readonly tune: Tune;
  readonly onSet: SetRecipe;
}) => React.ReactNode;

/**
 * A level whose words are on the screen and do what they say; `recipe` is what came of it, `said` what the history
 * shows.
 */
function opened(show: Words, { level = 'beginner' as Level, tune = simple, first = {} as Partial<Recipe> } = {}) {
  const said: string[] = [];
  let work: Work = { tune, recipes: { [level]: { ...FIRST_RECIPES[level], ...first } } };
  function Words() {
    const [now, setNow] = useState(work);
    return show({
      recipe: recipesOf(now)[level],
      level,
      tune,
      onSet: (what, change) => {
        said.push(what);
        work = withCommand(work, recipeCommand(work, level, what, change));
        setNow(work);
      },
    });
  }
  const { user } = shown(<Words />);
  return { user, said, recipe: () => recipesOf(work)[level] };
}

const melody: Words = ({ recipe, level, tune, onSet }) => (
  <MelodyWords recipe={recipe} level={level} meter={tune.meter} onSet={onSet} onCompare={() => onSet('compare', {})} />
);
const limits: Words = ({ recipe, level, onSet }) => (
  <LimitWords recipe={recipe} level={level} hasSecond={false} onSet={onSet} onThrough={() => onSet('through', {})} />
);
const aids: Words = ({ recipe, level, onSet }) => <AidWords recipe={recipe} level={level} onSet={onSet} />;
const fingers: Words = ({ recipe, level, onSet }) => (
  <FingerWords recipe={recipe} level={level} onSet={onSet} onGo={(page) => onSet(page, {})} />
);

describe('the melody', () => {
  test('a beginner has it simplified; what is put back to usual leaves nothing in the recipe', async () => {
    const { user, said, recipe } = opened(melody);
    expect(words()).toBe(
      'The melody is simplified, nothing shorter than a quarter, a beat has the usual rhythms. No ornaments or ties over the beat yet.',
    );
    await choose(user, 'Beginner: melody', 'as written');
    expect([recipe().melody, words()]).toEqual(['as written', 'The melody is as written.']);
    await choose(user, 'Beginner: melody', 'simplified');
    expect([recipe(), said]).toEqual([{ instrument: 'flute' }, ['melody as written', 'melody simplified']]);
  });

  test('dotted rhythms are asked about once there are eighths, and quarters are the usual', async () => {
    const { user, recipe } = opened(melody);
    expect(screen.queryByRole('combobox', { name: /dotted/ })).toBeNull();
    await choose(user, 'Beginner: shortest note', 'eighth');
    await choose(user, 'Beginner: dotted rhythms', 'not yet');
    expect(recipe().rhythm).toEqual({ shortest: 'eighth', dotted: false });
    await choose(user, 'Beginner: dotted rhythms', 'allowed');
    await choose(user, 'Beginner: shortest note', 'quarter');
    expect(recipe()).toEqual({ instrument: 'flute' });
  });

  test('in six eighths the shortest notes are named by their beat', async () => {
    const { user } = opened(melody, { tune: compound });
    expect(await offered(user, 'Beginner: shortest note')).toEqual(['beat', 'quarter and an eighth', 'eighth']);
  });

  test('rhythms of a beat are ticked one by one; those of the other kind of beat are kept; as usual takes all of it back', async () => {
    const { user, recipe, said } = opened(melody, { first: { rhythm: { words: ['short-long'] as never } } });
    expect(words()).toContain('a beat has ');
    await press(user, 'as usual');
    expect([recipe(), said.at(-1)]).toEqual([{ instrument: 'flute' }, 'the usual rhythms']);
    await user.click(button(/rhythms in a beat/));
    const before = screen.getAllByRole('menuitemcheckbox');
    expect(before.length).toBeGreaterThan(3);
    const unticked = before.find((item) => item.getAttribute('aria-checked') === 'false');
    if (!unticked) throw new Error('all are ticked');
    await user.click(unticked);
    await user.keyboard('{Escape}');
    // Shortest note and dots say nothing more once the rhythms are named.
    expect([recipe().rhythm?.words?.length, screen.queryByRole('combobox', { name: /shortest/ })]).toEqual([1, null]);
    expect(words()).toContain('a beat has this 1 rhythm as usual.');
  });

  test('an embellished line: how densely, by which ways, and at least one way', async () => {
    const { user, recipe, said } = opened(melody, { level: 'advanced' });
    expect(words()).toContain('The melody is embellished as the level needs, with every way.');
    await choose(user, 'Advanced: how densely', 'in every bar');
    await tick(user, /ways to embellish/, ...['passing notes', 'enclosures', 'turns, rolls and mordents']);
    expect([recipe().embellish?.density, recipe().embellish?.devices?.length]).toEqual([35, DEVICES.length - 3]);
    expect(words()).toContain('10 of 13 ways');
    await tick(user, /ways to embellish/, ...['passing notes', 'enclosures', 'turns, rolls and mordents']);
    // All that the level has anyway is no wish.
    expect(recipe().embellish).toEqual({ density: 35 });
    await choose(user, 'Advanced: how densely', 'as the level needs');
    expect([recipe(), new Set(said)]).toEqual([{ instrument: 'alto-sax' }, new Set(['density', 'ways to embellish'])]);
  });

  test('the last way cannot be unticked; a density from elsewhere is told in figures', async () => {
    const first = { embellish: { devices: ['grace' as const], density: 13 } };
    const { user, recipe } = opened(melody, { level: 'advanced', first });
    expect(words()).toContain('embellished 13 in a hundred beats, with grace notes.');
    await tick(user, /ways to embellish/, 'grace notes');
    expect(recipe().embellish?.devices).toEqual(['grace']);
  });

  test('another variation counts on, after the last comes the first, and there is a way back', async () => {
    const { user, recipe, said } = opened(melody, { level: 'intermediate', first: { embellish: { seed: 9_998 } } });
    await press(user, 'Another variation');
    expect([recipe().embellish?.seed, words().includes('variation 9999')]).toEqual([9_999, true]);
    await press(user, 'back to the first');
    expect([recipe(), screen.queryByText(/back to the first/)]).toEqual([{ instrument: 'clarinet-bb' }, null]);
    await press(user, 'Another variation');
    expect(recipe().embellish?.seed).toBe(1);
    await press(user, 'Compare variations');
    expect(said.at(-1)).toBe('compare');
  });

  test('each level begins with the ways that its defaults have', () => {
    for (const level of ['intermediate', 'advanced'] as const) {
      const count = LEVEL_DEFAULTS[level].devices.length;
      opened(melody, { level });
      expect(words()).toContain(
        count === DEVICES.length ? 'with every way' : `with ${count} of ${DEVICES.length} ways`,
      );
    }
  });
});

describe('the limits', () => {
  test('off-beat notes wait in a simplified melody and are usual in others; only what is unusual is kept', async () => {
    const beginner = opened(limits);
    expect(words()).toContain('off-beat notes not yet; ties over the barline allowed');
    await choose(beginner.user, 'Beginner: off-beat notes', 'allowed');
    await choose(beginner.user, 'Beginner: ties over the barline', 'not yet');
    expect([beginner.recipe().rhythm, beginner.said]).toEqual([
      { offBeat: true, ties: false },
      ['off-beat notes allowed', 'ties over the barline not yet'],
    ]);
    await choose(beginner.user, 'Beginner: off-beat notes', 'not yet');
    await choose(beginner.user, 'Beginner: ties over the barline', 'allowed');
    expect(beginner.recipe()).toEqual({ instrument: 'flute' });
  });

  test('a form with several times can be seen written out; a second part is offered where there is one', async () => {
    const { user, recipe, said } = opened(limits);
    expect(await offered(user, 'Beginner: form')).toEqual([
      'once',
      'twice, the second time embellished',
      'with room for a solo in between',
    ]);
    expect(screen.queryByRole('button', { name: 'see it written out' })).toBeNull();
    await choose(user, 'Beginner: form', /^twice/);
    await press(user, 'see it written out');
    expect([recipe().form, said]).toEqual([
      { plays: 'twice' },
      ['played twice, the second time embellished', 'through'],
    ]);
  });

  test('a part that is set as second stays offered when the tune has no second part any more', async () => {
    const { user } = opened(limits, { first: { form: { plays: 'second' } } });
    expect(await offered(user, 'Beginner: form')).toContain('as the second part');
  });

  test('lowest and highest note: what is no note or no range is said and changes nothing', async () => {
    const { user, recipe, said } = opened(limits);
    const usual = field('Beginner: lowest note').value;
    await write(user, 'Beginner: lowest note', 'H4');
    expect([alertText(), field('Beginner: lowest note').value]).toEqual([
      '"H4" is no note: write letter, sign and octave, like G4 or Bb4.',
      usual,
    ]);
    await write(user, 'Beginner: lowest note', 'C9');
    expect(alertText()).toMatch(/^This is not possible: /);
    expect(said).toEqual([]);
    await write(user, 'Beginner: lowest note', 'e4');
    await write(user, 'Beginner: highest note', 'Bb5');
    expect([recipe().limits, said, alertText()]).toEqual([
      { range: { low: pitch('E4'), high: pitch('Bb5') } },
      ['lowest note', 'highest note'],
      undefined,
    ]);
    await press(user, 'as usual');
    expect([recipe(), field('Beginner: lowest note').value]).toEqual([{ instrument: 'flute' }, usual]);
  });

  test('an end that is emptied goes back to usual alone', async () => {
    const first = { limits: { range: { low: pitch('E4'), high: pitch('A5') } } };
    const { user, recipe } = opened(limits, { first });
    await write(user, 'Beginner: highest note', '');
    expect(recipe().limits).toEqual({ range: { low: pitch('E4') } });
  });

  test('known notes are read as a list and printed back; a word that is none is named', async () => {
    const { user, recipe } = opened(limits);
    await write(user, 'Beginner: known notes', 'G4 A4 B4 X');
    expect([alertText()?.startsWith('Known notes: '), recipe().limits]).toEqual([true, undefined]);
    await write(user, 'Beginner: known notes', 'G4, A4 B4');
    expect(recipe().limits?.known).toEqual(['G4', 'A4', 'B4'].map(pitch));
    await write(user, 'Beginner: known notes', '');
    expect([recipe(), alertText()]).toEqual([{ instrument: 'flute' }, undefined]);
  });

  test('leaps, articulation and eighths: each word and its way back', async () => {
    const { user, recipe, said } = opened(limits);
    await choose(user, 'Beginner: largest leap', 'up to a fourth');
    await choose(user, 'Beginner: articulation', 'short notes detached');
    await choose(user, 'Beginner: eighths', 'lightly swung');
    expect([recipe().limits, recipe().articulation, said]).toEqual([
      { leap: 3 },
      { style: 'crisp', swing: { unit: 'eighth', ratio: 1.5 } },
      ['largest leap', 'short notes detached', 'eighths'],
    ]);
    await choose(user, 'Beginner: eighths', 'even');
    expect(recipe().articulation?.swing).toBe('straight');
    await choose(user, 'Beginner: phrasing', 'as a march');
    expect(recipe().articulation?.phrasing).toBe('march');
    await choose(user, 'Beginner: phrasing', 'by the tune’s style');
    await choose(user, 'Beginner: largest leap', 'as the tune does');
    await choose(user, 'Beginner: articulation', 'as written');
    await choose(user, 'Beginner: eighths', 'as in the tune');
    expect(recipe()).toEqual({ instrument: 'flute' });
  });
});

describe('what is printed to help', () => {
  test('of names, degrees and syllables one stands under the notes; another takes its place and its fading', async () => {
    const { user, recipe } = opened(aids);
    await choose(user, 'Beginner: under the notes', 'note names');
    await choose(user, 'Beginner: words under the notes', 'in the first half');
    await choose(user, 'Beginner: under the notes', 'degrees of the key');
    const { names, degrees } = recipe().page?.aids ?? {};
    expect([names, degrees]).toEqual([undefined, 'first-half']);
    await choose(user, 'Beginner: under the notes', 'rhythm syllables');
    // Syllables tell the length: nothing is counted beside them.
    expect(screen.queryByRole('combobox', { name: 'Beginner: counts' })).toBeNull();
    await choose(user, 'Beginner: syllables', 'in ta and ti');
    expect([recipe().page?.aids?.syllables, recipe().page?.syllables]).toEqual(['first-half', 'ta']);
    await choose(user, 'Beginner: under the notes', 'no words');
    expect(screen.queryByRole('combobox', { name: 'Beginner: words under the notes' })).toBeNull();
  });

  test('winds have breaths, strings have bows; neither fades by what is new', async () => {
    const wind = opened(aids);
    expect(screen.queryByRole('combobox', { name: 'Beginner: bows' })).toBeNull();
    expect(await offered(wind.user, 'Beginner: breaths')).toEqual(['nowhere', 'everywhere', 'in the first half']);
    await choose(wind.user, 'Beginner: breaths', 'nowhere');
    expect(wind.recipe().page?.aids).not.toHaveProperty('breaths');
  });

  test('bowed instruments have bowing marks and no breaths', () => {
    opened(aids, { first: { instrument: 'violin' } });
    expect([
      screen.queryByRole('combobox', { name: 'Beginner: breaths' }),
      screen.getByRole('combobox', { name: 'Beginner: bows' }).textContent,
    ]).toEqual([null, expect.any(String)]);
  });

  test('the size of the page; the usual one is no wish', async () => {
    const { user, recipe, said } = opened(aids);
    await choose(user, 'Beginner: size of the page', 'very large notes');
    expect(recipe().page?.size).toBe('very-large');
    await choose(user, 'Beginner: size of the page', 'notes of the usual size');
    expect([recipe(), said]).toEqual([{ instrument: 'flute' }, ['very large notes', 'notes of the usual size']]);
  });
});

describe('fingers', () => {
  test('marks for all that have fingers; schools for strings; the same shape for what has frets; nothing for voices', async () => {
    const flute = opened(fingers);
    await choose(flute.user, 'Beginner: finger marks', 'on every note');
    expect([flute.recipe().page?.marks, screen.queryByRole('combobox', { name: /school/ })]).toEqual(['all', null]);
    expect(screen.getByRole('link', { name: 'chart' }).getAttribute('href')).toBe('/instruments/flute');
  });

  test('a guitar: school and shape', async () => {
    const guitar = opened(fingers, { level: 'advanced', first: { instrument: 'guitar' } });
    const schools = await offered(guitar.user, 'Advanced: school of fingering');
    await choose(guitar.user, 'Advanced: school of fingering', schools[2] ?? '');
    await press(guitar.user, 'same shape, next fret');
    expect([guitar.recipe().page?.school, guitar.said]).toEqual([
      expect.any(String),
      [schools[2], 'shapes?level=advanced'],
    ]);
  });

  test('a voice has none', () => {
    opened(fingers, { first: { instrument: 'voice-alto' } });
    expect(words()).toBe('');
  });
});

describe('files of the part', () => {
  test('paper and tempo stand in what is asked for; a part is opened to print and saved as a file', async () => {
    const asked: [string, boolean][] = [];
    const { user, recipe } = opened(({ recipe: now, level, onSet }) => (
      <PartFiles
        level={level}
        recipe={now}
        onSet={onSet}
        perMinute={100}
        onFile={(name, download) => asked.push([name, download])}
      />
    ));
    await press(user, 'Print');
    await choose(user, 'Paper', 'Letter');
    for (const name of ['PDF', 'MusicXML', 'MP3', 'slowly', 'backing alone', 'click alone']) await press(user, name);
    expect(asked).toEqual([
      ['beginner.pdf?paper=a4', false],
      ['beginner.pdf?paper=letter', true],
      ['beginner.musicxml', true],
      ['beginner.mp3', true],
      ['beginner.mp3?tempo=70', true],
      ['beginner.backing.mp3', true],
      ['beginner.click.mp3', true],
    ]);
    await choose(user, 'Beginner: optional passages', /bars of rest/);
    expect(recipe().form).toEqual({ leaveOut: 'rests' });
    await choose(user, 'Beginner: optional passages', 'in a bracket');
    expect(recipe()).toEqual({ instrument: 'flute' });
  });
});
