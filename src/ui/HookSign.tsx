/** The sign of the house: a note whose flags are hooks. @param size CSS pixels */
export function HookSign({ size }: { readonly size: number }) {
  return (
    <svg viewBox="0 0 32 32" width={size} height={size} aria-hidden="true">
      <g fill="none" stroke="#e7b565" strokeWidth="2.2" strokeLinecap="round">
        <ellipse cx="12.5" cy="24" rx="4.2" ry="3" fill="#e7b565" stroke="none" />
        <path d="M16.6 23.6V5c.6 3.6 6 4 4.6 9M16.6 10.5c.6 3.6 6 4 4.6 9" />
      </g>
    </svg>
  );
}
