import { chordTones } from '../src/core/harmony';
import { type Ensemble, partOfVoice } from '../src/core/ensemble';
import { outsideBy } from '../src/core/instruments';
import { semitones, transpose } from '../src/core/pitch';
import { type BarSpan, barSpans, isNote, type SoundingNote, soundingNotes } from '../src/core/score';
import { barTicks, beatsOf, isCompound, middleOf, TICKS_PER_QUARTER } from '../src/core/time';
import { chroma } from '../src/core/pitch';

/** What an arrangement is asked for, held against the notes as they are printed; written apart from the engine. */
export function ensembleFaults(ensemble: Ensemble): readonly string[] {
  const { ground, sections, voices } = ensemble;
  const { tune } = ground;
  const spans = barSpans(tune);
  const parts = voices.map((_, index) => partOfVoice(ensemble, index).part);
  const lines = parts.map((part) => soundingNotes({ bars: part.soundingBars, meter: part.meter }));
  const leads = (part: number, bar: number) =>
    voices[part]?.cells[sections.findLastIndex(({ from }) => from <= bar)] === 'tune';
  const role = (part: number, bar: number) => (leads(part, bar) ? 'tune' : voices[part]?.role);
  const faults: string[] = [];
  const chords = tune.bars.flatMap((bar, index) =>
    bar.chords.map(({ at, symbol }) => ({ at: (spans[index]?.start ?? 0) + at, symbol })),
  );
  const chordAt = (at: number) => chords.findLast((one) => one.at <= at)?.symbol;
  const tonesAt = (at: number) => {
    const symbol = chordAt(at);
    return new Set(symbol ? chordTones(symbol).map(({ pitchClass }) => chroma(pitchClass)) : []);
  };
  const strong = spans.flatMap((span, bar) => strongIn(span, bar).map((at) => ({ at: span.start + at, bar })));
  const height = (part: number, at: number) => {
    const note = sounding(lines[part] ?? [], at);
    return note && semitones(note.pitch);
  };
  parts.forEach((part, k) => {
    const { instrument, level, soundingBars } = part;
    if (soundingBars.length !== tune.bars.length) faults.push(`part ${k + 1} has ${soundingBars.length} bars`);
    for (const note of lines[k] ?? []) {
      const off = outsideBy(transpose(note.pitch, instrument.transposition), instrument.range[level]);
      const may = level !== 'beginner' && leads(k, note.bar) ? 3 : 0;
      if (Math.abs(off) > may) faults.push(`part ${k + 1} bar ${note.bar}: ${off} out of range`);
      if (level !== 'beginner') continue;
      if (note.first.tuplet) faults.push(`part ${k + 1} bar ${note.bar}: a tuplet`);
    }
    if (level === 'beginner')
      soundingBars.forEach((bar, index) => {
        const span = spans[index];
        const meter = span?.meter ?? tune.meter;
        const least = isCompound(meter) ? TICKS_PER_QUARTER / 2 : TICKS_PER_QUARTER;
        const short = bar.events.filter(
          (event, j) => isNote(event) && event.length < least && !event.tied && !isTiedTo(bar.events[j - 1]),
        );
        const isOdd = (span?.length ?? 0) % TICKS_PER_QUARTER !== 0;
        if (short.length > (isOdd ? 1 : 0)) faults.push(`part ${k + 1} bar ${index}: shorter than a quarter`);
      });
    for (const { at, bar } of strong) {
      if (leads(k, bar)) continue;
      const note = sounding(lines[k] ?? [], at);
      const tones = tonesAt(at);
      if (!note || tones.size === 0) continue;
      const symbol = chordAt(at);
      if (
        role(k, bar) === 'bass' &&
        symbol?.kind === 'chord' &&
        symbol.bass &&
        chroma(symbol.bass) === chroma(note.pitch)
      )
        continue;
      if (tones.has(chroma(note.pitch))) continue;
      const next = (lines[k] ?? []).find(({ start }) => start === note.start + note.length);
      const falls = next ? semitones(note.pitch) - semitones(next.pitch) : 0;
      const isPrepared =
        note.start < at ||
        (lines[k] ?? []).some((one) => one.start + one.length === note.start && one.pitch === note.pitch);
      const beat = beatsOf(spans[bar]?.meter ?? tune.meter)[0]?.length ?? 0;
      const isSuspension =
        isPrepared &&
        next !== undefined &&
        (falls === 1 || falls === 2) &&
        next.start <= at + beat &&
        tonesAt(next.start).has(chroma(next.pitch));
      if (!isSuspension) faults.push(`part ${k + 1} bar ${bar}: foreign on a strong beat`);
    }
  });
  let parallels = 0;
  for (let j = 1; j < strong.length; j += 1) {
    const [then, now] = [strong[j - 1], strong[j]];
    if (!then || !now) continue;
    const jumps = then.bar !== now.bar && tune.bars[now.bar]?.ending && tune.bars[then.bar]?.repeatEnd !== undefined;
    for (let a = 0; a < parts.length; a += 1)
      for (let b = a + 1; b < parts.length; b += 1) {
        const [a1, a2, b1, b2] = [height(a, then.at), height(a, now.at), height(b, then.at), height(b, now.at)];
        if (a2 !== undefined && b2 !== undefined && Math.abs(a2 - b2) % 12 === 1) {
          const tones = tonesAt(now.at);
          if (!tones.has(a2 % 12) || !tones.has(b2 % 12))
            faults.push(`parts ${a + 1} and ${b + 1} bar ${now.bar}: clash`);
        }
        if (a1 === undefined || a2 === undefined || b1 === undefined || b2 === undefined || jumps) continue;
        if (role(a, now.bar) === role(b, now.bar) && role(a, then.bar) === role(b, then.bar)) continue;
        const same = (a2 > a1 && b2 > b1) || (a2 < a1 && b2 < b1);
        const interval = Math.abs(a2 - b2) % 12;
        if (same && (interval === 0 || interval === 7) && Math.abs(a1 - b1) % 12 === interval) parallels += 1;
      }
  }
  if (parallels > ensemble.measures.parallels.length)
    faults.push(`${parallels} parallels, ${ensemble.measures.parallels.length} told`);
  faults.push(...bassFaults(), ...leadFaults(), ...roleFaults(), ...crossingFaults());
  return faults;

  /** Over the highest lead for longer than a bar, though an octave lower is there; under the bass at all. */
  function crossingFaults(): readonly string[] {
    const found: string[] = [];
    const times = [
      ...new Set(lines.flatMap((line) => line.flatMap(({ start, length }) => [start, start + length]))),
    ].toSorted((a, b) => a - b);
    const barAt = (at: number) => spans.findLastIndex(({ start }) => start <= at);
    let told = 0;
    voices.forEach((voice, k) => {
      for (const kind of ['over', 'under'] as const) {
        let since: number | undefined;
        let isExcused = false;
        for (const at of times) {
          const bar = barAt(at);
          const own = height(k, at);
          const rest = voices.map((_, other) =>
            role(other, bar) === (kind === 'over' ? 'tune' : 'bass') ? height(other, at) : undefined,
          );
          const limits = rest.filter((one) => one !== undefined);
          const limit = limits.length === 0 ? undefined : kind === 'over' ? Math.max(...limits) : Math.min(...limits);
          const isMine = kind === 'over' ? leads(k, bar) : role(k, bar) === 'bass';
          const crosses =
            own !== undefined && limit !== undefined && !isMine && (kind === 'over' ? own > limit : own < limit);
          if (crosses) {
            since ??= at;
            const note = sounding(lines[k] ?? [], at);
            const { instrument, level } = voice.player;
            if (note) {
              const low = transpose({ ...note.pitch, octave: note.pitch.octave - 1 }, instrument.transposition);
              isExcused ||= outsideBy(low, instrument.range[level]) !== 0;
            }
            continue;
          }
          if (since !== undefined && at - since > barTicks(spans[barAt(since)]?.meter ?? tune.meter)) {
            told += 1;
            if (kind === 'under' || !isExcused)
              found.push(`part ${k + 1} bar ${barAt(since)}: ${kind} for longer than a bar`);
          }
          since = undefined;
          isExcused = false;
        }
      }
    });
    if (told > ensemble.measures.crossings.length)
      found.push(`${told} crossings, ${ensemble.measures.crossings.length} told`);
    return found;
  }

  function bassFaults(): readonly string[] {
    const found: string[] = [];
    voices.forEach((voice, k) => {
      if (voice.role !== 'bass') return;
      let [starts, roots, beats, lowest] = [0, 0, 0, 0];
      let before: unknown;
      for (const { at, bar } of strong) {
        const symbol = chords.findLast((one) => one.at <= at);
        const isStart = symbol !== before;
        before = symbol;
        const own = height(k, at);
        if (leads(k, bar) || !symbol || symbol.symbol.kind !== 'chord') continue;
        if (isStart) {
          starts += 1;
          if (own !== undefined && own % 12 === chroma(symbol.symbol.bass ?? symbol.symbol.root)) roots += 1;
        }
        if (own === undefined) continue;
        beats += 1;
        if (voices.every((_, other) => other === k || (height(other, at) ?? Infinity) >= own)) lowest += 1;
      }
      if (roots < starts * 0.9) found.push(`bass ${k + 1}: root of ${roots} chords of ${starts}`);
      if (lowest < beats * 0.95) found.push(`bass ${k + 1}: lowest on ${lowest} beats of ${beats}`);
    });
    return found;
  }

  function leadFaults(): readonly string[] {
    const found: string[] = [];
    const melody = soundingNotes(tune);
    sections.forEach(({ from, to }, s) => {
      const leading = voices.flatMap((voice, k) => (voice.cells[s] === 'tune' ? [k] : []));
      if (leading.length === 0) found.push(`section ${s + 1}: nobody leads`);
      const above = leading.filter((k) => voices[k]?.player.level !== 'beginner');
      const wanted = melody.filter(({ bar }) => bar >= from && bar < to);
      const kept = wanted.filter((note) =>
        above.some((k) =>
          lines[k]?.some((own) => own.start === note.start && chroma(own.pitch) === chroma(note.pitch)),
        ),
      );
      if (above.length > 0 && kept.length < wanted.length * 0.85)
        found.push(`section ${s + 1}: ${kept.length} notes of ${wanted.length} kept`);
      const firsts = wanted.filter((note, j) => note.bar !== wanted[j - 1]?.bar);
      const keptFirst = firsts.filter((note) =>
        leading.some((k) =>
          lines[k]?.some((own) => own.start === note.start && chroma(own.pitch) === chroma(note.pitch)),
        ),
      );
      if (keptFirst.length < firsts.length * 0.75)
        found.push(`section ${s + 1}: ${keptFirst.length} of ${firsts.length} first notes kept`);
    });
    return found;
  }

  function roleFaults(): readonly string[] {
    const found: string[] = [];
    const melody = soundingNotes(tune);
    voices.forEach((voice, k) => {
      const line = lines[k] ?? [];
      const own = (bar: number) => !leads(k, bar);
      if (voice.role === 'second') {
        const places = strong.flatMap(({ at, bar }, j) => {
          const there = voices.findIndex((_, other) => leads(other, bar));
          const [mine, theirs] = [height(k, at), height(there, at)];
          if (!own(bar) || mine === undefined || theirs === undefined) return [];
          const prior = strong[j - 1];
          const [a, b] = prior ? [height(k, prior.at), height(there, prior.at)] : [];
          const isContrary = a !== undefined && b !== undefined && (mine - a) * (theirs - b) < 0;
          return [[3, 4, 8, 9].includes(Math.abs(mine - theirs) % 12) || isContrary];
        });
        const good = places.filter(Boolean).length;
        if (good < places.length * 0.6)
          found.push(`second ${k + 1}: moves with the tune on ${good} beats of ${places.length}`);
      }
      if (voice.role === 'counter') {
        const places = stillPlaces(melody, spans, tune.meter).filter(({ bar }) => own(bar));
        const moved = places.filter(({ from, to }) => line.some(({ start }) => start > from && start < to));
        if (moved.length < places.length * 0.5)
          found.push(`counter ${k + 1}: moves in ${moved.length} of ${places.length} places`);
      }
      if (voice.role === 'pad') {
        const mine = line.filter(({ bar }) => own(bar));
        const moves = mine
          .slice(1)
          .map((note, j) => Math.abs(semitones(note.pitch) - semitones(mine[j]?.pitch ?? note.pitch)));
        const small = moves.filter((move) => move <= 5).length;
        if (small < moves.length * 0.9) found.push(`pad ${k + 1}: ${small} small moves of ${moves.length}`);
        const mean = (notes: readonly SoundingNote[]) =>
          notes.reduce((sum, { length }) => sum + length, 0) / Math.max(1, notes.length);
        if (mine.length > 0 && mean(mine) < mean(melody)) found.push(`pad ${k + 1}: notes shorter than the tune's`);
      }
    });
    return found;
  }
}

const isTiedTo = (event: { readonly kind: string } | undefined) =>
  event !== undefined && 'tied' in event && event.tied === true;

function sounding(line: readonly SoundingNote[], at: number): SoundingNote | undefined {
  return line.find(({ start, length }) => start <= at && start + length > at);
}

function strongIn({ offset, length, meter }: BarSpan, bar: number): readonly number[] {
  if (offset > 0 || (bar === 0 && length < barTicks(meter))) return [];
  const beats = beatsOf(meter).map(({ start }) => start);
  const middle = middleOf(meter);
  const all =
    isCompound(meter) || (meter.unit >= 8 && beats.length < meter.count)
      ? beats
      : middle === undefined
        ? [0]
        : [0, middle];
  return all.filter((at) => at < length);
}

/** Where the tune rests or holds for two beats. */
function stillPlaces(melody: readonly SoundingNote[], spans: readonly BarSpan[], first: BarSpan['meter']) {
  return melody.flatMap((note, k) => {
    const beat = beatsOf(spans[note.bar]?.meter ?? first)[0]?.length ?? TICKS_PER_QUARTER;
    const next = melody[k + 1];
    const end = note.start + note.length;
    return [
      ...(note.length >= 2 * beat ? [{ from: note.start, to: end, bar: note.bar }] : []),
      ...(next && next.start - end >= 2 * beat ? [{ from: end - 1, to: next.start, bar: note.bar }] : []),
    ];
  });
}
