import { expect, test } from '@playwright/test';
import { readdirSync, readFileSync } from 'node:fs';
import { tracksInOrder } from '@/core/session';
import { knocks, tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload, viewOf } from '../support/server';

test('one correction teaches a word: offered with what else it changes, remembered by keys, taken back, forgotten', async ({
  page,
}) => {
  const id = await newSession('Low Water');
  for (const [i, name] of ['Zixomar close.wav', 'zixomar room.wav', 'Kick.wav', 'Bass.wav'].entries())
    await upload(id, name, await wavBytes([i < 3 ? knocks([0.3, 0.9, 1.4], 2, 90 + 40 * i) : tone(70, 2)]));
  await settled(id);
  await page.goto(`/sessions/${id}/sort`);
  // Before anything is applied: a part by hand keeps the family that is proposed; without any family there is nothing to say yet.
  const details = page.getByRole('complementary', { name: 'Details' });
  await page.getByRole('row', { name: /Kick/ }).click();
  await expect(details.getByLabel('Part')).toHaveValue('kick');
  await details.getByLabel('Part').fill('tom');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => tracksInOrder((await viewOf(id)).session).find((t) => t.receivedName === 'Kick.wav'))
    .toMatchObject({ family: 'drums', part: 'tom' });
  await page.getByRole('row', { name: /Zixomar close/ }).click();
  await expect(details.getByLabel('Part')).toBeDisabled();
  await page.keyboard.press('Control+z');
  await expect
    .poll(
      async () =>
        tracksInOrder((await viewOf(id)).session).find((t) => t.receivedName === 'Kick.wav')?.family,
    )
    .toBe('unknown');
  await expect(page.getByRole('button', { name: 'Redo' })).toBeEnabled();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('gridcell', { name: '→ Drums bus' })).toBeVisible();
  const familyOf = async (name: string) =>
    tracksInOrder((await viewOf(id)).session).find((t) => t.receivedName === name)?.family;
  expect(await familyOf('Zixomar close.wav')).toBe('unknown');

  await page.getByRole('row', { name: /Zixomar close/ }).click();
  const panel = page.getByRole('complementary', { name: 'Details' });
  await panel.getByRole('combobox', { name: 'Family' }).selectOption('percussion');
  await panel.getByLabel('Part').fill('Jaw bone');
  await page.keyboard.press('Enter');
  const offer = panel.getByRole('region', { name: 'Remember it' });
  await expect(offer).toContainText('Also changes zixomar room.wav');
  await offer.getByRole('button', { name: /zixomar is percussion · jaw bone/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('gridcell', { name: '→ Percussion bus' })).toBeVisible();
  await expect.poll(() => familyOf('zixomar room.wav')).toBe('percussion');
  await expect(offer).toBeHidden();
  // What comes later is read so, too.
  await upload(id, 'ZIXOMAR fill.wav', await wavBytes([knocks([0.5, 1.1], 2, 200)]));
  await settled(id);
  await page.getByRole('row', { name: /ZIXOMAR fill/ }).click();
  await expect(panel.getByText('percussion · jaw bone').first()).toBeVisible();

  // With a word remembered the others of a name are still offered.
  for (const name of ['Querlo 1.wav', 'Querlo 2.wav']) await upload(id, name, await wavBytes([tone(300, 1)]));
  await settled(id);
  await page.getByRole('row', { name: /Querlo 1/ }).click();
  await panel.getByRole('combobox', { name: 'Family' }).selectOption('guitars');
  await expect(panel.getByRole('button', { name: /The same for Querlo 2/ })).toBeVisible();

  // Listed, and forgotten again; undo brings it back.
  await page.keyboard.press('Escape');
  await panel.getByRole('button', { name: 'Forget zixomar' }).click();
  await expect.poll(async () => (await viewOf(id)).session.words).toEqual([]);
  await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await viewOf(id)).session.words)
    .toEqual([{ text: 'zixomar', family: 'percussion', part: 'jaw-bone' }]);
});

test('names of many at once: seen before and after, by keys, refused patterns told, one undo', async ({
  page,
}) => {
  const id = await newSession('Lanterns');
  for (const [i, name] of ['Gtr 1 take.wav', 'Gtr 2 take.wav', 'Bass take.wav'].entries())
    await upload(id, name, await wavBytes([tone(80 + 30 * i, 1)]));
  await settled(id);
  await page.goto(`/sessions/${id}/sort`);
  await expect(page.getByRole('row', { name: /Gtr 1/ })).toBeVisible();
  await page.keyboard.press('r');
  const dialog = page.getByRole('dialog', { name: 'Names of 3 tracks' });
  await dialog.getByLabel('Pattern').check();
  await dialog.getByLabel('Find').fill('(');
  await expect(dialog.getByRole('status')).toHaveText('This pattern cannot be read: missing closing ): `(`');
  await expect(dialog.getByRole('button', { name: /^Rename/ })).toBeDisabled();
  await dialog.getByLabel('Find').fill('^guitar (\\d)$');
  await dialog.getByLabel('Replace by').fill('Gt$1 lead');
  await expect(dialog.getByRole('row', { name: 'Guitar 2 Gt2 lead' })).toBeVisible();
  await expect(dialog.getByRole('row', { name: 'Bass the same' })).toBeVisible();
  await page.keyboard.press('Enter');
  const names = async () =>
    tracksInOrder((await viewOf(id)).session)
      .map((t) => t.name)
      .sort();
  await expect.poll(names).toEqual(['Bass take', 'Gt1 lead', 'Gt2 lead']);
  await page.keyboard.press('Control+Enter');
  await expect.poll(names).toEqual(['Bass', 'Gt1 lead', 'Gt2 lead']);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(names).toEqual(['Bass take', 'Gtr 1 take', 'Gtr 2 take']);
});

test('names are read beside the page: what is pressed before is done after, and the page itself has no lexicon', async ({
  page,
}) => {
  const chunks = readdirSync('.next/static/chunks').filter((f) => f.endsWith('.js'));
  const holding = chunks.filter((f) => readFileSync(`.next/static/chunks/${f}`, 'utf8').includes('octoban'));
  expect([chunks.length > 5, holding]).toEqual([true, []]);
  const id = await newSession('Slow reader');
  let isHeld = true;
  await page.route('**/api/names', async (route) => {
    while (isHeld) await new Promise((resolve) => setTimeout(resolve, 50));
    await route.continue();
  });
  // A page that is opened has its names with it; what arrives later is asked for.
  await page.goto(`/sessions/${id}/sort`);
  for (const name of ['Kick.wav', 'Bass.wav']) await upload(id, name, await wavBytes([tone(90, 0.5)]));
  await settled(id);
  const main = page.getByRole('button', { name: /Reading the names/ });
  await expect(main).toBeDisabled();
  await page.keyboard.press('Control+Enter');
  expect(tracksInOrder((await viewOf(id)).session).map((t) => t.family)).toEqual(['unknown', 'unknown']);
  isHeld = false;
  await expect
    .poll(async () =>
      tracksInOrder((await viewOf(id)).session)
        .map((t) => t.family)
        .sort(),
    )
    .toEqual(['bass', 'drums']);
});
