import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readTune } from '../../src/core/formats/readTune';
import { DEMO_TUNES } from '../../src/demo/studio';
import { reed, reedByNpm } from '../reed';

const folder = mkdtempSync(join(tmpdir(), 'reed-test-'));
const tune = join(folder, 'tune.abc');
writeFileSync(tune, DEMO_TUNES[0]?.abc ?? '');
afterAll(() => rmSync(folder, { recursive: true, force: true }));

test('instruments: all, or one, with written ranges', () => {
  const all = JSON.parse(reedByNpm('instruments').out) as { id: string }[];
  expect([
    all.length,
    all.map(({ id }) => id).includes('recorder-treble'),
    new Set(all.map(({ id }) => id)).size,
  ]).toEqual([56, true, 56]);
  expect(JSON.parse(reed('instruments', 'horn-f').out)).toMatchObject({
    clef: 'treble',
    transposition: { diatonic: 4, chromatic: 7 },
    range: { beginner: ['B3', 'D5'] },
  });
});

test('parts in the best key: one concert key for all, in which beginners read three sharps or flats at most', () => {
  const out = join(folder, 'best');
  const made = JSON.parse(
    reed('parts', tune, '--for', 'violin,alto-sax', '--level', 'beginner', '--key', 'best', '--out', out).out,
  ) as { concertKey: string; writtenKey: string }[];
  const { ranking } = JSON.parse(reed('keys', tune, '--players', 'violin:beginner,alto-sax:beginner').out) as {
    ranking: { key: string; players: { accidentals: number }[] }[];
  };
  const best = ranking.find(({ players }) => players.every(({ accidentals }) => accidentals <= 3));
  expect(made.map(({ concertKey }) => concertKey)).toEqual([best?.key, best?.key]);
});

test('parts: a file for each player and level, and what was done to it', () => {
  const out = join(folder, 'parts');
  const made = JSON.parse(
    reed('parts', tune, '--for', 'clarinet-bb,viola', '--level', 'all', '--key', 'F', '--out', out).out,
  ) as {
    file: string;
    level: string;
    concertKey: string;
    writtenKey: string;
    bars: number;
    changes: { bar: number }[];
    difficulty: { total: number };
  }[];
  expect(
    made.map(({ file, concertKey, writtenKey, bars }) => [file.slice(out.length + 1), concertKey, writtenKey, bars]),
  ).toEqual(
    ['clarinet-bb', 'viola'].flatMap((id) =>
      ['beginner', 'intermediate', 'advanced'].map((level) => [
        `lamps-on-the-mole.${id}.${level}.musicxml`,
        'F',
        id === 'viola' ? 'F' : 'G',
        17,
      ]),
    ),
  );
  expect(made[0]?.changes[0]).toEqual({
    bar: 0,
    what: 'D G became D',
    why: 'nothing shorter than a quarter here; the notes that carry the tune stay',
  });
  const totals = made.map(({ difficulty }) => difficulty.total);
  for (const [easy, hard] of [
    [0, 1],
    [1, 2],
    [3, 4],
    [4, 5],
  ] as const)
    expect(totals[hard]).toBeGreaterThan(totals[easy] ?? 10);
  const read = readTune(readFileSync(made[1]?.file ?? ''));
  expect(read.ok && [read.value.tune.key.tonic.step, read.value.tune.title]).toEqual(['F', 'Lamps on the Mole']);
});

test('keys: twelve, best first, with reasons; finger: each note, pins kept', () => {
  const { ranking } = JSON.parse(
    reed('keys', tune, '--players', 'clarinet-bb:beginner,viola:advanced', '--recording', 'D#').out,
  ) as {
    ranking: {
      key: string;
      cost: number;
      matchesRecording: boolean;
      players: { writtenKey: string; accidentals: number; octave: number; reasons: string[] }[];
    }[];
  };
  expect([ranking.length, ranking.filter(({ matchesRecording }) => matchesRecording).map(({ key }) => key)]).toEqual([
    12,
    ['Eb'],
  ]);
  const own = ranking.find(({ key }) => key === 'Eb');
  expect(own?.players.map(({ writtenKey, accidentals }) => [writtenKey, accidentals])).toEqual([
    ['F', 1],
    ['Eb', 3],
  ]);
  expect(own?.players[0]?.reasons.length).toBeGreaterThan(1);
  const fingered = JSON.parse(reed('finger', tune, '--for', 'viola', '--school', 'fourth', '--pin', '1:1:2').out) as {
    notes: { bar: number; beat: number; mark: string; pinned: boolean }[];
    shifts: number;
  };
  expect(fingered.notes.filter(({ pinned }) => pinned)).toMatchObject([
    { bar: 1, beat: 1, mark: expect.stringMatching(/2$/) },
  ]);
  const faults = [
    ['finger', tune, '--for', 'viola', '--pin', '1:1.1:2'],
    ['finger', tune, '--for', 'voice-alto'],
    ['keys', tune, '--players', 'viola'],
    ['keys', tune, '--players', 'viola:expert'],
    ['parts', tune, '--for', 'viola', '--level', 'all', '--aids', 'colours'],
  ].map((words) => reed(...words));
  expect(faults.map(({ status, errors }) => [status, errors.length])).toEqual(Array(5).fill([2, 1]));
});

test('parts: aids stand in the file, one line of words alone; levels rise in difficulty at one tempo', () => {
  const out = join(folder, 'aids');
  const { out: printed, errors } = reed(
    'parts',
    tune,
    '--for',
    'viola',
    '--level',
    'all',
    '--tempo',
    '80',
    '--aids',
    'degrees,names,counts,bowing',
    '--out',
    out,
  );
  const made = JSON.parse(printed) as {
    file: string;
    difficulty: { total: number };
    changes: { what: string; why: string }[];
  }[];
  const [first = 0, second = 0, third = 0] = made.map(({ difficulty }) => difficulty.total);
  expect([first < second, second < third, errors]).toEqual([
    true,
    true,
    ['--aids: degrees stand under the notes; there is one line there, so names are left out'],
  ]);
  const texts = readFileSync(made[0]?.file ?? '', 'utf8');
  expect(
    [...texts.matchAll(/<text>([^<]*)<\/text>/g)]
      .map(([, text]) => text)
      .every((text) => /^[♯♭]?[1-7]?( ?\([\d ]+\))?$/.test(text ?? '')),
  ).toBe(true);
  // The pickup goes up; then bows go to and fro, two weak notes under one where the bar has an odd number of strokes.
  expect([texts.includes('<up-bow'), texts.includes('<slur type="start"')]).toEqual([true, true]);
  expect(made[2]?.changes.length).toBeGreaterThan(made[1]?.changes.length ?? 0);
});

test('under: an easier part from open strings, with what it is made of; a note that the instrument lacks is refused', () => {
  const out = join(folder, 'under');
  const made = JSON.parse(reed('under', tune, '--for', 'cello', '--pace', 'half', '--key', 'G', '--out', out).out) as {
    file: string;
    notes: string[];
    noteCount: number;
    fits: boolean;
    bars: number;
  };
  expect([
    made.bars,
    made.noteCount,
    made.notes.every((note) => ['C2', 'G2', 'D3', 'A3'].includes(note)),
    made.fits,
    readdirSync(out),
  ]).toEqual([17, made.notes.length, true, true, ['lamps-on-the-mole.cello.under.musicxml']]);
  const faults = [
    ['--notes', 'C1'],
    ['--notes', 'H4'],
    ['--pace', 'minute'],
  ].map((words) => reed('under', tune, '--for', 'cello', ...words, '--out', join(folder, 'no')));
  expect(faults.map(({ status, errors }) => [status, errors.length])).toEqual(Array(3).fill([2, 1]));
  expect(existsSync(join(folder, 'no'))).toBe(false);
});

test('a part as PDF says title, player and both keys', () => {
  const out = join(folder, 'pdf');
  reed('parts', tune, '--for', 'horn-f', '--level', 'intermediate', '--format', 'pdf', '--out', out);
  const text = spawnSync('pdftotext', ['-layout', join(out, 'lamps-on-the-mole.horn-f.intermediate.pdf'), '-'], {
    encoding: 'utf8',
  }).stdout;
  for (const words of ['Lamps on the Mole', 'Horn in F', 'Intermediate', 'for you:', 'sounding:', '1 of 1'])
    expect(text).toContain(words);
});

test('convert: through MusicXML and back to our own document', () => {
  const [xml, packed, own] = ['a.musicxml', 'b.mxl', 'c.reed.json'].map((name) => join(folder, name));
  expect(JSON.parse(reed('convert', tune, xml ?? '').out)).toEqual({
    input: tune,
    output: xml,
    bars: 17,
    notes: 71,
    warnings: [],
  });
  reed('convert', xml ?? '', packed ?? '');
  expect(JSON.parse(reed('convert', packed ?? '', own ?? '').out)).toMatchObject({ bars: 17, notes: 71, warnings: [] });
  const abc = join(folder, 'd.abc');
  expect(JSON.parse(reed('convert', own ?? '', abc).out)).toMatchObject({ bars: 17, notes: 71, warnings: [] });
  expect(readTune(readFileSync(abc))).toEqual(readTune(readFileSync(tune)));
});

test('convert: to MIDI with what is lost told, and back as a tune', () => {
  const [midi, xml] = [join(folder, 'e.mid'), join(folder, 'e.musicxml')];
  const out = JSON.parse(reed('convert', tune, midi).out) as { notes: number; warnings: readonly string[] };
  expect([
    out.notes,
    out.warnings.includes('The format cannot hold chord symbols'),
    readFileSync(midi).subarray(0, 4).toString(),
  ]).toEqual([71, true, 'MThd']);
  expect(JSON.parse(reed('convert', midi, xml).out)).toMatchObject({ bars: 17, notes: 71 });
});

test('analyse: key, scales, phrases with their kin, form, leaps, rhythms, pickup', () => {
  const facts = JSON.parse(reed('analyse', tune).out) as {
    phrases: readonly Record<string, unknown>[];
    scales: readonly unknown[];
    rhythms: readonly unknown[];
    leaps: readonly unknown[];
  };
  expect(facts).toMatchObject({
    key: { tonic: 'Eb', mode: 'major', runnersUp: [{ tonic: 'Eb' }, {}, {}] },
    form: "A B C B'",
    pickup: 1,
    range: { lowest: 'Bb3', highest: 'Eb5', semitones: 17 },
  });
  expect(facts.scales[0]).toEqual({ tonic: 'Eb', name: 'major', notes: ['Eb', 'F', 'G', 'Ab', 'Bb', 'C', 'D'] });
  expect(facts.phrases[3]).toMatchObject({
    fromBar: 12,
    toBar: 16,
    label: "B'",
    contour: 'arch',
    startsOn: 'Bb3',
    endsOn: 'Eb4',
    sameAs: 'B',
    differsAt: [14, 15, 16],
  });
  expect(facts.phrases[0]).not.toHaveProperty('sameAs');
  expect([facts.rhythms.length > 3, facts.leaps.length > 0]).toEqual([true, true]);
});

test('parts: as ABC and MIDI too', () => {
  const out = join(folder, 'more');
  reed('parts', tune, '--for', 'clarinet-bb', '--level', 'beginner', '--format', 'abc', '--out', out);
  reed('parts', tune, '--for', 'clarinet-bb', '--level', 'beginner', '--format', 'midi', '--out', out);
  expect(readdirSync(out).toSorted()).toEqual([
    'lamps-on-the-mole.clarinet-bb.beginner.abc',
    'lamps-on-the-mole.clarinet-bb.beginner.mid',
  ]);
  expect(readFileSync(join(out, 'lamps-on-the-mole.clarinet-bb.beginner.abc'), 'utf8')).toContain('K:F');
});

test.each<readonly [string, readonly string[], RegExp]>([
  ['an unknown command', ['sing'], /unknown command "sing": use instruments, convert, analyse, keys, finger, parts/],
  ['an unknown instrument', ['parts', tune, '--for', 'kazoo', '--level', 'all'], /unknown instrument "kazoo"/],
  ['an unknown level', ['parts', tune, '--for', 'flute', '--level', 'expert'], /--level expert: use beginner/],
  ['an unknown option', ['parts', tune, '--fro', 'flute'], /unknown option --fro/],
  [
    'a tempo of zero',
    ['parts', tune, '--for', 'flute', '--level', 'all', '--tempo', '0'],
    /--tempo 0: give beats a minute from 20 to 400/,
  ],
  [
    'a key of another mode',
    ['parts', tune, '--for', 'flute', '--level', 'all', '--key', 'Am'],
    /--key Am: .*mode stays major/,
  ],
  [
    'a missing file',
    ['convert', join(folder, 'none.abc'), join(folder, 'x.musicxml')],
    /none\.abc cannot be opened \(ENOENT\)/,
  ],
  [
    'a folder in which nothing can be made',
    ['parts', tune, '--for', 'flute', '--level', 'beginner', '--out', '/proc/none/parts'],
    /cannot write \/proc\/none \(ENOENT\): give a folder that can be written to/,
  ],
  [
    'a bar that does not add up',
    ['convert', join(folder, 'long.abc'), join(folder, 'x.musicxml')],
    /long\.abc: line 5, bar 1: The bar holds 5 quarters; 4\/4 has room for 4/,
  ],
])('%s ends with 2 and one line', (_, words, expected) => {
  writeFileSync(join(folder, 'long.abc'), 'X:1\nM:4/4\nL:1/4\nK:C\nCDEFG|\n');
  const before = readdirSync(folder);
  const { status, out, errors } = reed(...words);
  expect([status, out, errors.length]).toEqual([2, '', 1]);
  expect(errors[0]).toMatch(expected);
  expect(readdirSync(folder)).toEqual(before);
  expect(existsSync(join(folder, 'x.musicxml'))).toBe(false);
});

test('chords: grips on two strings in a rhythm; what has no strings is refused', () => {
  const out = join(folder, 'chords');
  const made = JSON.parse(
    reed('chords', tune, '--for', 'violin', '--rhythm', 'shuffle', '--key', 'G', '--out', out).out,
  ) as {
    bars: number;
    rhythm: string;
    grips: { symbol: string; low: string; high: string; fingers: string[] }[];
    missing: string[];
  };
  expect([made.bars, made.rhythm, made.missing, readdirSync(out)]).toEqual([
    17,
    'shuffle',
    [],
    ['lamps-on-the-mole.violin.beginner.chords.musicxml'],
  ]);
  expect(made.grips.find(({ symbol }) => symbol === 'G')).toEqual({
    symbol: 'G',
    low: 'G3',
    high: 'D4',
    fingers: ['0', '0'],
  });
  const faults = [['flute'], ['violin', '--rhythm', 'waltz'], ['violin', '--level', 'novice']].map(
    ([id = '', ...words]) => reed('chords', tune, '--for', id, ...words, '--out', join(folder, 'no')),
  );
  expect(faults.map(({ status, errors }) => [status, errors.length])).toEqual([
    [2, 1],
    [2, 1],
    [2, 1],
  ]);
  expect(existsSync(join(folder, 'no'))).toBe(false);
});
