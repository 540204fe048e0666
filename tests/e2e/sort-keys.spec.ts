import { expect, test } from '@playwright/test';
import { isFolder, listRows, tracksInOrder } from '@/core/session';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload, viewOf } from '../support/server';

test('the whole stage by keys alone: walk, settle, apply, rename on and on, move, nest, fold, filter, undo', async ({
  page,
}) => {
  const id = await newSession('By keys');
  for (const [i, name] of [
    'Kick.wav',
    'Snare.wav',
    'Bass.wav',
    'Gtr L.wav',
    'Gtr R.wav',
    'rec0011.wav',
    'Vox.wav',
    'Vox b.wav',
  ].entries())
    await upload(id, name, await wavBytes([tone(90 + 20 * i, 0.5)]));
  await settled(id);
  await page.goto(`/sessions/${id}/sort`);
  await expect(page.getByRole('row', { name: /Kick/ })).toBeVisible();
  const press = async (...keys: readonly string[]): Promise<void> => {
    for (const key of keys) await page.keyboard.press(key);
  };
  const tracks = async () => tracksInOrder((await viewOf(id)).session);
  const outline = async (): Promise<string> => {
    const { session } = await viewOf(id);
    return listRows(session)
      .map((r) => `${'·'.repeat(r.depth)}${r.node.name}`)
      .join(' ');
  };

  // Doubts: digits choose, Y accepts what is proposed.
  await press('n');
  await expect(page.getByRole('complementary', { name: 'Details' })).toContainText('.wav');
  for (let left = 3; left > 0; left--) {
    const at = await page
      .getByRole('complementary', { name: 'Details' })
      .locator('.fm-mono')
      .first()
      .textContent();
    await press(at === 'rec0011.wav' ? '1' : 'y');
    await expect
      .poll(async () => (await tracks()).filter((t) => t.byHand.includes('family')).length)
      .toBe(4 - left);
    await press('n');
  }
  await press('Control+Enter');
  await expect(page.getByRole('gridcell', { name: '→ Drums bus' })).toBeVisible();
  await expect(page.getByRole('button', { name: /On to Tidy/ })).toBeVisible();

  // Names: Enter, type, Tab to the next, Escape gives up.
  await press('Escape', 'ArrowDown', 'ArrowDown');
  await expect(page.getByRole('row', { selected: true })).toContainText('Kick');
  await press('Enter');
  await page.keyboard.type('Boom');
  await press('Tab');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Crack');
  await press('Enter');
  await expect.poll(async () => (await tracks()).slice(0, 2).map((t) => t.name)).toEqual(['Boom', 'Crack']);
  await press('Enter');
  await page.keyboard.type('never');
  await press('Escape');
  expect((await tracks()).map((t) => t.name)).not.toContain('never');

  // Order and folders: up and down among neighbours, out of a folder and into one, fold and unfold.
  await press('Alt+ArrowUp');
  await expect.poll(async () => (await tracks()).slice(0, 2).map((t) => t.name)).toEqual(['Crack', 'Boom']);
  await press('Alt+ArrowLeft');
  await expect.poll(outline).toMatch(/^Drums ·Boom Crack Bass/);
  await press('Alt+ArrowRight');
  await expect.poll(outline).toMatch(/^Drums ·Boom ·Crack Bass/);
  await press('ArrowUp', 'ArrowUp', 'ArrowLeft');
  await expect(page.getByRole('row', { name: /Boom/ })).toBeHidden();
  await press('ArrowRight');
  await expect(page.getByRole('row', { name: /Boom/ })).toBeVisible();

  // Rows taller and lower; sorted to look at, which moves nothing.
  const height = async (): Promise<number | undefined> =>
    (await page.getByRole('row', { name: /Boom/ }).boundingBox())?.height;
  for (const [key, px] of [
    ['.', 40],
    ['.', 64],
    ['.', 64],
    [',', 40],
    [',', 28],
  ] as const) {
    await press(key);
    await expect.poll(height).toBe(px);
  }
  const before = await outline();
  const shownRows = page.getByRole('treegrid').getByRole('rowgroup').getByRole('row');
  const shownRow = (n: number) => shownRows.nth(n);
  await page.getByRole('button', { name: /^Name · as received: sort/ }).press('Enter');
  await expect(shownRow(0)).toContainText('Bass');
  await expect(shownRows).toHaveCount(8);
  await page.getByRole('button', { name: /^Name · as received: turn round/ }).press('Enter');
  await expect(shownRow(7)).toContainText('Bass');
  await press('Alt+ArrowUp');
  await page.getByRole('button', { name: /^Name · as received: the order/ }).press('Enter');
  await expect(shownRow(0)).toContainText('Drums');
  expect(await outline()).toBe(before);

  // Only some; several selected, muted, taken out; all of it back.
  await press('/');
  await page.keyboard.type('gtr');
  await press('Enter', 'Control+a', 'm');
  await expect
    .poll(async () => (await tracks()).filter((t) => t.muted).map((t) => t.name))
    .toEqual(['Guitar L', 'Guitar R']);
  await press('Delete');
  await expect.poll(async () => (await tracks()).length).toBe(6);
  for (let n = 0; n < 20 && (await viewOf(id)).undoLabel !== null; n++) {
    const { revision } = await viewOf(id);
    await press('Control+z');
    await expect.poll(async () => (await viewOf(id)).revision).toBeGreaterThan(revision);
  }
  expect((await tracks()).map((t) => t.name).sort()).toEqual([
    'Bass',
    'Gtr L',
    'Gtr R',
    'Kick',
    'Snare',
    'Vox',
    'Vox b',
    'rec0011',
  ]);
  expect(Object.values((await viewOf(id)).session.nodes).some(isFolder)).toBe(false);
});
