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
    const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'] });
    const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await tab.goto(page, { waitUntil: 'commit' });
    await tab.waitForSelector('.music svg .note');
    // The first frame that is painted with the notes in it, on the page's own clock (from the request on).
    times.push(await tab.evaluate(() => new Promise<number>((resolve) => requestAnimationFrame(() => requestAnimationFrame((now) => resolve(now))))));
    await browser.close();
  }
  line(`First music on screen, cold browser and warm server: ${times.toSorted((a, b) => a - b)[2]?.toFixed(0)} ms (aim: 1,500)`);
}
