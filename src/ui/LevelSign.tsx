import { type Level, LEVELS, profileOf } from '../core/instruments';

const COLOURS: Readonly<Record<Level, string>> = {
  beginner: 'text-beginner',
  intermediate: 'text-intermediate',
  advanced: 'text-advanced',
};

export const LEVEL_NAMES = Object.fromEntries(LEVELS.map((level) => [level, profileOf(level).name])) as Readonly<
  Record<Level, string>
>;

function Strokes({ level }: { readonly level: Level }) {
  const hooks = LEVELS.indexOf(level) + 1;
  return (
    <>
      <ellipse
        cx="5"
        cy="18.3"
        rx="4"
        ry="2.9"
        transform="rotate(-18 5 18.3)"
        fill="var(--level-head, currentColor)"
        stroke="currentColor"
        strokeWidth="1"
      />
      <path d="M8.6 17.6V1.5" stroke="currentColor" strokeWidth="1.4" fill="none" />
      {Array.from({ length: hooks }, (_, hook) => (
        <path
          key={hook}
          d={`M8.6 ${1.5 + hook * 3.6} c0.5 2.7 5 2.8 3.9 6.6`}
          stroke="currentColor"
          strokeWidth="1.5"
          fill="none"
        />
      ))}
    </>
  );
}

/** The signs drawn once, for a page that shows hundreds of them (`shared`). */
export function LevelSymbols() {
  return (
    <svg width="0" height="0" aria-hidden="true" className="absolute">
      {LEVELS.map((level) => (
        <symbol key={level} id={`level-${level}`} viewBox="0 0 16 22">
          <Strokes level={level} />
        </symbol>
      ))}
    </svg>
  );
}

/** The sign of a level: a note stem with one, two or three hooks. Told apart by shape; the hue only helps. */
export function LevelSign({
  level,
  faint = false,
  size = 20,
  shared = false,
}: {
  readonly level: Level;
  readonly faint?: boolean;
  readonly size?: number;
  /** The page has `LevelSymbols`. */
  readonly shared?: boolean;
}) {
  return (
    <svg
      viewBox="0 0 16 22"
      width={(size * 16) / 22}
      height={size}
      aria-hidden="true"
      className={`shrink-0 ${faint ? 'text-[#a9a896] [--level-head:none]' : COLOURS[level]}`}
    >
      {shared ? <use href={`#level-${level}`} /> : <Strokes level={level} />}
    </svg>
  );
}
