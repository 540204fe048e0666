import { expect, test } from '@playwright/test';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload } from '../support/server';

test('the list: open, delete and put back, delete for good with its consequences said, a dead address', async ({
  page,
}) => {
  const name = `To go ${Date.now()}`;
  await newSession('One that stays');
  const id = await newSession(name);
  await upload(id, 'a.wav', await wavBytes([tone(300, 0.5)]));
  await settled(id);
  await page.goto('/');
  await page.getByRole('button', { name: `Delete ${name}` }).click();
  await expect(page.getByRole('link', { name })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('link', { name }).click();
  await expect(page).toHaveURL(/intake/);
  await page.getByRole('link', { name: 'Fernmoss: all sessions' }).click();
  await page.getByRole('searchbox', { name: 'Search sessions' }).fill(name);
  await page.getByRole('button', { name: `More for ${name}` }).click();
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await expect(page.getByRole('link', { name: `${name} (copy)` })).toBeVisible();
  await page.getByRole('button', { name: `Delete ${name}`, exact: true }).click();
  await expect(page.getByRole('link', { name, exact: true })).toBeHidden();

  // Its address says where it is, and brings it back.
  await page.goto(`/sessions/${id}/sort`);
  await expect(page.getByText('lies in the waste basket')).toBeVisible();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('heading', { name: 'Sort' })).toBeVisible();

  await page.goto('/');
  await page.getByRole('searchbox', { name: 'Search sessions' }).fill(name);
  await page.getByRole('checkbox', { name: 'Select all sessions shown' }).check();
  await page
    .getByRole('group', { name: 'Selected sessions' })
    .getByRole('button', { name: 'Delete' })
    .click();
  await page.getByRole('button', { name: /^Waste basket/ }).click();
  await page.getByRole('checkbox', { name: 'Select all sessions shown' }).check();
  await page.getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByRole('dialog')).toContainText('2 recordings');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('button', { name: 'Delete for good' }).click();
  await page.getByRole('button', { name: 'Delete sessions and recordings' }).click();
  await expect(page.getByText(`No session here has “${name}”`)).toBeVisible();
  await page.goto(`/sessions/${id}/sort`);
  await expect(page.getByText('This is not here any more.')).toBeVisible();
});

test('an empty session says in every stage what to do next', async ({ page }) => {
  const id = await newSession('Empty');
  for (const [stage, name, words] of [
    ['intake', 'Intake', 'Drop the recordings'],
    ['sort', 'Sort', 'No tracks yet'],
    ['tempo', 'Tempo', 'No recordings yet'],
    ['sections', 'Sections', 'No recordings yet'],
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

test('settings hold over a reload; what one has in hand in a session does too', async ({ page }) => {
  const id = await newSession('Slack');
  for (const name of ['Kick.wav', 'Bass.wav']) await upload(id, name, await wavBytes([tone(90, 0.3)]));
  await settled(id);
  await page.goto('/');
  await page.getByRole('link', { name: 'Settings' }).click();
  await page.getByLabel('Size of type').selectOption('large (125 %)');
  await page.getByLabel('Theme').selectOption('dark');
  await page.getByLabel('Keys of a single letter').uncheck();
  await page.reload();
  await expect(page.locator('html')).toHaveCSS('font-size', '20px');
  await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
  await expect(page.getByLabel('Keys of a single letter')).not.toBeChecked();
  await page.getByLabel('Theme').selectOption('as the computer has it');
  await page.getByLabel('Keys of a single letter').check();

  await page.goto(`/sessions/${id}/sort`);
  await page.getByRole('row', { name: /Bass/ }).click();
  await page.keyboard.press('/');
  await page.keyboard.type('bass');
  await expect(page.getByRole('row', { name: /Kick/ })).toBeHidden();
  await page.reload();
  await expect(page.getByRole('row', { name: /Bass/ })).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByRole('row', { name: /Kick/ })).toBeHidden();
  await expect(page.getByPlaceholder(/name, family/)).toHaveValue('bass');
  // Another session begins with nothing in hand.
  await page.goto(`/sessions/${await newSession('Other')}/sort`);
  await expect(page.getByText('No tracks yet')).toBeVisible();
  await expect(page.getByPlaceholder(/name, family/)).toHaveValue('');
});
