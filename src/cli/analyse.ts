import { analyseTune, KEY_METHOD, type KeyFinding, type PhraseFinding, type TuneAnalysis } from '../core/analysis';
import { type Key, printKey, printPitch, printPitchClass, semitones } from '../core/pitch';
import { TICKS_PER_QUARTER } from '../core/time';
import { noMoreThan, parseArguments, required } from './arguments';
import { readInput } from './files';

/** `reed analyse INPUT` */
export function analyse(words: readonly string[]): unknown {
  const given = parseArguments(words, []);
  noMoreThan(given, 1);
  const { tune, warnings } = readInput(required(given, 0, 'INPUT'));
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  return analysisFacts(analyseTune(tune));
}

function analysisFacts(analysis: TuneAnalysis) {
  const { key, scales, outside, range, leaps, rhythms, phrases, form, playedForm, pickup } = analysis;
  return {
    key: keyFacts(key),
    scales: scales.map(({ tonic, name, notes }) => ({
      tonic: printPitchClass(tonic),
      name,
      notes: notes.map(printPitchClass),
    })),
    outside: outside.map(({ bar, pitch }) => ({ bar, pitch: printPitch(pitch) })),
    range: range
      ? {
          lowest: printPitch(range.lowest),
          highest: printPitch(range.highest),
          semitones: semitones(range.highest) - semitones(range.lowest),
        }
      : null,
    phrases: phrases.map((phrase) => phraseFacts(phrase, phrases)),
    form: plainLabel(form),
    playedForm: plainLabel(playedForm),
    leaps: leaps.map(({ from, to, bar }) => ({
      bar,
      from: printPitch(from),
      to: printPitch(to),
      semitones: semitones(to) - semitones(from),
    })),
    rhythms: rhythms.map(({ word, count, bars }) => ({ word, count, bars })),
    pickup: pickup / TICKS_PER_QUARTER,
  };
}

function keyFacts({ key, confidence, runnersUp }: KeyFinding) {
  const named = ({ tonic, mode }: Key) => ({ tonic: printPitchClass(tonic), mode, name: printKey({ tonic, mode }) });
  return {
    ...named(key),
    confidence,
    runnersUp: runnersUp.map((other) => ({ ...named(other.key), confidence: other.confidence })),
    method: KEY_METHOD,
  };
}

function phraseFacts(phrase: PhraseFinding, all: readonly PhraseFinding[]) {
  const { fromBar, toBar, label, contour, startsOn, endsOn, kin, differsAt } = phrase;
  const relation = kin?.relation;
  const isKin = relation && relation.kind !== 'same-rhythm' && relation.kind !== 'same-contour';
  const of = kin && all[kin.of];
  return {
    fromBar,
    toBar,
    label: plainLabel(label),
    contour,
    startsOn: printPitch(startsOn),
    endsOn: printPitch(endsOn),
    notes: phrase.pitches.length,
    ...(isKin && of && { sameAs: plainLabel(of.label) }),
    ...(relation &&
      of && {
        relation: {
          kind: relation.kind,
          to: plainLabel(of.label),
          ...('steps' in relation && { steps: relation.steps }),
        },
      }),
    differsAt,
    ...(phrase.endings && { endings: phrase.endings }),
  };
}

/** Marks in ASCII, as the contract writes them. */
function plainLabel(label: string): string {
  return label.replaceAll('′', "'");
}
