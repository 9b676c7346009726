import { chromium } from '@playwright/test';

const ADDRESS = process.env['REED_ADDRESS'] ?? 'http://127.0.0.1:3210';

/** Time to the first music on screen: a new browser profile each time, the server warm. Needs the program running. */
export async function firstMusic(line: (text: string) => void): Promise<void> {
  const page = `${ADDRESS}/tunes/lamps-on-the-mole/levels`;
  try {
    await (await fetch(page)).text();
  } catch (error) {
    if (!(error instanceof TypeError)) throw error;
    line(`First music on screen: not measured, nothing answers at ${ADDRESS} (start the program first)`);
    return;
  }
  const times: number[] = [];
  for (let round = 0; round < 5; round += 1) {
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
    const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // Watches from inside the page, from before its first byte: asking from outside waits for scripts that music does
    // not need.
    await tab.addInitScript(() => {
      const watch = new MutationObserver(() => {
        if (!document.querySelector('.music svg .note')) return;
        watch.disconnect();
        requestAnimationFrame(() =>
          requestAnimationFrame((frame) => {
            document.documentElement.dataset['music'] = String(frame);
          }),
        );
      });
      watch.observe(document, { childList: true, subtree: true });
    });
    await tab.goto(page);
    await tab.waitForSelector('html[data-music]', { state: 'attached' });
    // On the page's own clock, which starts with the request: the frame after the notes were there, or the first paint
    // if later.
    times.push(
      await tab.evaluate(() =>
        Math.max(
          Number(document.documentElement.dataset['music']),
          performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0,
        ),
      ),
    );
    await browser.close();
  }
  line(
    `First music on screen, cold browser and warm server: ${times.toSorted((a, b) => a - b)[2]?.toFixed(0)} ms (aim: 1,500)`,
  );
}
