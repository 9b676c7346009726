import { act, cleanup, configure, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { TextDecoder, TextEncoder } from 'node:util';
import type { ReactNode } from 'react';

/**
 * A screen without a browser: what a person reads, presses and writes, by the names that are read aloud. Measures, drawing and sound
 * are the browser tests' own. A test that uses it begins with `@jest-environment jsdom`.
 */

/** CSS pixels of whatever asks for its size; here nothing else has any. */
const SIZE = { width: 1000, height: 600 };
class OneSize {
  constructor(private readonly told: (entries: readonly unknown[]) => void) {}
  observe(target: Element) {
    this.told([{ target, contentRect: SIZE }]);
  }
  unobserve() {}
  disconnect() {}
}
Object.assign(globalThis, { ResizeObserver: OneSize, TextDecoder, TextEncoder });
Object.assign(Element.prototype, {
  hasPointerCapture: () => false,
  setPointerCapture: () => undefined,
  releasePointerCapture: () => undefined,
  scrollIntoView: () => undefined,
});

// What fails says what was looked for; the whole page would bury it.
process.env['DEBUG_PRINT_LIMIT'] = '0';
// Whether something is hidden is the browser tests' own question, and a slow one here.
// Other tests run beside these, so what comes may come late.
configure({ defaultHidden: true, asyncUtilTimeout: 20_000 });

/** Files are read as browsers read them. */
const readFile = <Read extends 'readAsText' | 'readAsArrayBuffer'>(file: Blob, read: Read) =>
  new Promise<unknown>((done) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result);
    reader[read](file);
  });
Object.assign(Blob.prototype, {
  text(this: Blob) {
    return readFile(this, 'readAsText');
  },
  arrayBuffer(this: Blob) {
    return readFile(this, 'readAsArrayBuffer');
  },
});

/** React says here what is wrong with a screen: two rows of one name, a field that nobody holds. */
let complaints: jest.SpyInstance;
beforeEach(() => {
  complaints = jest.spyOn(console, 'error').mockImplementation(() => undefined);
});
afterEach(() => {
  cleanup();
  // That an answer came outside of a press is the test's own affair.
  const calls = complaints.mock.calls.filter(([text]) => !/not wrapped in act/.test(String(text)));
  complaints.mockRestore();
  expect(calls).toEqual([]);
});

/** Shows something and gives what a person does with it. */
export function shown(node: ReactNode) {
  const user = userEvent.setup({ pointerEventsCheck: 0, delay: null });
  const { container, rerender, unmount } = render(node);
  return { user, container, rerender, unmount };
}

type User = ReturnType<typeof shown>['user'];

/** All that can be read, with single spaces. */
export const words = (node: Element = document.body) => (node.textContent ?? '').replace(/\s+/g, ' ').trim();

export const button = (name: string | RegExp) => screen.getByRole('button', { name });
export const field = (name: string | RegExp) => screen.getByRole<HTMLInputElement>('textbox', { name });
export const alertText = () => screen.queryByRole('alert')?.textContent ?? undefined;

/** Presses a button by its name, once it is there. */
export const press = async (user: User, name: string | RegExp) =>
  user.click(await screen.findByRole('button', { name }));

/** Writes into a field and leaves it. */
export async function write(user: User, name: string | RegExp, text: string): Promise<void> {
  await user.clear(field(name));
  await user.type(field(name), `${text.replace(/[{[]/g, '$&$&')}{Enter}`);
}

/** Opens a choice and takes one of what it offers. */
export async function choose(user: User, label: string | RegExp, option: string | RegExp): Promise<void> {
  await user.click(screen.getByRole('combobox', { name: label }));
  await user.click(within(await screen.findByRole('listbox')).getByRole('option', { name: option }));
}

/** What a choice offers. */
export async function offered(user: User, label: string | RegExp): Promise<readonly string[]> {
  await user.click(screen.getByRole('combobox', { name: label }));
  const list = await screen.findByRole('listbox');
  const names = within(list)
    .getAllByRole('option')
    .map((option) => words(option));
  await user.keyboard('{Escape}');
  return names;
}

/** Opens a list to tick, ticks or unticks some and closes it. */
export async function tick(user: User, label: string | RegExp, ...items: readonly (string | RegExp)[]): Promise<void> {
  await user.click(button(label));
  for (const name of items) await user.click(await screen.findByRole('menuitemcheckbox', { name }));
  await user.keyboard('{Escape}');
}

export { act, fireEvent, screen, waitFor, within };
