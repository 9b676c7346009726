import fc from 'fast-check';
import { anyTune } from '../../../tests/anyTune';
import { lineDifficulty, totalOf, type Difficulty } from '../analysis/difficulty';
import { readAbc } from '../formats/abc/readAbc';
import { INSTRUMENTS, instrumentById } from '../instruments/catalogue';
import { LEVELS, outsideBy, type Instrument, type Level } from '../instruments/instrument';
import { customInstrument, customInstrumentProblems } from '../instruments/customInstrument';
import { partFor } from '../levels/parts/partFor';
import { nameKey, parseKey, printKey } from '../pitch/key';
import { chroma, parsePitch, printPitch, semitones } from '../pitch/pitch';
import { transpose } from '../pitch/transpose';
import { soundingNotes } from '../score/sounding';
import { isNote, type Tune } from '../score/tune';
import { parseNotes } from '../pitch/noteList';
import { keyPlayers, type Group } from './group';
import { withLimits } from '../instruments/limits';
import { rankKeys, twelveKeys } from './rankKeys';
import { keyReasons } from './reasons';
import { accompanistText, apartBecause, playTogether, recordingText, writtenKeyOf } from './together';

const tuneOf = (body: string, head = 'M:4/4\nL:1/4\nQ:1/4=100\nK:C'): Tune => {
  const read = readAbc(`X:1\nT:T\n${head}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.tune;
};
const instrument = (id: string): Instrument => {
  const found = instrumentById(id);
  if (!found) throw new Error(id);
  return found;
};
const key = (text: string) => {
  const read = parseKey(text);
  if (!read.ok) throw new Error(text);
  return read.value;
};
const pitch = (text: string) => {
  const read = parsePitch(text);
  if (!read.ok) throw new Error(text);
  return read.value;
};

test('the twelve keys stand in fifths, each with six accidentals at most, in the mode of the tune', () => {
  expect(twelveKeys(key('C')).map(printKey)).toEqual(['Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#']);
  expect(twelveKeys(key('Em')).map((one) => one.mode)).toEqual(Array(12).fill('minor'));
  expect(new Set(twelveKeys(key('D dorian')).map(({ tonic }) => chroma(tonic))).size).toBe(12);
});

describe('ranking', () => {
  const tune = tuneOf('G A B c|d c B A|G2 B2|G4|', 'M:4/4\nL:1/4\nQ:1/4=100\nK:G');

  test('what a key means for a player: written key, octave, range, break, in words', () => {
    const ranked = rankKeys(
      tune,
      [
        { instrument: instrument('clarinet-bb'), level: 'beginner' },
        { instrument: instrument('alto-sax'), level: 'advanced' },
      ],
      { recording: key('Gb') },
    );
    const inG = ranked.find(({ key: one }) => printKey(one) === 'G');
    const [clarinet, sax] = inG?.players ?? [];
    expect([
      inG?.isOriginal,
      clarinet && nameKey(clarinet.writtenKey),
      clarinet?.signature,
      clarinet?.octave,
      clarinet?.lowest && printPitch(clarinet.lowest),
      clarinet?.highest && printPitch(clarinet.highest),
      clarinet?.fits,
      clarinet?.crossings,
    ]).toEqual([true, 'A major', 3, -1, 'A3', 'E4', true, 0]);
    expect(sax && nameKey(sax.writtenKey)).toBe('E major');
    expect(clarinet && keyReasons(clarinet)).toEqual(
      expect.arrayContaining(['A major, 3 sharps', 'top note E4, comfortable', 'an octave below the tune']),
    );
    expect(ranked.filter(({ matchesRecording }) => matchesRecording).map(({ key: one }) => chroma(one.tonic))).toEqual([
      6,
    ]);
    expect(ranked.map(({ cost }) => cost)).toEqual(ranked.map(({ cost }) => cost).toSorted((a, b) => a - b));
  });

  test('a beginner weighs most, and a key that somebody cannot play comes last with the notes named', () => {
    // Whoever is the beginner of the two has the key that suits their instrument.
    const bestFor = (levels: readonly [Level, Level]) => {
      const [first] = rankKeys(tune, [
        { instrument: instrument('clarinet-bb'), level: levels[0] },
        { instrument: instrument('violin'), level: levels[1] },
      ]);
      return first?.players.map(({ signature }) => signature) ?? [];
    };
    expect([bestFor(['beginner', 'advanced']), bestFor(['advanced', 'beginner'])]).toEqual([
      [1, -1],
      [3, 1],
    ]);
    const harmonica = rankKeys(tuneOf('C E G c|c G E C|'), [
      { instrument: instrument('harmonica'), level: 'intermediate' },
    ]);
    const last = harmonica.at(-1);
    expect([printKey(harmonica[0]?.key ?? key('F#')), last?.players[0]?.canPlay]).toEqual(['C', false]);
    expect(last?.players[0] && keyReasons(last.players[0])[0]).toMatch(
      /^cannot be played: the harmonica does not have /,
    );
  });

  test('limits and known notes of a player count', () => {
    const limited = withLimits(instrument('flute'), 'beginner', { high: pitch('C5') });
    const [free, low] = [instrument('flute'), limited].map(
      (one) =>
        rankKeys(tune, [{ instrument: one, level: 'beginner' }]).find(({ key: one2 }) => printKey(one2) === 'G')
          ?.players[0],
    );
    expect([free?.fits, low?.fits, low?.above]).toEqual([true, false, 1]);
    const group: Group = {
      name: 'g',
      players: [
        {
          id: 'p',
          name: 'Wick',
          instrument: 'recorder-descant',
          level: 'beginner',
          known: ['G4', 'A4', 'B4'].map(pitch),
        },
      ],
    };
    const wick = rankKeys(tune, keyPlayers(group)).find(({ key: one }) => printKey(one) === 'G')?.players[0];
    expect([wick?.unknown, wick && keyReasons(wick).some((text) => text.includes('not known yet'))]).toEqual([3, true]);
    for (const one of INSTRUMENTS) {
      for (const level of LEVELS) {
        const { range } = withLimits(one, level, { low: one.range.beginner.low, high: one.range.full.high });
        const order = [range.full, range.advanced, range.intermediate, range.beginner];
        order
          .slice(1)
          .forEach((inner, index) =>
            expect([
              one.id,
              level,
              outsideBy(inner.low, order[index] ?? inner),
              outsideBy(inner.high, order[index] ?? inner),
            ]).toEqual([one.id, level, 0, 0]),
          );
      }
    }
  });

  test('for any tune, player and key it agrees with the part as it is written', () => {
    fc.assert(
      fc.property(
        anyTune,
        fc.constantFrom(...INSTRUMENTS),
        fc.constantFrom(...LEVELS),
        fc.integer({ min: 0, max: 11 }),
        (any, one, level, index) => {
          fc.pre(any.bars.every((bar) => bar.key === undefined) && soundingNotes(any).length > 0);
          const ranked = rankKeys(any, [{ instrument: one, level }])[index];
          const judged = ranked?.players[0];
          if (!ranked || !judged) throw new Error('no key');
          const { value } = partFor(any, { level, instrument: one, keyAndTempo: { key: ranked.key }, shape: 'none' });
          expect(printKey(judged.writtenKey)).toBe(printKey(value.writtenKey));
          expect(judged.writtenKey.tonic).toEqual(writtenKeyOf(one, ranked.key).tonic);
          const heights = value.bars.flatMap((bar) =>
            bar.events.flatMap((event) => (isNote(event) ? [semitones(event.pitch)] : [])),
          );
          if (judged.fits) {
            expect([
              judged.lowest && semitones(judged.lowest),
              judged.highest && semitones(judged.highest),
              value.outside,
            ]).toEqual([Math.min(...heights), Math.max(...heights), []]);
            // A beginner's double accidentals are written otherwise, which no ranking can know beforehand.
            const other = ({ causes }: Pick<Difficulty, 'causes'>) => totalOf({ ...causes, accidentals: 0 });
            expect(other({ causes: judged.causes })).toBeCloseTo(other(lineDifficulty(value.difficulty)), 6);
          }
        },
      ),
    );
  });
});

test('levels that share key and tempo play together; the rest is told apart, and how far from the recording', () => {
  const { tempo } = tuneOf('C4|');
  expect(
    playTogether([
      { level: 'beginner', key: key('G'), tempo },
      { level: 'intermediate', key: key('G'), tempo, form: 'twice' },
      { level: 'advanced', key: key('G'), tempo, form: 'second' },
    ]).map((set) => set.map(({ level }) => level)),
  ).toEqual([['beginner', 'advanced'], ['intermediate']]);
  expect(
    apartBecause(
      { level: 'beginner', key: key('G'), tempo },
      { level: 'intermediate', key: key('G'), tempo, form: 'twice' },
    ),
  ).toBe('once through against twice');
  const sets = playTogether([
    { level: 'beginner', key: key('G'), tempo },
    { level: 'intermediate', key: key('Eb'), tempo },
    { level: 'advanced', key: key('G'), tempo },
  ]);
  expect(sets.map((set) => set.map(({ level }) => level))).toEqual([['beginner', 'advanced'], ['intermediate']]);
  expect([
    recordingText(key('G'), key('F')),
    recordingText(key('F#'), key('Gb')),
    recordingText(key('A'), key('C')),
  ]).toEqual([
    'a whole step above the recording: play-along will not fit',
    'as the recording: play-along fits',
    'a minor third below the recording: play-along will not fit',
  ]);
  expect(accompanistText({ key: key('Eb'), tempo }, instrument('alto-sax'))).toBe(
    'Please play in E♭ major (concert pitch), quarter = 100. I read it in C major: my C is your E♭.',
  );
  expect(accompanistText({ key: key('Eb'), tempo }, instrument('glockenspiel'))).toBe(
    'Please play in E♭ major (concert pitch), quarter = 100.',
  );
});

test('remedies for notes out of reach: the phrase an octave away, a chord tone, a rest, and back', () => {
  const tune = tuneOf('"C"C D E F|"C"G A B c|"C"C E G e\'|"C"c4|');
  const out = partFor(tune, { level: 'intermediate', instrument: instrument('flute') }).value;
  const [event] = out.outside;
  expect(out.outside.map(({ pitch: one }) => printPitch(one))).toEqual(['E6']);
  const mended = (remedy: 'phrase-down' | 'chord-tone' | 'leave-out') =>
    partFor(tune, {
      level: 'intermediate',
      instrument: instrument('flute'),
      embellish: { density: 0 },
      limits: { remedies: { [event?.event ?? '']: remedy } },
    });
  const fourth = (remedy: 'phrase-down' | 'chord-tone' | 'leave-out') => {
    const found = mended(remedy).value.bars[2]?.events[3];
    return found && isNote(found) ? printPitch(found.pitch) : 'rest';
  };
  expect([fourth('chord-tone'), fourth('leave-out')]).toEqual(['C6', 'rest']);
  expect(mended('leave-out').changes.some(({ detail }) => detail.kind === 'left-out')).toBe(true);
  expect([mended('chord-tone').value.outside, mended('leave-out').value.outside]).toEqual([[], []]);
  expect(fourth('phrase-down')).toBe('E5');
});

test('a custom instrument keeps what differs and is refused with reasons', () => {
  const own = {
    id: 'own-1',
    name: 'Guitar, all in fourths',
    base: 'guitar',
    strings: ['E3', 'A3', 'D4', 'G4', 'C5', 'F5'].map(pitch),
  };
  const made = customInstrument(own);
  expect([
    made?.name,
    made?.mechanism.kind === 'fretted' && made.mechanism.strings.map(printPitch),
    made?.transposition,
  ]).toEqual([own.name, ['E3', 'A3', 'D4', 'G4', 'C5', 'F5'], { diatonic: 7, chromatic: 12 }]);
  expect(customInstrumentProblems({ ...own, base: 'flute' })).toEqual(['the flute has no strings']);
  const range = instrument('guitar').range;
  expect(
    customInstrumentProblems({ ...own, range: { ...range, beginner: { low: pitch('C3'), high: pitch('C5') } } }),
  ).toEqual(['the beginner range must lie within the intermediate one']);
  expect(parseNotes('A4, g4;Bb4')).toEqual({ ok: true, value: [pitch('G4'), pitch('A4'), pitch('Bb4')] });
  expect(transpose(pitch('E3'), { diatonic: 0, chromatic: 0 })).toEqual(pitch('E3'));
});

test('a key that first pupils start in counts for a beginner, and for nobody above', () => {
  const flute = instrument('flute');
  // As near under the hands, but no key that is begun in.
  const homeless = { ...flute, homeKeys: ['Dm', 'Em', 'Gm'] };
  const tune = tuneOf('G2A2 B2c2|d2B2 G4|', 'M:4/4\nL:1/8\nK:G');
  const costs = (one: typeof flute, level: Level) =>
    new Map(
      rankKeys(tune, [{ level, instrument: one, name: '' }]).map(({ key: ranked, cost }) => [printKey(ranked), cost]),
    );
  for (const level of LEVELS) {
    const [withHome, without] = [costs(flute, level), costs(homeless, level)];
    const gains = [...withHome].map(([name, cost]) => [
      name,
      Math.round(((without.get(name) ?? 0) - cost) * 100) / 100,
    ]);
    const gained = gains.filter(([, gain]) => gain !== 0).map(([name]) => name);
    expect([level, gained]).toEqual([
      level,
      level === 'beginner' ? gained.filter((name) => flute.homeKeys.includes(String(name))) : [],
    ]);
    expect(gained.length > 0).toBe(level === 'beginner');
  }
});
