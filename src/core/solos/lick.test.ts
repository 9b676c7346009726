import { printPitch } from '../pitch/pitch';
import { formOf } from '../pools/form';
import { DEMO_LICKS } from '../../demo/licks';
import { tuneOf } from '../../../tests/given';
import { HAND_SOLOS } from '../../../tests/handSolos';
import { lickAt, lickFacts, lickPlaces, liftLick } from './lick';
import { licksFound, spreadLicks } from './licksFound';
import { formBarsOf } from './soloTune';

const solo = tuneOf(
  '"Cmaj7"G4 E4|"Dm7"FAce d2 cA|"G7"B^ABG F2 D2|"Cmaj7"E4 z4|"Gm7"z8|"C7"z8|"Fmaj7"z8|"Fmaj7"z8|"Dm7"z4 "G7"z4|"C"z8|',
  'M:4/4\nL:1/8\nK:C',
);

test('bars are lifted with the chord that sounds there, and fit wherever their chords come, in any key', () => {
  const lick = liftLick(solo, 1, 4, 'Home');
  expect(lickFacts(lick)).toEqual({ numerals: 'ii7 V7 Imaj7', fits: 'over ii–V–I in major', bars: 3 });
  const places = lickPlaces(lick, formOf(solo), formBarsOf(solo));
  // Eighths can be halved: the same ii–V comes in half the time at the end, but its home lasts only there.
  expect(places.map(({ from, to, stretch }) => [from, to, stretch])).toEqual([
    [1, 4, 1],
    [4, 7, 1],
    [8, 10, 0.5],
  ]);
  const inF = lickAt(lick, places[1] ?? { from: 0, to: 0, interval: { diatonic: 0, chromatic: 0 }, stretch: 1 });
  expect(inF.slice(0, 4).map(({ pitch }) => printPitch(pitch))).toEqual(['Bb4', 'D5', 'F5', 'A5']);
  expect(inF.map(({ device }) => device ?? '').filter(Boolean)).toEqual(['neighbour']);
});

test('a chord that began before the bars is taken with them, and too many bars are refused', () => {
  const held = tuneOf('"F7"F2A2c2e2|f2e2c2A2|"Bb7"B8|', 'M:4/4\nL:1/8\nK:F');
  expect(lickFacts(liftLick(held, 1, 2, ''))?.fits).toBe('over a dominant seventh');
  expect(() => liftLick(solo, 0, 5, '')).toThrow(RangeError);
  expect(() => liftLick(solo, 9, 12, '')).toThrow(RangeError);
});

test('every lick of the demo studio says what it fits', () => {
  const fits = DEMO_LICKS.map(({ abc }) => {
    const [, head = '', body = ''] = /^(?:.*\n){3}((?:.*\n){3}.*)\n(.*)\n$/.exec(abc) ?? [];
    return lickFacts(tuneOf(body, head))?.fits;
  });
  expect(fits).toHaveLength(12);
  expect(new Set(fits)).toEqual(
    new Set([
      'over ii–V–I in major',
      'over ii–V–I in minor',
      'over a dominant seventh',
      'over a minor chord',
      'over a major chord',
      'over a turnaround, I–vi–ii–V',
      'over V–I',
      'over ii–V',
    ]),
  );
});

test('the lines of a solo that are worth keeping are found: whole, home at their end, each once', () => {
  const found = licksFound(solo);
  expect(found).toEqual([{ from: 2, to: 4, fits: 'over ii–V–I in major', met: 2, devices: ['neighbour'] }]);
  for (const { body, head } of HAND_SOLOS) {
    const tune = tuneOf(body, head);
    const spans = licksFound(tune);
    spans.forEach(({ from, to }, k) => {
      expect(to - from).toBeLessThan(4);
      expect(from).toBeGreaterThan(spans[k - 1]?.to ?? 0);
      expect(lickFacts(liftLick(tune, from - 1, to, ''))).toBeDefined();
    });
  }
});

test('licks are spread over a chorus: each once, none over another, the first idea and the end left alone', () => {
  const [form, bars] = [formOf(solo), formBarsOf(solo)];
  const lick = liftLick(solo, 1, 4, 'Home');
  const placed = { lick: 'Home', places: lickPlaces(lick, form, bars) };
  const one = spreadLicks([placed, { ...placed, lick: 'Other' }], bars.length, 3);
  expect(one.map(({ lick: name, place }) => [name, place.from, place.to])).toEqual([['Home', 4, 7]]);
  expect(spreadLicks([placed, { ...placed, lick: 'Other' }], bars.length, 3, 1).map(({ lick: name }) => name)).toEqual([
    'Other',
  ]);
  expect(spreadLicks([placed], bars.length, 3, 0, [{ from: 6, to: 8 }])).toEqual([]);
});
