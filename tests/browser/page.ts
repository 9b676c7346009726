import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test as base, type Page } from '@playwright/test';

/** A page that must end without a script error or a breach of its content security policy. */
export const test = base.extend<{ readonly faults: string[] }>({
  // What the server sent is seen before its script runs: a person's hand is slower than that, a test's is not.
  page: async ({ page }, provide) => {
    waitsForScript(page);
    await provide(page);
  },
  faults: [
    async ({ page }, use) => {
      const faults: string[] = [];
      page.on('pageerror', (error) => faults.push(error.message));
      page.on('console', (message) => {
        // Answers that a test asks for (409, 413, 422, 503) are logged by the browser as errors of loading.
        if (message.type() === 'error' && !/Failed to load resource/.test(message.text())) faults.push(message.text());
      });
      await use(faults);
      expect(faults).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect };

/** From now on this page is opened only when its script answers. */
export function waitsForScript(page: Page): void {
  const goto = page.goto.bind(page);
  page.goto = async (...address) => {
    const answer = await goto(...address);
    if (await page.getByRole('navigation', { name: 'Rooms' }).count())
      await page.locator('html[data-ready]').waitFor({ state: 'attached' });
    return answer;
  };
}

const axe = readFileSync(join(process.cwd(), 'node_modules/axe-core/axe.min.js'), 'utf8');

interface Audit {
  readonly violations: readonly {
    readonly id: string;
    readonly nodes: readonly { readonly target: readonly string[]; readonly failureSummary: string }[];
  }[];
}

/** What breaks WCAG 2.2 AA on the page as it stands. */
export async function auditFaults(page: Page): Promise<readonly string[]> {
  await page.evaluate(axe);
  const audit = (await page.evaluate(
    'axe.run(document, { runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"] })',
  )) as Audit;
  return audit.violations.flatMap(({ id, nodes }) =>
    nodes.map(({ target, failureSummary }) => `${id}: ${target.join(' ')} ${failureSummary}`),
  );
}

/** Waits until the browser's own engraver has drawn every row. */
export async function allDrawn(page: Page): Promise<void> {
  await expect(page.locator('main [aria-busy="true"]')).toHaveCount(0, { timeout: 60_000 });
}

export async function saved(page: Page): Promise<void> {
  // Notices in passing come after it.
  await expect(
    page
      .getByRole('status')
      .filter({ hasText: /^saved$/ })
      .first(),
  ).toBeAttached();
}

/** A new tune on the shelf, by the same door as a person's; gives its id. */
export async function bringIn(page: Page, abc: string): Promise<string> {
  const answer = await page.request.post('/api/tunes', { data: abc });
  expect(answer.status()).toBe(201);
  return ((await answer.json()) as { id: string }).id;
}

export const SMALL_TUNE =
  'X:1\nT:Sluice Gate\nC:Nobody\nM:4/4\nL:1/8\nQ:1/4=100\nK:G\n"G"G2 AB d2 BA | "C"c2 {d}cB "D7"A4 | "G"G2 AB d2 g2 | "D7"fedc "G"B4 |]\n';
