import { type Pitch, semitones } from '../../core/pitch';

/** The heights of a phrase's notes as a line, without saying which they are. */
export function ContourLine({
  pitches,
  width = 150,
  height = 34,
}: {
  readonly pitches: readonly Pitch[];
  readonly width?: number;
  readonly height?: number;
}) {
  const heights = pitches.map(semitones);
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  const x = (k: number) => 5 + (k * (width - 10)) / Math.max(1, heights.length - 1);
  const y = (value: number) => (high === low ? height / 2 : 5 + ((high - value) * (height - 10)) / (high - low));
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      aria-hidden="true"
      className="block max-w-full"
    >
      <polyline
        points={heights.map((value, k) => `${x(k)},${y(value)}`).join(' ')}
        fill="none"
        stroke="#35463f"
        strokeWidth="1.6"
        strokeLinejoin="round"
      />
      {heights.map((value, k) => (
        <circle key={k} cx={x(k)} cy={y(value)} r="2.2" fill={k === 0 ? '#8a5414' : '#35463f'} />
      ))}
    </svg>
  );
}
