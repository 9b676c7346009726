import { nameValue, type NoteValue } from '../core/time';

/** The music font's small notes for tempo marks. Source: SMuFL 1.4, metronome marks. */
const SIGNS: Readonly<Partial<Record<NoteValue['type'], string>>> = {
  whole: '\uECA2',
  half: '\uECA3',
  quarter: '\uECA5',
  eighth: '\uECA7',
  '16th': '\uECA9',
  '32nd': '\uECAB',
};
const DOT = '\uECB7';

/** The counted note of a tempo, as a sign for the eye and a word for the ear. */
export function BeatSign({ beat }: { readonly beat: NoteValue }) {
  const sign = SIGNS[beat.type];
  if (!sign) return <>{nameValue(beat)}</>;
  return (
    <>
      <span aria-hidden="true" className="font-music text-[1.45em] leading-none">
        {sign}
        {DOT.repeat(beat.dots)}
      </span>
      <span className="sr-only">{nameValue(beat)}</span>
    </>
  );
}
