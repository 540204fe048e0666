import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { expect, test } from '@playwright/test';
import { mapEdit } from '@/core/tempo';
import { PARTED_BARS, PARTED_MAP, writePartedSong } from '../support/parted-song';
import { edit, newSession, settled, upload, viewOf } from '../support/server';

const names = async (id: string): Promise<(string | number)[][]> =>
  (await viewOf(id)).session.markers.map((m) => [m.name, Math.round(m.seconds * 100) / 100]);

test('sections are found on the bar lines, used as one step, walked through and worked on by keys', async ({
  page,
}) => {
  const files = await writePartedSong(mkdtempSync(join(tmpdir(), 'fernmoss-sections-')));
  const id = await newSession('Harbour lights in parts');
  for (const file of files) await upload(id, basename(file), readFileSync(file));
  await settled(id);
  await edit(id, 'A map', [mapEdit(PARTED_MAP, PARTED_BARS.length * 1.5)]);
  await page.goto(`/sessions/${id}/sections`);
  await expect(page.getByText('No sections yet.')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('5 sections found, not used yet')).toBeVisible({ timeout: 60_000 });
  expect(await names(id)).toEqual([]);
  await page.keyboard.press('Control+Enter');
  await expect.poll(async () => (await names(id)).map(([, at]) => at)).toEqual([0, 6, 18, 30, 42]);
  await expect(page.getByRole('link', { name: /Sections/ })).toContainText('5');
  const table = page.getByRole('region', { name: 'Sections of the song' });
  await expect(table.getByRole('row').nth(3)).toContainText('15');

  // The second one is taken in hand, called otherwise, and begins a bar later.
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('6');
  await expect.poll(async () => (await names(id))[1]).toEqual(['Bridge', 6]);
  await page.keyboard.press('.');
  await expect.poll(async () => (await names(id))[1]).toEqual(['Bridge', 7.5]);
  await page.keyboard.press(']');
  await expect.poll(async () => (await names(id)).map(([, at]) => at)).toEqual([0, 9, 19.5, 31.5, 43.5]);
  await page.getByLabel('Name of the section').fill('Slack water');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await names(id))[1]?.[0]).toBe('Slack water');
  await page.keyboard.press('j');
  await expect.poll(async () => (await names(id)).length).toBe(4);
  // By ear: four bars on from the beginning one is begun.
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('m');
  await expect.poll(async () => (await names(id)).map(([, at]) => at)).toEqual([0, 6, 19.5, 31.5, 43.5]);
  for (let n = 0; n < 7; n++) await page.keyboard.press('Control+z');
  await expect.poll(() => names(id)).toEqual([]);
});

test('without recordings, and without a map, it says what is the matter', async ({ page }) => {
  const empty = await newSession('Nothing in parts');
  await page.goto(`/sessions/${empty}/sections`);
  await expect(page.getByText('No recordings yet.')).toBeVisible();
  const [file] = await writePartedSong(mkdtempSync(join(tmpdir(), 'fernmoss-sections-')));
  const id = await newSession('A kick in parts');
  await upload(id, 'Kick.wav', readFileSync(file as string));
  await settled(id);
  await page.goto(`/sessions/${id}/sections`);
  await expect(page.getByText(/No map yet/)).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/found, not used yet|No sections were found/)).toBeVisible({ timeout: 60_000 });
});
