'use client';

import { setNonce } from 'get-nonce';

/** Gives the page's nonce to those primitives that add a style element (scroll locking behind dialogs). */
export function Nonce({ value }: { readonly value: string }) {
  if (value !== '') setNonce(value);
  return null;
}
