/** @jest-environment jsdom */
import { openStep } from '../../../tests/bench';
import {
  act,
  waitFor,
  alertText,
  button,
  choose,
  field,
  offered,
  press,
  screen,
  within,
  words,
  write,
} from '../../../tests/screen';
import { key, tuneOf } from '../../../tests/given';
import { recipesOf, type Work } from '../../core/work/work';
import { isNote, type Tune } from '../../core/score/tune';
import { useTuneStep } from './useTuneStep';

const tune = tuneOf('CDEF GABc|c2e2 g2c2|B2d2 g2f2|e2c2 G2E2|CDEF GABc|c2e2 g2c2|B2A2 G2F2|C8|');
const open = (of: Tune = tune, recipes: Work['recipes'] = {}, lanes = false) =>
  openStep(useTuneStep, { tune: of, recipes }, { lanes });
const tab = (name: string) => screen.getByRole('tab', { name });
const names = (of: Tune, bar = 0) =>
  of.bars[bar]?.events.map((event) => (isNote(event) ? `${event.pitch.step}${event.pitch.octave}` : 'rest'));

describe('what stands at the head', () => {
  test('title, composer and source are plain text; what is emptied is gone', async () => {
    const { user, work, said } = open();
    await write(user, 'Title', '  Low   Water ');
    await write(user, 'Composer', 'The Net Loft');
    await write(user, 'Where it came from', 'Heard at the quay');
    expect([work().tune.title, work().tune.composer, work().tune.source]).toEqual([
      'Low   Water',
      'The Net Loft',
      'Heard at the quay',
    ]);
    await write(user, 'Composer', '');
    expect([work().tune, said()]).toEqual([
      expect.not.objectContaining({ composer: expect.anything() }),
      ['Title', 'Composer', 'Source note', 'Composer'],
    ]);
  });

  test('rights that are not known say that permission may be needed', async () => {
    const { user, work } = open({ ...tune, rights: 'unknown' });
    expect(words()).toContain('Arranging what others own may need permission where you live.');
    await choose(user, 'Rights', 'Our own');
    expect([work().tune.rights, words().includes('may need permission')]).toEqual(['own', false]);
  });

  test('another key changes the signature and no note; levels with a key of their own take the new mode', async () => {
    const { user, work } = open(tune, { beginner: { instrument: 'flute', keyAndTempo: { key: key('G') } } });
    const before = names(work().tune);
    await choose(user, 'Mode', 'minor');
    expect([work().tune.key, names(work().tune), recipesOf(work()).beginner.keyAndTempo?.key]).toEqual([
      key('Cm'),
      before,
      key('Gm'),
    ]);
    await choose(user, 'Key', /^A minor/);
    expect([work().tune.key, names(work().tune)]).toEqual([key('Am'), before]);
  });

  test('modes that would want more than seven signs are not offered', async () => {
    const { user } = open({ ...tune, key: key('Gb') });
    const modes = await offered(user, 'Mode');
    expect([modes.includes('major'), modes.includes('locrian')]).toEqual([true, false]);
  });

  test('another meter bars the tune anew; what cannot be is said and changes nothing', async () => {
    const { user, work } = open();
    await choose(user, 'Meter', '2/4');
    expect([work().tune.meter.count, work().tune.bars.length]).toEqual([2, 16]);
  });

  test('a meter that would cut a repeat is refused in words', async () => {
    const { user, work } = open(tuneOf('|:c2e2 g2c2|B2d2 g2f2:|e2c2 G2E2|'));
    await choose(user, 'Meter', '3/4');
    expect([alertText() !== undefined, work().tune.meter.count]).toEqual([true, 4]);
  });

  test('a tempo is a whole number from slow to quick; the counted note and swung eighths are words', async () => {
    const { user, work } = open();
    await write(user, 'a minute', '19');
    expect(alertText()).toBe('"19" is no tempo: beats a minute go from 20 to 400.');
    await write(user, 'a minute', '96');
    await choose(user, 'Counted note', 'half');
    await choose(user, 'Eighths', 'swung (2 to 1)');
    expect([work().tune.tempo, work().tune.swing]).toEqual([
      { beat: { type: 'half', dots: 0 }, perMinute: 96 },
      { unit: 'eighth', ratio: 2 },
    ]);
    await choose(user, 'Eighths', 'straight');
    expect(work().tune).not.toHaveProperty('swing');
  });

  test('the tune as a file', async () => {
    const { user, asked } = open();
    for (const name of ['MusicXML', 'compressed', 'ABC', 'MIDI', 'Reed Hook document']) await press(user, name);
    expect(asked).toEqual(['musicxml', 'mxl', 'abc', 'mid', 'reed.json'].map((ending) => [`tune.${ending}`, true]));
  });

  test('a picked bar of the tune is read out', () => {
    const { store } = open(tune, {}, true);
    act(() => store.getState().select({ lane: 'tune', bar: 1 }));
    expect(words(screen.getByRole('region', { name: 'Bar' }))).toMatch(/^Bar 2.*C5.*E5/);
  });
});

describe('what it is made of', () => {
  test('key, sets, range, rhythms and form; phrases open their bars', async () => {
    const { user, asked } = open();
    await user.click(tab('Made of'));
    expect(words(screen.getByRole('region', { name: 'Key' }))).toMatch(/in C major \(\d+ %\); the home note is C\./);
    expect(words(screen.getByRole('region', { name: 'Made of' }))).toContain('From C4 to G5, 19 half steps.');
    const phrases = within(screen.getByRole('region', { name: 'Phrases' })).getAllByRole('listitem');
    expect(phrases.length).toBeGreaterThan(1);
    await user.click(within(phrases[1] ?? document.body).getByRole('button', { name: /^bars? / }));
    expect(asked.length).toBe(1);
  });

  test('a key that the notes speak against is offered as it should be', async () => {
    const { user, work } = open({ ...tuneOf('G2B2 d2g2|^f2a2 d2c2|B2G2 A2^F2|G8|'), key: key('C') });
    await user.click(tab('Made of'));
    await press(user, 'Write it in G major');
    expect([work().tune.key, screen.queryByRole('button', { name: /^Write it in/ })]).toEqual([key('G'), null]);
  });

  test('a phrase begins a note earlier or later by hand, and undo takes it back', async () => {
    const { user, work, said, undo } = open();
    await user.click(tab('Made of'));
    const before = work();
    await press(user, 'Phrase 2 begins a note later');
    expect([said(), work() === before]).toEqual([['Phrase 2 begins later'], false]);
    undo();
    expect(work()).toEqual(before);
  });

  test('the sheets before playing are for a reader, or in concert pitch', async () => {
    const { user, asked } = open();
    await user.click(tab('Made of'));
    await press(user, /^Warm-up/);
    await choose(user, 'Reader', 'Horn in F');
    await press(user, /^Warm-up/);
    expect([asked, screen.getByRole('link', { name: 'By-ear sheet' }).getAttribute('href')]).toEqual([
      ['warm-up.pdf', 'warm-up.pdf?for=horn-f'],
      '/tunes/t1/by-ear?for=horn-f',
    ]);
  });

  test('without notes there is nothing to say', async () => {
    const { user } = open(tuneOf('z8|z8|'));
    await user.click(tab('Made of'));
    expect(words()).toContain('There are no notes yet.');
  });
});

describe('writing', () => {
  async function writing(of: Tune = tune) {
    const opened = open(of);
    await press(opened.user, 'Write');
    await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('application')));
    return opened;
  }
  const tool = (name: string | RegExp) =>
    within(screen.getByRole('toolbar', { name: 'Writing' })).getByRole('button', { name });

  test('lengths and the dot are pressed in; the bar of tools goes with the writing', async () => {
    const { user } = await writing();
    expect(tool('quarter').getAttribute('aria-pressed')).toBe('true');
    await user.click(tool('eighth'));
    await user.click(tool('Dotted'));
    expect(
      ['quarter', 'eighth', 'dotted eighth'].map((name) => screen.queryByRole('button', { name }) !== null),
    ).toEqual([true, true, false]);
    expect([tool('eighth'), tool('Dotted')].map((one) => one.getAttribute('aria-pressed'))).toEqual(['true', 'true']);
    await user.click(tool('End writing'));
    expect(screen.queryByRole('toolbar', { name: 'Writing' })).toBeNull();
  });

  test('a rest, and sharper: each is a step of the history', async () => {
    const { user, work, said, undo } = await writing();
    await user.click(tool('Sharper (Shift ↑)'));
    expect([work().tune.bars[0]?.events[0], said().length]).toMatchObject([{ pitch: { step: 'C', alter: 1 } }, 1]);
    await user.click(tool('Rest (Z)'));
    expect(names(work().tune)?.[0]).toBe('rest');
    undo();
    expect(names(work().tune)?.[0]).toBe('C4');
  });

  test('keys of the keyboard on the screen write what they sound', async () => {
    const { user, work } = await writing();
    await user.click(tool('keys: a keyboard'));
    button('C4').focus();
    await user.keyboard('{ArrowRight}{ArrowRight}');
    expect(document.activeElement).toBe(button('D4'));
    await user.keyboard('{Enter}');
    expect(names(work().tune)?.[0]).toBe('D4');
    await user.keyboard('{ArrowRight>60}');
    expect(document.activeElement).toBe(button('C6'));
  });

  test('without a MIDI keyboard the simulated one is offered, and says so', async () => {
    const { user } = await writing();
    await user.click(tool('keys: a keyboard'));
    await choose(user, 'Keyboard', /^look for MIDI keyboards/);
    expect((await offered(user, 'Keyboard')).some((name) => /^Simulated/.test(name))).toBe(true);
  });

  describe('fields at the caret', () => {
    test('a chord: what cannot be read is said and nothing changes; Enter sets, empty takes away', async () => {
      const { user, work } = await writing();
      act(() => screen.getByRole('application').focus());
      await user.keyboard('h');
      const input = await screen.findByRole('combobox', { name: 'Chord symbol' });
      await user.type(input, 'Hm7{Enter}');
      expect([alertText()?.startsWith('"Hm7" cannot be read'), work().tune.bars[0]?.chords]).toEqual([true, []]);
      await user.clear(input);
      await user.type(input, 'F#m7b5/C{Enter}');
      expect(work().tune.bars[0]?.chords.length).toBe(1);
      act(() => screen.getByRole('application').focus());
      await user.keyboard('h');
      await user.clear(await screen.findByRole('combobox', { name: 'Chord symbol' }));
      await user.keyboard('{Enter}');
      expect(work().tune.bars[0]?.chords).toEqual([]);
    });

    test('words: a hyphen and a space go on to the next note; a verse is chosen', async () => {
      const { user, work } = await writing();
      await user.click(tool('Words (W)'));
      await user.type(await screen.findByRole('textbox', { name: 'Syllable' }), 'Lan-');
      await user.type(await screen.findByRole('textbox', { name: 'Syllable' }), 'tern ');
      await user.type(await screen.findByRole('textbox', { name: 'Syllable' }), 'light{Enter}');
      const lyrics = work()
        .tune.bars[0]?.events.slice(0, 3)
        .map((event) => isNote(event) && event.lyrics?.[0]);
      expect(lyrics).toMatchObject([
        { text: 'Lan', hyphen: true, verse: 1 },
        { text: 'tern', verse: 1 },
        { text: 'light', verse: 1 },
      ]);
    });

    test('a section gets its name and loses it', async () => {
      const { user, work, said } = await writing();
      await user.click(tool('Name a section (N)'));
      await user.type(await screen.findByRole('textbox', { name: 'Section' }), ' A {Enter}');
      expect([work().tune.bars[0]?.section, said().at(-1)]).toEqual(['A', 'Section A']);
      await user.click(tool('Name a section (N)'));
      await user.clear(await screen.findByRole('textbox', { name: 'Section' }));
      await user.keyboard('{Enter}');
      expect([work().tune.bars[0]?.section, said().at(-1)]).toEqual([undefined, 'No section']);
    });

    test('marks: put on and, the same again, taken off', async () => {
      const { user, work } = await writing();
      const first = () => work().tune.bars[0]?.events[0];
      for (const expected of [['staccato'], undefined]) {
        await user.click(tool('Marks (M)'));
        await press(user, 'staccato');
        expect(first()).toEqual(
          expected
            ? expect.objectContaining({ articulations: expected })
            : expect.not.objectContaining({ articulations: [] }),
        );
      }
      await user.click(tool('Marks (M)'));
      await press(user, 'mf');
      expect(first()).toMatchObject({ dynamic: 'mf' });
    });

    test('the bar: repeats, its line and its jumps are pressed in and out', async () => {
      const { user, work } = await writing();
      await user.click(tool(/^bar: repeats/));
      await press(user, 'double');
      await press(user, 'Segno');
      await press(user, 'Fine');
      expect(work().tune.bars[0]).toMatchObject({ barline: 'double', jumps: ['segno', 'fine'] });
      expect(button('Segno').getAttribute('aria-pressed')).toBe('true');
      await press(user, 'Segno');
      await press(user, 'plain');
      expect([work().tune.bars[0]?.jumps, work().tune.bars[0]?.barline]).toEqual([['fine'], undefined]);
      await press(user, 'repeat');
      expect(work().tune.bars[0]?.repeatEnd).toBeDefined();
    });

    test('key, meter and tempo from a bar on; those of the first bar are the tune’s own', async () => {
      const { user, work } = await writing();
      await user.click(tool(/^bar: repeats/));
      expect(await screen.findByText(/^Key, meter and tempo of the first bar are the tune's own/)).toBeTruthy();
      await user.keyboard('{Escape}');
      // A press while it still closes would only close it.
      await waitFor(() =>
        expect(screen.queryByText(/^Key, meter and tempo of the first bar are the tune's own/)).toBeNull(),
      );
      act(() => screen.getByRole('application').focus());
      await user.keyboard('{ArrowRight>9}');
      await user.click(tool(/^bar: repeats/));
      await user.selectOptions(await screen.findByRole('combobox', { name: 'Key from here' }), 'G');
      await write(user, 'Tempo from here', '9');
      expect(alertText()).toBe('From 20 to 400 beats a minute.');
      await write(user, 'Tempo from here', '120');
      expect(work().tune.bars[1]).toMatchObject({ key: key('G'), tempos: [{ at: 0, tempo: { perMinute: 120 } }] });
      await write(user, 'Tempo from here', '');
      await user.selectOptions(screen.getByRole('combobox', { name: 'Key from here' }), '');
      expect([work().tune.bars[1]?.key, work().tune.bars[1]?.tempos ?? []]).toEqual([undefined, []]);
      await user.selectOptions(screen.getByRole('combobox', { name: 'Meter from here' }), '3/4');
      expect(work().tune.bars[1]?.meter).toMatchObject({ count: 3, unit: 4 });
    });
  });

  test('letters write, Ctrl Z is left to the bench, and fields keep their letters', async () => {
    const { user, work, said } = await writing();
    act(() => screen.getByRole('application').focus());
    await user.keyboard('ga');
    expect([names(work().tune)?.slice(0, 2), said().length > 0]).toEqual([['G3', 'A3'], true]);
    await user.click(field('Title'));
    const { length } = said();
    await user.keyboard('gab');
    expect([said().length, field('Title').value.endsWith('gab')]).toEqual([length, true]);
  });
});
