import { chromium } from '@playwright/test';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
for (const [name, url] of JSON.parse(process.argv[2])) {
  await p.goto('http://127.0.0.1:3290' + url, { waitUntil: 'networkidle' });
  await p.waitForTimeout(2500);
  await p.screenshot({ path: `/tmp/${name}.png` });
}
await b.close();
