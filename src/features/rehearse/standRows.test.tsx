/** @jest-environment jsdom */
import { button, choose, press, screen, shown, words } from '../../../tests/screen';
import { tuneOf } from '../../../tests/given';
import { drillTune } from '../../core/drills/sketch';
import { standPart, type OnStand } from '../../core/levels/standPart';
import type { Tune } from '../../core/score/tune';
import type { EngravedRow } from '../../engrave/engraver';
import { STAND_SIZES, StandHeader, type StandLook } from './StandHeader';
import { StandRow, type Hidden } from './StandRow';

const tune: Tune = { ...tuneOf('c2e2 g2c2|B2d2 g2f2|c8|'), title: 'Low Water' };
const LOOK: StandLook = { hidden: 'nothing', aids: 'page', view: 'written', size: 1, isPanelOpen: true };

function header(what: OnStand = 'part', of = tune, look: Partial<StandLook> = {}) {
  const changes: Partial<StandLook>[] = [];
  const { user } = shown(
    <StandHeader
      id="t1"
      tune={of}
      part={standPart({ tune: of, recipes: {} }, 'intermediate', what)}
      level="intermediate"
      what={what}
      look={{ ...LOOK, ...look }}
      onLook={(change) => changes.push(change)}
    />,
  );
  return { user, changes };
}

describe('the head of the stand', () => {
  test.each<readonly [OnStand, string, string]>([
    ['part', '/tunes/t1/levels', '/tunes/t1/stand?level=advanced'],
    ['solo', '/tunes/t1/solo', '/tunes/t1/stand?level=advanced&what=solo'],
    ['pool', '/tunes/t1/improvise', '/tunes/t1/stand?level=advanced&what=pool'],
  ])('a %s goes back to where it came from, and to the same of another level', (what, back, other) => {
    header(what, { ...tune, bars: tuneOf('"C" c2e2 g2c2|"G7" B2d2 g2f2|"C" c8|"C" c8|').bars });
    const href = (name: RegExp) => screen.getByRole('link', { name }).getAttribute('href');
    expect([href(/Bench/), href(/Advanced/)]).toEqual([back, other]);
    expect(screen.getByRole('link', { name: /Intermediate/ }).getAttribute('aria-current')).toBe('page');
  });

  test('a drill goes back to its sentence', () => {
    header('part', drillTune({ steps: [{ set: 'major', pattern: 'thirds' }] }));
    expect(screen.getByRole('link', { name: /Bench/ }).getAttribute('href')).toBe('/tunes/t1/drills');
  });

  test('what is shown, which aids, whose pitch: each changes one thing', async () => {
    const { user, changes } = header();
    await choose(user, 'What is shown', 'every second bar');
    await choose(user, 'Aids', 'aids that fade');
    await choose(user, 'Whose pitch', 'as it sounds');
    await press(user, 'Practice panel');
    expect(changes).toEqual([
      { hidden: 'every-second' },
      { aids: 'fading' },
      { view: 'sounding' },
      { isPanelOpen: false },
    ]);
  });

  test('aids are the part’s own: a solo and a pool have none', () => {
    header('pool');
    expect(screen.queryByRole('combobox', { name: 'Aids' })).toBeNull();
  });

  test.each([
    [0, [true, false]],
    [2, [false, false]],
    [STAND_SIZES.length - 1, [false, true]],
  ] as const)('at size %i the smallest and the largest are the ends', async (size, ends) => {
    const { user, changes } = header('part', tune, { size });
    const isOff = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name }).disabled;
    expect([isOff('Smaller notes'), isOff('Larger notes')]).toEqual(ends);
    if (!ends[1]) await press(user, 'Larger notes');
    expect(changes).toEqual(ends[1] ? [] : [{ size: size + 1 }]);
  });
});

describe('a row on the stand', () => {
  const measures = [4, 5, 6, 7].map((k) => `<g class="measure" id="m${k}"></g>`).join('');
  const row = {
    from: 4,
    to: 8,
    svg: `<svg>${measures}</svg>`,
    geometry: {
      width: 800,
      height: 120,
      staves: [{ top: 40, bottom: 70 }],
      bars: [0, 1, 2, 3].map((k) => ({ x: 200 * k, width: 200 })),
    },
  } as unknown as EngravedRow;
  function rowWith(props: Partial<Parameters<typeof StandRow>[0]>) {
    const taken: number[] = [];
    const base = {
      row,
      numbers: [0, 1, 2, 3, 4, 5, 6, 7],
      hidden: 'nothing' as Hidden,
      shown: undefined,
      words: undefined,
      bar: undefined,
      range: undefined,
      onBar: (bar: number) => taken.push(bar),
    };
    const result = shown(<StandRow {...base} {...props} />);
    const covered = () =>
      [...result.container.querySelectorAll('.measure')].map((one) => one.classList.contains('covered'));
    return {
      ...result,
      taken,
      covered,
      again: (more: Partial<typeof base>) => result.rerender(<StandRow {...base} {...props} {...more} />),
    };
  }

  test.each<readonly [Hidden, Parameters<typeof StandRow>[0]['shown'], readonly boolean[]]>([
    ['nothing', undefined, [false, false, false, false]],
    ['notes', undefined, [true, true, true, true]],
    ['notes', 'all', [true, true, true, true]],
    ['every-second', undefined, [false, true, false, true]],
    ['ear', undefined, [true, true, true, true]],
    ['ear', { from: 5, to: 7 }, [true, false, false, true]],
    ['ear', 'all', [false, false, false, false]],
  ])('with %s hidden and %p shown, bars 5 to 8 are covered: %p', (hidden, seen, expected) => {
    expect(rowWith({ hidden, shown: seen }).covered()).toEqual(expected);
  });

  test('what is covered changes without the picture being drawn again', () => {
    const { covered, again, container } = rowWith({ hidden: 'notes' });
    const picture = container.querySelector('svg');
    again({ hidden: 'nothing' });
    expect([covered(), container.querySelector('svg') === picture]).toEqual([[false, false, false, false], true]);
  });

  test('a tap on a bar practises its chunk; bars are named as they are printed', async () => {
    const { user, taken } = rowWith({});
    await user.click(button('Practise the chunk of bar 5'));
    expect(taken).toEqual([5]);
  });

  test('words stand under their bars; the bar that sounds and the chunk are lit', () => {
    const { container } = rowWith({
      words: new Map([
        [6, 'Am7'],
        [9, 'elsewhere'],
      ]),
      bar: 5,
      range: { from: 6, to: 8 },
    });
    const marks = [...container.querySelectorAll('span[aria-hidden="true"]')].map(
      ({ className }) => /bg-[\w-]+/.exec(className)?.[0],
    );
    expect([words(), marks]).toEqual(['Am7', [undefined, 'bg-cane', 'bg-cane-pale', 'bg-cane-pale']]);
  });
});
