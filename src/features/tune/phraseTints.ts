/**
 * Light grounds for phrases of one letter; the letter is always printed with them, so that nothing hangs on the hue.
 */
export const PHRASE_TINTS: readonly { readonly ground: string; readonly line: string }[] = [
  { ground: '#e9dfb84d', line: '#b08a35' },
  { ground: '#c3d9cf59', line: '#4f8272' },
  { ground: '#d6d0e459', line: '#75689c' },
  { ground: '#ecd0c059', line: '#b0714a' },
  { ground: '#cdd9e659', line: '#5d7ea3' },
  { ground: '#dedcd259', line: '#7d7b6b' },
];

/** Which ground a label has: by its letter, marks left aside. */
export function tintOf(label: string): number {
  return (label.charCodeAt(0) - 65) % PHRASE_TINTS.length;
}
