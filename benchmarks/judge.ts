import { chordTonesUnder, lineDifficulty, phrasesOf } from '../src/core/analysis';
import { type Instrument, instrumentById, type Level, LEVELS } from '../src/core/instruments';
import { startKey } from '../src/core/keys';
import { inKey, pageRequest, type Part, partFor } from '../src/core/levels';
import { alterInSignature, chroma, LETTERS, semitones, signatureOf } from '../src/core/pitch';
import { formOf } from '../src/core/pools';
import { type Bar, barSpans, isNote, soundingNotes, type Tune } from '../src/core/score';
import { beatsOf, isCompound, TICKS_PER_QUARTER, weightAt } from '../src/core/time';
import { likelyTune } from '../tests/likelyTune';

const PLAYERS = ['flute', 'alto-sax', 'trumpet-bb', 'trombone', 'violin', 'cello'] as const;

/** What is counted over all parts of a level: sums by name, and values whose middle and ends are told. */
class Counts {
  readonly sums = new Map<string, number>();
  readonly values = new Map<string, number[]>();

  add(name: string, by = 1): void {
    this.sums.set(name, (this.sums.get(name) ?? 0) + by);
  }

  note(name: string, value: number): void {
    const known = this.values.get(name) ?? [];
    known.push(value);
    this.values.set(name, known);
  }

  of(name: string): number {
    return this.sums.get(name) ?? 0;
  }

  share(name: string, of: string): string {
    const all = this.of(of);
    return all === 0 ? '–' : `${((100 * this.of(name)) / all).toFixed(1)} %`;
  }

  spread(name: string): string {
    const sorted = (this.values.get(name) ?? []).toSorted((a, b) => a - b);
    const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
    return [0, 0.1, 0.5, 0.9, 1].map((share) => at(share).toFixed(1)).join(' · ');
  }
}

/**
 * `npm run fuzz -- judge [TUNES]`: what a musician would mark in pencil, counted over the parts of tunes that nobody
 * tuned for: six instruments, three levels, each tune in its own key or, for beginners, the one they begin in. Nothing
 * here decides; the rules are held by tests, the taste is read here.
 */
export function judge(tunes: number): void {
  const by: Readonly<Record<Level, Counts>> = {
    beginner: new Counts(),
    intermediate: new Counts(),
    advanced: new Counts(),
  };
  for (let seed = 0; seed < tunes; seed += 1) {
    const tune = likelyTune(seed);
    for (const id of PLAYERS) {
      const instrument = instrumentById(id);
      if (!instrument) throw new Error(id);
      for (const level of LEVELS) {
        const begun = level === 'beginner' ? startKey(tune, [{ instrument, level }])?.key : undefined;
        const { value, changes } = partFor(tune, {
          level,
          instrument,
          keyAndTempo: { key: begun ?? tune.key },
          page: pageRequest({}, instrument, level),
        });
        look(by[level], begun ? { ...tune, ...inKey(tune, begun) } : tune, value, level, instrument);
        if (begun) by[level].add('moved');
        by[level].add('parts');
        by[level].add(
          'unsaid bars',
          unsaid(
            begun ? { ...tune, ...inKey(tune, begun) } : tune,
            value,
            new Set(changes.map(({ barIndex }) => barIndex)),
          ),
        );
      }
    }
  }
  for (const line of report(by)) process.stdout.write(`${line}\n`);
}

function look(counts: Counts, tune: Tune, part: Part, level: Level, instrument: Instrument): void {
  const source = soundingNotes(tune);
  const bySource = new Map(source.map((note, index) => [note.first.id, index]));
  const line: Tune = { ...tune, bars: part.soundingBars };
  const notes = soundingNotes(line);
  const phrases = phrasesOf(tune);
  const phraseOf = (index: number) => phrases.findIndex(({ from, to }) => index >= from && index < to);
  const spans = barSpans(line);
  counts.add('notes', notes.length);
  const { total } = lineDifficulty(part.difficulty);
  counts.note('difficulty', total);
  counts.note('fidelity', part.fidelity);

  // Gestures: what the line does between two notes of the tune in one phrase.
  let [flips, others, joins] = [0, 0, 0];
  notes.forEach((note, k) => {
    const index = bySource.get(note.first.id);
    const before = notes[k - 1];
    const earlier = before && bySource.get(before.first.id);
    if (index !== undefined && chroma(source[index]?.pitch ?? note.pitch) !== chroma(note.pitch)) others += 1;
    if (index === undefined || earlier === undefined || !before || phraseOf(index) !== phraseOf(earlier)) return;
    const wanted = semitones(source[index]?.pitch ?? note.pitch) - semitones(source[earlier]?.pitch ?? note.pitch);
    if (Math.abs(semitones(note.pitch) - semitones(before.pitch) - wanted) < 10) return;
    // After a rest or a held note a whole gesture may be moved.
    const rests = before.start + before.length < note.start;
    const holds = before.length >= 2 * (beatsOf(spans[before.bar]?.meter ?? tune.meter)[0]?.length ?? 1);
    if (rests || holds) joins += 1;
    else flips += 1;
  });
  counts.add('flips', flips);
  counts.add('other notes', others);
  counts.add('joins', joins);
  if (flips + others > 0) counts.add('bent parts');
  if (flips > 0) counts.add('flipped parts');

  // Bars that are one bar in the tune are one bar in the part, where nothing is meant to differ.
  if (level === 'beginner') {
    const first = new Map<string, string>();
    tune.bars.forEach((bar, index) => {
      const next = tune.bars[index + 1];
      const words = `${wordsOf(tune.bars[index - 1])}/${wordsOf(bar)}/${wordsOf(next)}`;
      const here = wordsOf(part.soundingBars[index]);
      const known = first.get(words);
      if (known === undefined) first.set(words, here);
      else {
        counts.add('reprises');
        if (known !== here) counts.add('unlike reprises');
      }
    });
  }

  // What was added.
  const { style } = formOf(tune);
  const strict = style === 'modal' || style === 'hymn' || style === 'dance';
  const scale = new Set([
    ...LETTERS.map((step) => chroma({ step, alter: alterInSignature(step, signatureOf(tune.key)) })),
    ...source.map(({ pitch }) => chroma(pitch)),
  ]);
  const tones = chordTonesUnder(line, notes);
  notes.forEach((note, k) => {
    if (bySource.has(note.first.id)) return;
    counts.add('added');
    if (!scale.has(chroma(note.pitch))) {
      counts.add('foreign');
      if (strict) counts.add('foreign in strict');
    }
    const meter = spans[note.bar]?.meter ?? tune.meter;
    if (weightAt(meter, note.inBar) >= 0.5) {
      counts.add('added on beat');
      if (!(tones[k] ?? [note.pitch]).some((tone) => chroma(tone) === chroma(note.pitch)))
        counts.add('off chord on beat');
    }
    const before = notes[k - 1];
    if (before && semitones(before.pitch) === semitones(note.pitch)) counts.add('struck again');
    if (note.first.id.split(/\.(?:[dfgh]|k\d+n)\d+/).length > 2) counts.add('on added');
    if (note.first.ornaments || note.first.graces) counts.add('on added');
  });
  const ornaments = part.bars.flatMap(({ events }) => events.filter(isNote)).filter((note) => note.ornaments).length;
  counts.add('ornaments', ornaments);

  // How much of the tune is as it was.
  let differing = 0;
  const played = part.soundingBars.filter(({ events }) => events.some(isNote)).length;
  part.soundingBars.forEach((bar, index) => {
    if (wordsOf(bar, true) !== wordsOf(tune.bars[index], true)) differing += 1;
  });
  counts.add('bars', played);
  counts.add('differing', differing);
  if (differing <= 1) counts.add('nearly the tune');

  // Rhythm of a beginner.
  for (const [index, bar] of part.soundingBars.entries()) {
    const meter = spans[index]?.meter ?? tune.meter;
    const lengths = bar.events.filter(isNote).map(({ length }) => length / TICKS_PER_QUARTER);
    if (lengths.length === 0) continue;
    if (isCompound(meter)) {
      counts.add('compound bars');
      if (lengths.join().includes('1,0.5')) counts.add('lilting bars');
    } else {
      counts.add('simple bars');
      const own = tune.bars[index]?.events.filter(isNote).map(({ length }) => length / TICKS_PER_QUARTER) ?? [];
      const isMarch = (values: readonly number[]) => values.length > 2 && values.every((length) => length === 1);
      if (isMarch(lengths) && !isMarch(own)) counts.add('all quarters');
    }
  }

  // Breaths.
  let last = -Infinity;
  notes.forEach((note, k) => {
    const next = notes[k + 1];
    const written = part.bars[note.bar]?.events.find(({ id }) => id === note.first.id);
    if (written && isNote(written) && written.articulations?.includes('breath')) {
      counts.add('breaths');
      const place = note.start + note.length;
      if (place - last < 2 * (spans[note.bar]?.length ?? 1)) counts.add('breaths too near');
      last = place;
    } else if (next && next.start > note.start + note.length) last = note.start + note.length;
  });
  if (instrument.family === 'brass' || instrument.family === 'woodwind') counts.add('wind bars', played);
}

function wordsOf(bar: Bar | undefined, anyOctave = false): string {
  return (bar?.events ?? [])
    .map((event) =>
      isNote(event)
        ? `${event.pitch.step}${event.pitch.alter}${anyOctave ? '' : event.pitch.octave}:${event.length}${event.tied ? '~' : ''}${event.graces ? '`' : ''}${event.ornaments ? '!' : ''}`
        : `z${event.length}`,
    )
    .join(' ');
}

/** Bars that sound otherwise than the tune and are not named. */
function unsaid(tune: Tune, part: Part, named: ReadonlySet<number>): number {
  return part.soundingBars.filter(
    (bar, index) => !named.has(index) && wordsOf(bar, true) !== wordsOf(tune.bars[index], true),
  ).length;
}

function report(by: Readonly<Record<Level, Counts>>): readonly string[] {
  const { beginner, intermediate, advanced } = by;
  const parts = `${beginner.of('parts')} parts a level`;
  return [
    parts,
    '',
    'Beginner',
    `  parts that begin in another key than the tune's: ${beginner.share('moved', 'parts')}`,
    `  parts in which a note leaves its gesture by a seventh or more, or is another note: ${beginner.share('bent parts', 'parts')} (${beginner.of('flips')} bent by a seventh or more, ${beginner.of('other notes')} other notes; ${beginner.of('joins')} gestures moved inside a phrase)`,
    `  bars that come again otherwise: ${beginner.share('unlike reprises', 'reprises')} of ${beginner.of('reprises')}`,
    `  bars of quarters alone, not so in the tune: ${beginner.share('all quarters', 'simple bars')}; compound bars with quarter and eighth: ${beginner.share('lilting bars', 'compound bars')}`,
    `  breath marks to a bar: ${(beginner.of('breaths') / Math.max(1, beginner.of('wind bars'))).toFixed(2)}; nearer than two bars: ${beginner.of('breaths too near')}`,
    ...(
      [
        ['Intermediate', intermediate],
        ['Advanced', advanced],
      ] as const
    ).flatMap(([name, counts]) => [
      '',
      name,
      `  bars unlike the tune's: ${counts.share('differing', 'bars')}; parts with one at most: ${counts.share('nearly the tune', 'parts')}`,
      `  added notes: ${counts.of('added')}; foreign to key and tune ${counts.share('foreign', 'added')} (${counts.of('foreign in strict')} in modal tunes, hymns and dances); struck again ${counts.share('struck again', 'added')}`,
      `  added on a beat and no chord tone: ${counts.share('off chord on beat', 'added on beat')}; added to what was added: ${counts.of('on added')}; ornaments: ${counts.of('ornaments')}`,
      `  parts with a gesture bent by a seventh or more: ${counts.share('flipped parts', 'parts')}; breath marks nearer than two bars: ${counts.of('breaths too near')}`,
    ]),
    '',
    'All levels (least · tenth · middle · nine tenths · most)',
    ...LEVELS.map(
      (level) =>
        `  ${level}: difficulty ${by[level].spread('difficulty')}; fidelity ${by[level].spread('fidelity')}; bars changed and not named: ${by[level].of('unsaid bars')}`,
    ),
  ];
}
