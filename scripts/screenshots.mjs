// `npm run screenshots`: the main views at 1280 × 800 from the demo data, into docs/screenshots.
import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuild } from './setup/build.mjs';
import { ensureMariaDbPackages, startMariaDb } from './setup/mariadb.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './setup/packages.mjs';
import { freePort } from './setup/ports.mjs';
import { ensureSoundBank } from './setup/sounds.mjs';
import { endProcess, inProject, run, say, stopWith } from './setup/project.mjs';
import { prepareCommand, startWeb, webAnswers } from './setup/web.mjs';

ensureNpmPackages();
ensureMariaDbPackages();
ensureDebianPackages({ chromium: ['chromium'], 'poppler-utils': ['pdftoppm'] });
ensureSoundBank({ optional: false });
ensureBuild();

const folder = inProject('.test-data', 'screenshots');
rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
const database = await startMariaDb(folder);
run(process.execPath, prepareCommand, { env: { DATABASE_URL: database.setupUrl } });
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
  await page.goto(`${address}/tunes/kelp-on-the-slipway/tune`);
  await page.locator('main [aria-busy="true"]').first().waitFor({ state: 'detached', timeout: 60_000 });
  await take('tune');
  await page.waitForTimeout(5_000);
  await page.getByRole('button', { name: 'Write', exact: true }).click();
  await page.locator('[data-caret]').waitFor();
  await page.getByRole('button', { name: 'Chords over the bars' }).click();
  await page.getByRole('button', { name: 'keys: a keyboard' }).click();
  await page.locator('[data-writing-row="4"]').click({ position: { x: 330, y: 62 } });
  for (let k = 0; k < 3; k += 1) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('o');
  await page.keyboard.press('ArrowRight');
  await take('writing');
  await page.getByRole('button', { name: 'keys: a keyboard' }).click();
  await page.getByRole('button', { name: 'Chords over the bars' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('contentinfo').getByText('saved', { exact: true }).waitFor();
  await page.goto(`${address}/tunes/lamps-on-the-mole/stand?level=intermediate`);
  await page.locator('main svg .note').first().waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Larger notes' }).click();
  await page.getByRole('list', { name: 'Chunks' }).getByRole('button', { name: /^2 / }).click();
  await page.waitForTimeout(1_500);
  await take('stand');
  await page.goto(`${address}/tunes/lamps-on-the-mole/levels`);
  await page.locator('main [aria-busy="true"]').first().waitFor({ state: 'detached', timeout: 60_000 });
  await page.getByRole('button', { name: 'Advanced', exact: true }).first().click();
  await page.getByRole('button', { name: /^Advanced, bar 6:/ }).click();
  await page.getByRole('region', { name: 'Versions of bar 6' }).waitFor();
  await page
    .getByRole('region', { name: 'Versions of bar 6' })
    .evaluate((element) => element.scrollIntoView({ block: 'start' }));
  await take('levels');
  await page.goto(`${address}/tunes/the-other-side-of-the-sluice/improvise`);
  await page.getByRole('button', { name: 'All three' }).click();
  await page.locator('[data-chord="advanced-0"]').waitFor({ timeout: 60_000 });
  await page.waitForTimeout(1_500);
  await take('road-map');
  const sheet = await page.request.get(`${address}/api/tunes/lantern-for-the-last-boat/files/intermediate.pools.pdf`);
  writeFileSync(join(folder, 'sheet.pdf'), await sheet.body());
  run('pdftoppm', [
    '-r',
    '96',
    '-f',
    '1',
    '-singlefile',
    '-png',
    join(folder, 'sheet.pdf'),
    inProject('docs', 'screenshots', 'pool-sheet'),
  ]);
  say('docs/screenshots/pool-sheet.png');
  await page.goto(`${address}/tunes/lamps-on-the-mole/together`);
  await page.getByRole('group', { name: 'Score' }).locator('svg .note').first().waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: /^Juno, bar 3: / }).click();
  await page.getByRole('heading', { name: 'Versions of bar 3' }).waitFor();
  await page.waitForTimeout(1_500);
  await take('together');
  await page.goto(`${address}/tunes/lamps-on-the-mole/keys`);
  await page.locator('[data-cell="0/6"]').focus();
  await take('keys');
  await page.goto(`${address}/tunes/kelp-on-the-slipway/levels`);
  await page.getByRole('button', { name: 'Advanced', exact: true }).first().click();
  await page.getByRole('combobox', { name: 'Advanced: finger marks' }).click();
  await page.getByRole('option', { name: 'where something changes' }).click();
  await page.getByRole('button', { name: /^Advanced, bar 1:/ }).click();
  await page.getByRole('region', { name: 'Versions of bar 1' }).waitFor();
  await page
    .getByRole('region', { name: 'Fingers of the bar' })
    .evaluate((element) => element.scrollIntoView({ block: 'start' }));
  await take('fingers');
  await page.goto(`${address}/tunes/round-the-harbour/drills`);
  await page.locator('main svg .note').first().waitFor({ timeout: 60_000 });
  await page.waitForTimeout(4_000);
  await take('drill');
  await page.goto(`${address}/pupils`);
  await take('pupils');
  await page.goto(`${address}/pupils/demo-juno`);
  await page
    .getByRole('region', { name: 'Week' })
    .getByRole('button', { name: /new.*Tin Bucket/ })
    .first()
    .click();
  await take('week');
  await page.goto(`${address}/pupils/demo-sefa`);
  await page.getByRole('tab', { name: 'Progress' }).click();
  await page.locator('canvas').nth(1).waitFor();
  await page.waitForTimeout(1_500);
  await take('progress');
  await page.goto(`${address}/pupils/demo-pell/lesson`);
  await take('lesson');
  await page.goto(`${address}/pupils/demo-juno`);
  await page.locator('html[data-ready]').waitFor({ state: 'attached' });
  await page.getByRole('button', { name: 'To take home' }).click();
  await page.getByLabel('A line for the cover').fill('Sing it first, then play it.');
  await page.getByRole('region', { name: 'In this pack' }).getByText('The week’s plan', { exact: true }).waitFor();
  await page.waitForTimeout(1_000);
  await take('take-home');
  await page.goto(`${address}/tunes/the-other-side-of-the-sluice/solo`);
  await page.getByRole('group', { name: 'Level' }).getByRole('button', { name: 'Advanced' }).click();
  await page.locator('main svg .note').first().waitFor({ timeout: 60_000 });
  await page.waitForTimeout(3_000);
  await take('solo');
  await page.setViewportSize({ width: 390, height: 844 });
  const made = await page.request.post(`${address}/api/pupils/demo-juno/link`, {
    data: {},
    headers: { origin: address },
  });
  await page.goto(`${address}${new URL((await made.json()).address).pathname}`);
  await page.waitForTimeout(2_000);
  await take('own-week');
  const { work } = await (await page.request.get(`${address}/api/tunes/lamps-on-the-mole`)).json();
  await browser.close();
  await takeHeard(chromium, address, work);
}

/** What the listener says of a take: a player of the sound bank with three mistakes stands before the microphone. */
async function takeHeard(chromium, address, work) {
  const [given, wav] = [join(folder, 'work.json'), join(folder, 'take.wav')];
  writeFileSync(given, JSON.stringify(work));
  const arguments_ = ['--import', 'tsx', 'tests/takeFile.ts', wav, given, 'beginner'];
  const { seconds } = JSON.parse(execFileSync(process.execPath, arguments_, { encoding: 'utf8', cwd: inProject() }));
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-audio-capture=${wav}%noloop`,
    ],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${address}/tunes/lamps-on-the-mole/stand?level=beginner`);
  await page.locator('main svg .note').first().waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Listen to me' }).click();
  await page.getByRole('combobox', { name: 'How you play' }).click();
  await page.getByRole('option', { name: 'in your own time' }).click();
  await page.getByRole('button', { name: 'I begin' }).click();
  await page.waitForTimeout(seconds * 1_000);
  await page.getByRole('button', { name: 'I have played it' }).click();
  await page.getByRole('status', { name: 'What was heard' }).waitFor();
  await page.locator('aside').evaluate((element) => element.scrollTo(0, element.scrollHeight));
  await page.waitForTimeout(800);
  await page.screenshot({ path: inProject('docs', 'screenshots', 'heard.png') });
  say('docs/screenshots/heard.png');
  await browser.close();
}
