import type { PackFile } from '../../core/keys';

const WORDS: Readonly<Partial<Record<PackFile, string>>> = {
  bars: 'This week’s bars, three times',
  slow: 'Slowly',
  tempo: 'At tempo',
};

/** The sounds of a tune, each with the browser's own player. */
export function Sounds({
  title,
  sounds,
  addressOf,
}: {
  readonly title: string;
  readonly sounds: readonly PackFile[];
  readonly addressOf: (what: PackFile) => string;
}) {
  return (
    <ul>
      {sounds.map((what) => {
        const words = WORDS[what];
        return (
          words && (
            <li key={what} className="py-1">
              <span className="block text-[13px] text-ink-soft">{words}</span>
              <audio
                controls
                preload="none"
                src={addressOf(what)}
                aria-label={`${title}: ${words.toLowerCase()}`}
                className="w-full"
              />
            </li>
          )
        );
      })}
    </ul>
  );
}
