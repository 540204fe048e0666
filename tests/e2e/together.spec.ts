import { expect, test } from '@playwright/test';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload, viewOf } from '../support/server';

test('two windows on one session follow each other; a stale step asks', async ({ page, context }) => {
  const id = await newSession('Two windows');
  for (const name of ['Kick.wav', 'Snare.wav']) await upload(id, name, await wavBytes([tone(200, 0.5)]));
  await settled(id);
  const other = await context.newPage();
  for (const p of [page, other]) {
    await p.goto(`/sessions/${id}/sort`);
    await expect(p.getByRole('button', { name: /Apply 2 of 2/ })).toBeVisible();
  }
  await page.getByRole('button', { name: /Apply 2 of 2/ }).click();
  await expect(other.getByText('On to Tempo')).toBeVisible();

  await page.getByRole('row', { name: /Kick/ }).dblclick();
  await page.keyboard.type('Boom');
  await page.keyboard.press('Enter');
  await expect(other.getByRole('row', { name: /Boom/ })).toBeVisible();

  // A step that left the other window before it heard of the rename: it still counts from the revision before.
  await other.route(
    '**/edits',
    async (route) => {
      const body = route.request().postDataJSON() as { baseRevision: number };
      await route.continue({ postData: JSON.stringify({ ...body, baseRevision: body.baseRevision - 1 }) });
    },
    { times: 1 },
  );
  await other.getByRole('row', { name: /Snare/ }).dblclick();
  await other.keyboard.type('Crack');
  await other.keyboard.press('Enter');
  await expect(
    other.getByText(
      'Changed in another window meanwhile: Rename Boom. Your step “Rename Crack” was not done.',
    ),
  ).toBeVisible();
  await expect(other.getByRole('row', { name: /Snare/ })).toBeVisible();
  await other.getByRole('button', { name: 'Do mine on top' }).click();
  await expect(page.getByRole('row', { name: /Crack/ })).toBeVisible();
  expect(
    Object.values((await viewOf(id)).session.nodes)
      .map((n) => n.name)
      .sort(),
  ).toEqual(['Boom', 'Crack', 'Drums']);
});

test('while the server is away the page says so and goes on by itself', async ({ page }) => {
  const id = await newSession('Away');
  await page.goto(`/sessions/${id}/intake`);
  await page.context().setOffline(true);
  await page.evaluate(() => window.dispatchEvent(new Event('offline')));
  await expect(page.getByText('Fernmoss does not answer')).toBeVisible({ timeout: 20_000 });
  await page.context().setOffline(false);
  await expect(page.getByText('Fernmoss does not answer')).toBeHidden({ timeout: 20_000 });
});
