import { type Scale, SCALE_OF_MODE, scaleOn } from '../harmony';
import {
  chroma,
  type Key,
  keyWithSignature,
  namePitchClass,
  type Pitch,
  semitones,
  signatureOf,
  stepIndex,
} from '../pitch';
import { quarterBars, QUARTERS_METER, type Tune, TUNE_SCHEMA } from '../score';
import type { TuneAnalysis } from './tuneAnalysis';

/** A set of fewer notes is no scale to warm up on. */
const FEWEST = 5;
const PER_MINUTE = 60;

/** The tune's own scale: the smallest named set on its home note that holds the melody, else the scale of its key. */
export function ownScale({ key, scales }: Pick<TuneAnalysis, 'key' | 'scales'>): Scale {
  const own = scales.find(({ tonic, notes }) => chroma(tonic) === chroma(key.key.tonic) && notes.length >= FEWEST);
  return own ?? scaleOn(key.key.tonic, SCALE_OF_MODE[key.key.mode]);
}

/**
 * A warm-up in concert pitch: the tune's own scale from its home note up an octave and down again, in quarters, the
 * last note held. It lies as low as the tune does; the octave for a player is found like that of any part.
 */
export function warmUpTune(tune: Tune, analysis: TuneAnalysis): Tune {
  const scale = ownScale(analysis);
  const { key } = analysis.key;
  const lowest = analysis.range?.lowest;
  const octave = lowest ? octaveNear(scale.tonic, lowest) : 4;
  const up = [
    ...scale.notes.map((note): Pitch => ({
      ...note,
      octave: octave + (stepIndex(note.step) < stepIndex(scale.tonic.step) ? 1 : 0),
    })),
    { ...scale.tonic, octave: octave + 1 },
  ];
  const line = [...up, ...up.slice(0, -1).toReversed()];
  const title = `Warm-up in ${namePitchClass(scale.tonic)} ${scale.name}`;
  return {
    schema: TUNE_SCHEMA,
    title,
    ...(tune.title && { composer: `for ${tune.title}` }),
    rights: 'own',
    key: keyFor(scale, key),
    meter: QUARTERS_METER,
    tempo: { beat: { type: 'quarter', dots: 0 }, perMinute: PER_MINUTE },
    bars: quarterBars(line),
  };
}

function octaveNear(tonic: Scale['tonic'], lowest: Pitch): number {
  const candidates = [2, 3, 4, 5].map((octave) => ({
    octave,
    away: Math.abs(semitones({ ...tonic, octave }) - semitones(lowest)),
  }));
  return candidates.reduce((best, next) => (next.away < best.away ? next : best)).octave;
}

/** The signature of the tune's key; in another spelling of the tonic, that of its twin. */
function keyFor({ tonic }: Scale, key: Key): Key {
  return tonic.step === key.tonic.step ? key : keyWithSignature(signatureOf(key), key.mode);
}

/** `E♭ major: E♭ F G A♭ B♭ C D`: to be said aloud before it is played. */
export function scaleText({ tonic, name, notes }: Scale): string {
  return `${namePitchClass(tonic)} ${name}: ${notes.map(namePitchClass).join(' ')}`;
}
