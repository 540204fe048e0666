import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { lanesOf, type Track, tracksInOrder } from '@/core/session';
import { seriousFindings } from '../support/accessible';
import { newSession, settled, upload, viewOf } from '../support/server';
import { makeDelivery } from '../support/takes/delivery';

const filled = async (name: string, kind: string, hasMix: boolean): Promise<string> => {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-takes-'));
  await makeDelivery(folder, { kind, seed: 21, naming: 'numbers', hasMix });
  const id = await newSession(name);
  for (const file of readdirSync(folder)) await upload(id, file, readFileSync(join(folder, file)));
  await settled(id);
  return id;
};
const voices = async (id: string): Promise<Track[]> =>
  tracksInOrder((await viewOf(id)).session).filter((t) => /Vox|Vocal/.test(`${t.name} ${t.receivedName}`));

test('takes are found by the rough mix, packed as lanes of one track, another one sounds, unpacked', async ({
  page,
}) => {
  const id = await filled('Three times the same song', 'takes, changed notes', true);
  await page.goto(`/sessions/${id}/sort?view=takes`);
  await page.getByRole('button', { name: 'Look for takes' }).click();
  const offer = page.getByRole('region', { name: /^Takes of Lead Vo/ });
  await expect(offer).toContainText('the rough mix has only Lead Vox 2.wav', { timeout: 60_000 });
  expect(await seriousFindings(page)).toEqual([]);
  await offer.getByRole('button', { name: 'Pack as lanes of one track' }).click();
  await expect(offer).toBeHidden();
  await expect(page.getByText('Nothing is open')).toBeVisible();
  const [packed] = await voices(id);
  expect([(await voices(id)).length, packed?.takeNumber, packed && lanesOf(packed).length]).toEqual([
    1, 2, 3,
  ]);

  // Which sounds is chosen in the panel; one step, undone as one.
  await page.keyboard.press('b');
  await page.getByRole('row', { name: /Lead Vo/ }).click();
  await page.getByRole('radio', { name: /Lead Vox 3.wav/ }).check();
  await expect.poll(async () => (await voices(id))[0]?.recordingId).not.toBe(packed?.recordingId);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await voices(id))[0]?.recordingId).toBe(packed?.recordingId);
  await page.getByRole('button', { name: 'A track for each take again' }).click();
  await expect
    .poll(async () => (await voices(id)).map((t) => t.receivedName).sort())
    .toEqual(['Lead Vox 1.wav', 'Lead Vox 2.wav', 'Lead Vox 3.wav']);
});

test('what nothing tells is asked, once for the group, and the answer stays', async ({ page }) => {
  const id = await filled('Twice at once', 'double, loose', false);
  await page.goto(`/sessions/${id}/sort?view=takes`);
  await page.getByRole('button', { name: 'Look for takes' }).click();
  const question = page.getByRole('region', { name: /^Question about Lead Vo/ });
  await expect(question).toContainText('there is no rough mix', { timeout: 60_000 });
  await expect(page.getByRole('button', { name: /^Pack/ })).toHaveCount(0);
  await question.getByRole('button', { name: 'They sound together' }).click();
  await expect(question).toBeHidden();
  await page.reload();
  await expect(page.getByText('Nothing is open')).toBeVisible();
  expect(await voices(id)).toHaveLength(2);
  await page.getByRole('button', { name: 'Ask again' }).click();
  await expect(question).toBeVisible();
});
