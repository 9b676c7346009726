import { auditFaults, expect, saved, test } from './page';

const newPupil = (name: string) => ({
  name,
  playing: [{ id: 'a', instrument: 'clarinet-bb', level: 'beginner' }],
  practice: { monday: 20, tuesday: 20, wednesday: 20, thursday: 20, friday: 20, saturday: 20, sunday: 20 },
  off: [],
  school: 'mastered',
  work: [],
  pins: [],
  lessons: [],
});

test('a pupil from a first name to a printed week: added, set to practise, given a tune, planned', async ({ page }) => {
  await page.goto('/pupils');
  await page.getByRole('button', { name: 'New pupil' }).click();
  const sheet = page.getByRole('dialog', { name: 'New pupil' });
  await sheet.getByRole('textbox', { name: 'First name' }).fill('Quill');
  await sheet.getByRole('combobox', { name: 'Instrument' }).selectOption('trumpet-bb');
  await sheet.getByRole('button', { name: 'Add the pupil' }).click();
  await page.waitForURL(/\/pupils\/[\w-]+$/);
  await page.getByRole('tab', { name: 'About' }).click();
  for (const day of ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']) {
    await page.getByRole('textbox', { name: `Minutes on ${day}` }).fill('20');
    await page.keyboard.press('Enter');
  }
  expect(await auditFaults(page)).toEqual([]);
  await page.getByRole('tab', { name: 'Work' }).click();
  await page.getByRole('button', { name: 'Add work' }).click();
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill('Tin Bucket');
  await page.getByRole('button', { name: 'Tin Bucket Twelve', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Tin Bucket Twelve' })).toBeVisible();
  await page.getByRole('tab', { name: 'Week' }).click();
  const item = page
    .getByRole('region', { name: 'Week' })
    .getByRole('button', { name: /new.*Tin Bucket Twelve/ })
    .first();
  await item.click();
  await expect(page.getByRole('complementary', { name: 'Item' })).toContainText('new today');
  await saved(page);
  const id = page.url().split('/').at(-1) ?? '';
  const week = await page.request.get(`/api/pupils/${id}/files/practice.pdf?paper=a5&weeks=1`);
  expect([week.status(), (await week.body()).subarray(0, 5).toString()]).toEqual([200, '%PDF-']);
  const calendar = await page.request.get(`/api/pupils/${id}/files/practice.ics`);
  expect(await calendar.text()).toContain('SUMMARY:Quill: practise 20 minutes');
  await page.getByRole('link', { name: 'On the stand' }).click();
  await expect(page.getByText(/^Logged for Quill/)).toBeVisible();
  await page.locator('main svg .note').first().waitFor({ timeout: 60_000 });
  await page.keyboard.press(' ');
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Log it now' }).click();
  await expect(page.getByText('Entry saved.')).toBeVisible();
  const log = await (await page.request.get(`/api/pupils/${id}/files/log.csv`)).text();
  expect(log.split('\r\n')[1]).toMatch(/^\d{4}-\d\d-\d\d,[\w-]+,bars-[\d-]+,0,\d+,2,0,stand,/);
});

test('what was practised without a network waits in the browser and goes up once', async ({ page, context }) => {
  const made = await page.request.post('/api/pupils', {
    data: {
      ...newPupil('Sorrel'),
      work: [
        {
          id: 'w1',
          playing: 'a',
          state: 'going',
          kind: 'rounds',
          title: 'Rounds',
          order: 'C F Bb Eb Ab Db Gb B E A D G'
            .split(' ')
            .map((name) => ({ step: name.charAt(0), alter: name.length > 1 ? -1 : 0 })),
        },
      ],
    },
  });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/pupils/${id}`);
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Log practice' }).click();
  const sheet = page.getByRole('dialog', { name: 'Log practice' });
  await sheet.getByRole('button', { name: 'Rounds' }).click();
  await sheet.getByRole('button', { name: '15 min' }).click();
  await sheet.getByRole('button', { name: 'Well', exact: true }).click();
  await expect(page.getByText('it is sent when there is a network', { exact: false }).first()).toBeVisible({
    timeout: 60_000,
  });
  await context.setOffline(false);
  const entries = async () =>
    (await (await page.request.get(`/api/pupils/${id}/files/log.csv`)).text()).split('\r\n').slice(1).filter(Boolean)
      .length;
  await expect.poll(entries, { timeout: 30_000 }).toBe(1);
  await page.reload();
  await page.waitForTimeout(500);
  expect(await entries()).toBe(1);
});

test('lists, week, charts, lesson and rehearsal pass the audit, and work at three widths', async ({ page }) => {
  for (const [width, height] of [
    [1280, 800],
    [820, 1180],
    [390, 844],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const path of [
      '/pupils',
      '/today',
      '/pupils/demo-juno',
      '/pupils/demo-juno/lesson',
      '/groups/demo-1/rehearsal',
    ]) {
      await page.goto(path);
      expect(await auditFaults(page)).toEqual([]);
      // Nothing lies beyond the right edge.
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
    }
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/pupils/demo-sefa');
  for (const tab of ['Work', 'Progress', 'Lessons', 'About']) {
    await page.getByRole('tab', { name: tab }).click();
    if (tab === 'Progress') await page.locator('canvas').first().waitFor();
    expect(await auditFaults(page)).toEqual([]);
  }
});
