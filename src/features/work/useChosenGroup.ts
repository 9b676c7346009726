import { useCallback, useSyncExternalStore } from 'react';

const EVENT = 'reed-hook-group';
const nameOf = (tune: string) => `reed-hook/group/${tune}`;

/**
 * Which group a tune's bench is set to, kept in this browser. `lanes` is no group: the three lanes stand for
 * themselves.
 */
export function useChosenGroup(
  tune: string,
  groups: readonly { readonly id: string }[],
): readonly [string, (id: string) => void] {
  const subscribe = useCallback((changed: () => void) => {
    window.addEventListener(EVENT, changed);
    window.addEventListener('storage', changed);
    return () => {
      window.removeEventListener(EVENT, changed);
      window.removeEventListener('storage', changed);
    };
  }, []);
  const stored = useSyncExternalStore(
    subscribe,
    () => read(tune),
    () => null,
  );
  const chosen =
    stored !== null && (stored === 'lanes' || groups.some(({ id }) => id === stored))
      ? stored
      : (groups[0]?.id ?? 'lanes');
  const choose = useCallback(
    (id: string) => {
      try {
        window.localStorage.setItem(nameOf(tune), id);
      } catch {
        // A browser that keeps nothing still shows the choice until the page is left.
      }
      window.dispatchEvent(new Event(EVENT));
    },
    [tune],
  );
  return [chosen, choose];
}

function read(tune: string): string | null {
  try {
    return window.localStorage.getItem(nameOf(tune));
  } catch {
    return null;
  }
}
