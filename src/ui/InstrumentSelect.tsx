import { type CustomInstrument, FAMILIES, type Family, INSTRUMENTS } from '../core/instruments';

export const FAMILY_NAMES: Readonly<Record<Family, string>> = {
  woodwind: 'Woodwind',
  brass: 'Brass',
  strings: 'Bowed strings',
  fretted: 'Plucked strings',
  percussion: 'Bars',
  'free-reed': 'Free reeds',
  voice: 'Voices',
};

/**
 * A choice among all instruments by family, the studio's custom ones at the end. One that was removed from the studio
 * can stay chosen.
 */
export function InstrumentSelect({
  label,
  value,
  custom: ofStudio,
  chosen,
  onChange,
  className = 'min-h-8 w-full rounded border border-edge bg-paper px-1',
}: {
  readonly label: string;
  readonly value: string;
  readonly custom: readonly CustomInstrument[];
  /** The facts of the value, where it is a custom instrument. */
  readonly chosen?: CustomInstrument | undefined;
  readonly onChange: (id: string, custom: CustomInstrument | undefined) => void;
  readonly className?: string;
}) {
  const custom = chosen && !ofStudio.some(({ id }) => id === chosen.id) ? [...ofStudio, chosen] : ofStudio;
  return (
    <select
      aria-label={label}
      className={className}
      value={value}
      onChange={({ target }) =>
        onChange(
          target.value,
          custom.find(({ id }) => id === target.value),
        )
      }
    >
      {FAMILIES.map((family) => (
        <optgroup key={family} label={FAMILY_NAMES[family]}>
          {INSTRUMENTS.filter((one) => one.family === family).map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </optgroup>
      ))}
      {custom.length > 0 && (
        <optgroup label="Custom">
          {custom.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </optgroup>
      )}
    </select>
  );
}
