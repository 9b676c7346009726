/** The head of a note by its role: filled rests, open leans, small rubs. */
export function Head({ kind }: { readonly kind: 'filled' | 'open' | 'small' }) {
  const [rx, ry] = kind === 'small' ? [3.2, 2.4] : [5.2, 3.9];
  return (
    <svg width="14" height="11" viewBox="0 0 14 11" aria-hidden="true" className="-mr-2 inline-block">
      <ellipse
        cx="7"
        cy="5.5"
        rx={rx}
        ry={ry}
        transform="rotate(-18 7 5.5)"
        fill={kind === 'open' ? 'none' : 'currentColor'}
        stroke="currentColor"
        strokeWidth={kind === 'open' ? 1.6 : 0}
      />
    </svg>
  );
}
