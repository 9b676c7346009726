import { analyseTune, degreeName, phraseWords, type PhraseWords } from '../core/analysis';
import type { Instrument } from '../core/instruments';
import { partFor } from '../core/levels';
import { nameKey, namePitchClass, type Pitch, transposeKey } from '../core/pitch';
import { printMeter } from '../core/time';
import { type Tune, withoutSecondPart } from '../core/score';

/** The by-ear sheet of a tune for one reader: what to listen for, the notes apart. */
export interface ByEarSheet {
  readonly title: string;
  readonly composer: string;
  /** `Clarinet in B♭`, or `concert pitch`. */
  readonly reader: string;
  readonly readerId: string;
  readonly keyName: string;
  readonly concertKey: string;
  readonly meter: string;
  readonly home: string;
  readonly start: string;
  readonly startDegree: string;
  /** As printed, and as it is heard with repeats. */
  readonly form: string;
  readonly playedForm: string;
  readonly phrases: readonly {
    readonly label: string;
    readonly bars: string;
    readonly words: PhraseWords;
    readonly pitches: readonly Pitch[];
    readonly picture: string;
  }[];
}

/** @param draw a picture of some bars: from … up to but without `to` */
export async function byEarSheet(
  concert: Tune,
  instrument: Instrument | undefined,
  draw: (tune: Tune, from: number, to: number) => Promise<string>,
): Promise<ByEarSheet> {
  const part = instrument && partFor(concert, { level: 'advanced', instrument, shape: 'none' }).value;
  const tune: Tune = part
    ? { ...concert, key: part.writtenKey, bars: part.bars }
    : { ...concert, bars: withoutSecondPart(concert.bars) };
  const analysis = analyseTune(tune);
  // The home note is heard in concert pitch and moved with the part, so that both name the same one.
  const heard = analyseTune(concert).key.key;
  const key = part ? transposeKey(heard, part.written) : heard;
  const first = analysis.phrases[0];
  const pictures = await Promise.all(
    analysis.phrases.map(({ fromBarIndex, toBarIndex }) => draw(tune, fromBarIndex, toBarIndex + 1)),
  );
  return {
    title: concert.title || 'Untitled',
    composer: concert.composer ?? '',
    reader: instrument?.name ?? 'concert pitch',
    readerId: instrument?.id ?? '',
    keyName: nameKey(key),
    concertKey: nameKey(heard),
    meter: printMeter(concert.meter),
    home: namePitchClass(key.tonic),
    start: first ? `${namePitchClass(first.startsOn)}${first.startsOn.octave}` : '',
    startDegree: first ? degreeName(first.startsOn, key) : '',
    form: analysis.form,
    playedForm: analysis.playedForm,
    phrases: analysis.phrases.map((phrase, index) => ({
      label: phrase.label,
      bars: phrase.fromBar === phrase.toBar ? `bar ${phrase.fromBar}` : `bars ${phrase.fromBar}–${phrase.toBar}`,
      words: phraseWords(phrase, analysis.phrases, key),
      pitches: phrase.pitches,
      picture: pictures[index] ?? '',
    })),
  };
}
