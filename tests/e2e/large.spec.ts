import { expect, test } from '@playwright/test';
import { tone, wavBytes } from '../support/recordings';
import { newSession, until, upload, viewOf } from '../support/server';

const COUNT = 300;

test('300 tracks: arrive, sort in one step, scroll by keys with only the rows in sight drawn', async ({
  page,
}) => {
  test.setTimeout(420_000);
  const id = await newSession('Three hundred');
  const bytes = await wavBytes([tone(330, 0.3)]);
  const words = ['Kick', 'Snare', 'Gtr', 'LV', 'BV', 'Vln', 'Pno', 'Bass DI', 'Tamb', 'Sax'];
  for (let i = 0; i < COUNT; i += 6)
    await Promise.all(
      Array.from({ length: 6 }, (_, k) =>
        upload(id, `${words[(i + k) % words.length]} ${1 + Math.floor((i + k) / words.length)}.wav`, bytes),
      ),
    );
  await until(
    async () => (await viewOf(id)).recordings.every((r) => r.state === 'ready'),
    'all to arrive',
    300_000,
  );
  await page.goto(`/sessions/${id}/sort`);
  await expect(page.getByRole('button', { name: `Apply ${COUNT} of ${COUNT}` })).toBeVisible();
  await page.getByRole('button', { name: 'Rows' }).click();
  await page.getByRole('button', { name: 'Tick every proposal', exact: true }).click();
  await page.getByRole('button', { name: `Apply ${COUNT} of ${COUNT}` }).click();
  await expect(page.getByText('On to Tidy')).toBeVisible({ timeout: 20_000 });
  await expect.poll(async () => (await viewOf(id)).undoLabel).toBe(`Apply house style to ${COUNT}`);
  const grid = page.getByRole('treegrid', { name: 'Tracks' }).getByRole('rowgroup');
  expect(await grid.getByRole('row').count()).toBeLessThan(80);
  await grid.getByRole('row').first().click();
  for (let i = 0; i < 60; i++) await page.keyboard.press('ArrowDown');
  await expect(grid.locator('.is-current')).toBeInViewport();
  await page.keyboard.press('Shift+Digit3');
  await expect.poll(() => grid.getByRole('row').count()).toBeLessThanOrEqual(40);
});
