import { chromium } from '@playwright/test';
import { longAbc } from './longTune';

const ADDRESS = process.env['REED_ADDRESS'] ?? 'http://127.0.0.1:3210';
const BARS = 64;

/**
 * From a key press in the editor to the engraved note, in the page: in the document, and painted. Needs the program
 * running.
 */
export async function keystroke(line: (text: string) => void): Promise<void> {
  try {
    await (await fetch(ADDRESS)).text();
  } catch (error) {
    if (!(error instanceof TypeError)) throw error;
    line(`Key stroke in the editor: not measured, nothing answers at ${ADDRESS} (start the program first)`);
    return;
  }
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  try {
    const page = await browser.newPage({
      viewport: { width: 1280, height: 800 },
      // What is sent by itself is like what the program's own pages send: the door asks where it comes from.
      extraHTTPHeaders: { origin: ADDRESS },
    });
    const answer = await page.request.post(`${ADDRESS}/api/tunes`, { data: longAbc(BARS) });
    if (!answer.ok()) throw new Error(`the tune of the bench was refused: ${await answer.text()}`);
    const { id } = (await answer.json()) as { id: string };
    await page.goto(`${ADDRESS}/tunes/${id}/tune`);
    await page.waitForFunction(() => !document.querySelector('[aria-busy="true"]'), undefined, { timeout: 60_000 });
    await page.waitForTimeout(6_000);
    await page.getByRole('button', { name: 'Write', exact: true }).click();
    await page.locator('[data-caret]').waitFor();
    await page.waitForTimeout(3_000);
    await page.evaluate(() => {
      const times: { shown: number; painted: number }[] = [];
      Object.assign(window, { keyTimes: times });
      let pressed = 0;
      addEventListener(
        'keydown',
        () => {
          pressed = performance.now();
        },
        true,
      );
      new MutationObserver((changes) => {
        if (
          pressed === 0 ||
          !changes.some(({ addedNodes }) => [...addedNodes].some(({ nodeName }) => nodeName === 'svg'))
        )
          return;
        const start = pressed;
        const shown = performance.now() - start;
        pressed = 0;
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => times.push({ shown, painted: performance.now() - start });
          channel.port2.postMessage(0);
        });
      }).observe(document.querySelector('main') as Node, { childList: true, subtree: true });
    });
    for (let k = 0; k < 40; k += 1) {
      await page.keyboard.press('abcdefg'[(k * 3) % 7] ?? 'a');
      await page.waitForTimeout(350);
    }
    const times = await page.evaluate(() =>
      (window as unknown as { keyTimes: { shown: number; painted: number }[] }).keyTimes.slice(8),
    );
    const median = (pick: (one: (typeof times)[number]) => number) =>
      times
        .map(pick)
        .toSorted((a, b) => a - b)
        [Math.floor(times.length / 2)]?.toFixed(0);
    line(
      `Key stroke in the editor at ${BARS} bars, median of ${times.length}: in the notation after ${median(({ shown }) => shown)} ms (aim: 60), painted (without a graphics card) after ${median(({ painted }) => painted)} ms`,
    );
    await page.request.delete(`${ADDRESS}/api/tunes/${id}`);
  } finally {
    await browser.close();
  }
}
