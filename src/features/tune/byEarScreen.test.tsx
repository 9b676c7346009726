/** @jest-environment jsdom */
import { button, choose, press, screen, shown, within, words } from '../../../tests/screen';
import { pitch } from '../../../tests/given';
import type { ByEarSheet } from '../../engrave/byEarSheet';
import { ByEarScreen } from './ByEarScreen';

const push = jest.fn();
const router = { push };
jest.mock('next/navigation', () => ({ useRouter: () => router }));
beforeEach(() => push.mockClear());

const phrase = (label: string, kin = '') => ({
  label,
  bars: 'bars 1 to 4',
  words: { kin, contour: 'rises', startsOn: 'first', shape: 'mostly by step', endsOn: 'fifth' },
  pitches: ['C4', 'E4', 'G4'].map(pitch),
  picture: `<svg data-phrase="${label}"></svg>`,
});
const SHEET = {
  title: 'Low Water',
  composer: '',
  reader: 'Horn in F',
  readerId: 'horn-f',
  meter: '4/4',
  home: 'G',
  keyName: 'G major',
  concertKey: 'C major',
  start: 'D',
  startDegree: 'fifth',
  form: 'A B',
  playedForm: 'A A B',
  phrases: [phrase('A'), phrase('B', 'like phrase 1, but for its end')],
} as unknown as ByEarSheet;
const pictures = () => document.querySelectorAll('svg[data-phrase]').length;

test('what is known before a note is seen: home note, first note, how the phrases go', () => {
  shown(<ByEarScreen id="t1" sheet={SHEET} />);
  expect(words()).toContain('Home noteG (for you: G major · sounding: C major)');
  expect(words()).toContain('2, in the order A B, heard as A A B');
  expect(words()).toContain('By ear · Horn in F · 4/4');
  expect(words()).toContain('Like phrase 1, but for its end.');
  expect(pictures()).toBe(0);
});

test('one who reads as it sounds is told one key, and a form that is played as it stands one form', () => {
  shown(<ByEarScreen id="t1" sheet={{ ...SHEET, readerId: '', reader: '', playedForm: 'A B' } as ByEarSheet} />);
  expect([words().includes('sounding:'), words().includes('heard as')]).toEqual([false, false]);
});

test('notes are shown phrase by phrase when they are asked for, or all at once, and hidden again', async () => {
  const { user } = shown(<ByEarScreen id="t1" sheet={SHEET} />);
  const items = () => within(screen.getByRole('main')).getAllByRole('listitem');
  const toggle = (index: number) => within(items()[index] ?? document.body).getByRole('button');
  await user.click(toggle(1));
  expect([pictures(), toggle(1).getAttribute('aria-expanded'), toggle(0).getAttribute('aria-expanded')]).toEqual([
    1,
    'true',
    'false',
  ]);
  await press(user, 'Show all notes');
  expect([pictures(), button('Hide all notes')]).toEqual([2, expect.anything()]);
  await press(user, 'Hide all notes');
  await user.click(toggle(0));
  await user.click(toggle(0));
  expect(pictures()).toBe(0);
});

test('another reader is an address of its own', async () => {
  const { user } = shown(<ByEarScreen id="t1" sheet={SHEET} />);
  await choose(user, 'Reader', 'Flute');
  await choose(user, 'Reader', 'concert pitch');
  expect(push.mock.calls).toEqual([['/tunes/t1/by-ear?for=flute'], ['/tunes/t1/by-ear']]);
});
