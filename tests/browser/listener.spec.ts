import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { auditFaults, expect, test } from './page';

declare global {
  interface Window {
    /** Plays the take into what listens, and gives the moment of the page's clock at which it is over. */
    playTake: () => Promise<number>;
    clockNow: () => number;
  }
}

/**
 * A player before the microphone. The browser asks for the device and opens it as it would; what it hears goes through
 * the program's own worklet ahead of time, since a busy machine drops samples of what is played as time goes by.
 */
async function withTakePlayed(page: Page, file: string): Promise<void> {
  await page.route('**/take.wav', (route) => route.fulfill({ path: file, contentType: 'audio/wav' }));
  await page.addInitScript(() => {
    const RealNode = window.AudioWorkletNode;
    window.AudioWorkletNode = function (context: AudioContext) {
      const [node, channel] = [context.createGain(), new MessageChannel()];
      Object.assign(node, { port: channel.port1 });
      window.clockNow = () => context.currentTime;
      window.playTake = async () => {
        const begun = context.currentTime;
        const sound = await context.decodeAudioData(await (await fetch('/take.wav')).arrayBuffer());
        const apart = new OfflineAudioContext(1, sound.length, context.sampleRate);
        await apart.audioWorklet.addModule('/hearing-worklet.js');
        const hearing = new RealNode(apart, 'hearing', { numberOfOutputs: 1, channelCount: 1 });
        hearing.port.onmessage = ({ data }: MessageEvent<{ at: number; samples: Float32Array<ArrayBuffer> }>) =>
          channel.port2.postMessage({ at: begun + data.at, samples: data.samples }, [data.samples.buffer]);
        const source = new AudioBufferSourceNode(apart, { buffer: sound });
        source.connect(hearing).connect(apart.destination);
        source.start();
        await apart.startRendering();
        return begun + sound.duration;
      };
      return node;
    } as unknown as typeof AudioWorkletNode;
  });
}

test('the microphone hears a take, and says which notes were wrong, missed and late', async ({ baseURL }, info) => {
  const file = join(process.cwd(), '.test-data', 'take.wav');
  mkdirSync(join(process.cwd(), '.test-data'), { recursive: true });
  const made = execFileSync(process.execPath, ['--import', 'tsx', 'tests/takeFile.ts', file], { encoding: 'utf8' });
  const { work, notes } = JSON.parse(made) as { readonly work: object; readonly notes: number };
  const { launchOptions = {} } = info.project.use;
  const browser = await chromium.launch({
    ...launchOptions,
    args: [
      ...(launchOptions.args ?? []),
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      '--autoplay-policy=no-user-gesture-required',
    ],
  });
  try {
    const context = await browser.newContext({
      ...(baseURL && { baseURL, extraHTTPHeaders: { origin: baseURL } }),
      viewport: { width: 1280, height: 800 },
    });
    const page = await context.newPage();
    await withTakePlayed(page, file);
    const faults: string[] = [];
    page.on('pageerror', ({ message }) => faults.push(message));
    page.on('console', (message) => message.type() === 'error' && faults.push(message.text()));
    const added = await context.request.post('/api/tunes/new', { data: work });
    const { id } = (await added.json()) as { readonly id: string };
    await page.goto(`/tunes/${id}/stand?level=intermediate`);
    await expect(page.locator('main svg .note').first()).toBeVisible({ timeout: 30_000 });
    const panel = page.getByRole('region', { name: 'Listening' });
    await panel.getByRole('button', { name: 'Listen to me' }).click();
    await panel.getByRole('combobox', { name: 'How you play' }).click();
    await page.getByRole('option', { name: 'in your own time' }).click();
    await panel.getByRole('button', { name: 'I begin' }).click();
    const over = await page.evaluate(() => window.playTake());
    await page.waitForFunction((end) => window.clockNow() > end, over, { timeout: 60_000 });
    await panel.getByRole('button', { name: 'I have played it' }).click();
    const heard = panel.getByRole('status', { name: 'What was heard' });
    await expect(heard).toContainText(`${notes - 3} of ${notes} notes right.`);
    await expect(heard.getByRole('listitem')).toHaveText([
      /^bar 1: C instead of B$/,
      /^bar 2: A missed$/,
      /^bar 3: B late$/,
    ]);
    await expect(page.locator('[data-marks] span')).toHaveText(['C', '○', '→']);
    expect(await auditFaults(page)).toEqual([]);
    await heard.getByRole('button', { name: /^bar 2$/ }).click();
    await expect(page.getByRole('combobox', { name: 'What is practised' })).toHaveText('bar 2');
    await page.screenshot({ path: join(process.cwd(), '.test-data', 'heard.png') });
    await panel.getByRole('button', { name: 'Stop listening' }).click();
    await expect(panel.getByRole('button', { name: 'Listen to me' })).toBeVisible();
    expect(faults).toEqual([]);
  } finally {
    await browser.close();
  }
});
