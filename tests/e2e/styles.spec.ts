import { expect, test } from '@playwright/test';
import { writeFileSync } from 'node:fs';
import type { StyleListItem } from '@/contracts';
import { tracksInOrder } from '@/core/session';
import { tone, wavBytes } from '../support/recordings';
import { edit, call, newSession, settled, upload, viewOf } from '../support/server';
import { seriousFindings } from '../support/accessible';

async function filled(name: string, files: readonly string[]): Promise<string> {
  const id = await newSession(name);
  for (const [i, file] of files.entries()) await upload(id, file, await wavBytes([tone(90 + 20 * i, 0.5)]));
  await settled(id);
  return id;
}
/** A style of one's own that the session follows: what a test changes concerns no other. */
async function ownStyle(sessionId: string, name: string): Promise<string> {
  const { value } = await call<{ id: string }>('/api/styles', 'POST', { text: `name: ${name}\n` });
  await edit(sessionId, 'Follow', [{ kind: 'style.use', style: { id: value.id, version: 1 } }]);
  return value.id;
}
const families = async (id: string): Promise<Record<string, string>> =>
  Object.fromEntries(tracksInOrder((await viewOf(id)).session).map((t) => [t.receivedName, t.family]));

test('a rule is built, counted and tried while it is built, kept as the next version, followed and applied: by keys', async ({
  page,
}) => {
  const id = await filled('Nine Slipways', ['Frog low.wav', 'Frog high.wav', 'Kick.wav', 'Bass.wav']);
  await ownStyle(id, 'Slipway house');
  await page.goto(`/sessions/${id}/sort`);
  await page.getByRole('link', { name: 'Slipway house v1' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible();
  await page.keyboard.press('3');
  await page.getByRole('button', { name: 'New rule' }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Name, said in the evidence').fill('Frogs');
  await page.keyboard.press('Enter');
  await page.getByLabel('Frogs, when: words').fill('frog, toad');
  await page.keyboard.press('Tab');
  await page.getByLabel('Family', { exact: true }).selectOption('percussion');
  await page.getByRole('textbox', { name: 'Part', exact: true }).fill('guiro');
  await page.keyboard.press('Tab');
  await expect(page.getByTitle('Meets 2 tracks of Nine Slipways')).toHaveText('2');
  const bench = page.getByRole('complementary', { name: 'Try it' });
  await expect(bench.getByRole('status')).toHaveText('2 of 4 change');
  await expect(bench.getByRole('listitem').filter({ hasText: 'Frog low.wav' })).toContainText('Frogs');

  // A nested condition, and a value that does not fit, told where it stands.
  await page.getByLabel('Frogs, when: what is asked').selectOption('all');
  await page.getByRole('button', { name: 'Another test' }).click();
  await page.getByLabel('Frogs, when, 2: what is asked').selectOption('nameMatches');
  await page.getByLabel('Frogs, when, 2: pattern').fill('(?=low)');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'not a pattern' })).toBeVisible();
  await page.getByLabel('Frogs, when, 2: pattern').fill('low$');
  await page.keyboard.press('Enter');
  await expect(page.getByTitle('Meets 1 tracks of Nine Slipways')).toBeVisible();
  // A reload keeps the draft; undo goes step by step.
  await page.reload();
  await expect(page.getByText('1 unsaved change')).toBeVisible();
  await expect(bench.getByRole('status')).toHaveText('1 of 4 change');

  await page.keyboard.press('Control+Enter');
  const dialog = page.getByRole('dialog', { name: 'Save Slipway house as v2' });
  await expect(
    dialog.getByRole('cell', { name: /“Frogs”: when name has “frog” or “toad” and name matches/ }),
  ).toBeVisible();
  await dialog.getByLabel('Why, in a few words').fill('the frog of the quay');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible();
  await page.getByRole('link', { name: 'Back to Nine Slipways' }).click();
  await expect(page.getByRole('link', { name: 'Slipway house v2' })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect
    .poll(() => families(id))
    .toMatchObject({ 'Frog low.wav': 'percussion', 'Frog high.wav': 'unknown' });
});

test('a newcomer: one track set right becomes a word of the house, in its next version', async ({ page }) => {
  const id = await filled('Low Lanterns', ['Ahoko 1.wav', 'Ahoko 2.wav', 'Kick.wav']);
  const styleId = await ownStyle(id, 'Lantern house');
  await page.goto(`/sessions/${id}/sort`);
  const panel = page.getByRole('complementary', { name: 'Details' });
  await page.getByRole('row', { name: /Ahoko 1/ }).click();
  await panel.getByRole('combobox', { name: 'Family' }).selectOption('percussion');
  await panel.getByRole('button', { name: /ahoko is percussion/ }).click();
  await page.keyboard.press('Escape');
  await panel.getByRole('button', { name: 'Save in the house style' }).click();
  await expect(page.getByRole('link', { name: 'Lantern house v2' })).toBeVisible();
  await expect(panel.getByText('Remembered for this delivery')).toBeHidden();
  await page.keyboard.press('Control+Enter');
  await expect
    .poll(() => families(id))
    .toMatchObject({ 'Ahoko 1.wav': 'percussion', 'Ahoko 2.wav': 'percussion' });
  expect((await call<{ style: { words: unknown[] } }>(`/api/styles/${styleId}`)).value.style.words).toEqual([
    { text: 'ahoko', family: 'percussion', part: null },
  ]);
});

test('what was set by hand is kept; applied over it, it is said first what goes', async ({ page }) => {
  const id = await filled('Ebb', ['Kick.wav', 'Snare.wav', 'Bass.wav']);
  await page.goto(`/sessions/${id}/sort`);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('gridcell', { name: '→ Bass bus' })).toBeVisible();
  await page.getByRole('row', { name: /Snare/ }).click();
  await page.keyboard.press('Alt+ArrowUp');
  await page.keyboard.press('Enter');
  await page
    .getByRole('textbox', { name: /Name of|Name/ })
    .first()
    .fill('Boom');
  await page.keyboard.press('Enter');
  const names = async (): Promise<string[]> => tracksInOrder((await viewOf(id)).session).map((t) => t.name);
  await expect.poll(names).toEqual(['Boom', 'Kick', 'Bass']);
  await expect(page.getByRole('button', { name: /On to Tidy/ })).toBeVisible();
  await page.getByRole('button', { name: 'Rows' }).click();
  await page.getByRole('button', { name: 'Propose also over what was set by hand' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'would be overwritten' })).toContainText(
    'Snare (place, name)',
  );
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+Enter');
  await expect.poll(names).toEqual(['Kick', 'Snare', 'Bass']);
});

test('files come in and go out; what does not fit is told with its place; two are compared; versions lead back', async ({
  page,
}, info) => {
  await page.goto('/styles');
  const bad = info.outputPath('bad.yaml');
  writeFileSync(bad, 'name: Odd\nleadInBars: 0\n');
  await page.getByLabel('House style file').setInputFiles(bad);
  await expect(page.locator('.alert')).toContainText('line 2, column 13');
  const good = info.outputPath('good.yaml');
  writeFileSync(good, 'name: Quay house\njunk: [quay]\nboat: red\n');
  await page.getByLabel('House style file').setInputFiles(good);
  await expect(page.getByLabel('Name of the house style')).toHaveValue('Quay house');
  await page.getByRole('button', { name: 'Words' }).click();
  await page.getByRole('textbox', { name: 'A word or phrase' }).fill('Bilge pump');
  await page.keyboard.press('Enter');
  await page.getByLabel('Family of bilge pump').selectOption('effects');
  await page.getByRole('button', { name: /Colours/ }).click();
  await page.getByRole('button', { name: 'Spread the hues evenly' }).click();
  await page.getByRole('button', { name: /Save as v2/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Save as v2' }).click();
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible();
  await page.getByRole('button', { name: /Versions/ }).click();
  await page.getByRole('button', { name: 'What it changed' }).click();
  await expect(page.getByRole('cell', { name: '“bilge pump”: effects, new', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Take over' }).click();
  await expect(page.getByText(/unsaved changes/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible();
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export as a file' }).click();
  expect((await waiting).suggestedFilename()).toBe('Quay-house_v2.yaml');
  await page.getByRole('link', { name: 'House styles' }).click();
  await page.getByRole('button', { name: 'Compare two' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('From').selectOption({ label: 'Quay house v1' });
  await dialog.getByLabel('To').selectOption({ label: 'Quay house v2' });
  await expect(dialog.getByRole('cell', { name: '“bilge pump”: effects, new', exact: true })).toBeVisible();
});

test('two change one style: the second is told, and can keep its own apart', async ({ page }) => {
  const {
    value: { id },
  } = await call<{ id: string }>('/api/styles', 'POST', { text: 'name: Shared house\n' });
  // On a slow machine the page is seen long before its code is there: what is given to it then is not lost.
  let isHeld = true;
  await page.route('**/_next/static/**/*.js', async (route) => {
    while (isHeld) await new Promise((resolve) => setTimeout(resolve, 50));
    await route.continue();
  });
  await page.goto(`/styles/${id}?part=words`, { waitUntil: 'commit' });
  await page.getByRole('textbox', { name: 'A word or phrase' }).fill('oar');
  await page.keyboard.press('Enter');
  isHeld = false;
  await expect(page.getByRole('textbox', { name: 'Word 1' })).toHaveValue('oar');
  const { style } = (await call<{ style: object }>(`/api/styles/${id}`)).value;
  await call(`/api/styles/${id}`, 'POST', { base: 1, style: { ...style, leadInBars: 3 } });
  await page.getByRole('button', { name: /Save as v2/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Save as v2' }).click();
  await expect(page.locator('.alert')).toContainText('version 2 is there now');
  await page.getByRole('button', { name: 'Save mine as a new style' }).click();
  await expect(page.getByLabel('Name of the house style')).toHaveValue('Shared house, mine');
  const made = (await call<StyleListItem[]>('/api/styles')).value.find(
    (s) => s.name === 'Shared house, mine',
  );
  expect(
    (await call<{ style: { words: unknown[] } }>(`/api/styles/${made?.id}`)).value.style.words,
  ).toHaveLength(1);
});

for (const theme of ['light', 'dark'] as const)
  test(`nothing serious for those who hear or see the page otherwise: Sort and house styles, ${theme}`, async ({
    page,
  }) => {
    // The dark theme is the same page in other colours.
    const only = theme === 'dark' ? 'colours' : 'all';
    await page.addInitScript((t) => window.localStorage.setItem('fernmoss-theme', t), theme);
    const id = await filled(`Shallows ${theme}`, [
      'Kick.wav',
      'Snare.wav',
      'rec0011.wav',
      'Vox.wav',
      'Vox 2.wav',
    ]);
    const styleId = await ownStyle(id, `Shallows house ${theme}`);
    await page.goto(`/sessions/${id}/sort`);
    await page.getByRole('row', { name: /rec0011/ }).click();
    expect(await seriousFindings(page, only)).toEqual([]);
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('gridcell', { name: '→ Drums bus' })).toBeVisible();
    expect(await seriousFindings(page, only)).toEqual([]);
    await page.getByRole('row', { name: /Kick/ }).click();
    await page.getByLabel('Send to').selectOption('new');
    await expect(page.getByRole('group', { name: 'Sends' }).getByLabel('Level, dB')).toBeVisible();
    expect(await seriousFindings(page, only)).toEqual([]);
    await page.getByRole('button', { name: 'Routing', exact: true }).click();
    await page.getByRole('button', { name: 'Drums bus' }).click();
    await expect(page.getByRole('table', { name: 'Groups' })).toBeVisible();
    expect(await seriousFindings(page, only)).toEqual([]);
    await page.getByRole('button', { name: 'Tracks', exact: true }).click();
    await page.keyboard.press('r');
    await expect(page.getByRole('dialog')).toBeVisible();
    await page.waitForTimeout(400);
    expect(await seriousFindings(page, only)).toEqual([]);
    await page.goto('/styles');
    expect(await seriousFindings(page, only)).toEqual([]);
    for (const part of [
      'words',
      'names',
      'rules',
      'colours',
      'order',
      'folders',
      'routing',
      'lenses',
      'delivery',
      'history',
    ]) {
      await page.goto(`/styles/${styleId}?session=${id}&part=${part}`);
      if (part === 'rules') await page.getByRole('button', { name: 'New rule' }).click();
      if (part === 'folders') await page.getByRole('button', { name: /^Drums [a-z]/ }).click();
      if (part === 'routing')
        for (const name of ['New return', 'New send', 'New group'])
          await page.getByRole('button', { name }).click();
      if (part === 'lenses') await page.getByRole('button', { name: /^Drums [a-z]/ }).click();
      await expect(page.getByRole('main')).toBeVisible();
      expect({ part, found: await seriousFindings(page, only) }).toEqual({ part, found: [] });
    }
  });
