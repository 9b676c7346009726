const STEPS = [
  '',
  'a half step',
  'a whole step',
  'a minor third',
  'a major third',
  'a fourth',
  'a tritone',
  'a fifth',
  'a minor sixth',
  'a major sixth',
  'a minor seventh',
  'a major seventh',
] as const;

/** `a whole step above what sounds`; octaves are counted first. */
export function transpositionText(chromatic: number): string {
  if (chromatic === 0) return 'what sounds';
  const size = Math.abs(chromatic);
  const octaves = Math.floor(size / 12);
  const words = [
    octaves === 0 ? '' : octaves === 1 ? 'an octave' : `${octaves} octaves`,
    STEPS[size % 12] ?? '',
  ].filter((word) => word !== '');
  return `${words.join(' and ')} ${chromatic > 0 ? 'above' : 'below'} what sounds`;
}
