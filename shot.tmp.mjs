import { chromium } from '@playwright/test';
const [out, path, w = '1280', h = '800', act = ''] = process.argv.slice(2);
const b = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic'],
});
const p = await b.newPage({ viewport: { width: +w, height: +h } });
p.on('console', (m) => {
  if (['error', 'warning'].includes(m.type())) console.log('console', m.type(), m.text().slice(0, 300));
});
p.on('pageerror', (e) => console.log('pageerror', String(e).slice(0, 500)));
await p.goto('http://127.0.0.1:3290' + path, { waitUntil: 'networkidle' });
if (act) {
  const fn = new Function('p', 'return (async () => {' + act + '})()');
  await fn(p);
  await p.waitForTimeout(500);
}
await p.screenshot({ path: out });
await b.close();
