// `npm run screenshots`: the main views at 1280 × 800 from the demo data, into docs/screenshots.
import { mkdirSync, rmSync } from 'node:fs';
import { ensureBuild } from './setup/build.mjs';
import { ensureMariaDbPackages, startMariaDb } from './setup/mariadb.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './setup/packages.mjs';
import { freePort } from './setup/ports.mjs';
import { endProcess, inProject, run, say, stopWith } from './setup/project.mjs';
import { prepareCommand, startWeb, webAnswers } from './setup/web.mjs';

ensureNpmPackages();
ensureMariaDbPackages();
ensureDebianPackages({ chromium: ['chromium'] });
ensureBuild();

const folder = inProject('.test-data', 'screenshots');
rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
const database = await startMariaDb(folder, 3520);
run(process.execPath, prepareCommand, { env: { DATABASE_URL: database.url } });
const port = await freePort(3290);
const web = startWeb({ port, databaseUrl: database.url });
try {
  if (!(await webAnswers(web, port))) stopWith('The web process did not answer.');
  await takeAll(`http://127.0.0.1:${port}`);
} finally {
  await endProcess(web.pid);
  await database.stop();
}

async function takeAll(address) {
  const { chromium } = await import('@playwright/test');
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const take = async (name) => {
    await page.waitForFunction(() => !document.querySelector('[aria-busy="true"]'));
    await page.evaluate(() => document.fonts.ready);
    await page.waitForTimeout(400);
    await page.screenshot({ path: inProject('docs', 'screenshots', `${name}.png`) });
    say(`docs/screenshots/${name}.png`);
  };
  await page.goto(`${address}/`);
  await page.waitForFunction(() => [...document.images].every((image) => image.complete));
  await take('shelf');
  await page.getByRole('button', { name: 'Bring in a tune' }).click();
  await page.getByLabel('Paste it here, or drop a file').fill([
    'X:1', 'T:Ropewalk', 'C:The Net Loft', 'M:2/4', 'L:1/8', 'Q:1/4=88', 'K:Dm',
    '"Dm"A>G FA | "Gm"d2 {e}dB | "A7"A>G FE | [FA]4 |', '"Dm"A>G FA | "Gm"d2 fd | "A7"^cA GE | "Dm"D4 |]',
  ].join('\n'));
  await page.getByText('D minor').waitFor();
  await take('bring-in');
  await page.goto(`${address}/tunes/kelp-on-the-slipway/tune`);
  await page.locator('main [aria-busy="true"]').first().waitFor({ state: 'detached', timeout: 60_000 });
  await take('tune');
  await page.goto(`${address}/tunes/lamps-on-the-mole/levels`);
  await page.getByRole('button', { name: /^Beginner, bar 6:/ }).click();
  await take('levels');
  await page.goto(`${address}/tunes/the-gannets-turn/levels`);
  await page.getByRole('button', { name: 'Concert' }).click();
  await page.getByRole('button', { name: /^Intermediate, bar 2:/ }).click();
  await take('levels-concert');
  await browser.close();
}
