import { instrument } from '../../tests/given';
import type { Fingering } from '../core/fingering/fingering';
import { fingeringsFor } from '../core/fingering/options';
import { parsePitch } from '../core/pitch/pitch';
import { DIAGRAM_HEIGHT, fingerDiagram } from './fingerDiagram';

const way = (id: string, name: string): Fingering => {
  const parsed = parsePitch(name);
  if (!parsed.ok) throw new Error(name);
  const [first] = fingeringsFor(instrument(id), parsed.value);
  if (!first) throw new Error(`no way to play ${name} on ${id}`);
  return first.fingering;
};
const draw = (id: string, fingering: Fingering) => fingerDiagram(fingering, instrument(id));
const texts = (svg: string) => [...svg.matchAll(/<text [^>]*>([^<]*)<\/text>/g)].map(([, words]) => words);
const count = (svg: string, pattern: RegExp) => (svg.match(pattern) ?? []).length;
const shut = (svg: string) => count(svg, /<circle [^>]*fill="#1d211f"/g);

describe('holes', () => {
  test('a descant recorder shuts six of its holes and the thumb’s for low D, and all seven for C', () => {
    const [d, c] = [
      draw('recorder-descant', way('recorder-descant', 'D4')),
      draw('recorder-descant', way('recorder-descant', 'C4')),
    ];
    expect(shut(c.svg) - shut(d.svg)).toBeGreaterThan(0);
    expect(count(c.svg, /<circle/g)).toBe(8);
    expect(shut(c.svg)).toBe(8);
  });

  test('a hole half shut is half black', () => {
    const half = draw('recorder-descant', { kind: 'holes', keys: ['Th', '1', '2', '3'] });
    expect(count(half.svg, /<path d="M[^"]*a3\.6 3\.6/g)).toBe(1);
  });

  test('keys that are pressed stand there by name', () => {
    const low = draw('flute', { kind: 'holes', keys: ['T', '1', '2', '3', '4', '5', '6', 'Eb'] });
    expect(texts(low.svg).join(' ')).toMatch(/E♭/);
  });
});

describe('valves and slide', () => {
  test('valves that are held down are black and lower than those that are not', () => {
    const { svg } = draw('trumpet-bb', { kind: 'valves', valves: [1, 3], partial: 3 });
    expect(
      [...svg.matchAll(/<circle cx="(\d+)" cy="(\d+)"[^>]*fill="([^"]*)"/g)].map(
        ([, x, y, fill]) => `${x} ${y} ${fill}`,
      ),
    ).toEqual(['12 34 #1d211f', '30 24 none', '48 34 #1d211f']);
  });

  test('the thumb of a double horn is told', () => {
    expect(texts(draw('horn-f', { kind: 'valves', valves: [], partial: 4, thumb: true }).svg)).toContain('T');
    expect(texts(draw('horn-f', { kind: 'valves', valves: [2], partial: 4 }).svg)).not.toContain('T');
  });

  test('the slide goes out position by position', () => {
    const reach = (position: number) =>
      Number(/M4 36H(\d+)v8/.exec(draw('trombone', { kind: 'slide', position, partial: 2 }).svg)?.[1]);
    expect([1, 2, 7].map(reach)).toEqual([10, 21, 76]);
  });
});

describe('strings', () => {
  const bowed = (more: Partial<Extract<Fingering, { kind: 'bowed' }>>): Fingering => ({
    kind: 'bowed',
    string: 2,
    finger: 1,
    position: 1,
    placement: 'usual',
    above: 2,
    ...more,
  });

  test('an open string has a ring over the nut and no finger', () => {
    const open = draw('violin', bowed({ finger: 0, above: 0 }));
    expect([count(open.svg, /r="3\.4"/g), count(open.svg, /r="5\.6"/g), open.words]).toEqual([1, 0, 'open A string']);
  });

  test('a finger lies on its string, the farther down the higher the note; the highest string is at the right', () => {
    const at = (more: Parameters<typeof bowed>[0]) => {
      const [, x, y] = /<circle cx="([\d.]+)" cy="([\d.]+)" r="5\.6"/.exec(draw('violin', bowed(more)).svg) ?? [];
      return { x: Number(x), y: Number(y) };
    };
    expect(at({ string: 1 }).x).toBeGreaterThan(at({ string: 4 }).x);
    expect(at({ finger: 3, above: 5 }).y).toBeGreaterThan(at({ finger: 1, above: 2 }).y);
  });

  test('positions beyond the first are in Roman figures, as string players write them', () => {
    expect(texts(draw('violin', bowed({ position: 3, above: 5 })).svg)).toEqual(['1', 'III']);
    expect(texts(draw('violin', bowed({ position: 1 })).svg)).toEqual(['1']);
    expect(texts(draw('cello', bowed({ position: 0, above: 1 })).svg)).toEqual(['1', '½']);
  });

  test('high up on a bowed string no fret is numbered, on a fretted one it is', () => {
    expect(texts(draw('violin', bowed({ position: 8, finger: 2, above: 14 })).svg)).toEqual(['2', 'VIII']);
    const fretted: Fingering = { kind: 'fretted', string: 3, fret: 7, finger: 2, hand: 6 };
    expect(texts(draw('guitar', fretted).svg)).toEqual(['2', '6']);
  });

  test('as many strings are drawn as there are', () => {
    const strings = (id: string, fingering: Fingering) => count(draw(id, fingering).svg, /<path d="M[\d.]+ 12V68"/g);
    const fretted: Fingering = { kind: 'fretted', string: 1, fret: 2, finger: 2, hand: 1 };
    expect([strings('guitar', fretted), strings('ukulele', fretted), strings('violin', bowed({}))]).toEqual([6, 4, 4]);
  });
});

test('a bar has its name on it, a reed its hole and the way of the breath', () => {
  expect(texts(draw('glockenspiel', { kind: 'bar', name: { step: 'F', alter: 1 } }).svg)).toEqual(['F♯']);
  const [blow, take] = (['blow', 'draw'] as const).map((breath) =>
    draw('glockenspiel', { kind: 'reed', hole: 4, breath }),
  );
  expect(texts(blow?.svg ?? '')).toEqual(['4']);
  expect(blow?.svg).not.toBe(take?.svg);
});

test.each([
  'flute',
  'clarinet-bb',
  'alto-sax',
  'bassoon',
  'trumpet-bb',
  'horn-f',
  'trombone',
  'violin',
  'cello',
  'guitar',
  'ukulele',
])('every first way of %s in its range is drawn inside its frame, and told in words', (id) => {
  const { low, high } = instrument(id).range.intermediate;
  for (const { octave, step, alter } of [low, high]) {
    const fingering = way(id, `${step}${alter > 0 ? '#' : alter < 0 ? 'b' : ''}${octave}`);
    const { svg, width, height, words } = draw(id, fingering);
    const xs = [...svg.matchAll(/ (?:cx|x)="([\d.]+)"/g)].map(([, x]) => Number(x));
    expect(Math.max(...xs)).toBeLessThanOrEqual(width);
    expect([height, words.length > 0, svg.includes(`aria-label="`)]).toEqual([DIAGRAM_HEIGHT, true, true]);
  }
});
