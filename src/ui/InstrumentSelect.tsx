import { INSTRUMENTS } from '../core/instruments/catalogue';
import { FAMILIES, type Family } from '../core/instruments/instrument';
import type { OwnInstrument } from '../core/instruments/customInstrument';

export const FAMILY_NAMES: Readonly<Record<Family, string>> = {
  woodwind: 'Woodwind',
  brass: 'Brass',
  strings: 'Bowed strings',
  fretted: 'Plucked strings',
  percussion: 'Bars',
  'free-reed': 'Free reeds',
  voice: 'Voices',
};

/** A choice among all instruments by family, the studio's own at the end. */
export function InstrumentSelect({
  label,
  value,
  own,
  onChange,
  className = 'min-h-8 w-full rounded border border-[#8f8d7c] bg-paper px-1',
}: {
  readonly label: string;
  readonly value: string;
  readonly own: readonly OwnInstrument[];
  readonly onChange: (id: string, own: OwnInstrument | undefined) => void;
  readonly className?: string;
}) {
  return (
    <select
      aria-label={label}
      className={className}
      value={value}
      onChange={({ target }) =>
        onChange(
          target.value,
          own.find(({ id }) => id === target.value),
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
      {own.length > 0 && (
        <optgroup label="Our own">
          {own.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </optgroup>
      )}
    </select>
  );
}
