import { useEffect, useRef } from 'react';

/** Whether keys typed at an element are text that is being written, or a list or menu that is being walked. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.matches(
      'input, textarea, select, [contenteditable]:not([contenteditable="false"]), [role="listbox"] *, [role="menu"], [role="menu"] *',
    )
  );
}

/** Answers whether the key was meant for it; then nothing else happens by it. */
export type KeyHandler = (event: KeyboardEvent) => boolean;

/** Shortcuts of a whole screen, wherever the focus is but in a text field. */
export function useKeys(handler: KeyHandler): void {
  const latest = useRef(handler);
  useEffect(() => {
    latest.current = handler;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!isTyping(event.target) && latest.current(event)) event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

/** Undo and redo as the platform has them. */
export function historyKey(
  event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey'>,
): 'undo' | 'redo' | undefined {
  if (!event.ctrlKey && !event.metaKey) return undefined;
  const key = event.key.toLowerCase();
  if (key === 'y') return 'redo';
  if (key !== 'z') return undefined;
  return event.shiftKey ? 'redo' : 'undo';
}

/** A plain letter or sign, without a modifier that would make a command of it. */
export function plainKey(event: KeyboardEvent): string | undefined {
  return event.ctrlKey || event.metaKey || event.altKey ? undefined : event.key.toLowerCase();
}
