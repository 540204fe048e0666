import { expect, test } from '@playwright/test';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload } from '../support/server';

test('the list: open, delete with its consequences said, a dead address', async ({ page }) => {
  const name = `To go ${Date.now()}`;
  const id = await newSession(name);
  await upload(id, 'a.wav', await wavBytes([tone(300, 0.5)]));
  await settled(id);
  await page.goto('/');
  await page.getByRole('button', { name: `Delete ${name}` }).click();
  await expect(page.getByRole('dialog')).toContainText('1 recording');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('link', { name }).click();
  await expect(page).toHaveURL(/intake/);
  await page.getByRole('link', { name: 'Fernmoss: all sessions' }).click();
  await page.getByRole('button', { name: `Delete ${name}` }).click();
  await page.getByRole('button', { name: 'Delete session and recordings' }).click();
  await expect(page.getByRole('link', { name })).toBeHidden();
  await page.goto(`/sessions/${id}/sort`);
  await expect(page.getByText('This is not here any more.')).toBeVisible();
});

test('an empty session says in every stage what to do next', async ({ page }) => {
  const id = await newSession('Empty');
  for (const [stage, name, words] of [
    ['intake', 'Intake', 'Drop the recordings'],
    ['sort', 'Sort', 'No tracks yet'],
    ['tempo', 'Tempo', 'No recordings yet'],
    ['handover', 'Handover', 'Nothing to hand over yet'],
  ] as const) {
    await page.goto(`/sessions/${id}/${stage}`);
    await expect(page.getByText(words).first()).toBeVisible();
    await expect(page).toHaveTitle(`Empty · ${name} · Fernmoss`);
  }
});

test('the dark theme is kept over a reload; the key list opens under ?; the click without a map says why', async ({
  page,
}) => {
  const id = await newSession('Dusk');
  await page.goto(`/sessions/${id}/intake`);
  await page.getByRole('button', { name: 'Dark theme' }).click();
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
  await page.keyboard.press('c');
  await expect(page.getByText('There is no tempo map yet.')).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('Next doubt');
});
