/** Four weeks of minutes as a row of bars, a small gap between weeks; the sum beside it says what is meant. */
export function MinuteBars({ minutes, weekly }: { readonly minutes: readonly number[]; readonly weekly: number }) {
  const most = Math.max(30, ...minutes);
  const week = minutes.slice(-7).reduce((sum, one) => sum + one, 0);
  const all = minutes.reduce((sum, one) => sum + one, 0);
  return (
    <span className="flex items-center gap-2">
      <svg
        viewBox="0 0 124 26"
        width="124"
        height="26"
        role="img"
        aria-label={`${all} minutes in four weeks, ${week} in the last seven days`}
      >
        <line x1="0" y1="25.5" x2="124" y2="25.5" stroke="#8f8d7c" strokeWidth="1" />
        {minutes.map((one, k) => {
          const height = (one / most) * 24;
          return (
            <rect
              key={k}
              x={k * 4 + Math.floor(k / 7) * 4}
              y={25 - height}
              width="3"
              height={height}
              fill={k >= minutes.length - 7 ? '#8a5414' : '#55675d'}
            />
          );
        })}
      </svg>
      <span className="text-[12.5px] text-ink-soft tabular-nums">
        {week}
        {weekly > 0 && ` of ${weekly}`} in 7 days
      </span>
    </span>
  );
}
