import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload } from '../support/server';

test('a checkpoint made and gone back to by keys alone; the way back is shown first and can be undone', async ({
  page,
}) => {
  const id = await newSession('Marked');
  for (const name of ['Kick.wav', 'Snare.wav', 'Vox.wav'])
    await upload(id, name, await wavBytes([tone(200, 0.5)]));
  await settled(id);
  await page.goto(`/sessions/${id}/sort`);
  await page.getByRole('button', { name: /Apply 3 of 3/ }).click();
  await expect(page.getByText('On to Tidy')).toBeVisible();

  await page.keyboard.press('k');
  await page.getByRole('textbox', { name: 'Name of the checkpoint' }).focus();
  await page.keyboard.type('Sorted');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option', { name: /Sorted/ }).first()).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('row', { name: /Kick/ }).locator('[data-column=name]').dblclick();
  await page.keyboard.type('Boom');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('row', { name: /Boom/ })).toBeVisible();

  await page.keyboard.press('Escape');
  await page.keyboard.press('k');
  const states = page.getByRole('listbox', { name: 'States to go back to' });
  await expect(states.getByRole('option', { name: /Sorted/ })).toBeVisible();
  await states.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText('Going back to “Sorted”')).toBeVisible();
  await expect(page.getByText('1 name changes: Boom → Kick')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  // What changed is seen behind the dialog a moment before that goes; until then keys are its own.
  await expect(states).toBeHidden();
  await expect(page.getByRole('row', { name: /^(?!.*Boom).*Kick/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /Back to “Sorted”/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('row', { name: /Boom/ })).toBeVisible();

  await page.keyboard.press('k');
  await states.focus();
  await page.keyboard.press('ArrowUp');
  await page.getByRole('option', { name: /As received/ }).click();
  await expect(page.getByText(/folder[s]? go/)).toBeVisible();
  await page.getByRole('button', { name: 'Go back to this' }).click();
  await expect(page.getByRole('button', { name: /Apply 3 of 3/ })).toBeVisible();
});

test('a package is written into an allowed folder, and what takes space is shown and cleaned away', async ({
  page,
}) => {
  const folders = process.env.FERNMOSS_FOLDERS ?? '';
  mkdirSync(join(folders, 'to the mixer'), { recursive: true });
  const id = await newSession('Delivered');
  for (const name of ['Kick.wav', 'Vox.wav']) await upload(id, name, await wavBytes([tone(200, 2)]));
  await settled(id);
  await page.goto(`/sessions/${id}/handover`);
  await expect(page.getByText(/MB, .* free/)).toBeVisible();
  await page.getByRole('button', { name: /Build v1/ }).click();
  await page.getByRole('button', { name: /Write to a folder/ }).click({ timeout: 60_000 });
  await page.getByRole('button', { name: folders }).click();
  await page.getByRole('button', { name: 'to the mixer' }).click();
  await page.getByRole('button', { name: 'Write it here' }).click();
  await expect(page.getByText(/also in .*to the mixer/)).toBeVisible({ timeout: 60_000 });
  expect(existsSync(join(folders, 'to the mixer', 'Delivered_v1', 'bagit.txt'))).toBe(true);

  await page.goto('/');
  await page.getByRole('button', { name: /Space of Delivered/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('checkbox', { name: 'Clean away package v1' }).check();
  await dialog.getByRole('button', { name: /Clean away .*B$/ }).click();
  await expect(dialog.getByText(/Freed/)).toBeVisible();
  await expect(dialog.getByText('Package v1')).toHaveCount(0);
  await page.goto(`/sessions/${id}/handover`);
  await expect(page.getByText('cleaned away')).toBeVisible();
  expect(existsSync(join(folders, 'to the mixer', 'Delivered_v1', 'bagit.txt'))).toBe(true);
});
