import { expect, test, type Page } from '@playwright/test';
import { tracksInOrder, type Track } from '@/core/session';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload, viewOf } from '../support/server';

let id = '';
test.beforeEach(async ({ page }, { title }) => {
  id = await newSession(title);
  for (const [i, file] of ['Kick.wav', 'Snare.wav', 'Bass.wav', 'Vox.wav'].entries())
    await upload(id, file, await wavBytes([tone(90 + 20 * i, 0.5)]));
  await settled(id);
  await page.goto(`/sessions/${id}/sort`);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('gridcell', { name: '→ Drums bus' })).toBeVisible();
});

const named = async (name: RegExp): Promise<Track | undefined> =>
  tracksInOrder((await viewOf(id)).session).find((t) => name.test(t.name));
const row = (page: Page, name: RegExp) => page.getByRole('treegrid').getByRole('row', { name });
const cell = (page: Page, name: RegExp, column: string) => row(page, name).locator(`[data-column=${column}]`);
const heads = (page: Page): Promise<string[]> =>
  page
    .getByRole('columnheader')
    .evaluateAll((all) =>
      all.map((h) => h.querySelector('.fm-head-button')?.textContent.trim() ?? '').filter(Boolean),
    );

test('columns are chosen, moved and widened, and are there after a reload', async ({ page }) => {
  await page.setViewportSize({ width: 1500, height: 800 });
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  const panel = page.getByRole('group', { name: 'Columns' });
  for (const name of ['Level', 'Pan', 'Bus']) await panel.getByLabel(name, { exact: true }).check();
  await panel.getByRole('button', { name: 'Peak further left' }).click();
  await panel.getByRole('button', { name: 'Peak further left' }).click();
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  const order = ['Name · as received', 'Family · part', 'Bus', 'Level dB', 'Peak', 'Pan'];
  await expect.poll(() => heads(page)).toEqual(order);

  // Wider by the edge, by the mouse and by keys; never narrower than its words.
  const edge = page.getByRole('separator', { name: 'Width of Bus' });
  const box = (await edge.boundingBox()) as { x: number; y: number };
  await page.mouse.move(box.x + 4, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 64, box.y + 10, { steps: 5 });
  await page.mouse.up();
  await expect(edge).toHaveAttribute('aria-valuenow', '164');
  await edge.press('ArrowRight');
  await expect(edge).toHaveAttribute('aria-valuenow', '172');
  await page.getByRole('button', { name: /^Bus: sort/ }).press('Alt+ArrowLeft');
  const moved = ['Name · as received', 'Bus', 'Family · part', 'Level dB', 'Peak', 'Pan'];
  await expect.poll(() => heads(page)).toEqual(moved);

  await page.reload();
  await expect.poll(() => heads(page)).toEqual(moved);
  await expect(edge).toHaveAttribute('aria-valuenow', '172');
  // The picture goes on where the columns end.
  const [wave, picture] = [
    await cell(page, /Kick/, 'wave').boundingBox(),
    await page.locator('.fm-sheet-pictures').boundingBox(),
  ];
  expect(Math.abs((wave?.x ?? 0) - (picture?.x ?? 9))).toBeLessThanOrEqual(1);

  // Where there is no room for all, it is said which are left out.
  await page.setViewportSize({ width: 1024, height: 768 });
  await page.getByRole('button', { name: /^Columns; no room for/ }).click();
  await expect(page.getByText('no room here').first()).toBeVisible();
  await page.getByRole('button', { name: 'As they came' }).click();
  await page.keyboard.press('Escape');
  await page.setViewportSize({ width: 1280, height: 800 });
  await expect.poll(() => heads(page)).toEqual(['Name · as received', 'Family · part', 'Peak']);
});

test('cells are edited in place, of many rows at once, and what cannot be read says why', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1500, height: 800 });
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  for (const name of ['Level', 'Pan', 'Bus', 'Role'])
    await page.getByRole('group', { name: 'Columns' }).getByLabel(name, { exact: true }).check();
  await page.keyboard.press('Escape');

  await cell(page, /Kick/, 'level').dblclick();
  await page.keyboard.type('−3,5 dB');
  await page.keyboard.press('Tab');
  await page.keyboard.type('louder');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'Not a number' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(cell(page, /Kick/, 'level')).toHaveText('−3.5');
  // Recorded together, the drums move together; the bass is its own.
  await expect(cell(page, /Snare/, 'level')).toHaveText('−3.5');
  await expect(cell(page, /Bass.*electric/, 'level')).toHaveText('0.0');

  // Two at once: set by typing, stepped by a key, each from where it is.
  const both = async (of: 'pan' | 'gainDb'): Promise<(number | undefined)[]> => [
    (await named(/Bass/))?.[of],
    (await named(/Vox|Vocal/))?.[of],
  ];
  await cell(page, /Bass.*electric/, 'level').dblclick();
  await page.keyboard.type('2');
  await page.keyboard.press('Enter');
  await row(page, /Vox/).click({ modifiers: ['Control'] });
  await cell(page, /Vox/, 'pan').dblclick();
  await page.keyboard.type('L30');
  await page.keyboard.press('Enter');
  await expect.poll(() => both('pan')).toEqual([-0.3, -0.3]);
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('+');
  await expect.poll(() => both('gainDb')).toEqual([2.5, 0.5]);
  await page.keyboard.press('Escape');

  await cell(page, /Bass.*electric/, 'kind').dblclick();
  await page.keyboard.type('keys · organ');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await named(/Organ/))?.family).toBe('keys');
  await cell(page, /Organ/, 'bus').dblclick();
  await page.getByLabel('Bus', { exact: true }).selectOption('nowhere, only what is sent');
  await expect(cell(page, /Organ/, 'bus')).toHaveText('nowhere');
});

test('a row has a menu, by mouse and by keys; the grid says where one stands', async ({ page }) => {
  const grid = page.getByRole('treegrid', { name: 'Tracks' });
  await row(page, /Snare/).click({ button: 'right' });
  await expect(page.getByRole('button', { name: /^Mute/ })).toBeVisible();
  await page.getByRole('button', { name: /^Mute/ }).click();
  await expect.poll(async () => (await named(/Snare/))?.muted).toBe(true);

  await grid.focus();
  await page.keyboard.press('Home');
  const at = async (): Promise<string> =>
    grid.evaluate(
      (g) => document.getElementById(g.getAttribute('aria-activedescendant') ?? '')?.textContent ?? '',
    );
  expect(await at()).toContain('Drums');
  await page.keyboard.press('ArrowDown');
  expect(await at()).toContain('Kick');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  expect(await at()).toBe('drums · kick');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  expect(await at()).toContain('−');

  // Walked on with Ctrl, a row is added where one stands.
  await page.keyboard.press('Control+ArrowDown');
  await page.keyboard.press('Control+Space');
  await expect(page.getByRole('complementary', { name: 'Selected tracks' })).toContainText('2 tracks');
  await page.keyboard.press('Shift+F10');
  await expect(page.getByRole('button', { name: 'Remove 2 rows' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(grid).toBeFocused();
});

test('the search finds what is on the screen; where nothing is found, it says so', async ({ page }) => {
  const field = page.getByPlaceholder(/name, family/);
  await field.fill('lead vocal');
  await expect(row(page, /Vox|Vocal/)).toBeVisible();
  await expect(row(page, /Kick/)).toBeHidden();
  await field.fill('theremin');
  await page.getByRole('button', { name: 'Show everything' }).click();
  await expect(row(page, /Kick/)).toBeVisible();
});
