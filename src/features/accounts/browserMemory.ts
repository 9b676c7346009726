/*
 * What the browser keeps of a studio: work that could not be saved yet, entries of logs that wait, choices, and pages saved
 * for offline use. Whoever signs in on a shared computer finds nothing of the person before.
 */

const UNSAVED = /^reed-hook:unsaved:|^reed-hook\/practice\//;
const WHOSE = 'reed-hook:person';

/** How many things were not sent to the server yet. */
export function countUnsaved(): number {
  try {
    return Object.keys(localStorage).filter((key) => UNSAVED.test(key)).length;
  } catch (error) {
    if (error instanceof DOMException) return 0;
    throw error;
  }
}

/** Forgets all of it. The server asks the browser for the same; a browser that does not know how is told here. */
export async function forgetAll(): Promise<void> {
  try {
    localStorage.clear();
    sessionStorage.clear();
  } catch (error) {
    if (!(error instanceof DOMException)) throw error;
  }
  document.cookie = 'music-width=; path=/; max-age=0; samesite=lax';
  if (!('caches' in window)) return;
  for (const name of await caches.keys()) await caches.delete(name);
}

/** Notes whose browser this is from now on; what was kept for somebody else is forgotten first. */
export async function becomesBrowserOf(person: string): Promise<void> {
  try {
    const before = localStorage.getItem(WHOSE);
    if (before !== null && before !== person) await forgetAll();
    localStorage.setItem(WHOSE, person);
  } catch (error) {
    if (!(error instanceof DOMException)) throw error;
  }
}

/** Opens a page anew, as a whole: nothing that was shown before stays in the browser's memory. */
export function openWhole(path: string): void {
  window.location.assign(path);
}
