/** @jest-environment jsdom */
import { useState } from 'react';
import { alertText, button, choose, press, screen, shown, tick, within, words, write } from '../../../tests/screen';
import { refusal, serverStandIn } from '../../../tests/serverStandIn';
import { key, tuneOf } from '../../../tests/given';
import type { Level } from '../../core/instruments/instrument';
import type { SavedRecipe } from '../../core/work/savedRecipe';
import { apply } from '../../core/work/command';
import { recipesOf, type Work } from '../../core/work/work';
import { lanesFor } from '../../engrave/lanes';
import type { BarVariant } from '../../engrave/variants';
import { ToastArea } from '../../ui/Toast';
import type { Draws } from '../work/useEngraving';
import type { Selection } from '../work/workStore';
import { LevelsDrawer } from './LevelsDrawer';

const tune = tuneOf(
  '"C" C2E2 G2c2|"G7" B2d2 g2f2|"C" e2c2 G2E2|"G7" D2F2 "C" E4|"F" A2c2 f2a2|"C" g2e2 c2G2|"G7" B2A2 G2F2|"C" E8|',
);

/** What a picture says is in its words; the pictures themselves are the engraver's. */
const VARIANTS: readonly BarVariant[] = [
  { choice: undefined, svg: '<svg></svg>', same: ['simpler'] },
  { choice: { kind: 'as-written' }, svg: '<svg></svg>', same: [] },
  { choice: { kind: 'octave-up' }, svg: '<svg></svg>', same: [] },
  { choice: { kind: 'embellished', seed: 2 }, svg: '<svg></svg>', same: [] },
];
const draws = {
  variants: async () => VARIANTS,
  variationOf: async () => [],
  through: async () => [],
} as unknown as Draws;

/** The drawer over a work that changes with what is done there. */
function opened(first: Work['recipes'] = {}, saved: readonly SavedRecipe[] = [], of = tune) {
  let work: Work = { tune: of, recipes: first };
  const said: string[] = [];
  const files: string[] = [];
  function Drawer() {
    const [now, setNow] = useState(work);
    const [selection, setSelection] = useState<Selection>();
    const [list, setList] = useState(saved);
    const { infos, numbers } = lanesFor(now, 'written', 900);
    return (
      <ToastArea>
        <LevelsDrawer
          work={now}
          infos={infos}
          numbers={numbers}
          selection={selection}
          group={undefined}
          groupId={undefined}
          custom={[]}
          saved={list}
          onSaved={setList}
          draws={draws}
          onDispatch={(wanted) => {
            const command = typeof wanted === 'function' ? wanted(work) : wanted;
            const applied = command && apply(work, command);
            if (!applied?.ok) return applied?.problem;
            said.push(applied.value.name);
            work = applied.value.work;
            setNow(work);
            return undefined;
          }}
          onSelect={setSelection}
          onFile={(name) => files.push(name)}
          onGo={(page) => files.push(page)}
        />
        <button type="button" onClick={() => setSelection({ lane: 'beginner', bar: 2 })}>
          Bar 3 in the music
        </button>
      </ToastArea>
    );
  }
  const { user } = shown(<Drawer />);
  return { user, said, files, recipe: (level: Level) => recipesOf(work)[level], work: () => work };
}

const tab = (name: string | RegExp) => screen.getByRole('tab', { name });

describe('the head of a recipe', () => {
  test('instrument, key and tempo are words; what follows from them is told', async () => {
    const { user, said, recipe } = opened();
    expect(words()).toContain('Reads C major');
    await choose(user, 'Beginner: concert key', /^D major/);
    expect([recipe('beginner').keyAndTempo?.key, said]).toEqual([key('D'), ['Beginner: key']]);
    expect(words()).toContain("Not the tune's own key: ask the accompanist for D major; a recording will not fit.");
    await write(user, 'Beginner: beats a minute', '9');
    expect([alertText(), recipe('beginner').keyAndTempo?.perMinute]).toEqual([
      '"9" is no tempo: beats a minute go from 20 to 400.',
      undefined,
    ]);
    await write(user, 'Beginner: beats a minute', '72');
    expect([recipe('beginner').keyAndTempo?.perMinute, alertText()]).toEqual([72, undefined]);
  });

  test('another instrument takes away what only the one before had, and tells how it reads', async () => {
    const { user, recipe } = opened({
      beginner: { instrument: 'flute', page: { pins: { b1e1: '1' } }, limits: { leap: 3, known: [] } },
    });
    await user.selectOptions(screen.getByRole('combobox', { name: 'Beginner: instrument' }), 'horn-f');
    expect(recipe('beginner')).toMatchObject({ instrument: 'horn-f', limits: { leap: 3 } });
    expect(recipe('beginner').page).toBeUndefined();
    expect(words()).toContain('Reads G major, sounds C major');
  });

  test('a level that began in another key says why and has one press to go back', async () => {
    const { user, said, recipe } = opened({}, [], tuneOf('c2e2 g2c2|b2d2 g2f2|e8|', 'M:4/4\nL:1/8\nK:F#'));
    await user.selectOptions(screen.getByRole('combobox', { name: 'Beginner: instrument' }), 'violin');
    expect(recipe('beginner').keyAndTempo?.moved).toBe('signature');
    await press(user, /^Back to F♯ major/);
    expect([recipe('beginner').keyAndTempo, said.at(-1)]).toEqual([{ key: key('F#') }, "Beginner: the tune's own key"]);
  });

  test('bars set by hand are counted, and one press lets go of them', async () => {
    const [one, two] = tune.bars;
    const chosen = { [one?.id ?? '']: { kind: 'rest' as const }, [two?.id ?? '']: { kind: 'as-written' as const } };
    const { user, recipe } = opened({ beginner: { instrument: 'flute', bars: { chosen } } });
    expect(words()).toContain('2 bars are as you set them: undo that');
    await press(user, 'undo that');
    expect(recipe('beginner')).toEqual({ instrument: 'flute' });
  });

  test('a level hardly harder than the one below says so and can be made denser', async () => {
    const { user, recipe } = opened({
      beginner: { instrument: 'flute', melody: 'as written', keyAndTempo: { perMinute: 120 } },
      intermediate: { instrument: 'flute', melody: 'as written', keyAndTempo: { perMinute: 60 } },
    });
    await press(user, 'Intermediate');
    expect(screen.getByRole('note').textContent).toMatch(/^Hardly harder than beginner: /);
    await press(user, 'denser embellishment');
    expect(recipe('intermediate')).toMatchObject({ melody: 'embellished', embellish: { density: 60 } });
  });
});

describe('the picked bar', () => {
  test('a bar picked in the music opens its tab; what was changed there is told with its reason', async () => {
    const { user } = opened();
    await user.click(button('Bar 3 in the music'));
    expect([tab('Bar 3').getAttribute('aria-selected'), words()]).toEqual(['true', expect.stringContaining('Bar 3')]);
    await press(user, 'all bars');
    const change = within(screen.getByRole('region', { name: 'Changes' })).getAllByRole('button', { name: /^Bar / });
    expect(change.length).toBeGreaterThan(0);
    await press(user, 'bar 3 only');
    expect(screen.getByRole('heading', { name: 'Bar 3' })).toBeTruthy();
  });

  test('a version is taken for the bar, for its phrase, as the alternative, and let go of again', async () => {
    const { user, recipe, said } = opened();
    await user.click(button('Bar 3 in the music'));
    const id = tune.bars[2]?.id ?? '';
    await user.click(await screen.findByRole('button', { name: 'as in the tune' }));
    expect([recipe('beginner').bars?.chosen, said.at(-1)]).toEqual([
      { [id]: { kind: 'as-written' } },
      'Beginner: bar 3 as in the tune',
    ]);
    await user.click(await screen.findByRole('button', { name: /^as the level has it \(simpler\)/ }));
    expect(recipe('beginner').bars).toBeUndefined();
    await choose(user, 'What a choice applies to', /^its phrase/);
    await user.click(await screen.findByRole('button', { name: 'an octave up' }));
    const chosen = Object.values(recipe('beginner').bars?.chosen ?? {});
    expect([chosen.length > 1, new Set(chosen.map(({ kind }) => kind))]).toEqual([true, new Set(['octave-up'])]);
    expect(said.at(-1)).toMatch(/^Beginner: bars \d to \d an octave up$/);
  });

  test('an alternative is printed over the bar or the second time, which is offered where there is none', async () => {
    const { user, recipe } = opened();
    await user.click(button('Bar 3 in the music'));
    await user.click(await screen.findByRole('button', { name: 'Alternative: embellished, variation 2' }));
    expect(words()).toContain('Embellished, variation 2 is the alternative, printed on a small staff over it.');
    await choose(user, 'Beginner: where alternatives are printed', 'the second time through');
    expect(words()).toContain('there is no second time');
    await press(user, 'Play it twice');
    expect([recipe('beginner').bars?.alternatesAs, recipe('beginner').form]).toEqual([
      'second-time',
      { plays: 'twice' },
    ]);
    await user.click(screen.getByRole('button', { name: 'Alternative: embellished, variation 2' }));
    expect(recipe('beginner').bars?.alternates).toBeUndefined();
  });

  test('help in one bar: one line of words at a time, none at all, and back to the part', async () => {
    const { user, recipe } = opened();
    const id = tune.bars[2]?.id ?? '';
    await user.click(button('Bar 3 in the music'));
    await screen.findByRole('region', { name: 'Versions of bar 3' });
    await tick(user, /Help in bar 3/, 'note names', 'degrees of the key');
    const barAids = recipe('beginner').page?.barAids?.[id] ?? [];
    expect([barAids.includes('degrees'), barAids.includes('names')]).toEqual([true, false]);
    await press(user, 'as in the part');
    expect(recipe('beginner').page?.barAids).toBeUndefined();
  });

  test('fingers of the bar are pinned one by one; the usual one unpins', async () => {
    const { user, recipe, said } = opened({ beginner: { instrument: 'violin' } });
    await user.click(button('Bar 3 in the music'));
    const [first] = await screen.findAllByRole('combobox', { name: /^Finger for / });
    if (!first) throw new Error('no fingers');
    const [, second] = within(first).getAllByRole<HTMLOptionElement>('option');
    await user.selectOptions(first, second?.value ?? '');
    expect([Object.values(recipe('beginner').page?.pins ?? {}), said.at(-1)]).toEqual([
      [second?.value],
      'Beginner: fingering set by hand',
    ]);
    const [again] = screen.getAllByRole('combobox', { name: /^Finger for / });
    await user.selectOptions(again ?? first, '');
    expect(recipe('beginner').page?.pins).toBeUndefined();
  });
});

describe('recipes under names', () => {
  const named: SavedRecipe = {
    id: 'recipe-1',
    name: 'First-years',
    level: 'beginner',
    wishes: { rhythm: { shortest: 'half' } },
  };

  test('one is taken; the usual one takes it back; what is set by hand has no name yet', async () => {
    const { user, recipe } = opened({}, [named]);
    await choose(user, 'Beginner: recipe', /First-years/);
    expect(recipe('beginner').rhythm).toEqual({ shortest: 'half' });
    await choose(user, 'Beginner: recipe', /^usual/);
    expect(recipe('beginner')).toEqual({ instrument: 'flute' });
    expect(screen.queryByRole('textbox', { name: 'Name of the recipe' })).toBeNull();
  });

  test('saving: without a name it is asked for; a refusal is told and nothing is listed; a known name is saved over', async () => {
    let taken = false;
    const asked = serverStandIn({
      'PUT /api/recipes/': () => (taken ? { json: {} } : refusal(422, 'The studio holds no more recipes.')),
    });
    const { user } = opened({ beginner: { instrument: 'flute', rhythm: { shortest: 'eighth' } } }, [named]);
    await press(user, 'Save recipe');
    expect([alertText(), asked.length]).toEqual(['Give it a name first, like “first-years, spring”.', 0]);
    await user.type(screen.getByRole('textbox', { name: 'Name of the recipe' }), '  first-YEARS ');
    await press(user, 'Save recipe');
    expect(alertText()).toBe('The studio holds no more recipes. Nothing was changed.');
    taken = true;
    await press(user, 'Save recipe');
    expect(asked.at(-1)).toMatchObject({ path: '/api/recipes/recipe-1', json: { name: 'first-YEARS' } });
    expect(screen.getByRole('combobox', { name: 'Beginner: recipe' }).textContent).toBe('first-YEARS');
    expect(alertText()).toBeUndefined();
  });

  test('one that is removed comes back by Restore, beside what was saved meanwhile', async () => {
    serverStandIn({ 'PUT /api/recipes/': () => ({ json: {} }), 'DELETE /api/recipes/': () => ({ json: {} }) });
    const { user } = opened({ beginner: { instrument: 'flute', rhythm: { shortest: 'half' } } }, [named]);
    await press(user, 'remove it from the saved recipes');
    await user.type(screen.getByRole('textbox', { name: 'Name of the recipe' }), 'Autumn');
    await press(user, 'Save recipe');
    await press(user, 'Restore');
    await user.click(screen.getByRole('combobox', { name: 'Beginner: recipe' }));
    const names = (await screen.findAllByRole('option')).map((option) => words(option));
    expect([names.some((name) => /^Autumn/.test(name)), names.some((name) => /^First-years/.test(name))]).toEqual([
      true,
      true,
    ]);
  });
});

describe('what is handed out', () => {
  test('an easier part under the tune: its pace and notes stand in the file that is asked for', async () => {
    const { user, files } = opened();
    await user.click(tab('Hand out'));
    await choose(user, 'Beginner: notes of the easier part', 'five');
    await choose(user, 'Beginner: pace of the easier part', 'two notes a bar');
    await press(user, 'Print it: the easier part');
    await press(user, 'MusicXML of the easier part');
    expect(files).toEqual(['beginner.under.pdf?notes=5&pace=half', 'beginner.under.musicxml?notes=5&pace=half']);
    expect(screen.queryByRole('region', { name: 'Chords on two strings' })).toBeNull();
  });

  test('two-string chords for a violin, with the grips that they are made of', async () => {
    const { user, files } = opened({ beginner: { instrument: 'violin' } });
    await user.click(tab('Hand out'));
    const section = screen.getByRole('region', { name: 'Chords on two strings' });
    expect(
      within(section)
        .getAllByRole('listitem')
        .map((item) => words(item).split(' ')[0]),
    ).toEqual(['C', 'G7', 'C', 'F']);
    await choose(user, 'Beginner: rhythm of the chords', 'long and two short');
    await press(user, 'Print it: the chords');
    expect([files, words()]).toEqual([
      ['beginner.chords.pdf?rhythm=shuffle'],
      expect.stringContaining('From the open strings,'),
    ]);
  });
});

test('two variations beside each other: each side turns on its own, what is no number is refused, one is used', async () => {
  const { user, recipe } = opened();
  await press(user, 'Advanced');
  await press(user, 'Compare variations');
  const left = screen.getByRole('region', { name: 'Left: variation 0' });
  expect(within(left).getByRole<HTMLButtonElement>('button', { name: 'In use' }).disabled).toBe(true);
  await write(user, 'Right variation', '-1');
  expect(screen.getByRole('region', { name: 'Right: variation 1' })).toBeTruthy();
  await write(user, 'Right variation', '7');
  const right = screen.getByRole('region', { name: 'Right: variation 7' });
  await user.click(within(right).getByRole('button', { name: 'Use this one' }));
  expect([recipe('advanced').embellish, screen.queryByRole('dialog')]).toEqual([{ seed: 7 }, null]);
});
