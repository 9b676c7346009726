import { readAbc } from '../formats/abc/readAbc';
import { unfold } from './unfold';

/** The letters of the bars as played, one note a bar. */
const played = (body: string) => {
  const read = readAbc(`X:1\nT:T\nM:4/4\nL:1/1\nK:C\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  const { bars } = read.value.tune;
  const { order, problems } = unfold(bars);
  return [
    order
      .map((index) => {
        const event = bars[index]?.events[0];
        return event?.kind === 'note' ? event.pitch.step : 'z';
      })
      .join(''),
    problems.map(({ code }) => code).join(),
  ];
};

test.each<readonly [string, string, string]>([
  ['plain', 'C | D | E |]', 'CDE'],
  ['a repeat without a beginning goes back to the start', 'C | D :| E |]', 'CDCDE'],
  ['two repeats', '|: C | D :|: E | F :|', 'CDCDEFEF'],
  ['three times', '|: C | D ::| E |]', 'CDCDCDE'],
  ['first and second ending', '|: C |1 D :|2 E | F |]', 'CDCEF'],
  ['endings of two bars, then a further repeat', '|: C |1 D | E :|2 F | G |: A :|', 'CDECFGAA'],
  ['an ending for two times', '|: C |1,2 D :|3 E |]', 'CDCDCE'],
  ['da capo al fine', 'C !fine!| D | E !D.C.alfine!|]', 'CDEC'],
  ['a bare da capo ends at the fine', 'C | D !fine!| E !D.C.!|]', 'CDECD'],
  ['a bare da capo without one is played to the end', 'C | D !D.C.!|]', 'CDCD'],
  ['dal segno al coda', 'C | !segno!D | E !dacoda!| F !D.S.alcoda!| !coda!G |]', 'CDEFDEG'],
  [
    'after a jump repeats are not played again, and the last ending is taken',
    '|: C |1 D :|2 E | F !D.C.!|]',
    'CDCEFCEF',
  ],
])('%s', (_, body, expected) => expect(played(body)).toEqual([expected, '']));

test('signs that lead nowhere are told and passed over', () => {
  expect(played('C | D !D.S.!|]')).toEqual(['CDCD', 'no-segno']);
  expect(played('C | D !D.C.alfine!|]')).toEqual(['CDCD', 'no-fine']);
  expect(played('C !dacoda!| D !D.C.alcoda!|]')).toEqual(['CDCD', 'no-coda,no-coda']);
});
