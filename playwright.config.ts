import { availableParallelism } from 'node:os';
import { defineConfig } from '@playwright/test';

/** What is played and heard as time goes by: beside another browser on two cores, samples and frames would be lost. */
const HEARD = /listen\.spec\.ts$/;

export default defineConfig({
  testDir: './tests/browser',
  outputDir: './.test-data/browser',
  // A test waits more than it works; more than two at a time would wait for the server alone.
  workers: Math.min(2, availableParallelism()),
  projects: [
    { name: 'screens', testIgnore: HEARD },
    { name: 'heard', testMatch: HEARD, workers: 1, dependencies: ['screens'] },
  ],
  // A loaded machine may drop a frame or a click; what needed a second try is told by name, what fails twice fails.
  retries: process.env['CI'] ? 1 : 0,
  timeout: 90_000,
  expect: { timeout: 20_000 },
  reporter: process.env['PLAYWRIGHT_JSON_OUTPUT_NAME'] ? [['list'], ['json']] : 'list',
  use: {
    baseURL: process.env['REED_ADDRESS'] ?? 'http://127.0.0.1:3210',
    viewport: { width: 1280, height: 800 },
    // What a test sends by itself comes from the program's own pages, like what their scripts send.
    extraHTTPHeaders: { origin: process.env['REED_ADDRESS'] ?? 'http://127.0.0.1:3210' },
    launchOptions: {
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
    },
  },
});
