import { expect, test } from '@playwright/test';
import { tracksInOrder, type Track } from '@/core/session';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload, viewOf } from '../support/server';

async function filled(name: string, files: readonly string[]): Promise<string> {
  const id = await newSession(name);
  for (const [i, file] of files.entries()) await upload(id, file, await wavBytes([tone(90 + 20 * i, 0.5)]));
  await settled(id);
  return id;
}
const tracks = async (id: string): Promise<Track[]> => tracksInOrder((await viewOf(id)).session);
const named = async (id: string, name: string): Promise<Track> =>
  (await tracks(id)).find((t) => t.name === name) as Track;

test('sums, returns and sends: made, routed, never round, and what goes astray is said', async ({ page }) => {
  const id = await filled('Sluices', ['Kick.wav', 'Snare.wav', 'Bass.wav', 'Vox.wav']);
  await page.goto(`/sessions/${id}/sort`);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('gridcell', { name: '→ Drums bus' })).toBeVisible();

  // A send to a return that is made for it, quieter, with a pan of its own.
  await page.getByRole('row', { name: /Snare/ }).click();
  const panel = page.getByRole('complementary', { name: 'Details' });
  await panel.getByLabel('Send to').selectOption('new');
  const sends = panel.getByRole('group', { name: 'Sends' });
  await sends.getByLabel('Level, dB').fill('-7');
  await sends.getByLabel('Level, dB').press('Enter');
  await sends.getByLabel('Pan').fill('-40');
  await sends.getByLabel('Pan').press('Enter');
  await sends.getByLabel('Taken').selectOption('before it');
  await expect
    .poll(async () => (await named(id, 'Snare')).sends)
    .toEqual([{ busId: 'return-own-1', gainDb: -7, pan: -0.4, before: true }]);

  // Past the sum of its folder: said in the head, in the list, and by the way to it.
  await page.getByRole('row', { name: /Bass\b.*electric/ }).click();
  await panel.getByLabel('Routed to').selectOption({ label: 'nowhere, only what is sent' });
  await page.getByRole('button', { name: 'Routing 1' }).click();
  await expect(page).toHaveURL(/view=routing/);
  await expect(page.getByRole('listitem').filter({ hasText: 'does not reach the mix bus' })).toContainText(
    'Bass',
  );
  const rows = page.getByRole('table', { name: 'Sums and returns' }).getByRole('row');
  await expect(rows.filter({ hasText: 'Bass bus' })).toContainText('nothing comes to it');
  await expect(rows.filter({ hasText: 'Return 1' })).toContainText('1 track');

  // The return into the drums; the drums cannot send to it then, nor go into it.
  await page.getByRole('button', { name: 'Return 1 return' }).click();
  const bus = page.getByRole('complementary', { name: 'Bus' });
  await bus.getByLabel('Goes to').selectOption({ label: 'Drums bus' });
  await bus.getByLabel('Name').fill('Room');
  await bus.getByLabel('Name').press('Enter');
  await expect(page.getByRole('button', { name: 'Room return' })).toBeVisible();
  await page.getByRole('button', { name: 'Drums bus' }).click();
  await expect(bus.getByLabel('Send to').locator('option', { hasText: 'Room' })).toHaveCount(0);
  await expect(bus.getByLabel('Goes to').locator('option', { hasText: 'Drums' })).toHaveCount(0);

  // Reloaded it is the same view, with the same bus in hand; taken away, nothing points at it.
  await page.reload();
  await expect(bus.getByLabel('Name')).toHaveValue('Drums');
  await rows.getByRole('button', { name: 'Room return' }).click();
  await bus.getByRole('button', { name: 'Remove this return' }).click();
  await expect.poll(async () => (await named(id, 'Snare')).sends).toEqual([]);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await named(id, 'Snare')).sends).toHaveLength(1);

  // Handover says it too.
  await page.goto(`/sessions/${id}/handover`);
  await expect(page.getByText('Not routed to the mix bus')).toBeVisible();
});

test('a group moves together in proportion, one of it alone for a moment, and has a level of its own', async ({
  page,
}) => {
  const id = await filled('Flotilla', [
    'Kick.wav',
    'Snare.wav',
    'Hat.wav',
    'Bass.wav',
    'Piano L.wav',
    'Piano R.wav',
  ]);
  await page.goto(`/sessions/${id}/sort`);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('gridcell', { name: '→ Drums bus' })).toBeVisible();
  const levels = async (): Promise<string> =>
    (await tracks(id))
      .slice(0, 3)
      .map((t) => `${t.name} ${t.gainDb}`)
      .join(', ');
  const panel = page.getByRole('complementary', { name: 'Details' });
  const level = async (db: string): Promise<void> => {
    await panel.getByLabel('Track level, dB').fill(db);
    await panel.getByLabel('Track level, dB').press('Enter');
  };
  await page.getByRole('row', { name: /Snare/ }).click();
  await expect(panel).toContainText('change together with Kit, 3 tracks');
  await page.getByRole('heading', { name: 'Sort' }).click();
  await page.keyboard.press('a');
  await expect(panel.getByLabel('This one alone')).toBeChecked();
  await level('-6');
  await expect.poll(levels).toBe('Kick 0, Snare -6, Hat 0');
  // What a track is, is its own: a reference arrives muted, the rest of the kit does not.
  await page.getByRole('row', { name: /Hat/ }).click();
  await panel.getByLabel('Family').and(page.locator('select')).selectOption('reference');
  await expect
    .poll(async () => (await tracks(id)).filter((t) => t.muted).map((t) => t.receivedName))
    .toEqual(['Hat.wav']);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await tracks(id)).filter((t) => t.muted)).toEqual([]);
  // Another track: together again.
  await page.getByRole('row', { name: /Kick/ }).click();
  await expect(panel.getByLabel('This one alone')).not.toBeChecked();
  await level('3');
  await expect.poll(levels).toBe('Kick 3, Snare -3, Hat 3');
  await page.getByRole('heading', { name: 'Sort' }).click();
  await page.keyboard.press('m');
  await expect
    .poll(async () => (await tracks(id)).filter((t) => t.muted).map((t) => t.name))
    .toEqual(['Kick', 'Snare', 'Hat']);
  await page.keyboard.press('t');
  await expect(page.getByRole('complementary', { name: 'Selected tracks' })).toContainText('3 tracks');

  await page.keyboard.press('b');
  const groups = page.getByRole('table', { name: 'Groups' });
  await groups.getByLabel('Level of Kit, dB').fill('-2');
  await groups.getByLabel('Level of Kit, dB').press('Enter');
  await expect
    .poll(async () => (await viewOf(id)).session.groups)
    .toMatchObject([{ id: 'group-kit', gainDb: -2, byHand: true }]);
  expect(await levels()).toBe('Kick 3, Snare -3, Hat 3');
  await groups.getByRole('button', { name: 'Take apart' }).click();
  await expect(page.getByText('None. Select tracks in the sheet')).toBeVisible();

  // A pair joined by hand and split again.
  // Past the takes.
  await page.keyboard.press('b');
  await page.keyboard.press('b');
  await page.getByRole('row', { name: /Piano L/ }).click();
  await page.getByRole('row', { name: /Piano R/ }).click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Join as one stereo track' }).click();
  await expect(page.getByRole('row', { name: /Piano L/ })).toBeHidden();
  await page.getByRole('row', { name: /Piano/ }).click();
  await panel.getByRole('button', { name: 'Split into left and right' }).click();
  await expect(page.getByRole('row', { name: /Piano R/ })).toBeVisible();
  expect((await named(id, 'Piano R')).pan).toBe(1);
});
