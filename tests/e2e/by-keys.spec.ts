import { expect, test, type Page } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { allFindings, seriousFindings } from '../support/accessible';
import { focusedOn, readerFindings, tabTo } from '../support/reader-tree';
import { writeSongFiles } from '../support/song-files';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-e2e-keys-'));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A state of the page: for a screen reader, by axe-core in all it knows, and its colours in the other theme. */
async function look(page: Page, name: string): Promise<void> {
  // What moves or fades is looked at when it stands.
  await page.waitForTimeout(350);
  expect.soft(await readerFindings(page), `${name}: to a screen reader`).toEqual([]);
  expect.soft(await allFindings(page), `${name}, light`).toEqual([]);
  const html = page.locator('html');
  await html.evaluate((e) => e.setAttribute('data-bs-theme', 'dark'));
  await page.waitForTimeout(250);
  expect.soft(await seriousFindings(page, 'colours'), `${name}, dark`).toEqual([]);
  await html.evaluate((e) => e.setAttribute('data-bs-theme', 'light'));
}

/** Opens something by a key, looks at it, closes it by Escape: the keyboard is where it was. */
async function opened(page: Page, name: string, open: () => Promise<void>): Promise<void> {
  await open();
  await expect(page.locator('.modal.show, .dropdown-menu.show').first()).toBeVisible();
  await look(page, name);
  await page.keyboard.press('Escape');
  await expect(page.locator('.modal.show, .dropdown-menu.show')).toHaveCount(0);
}

test('the whole walk by keys alone, told to a screen reader, every state without a finding', async ({
  page,
}) => {
  test.setTimeout(900_000);
  const files = await writeSongFiles(join(folder, 'song'));
  const press = (key: string): Promise<void> => page.keyboard.press(key);

  await test.step('a new session', async () => {
    await page.goto('/');
    await look(page, 'sessions');
    await tabTo(page, /button “New session”/);
    await press('Enter');
    await expect(page.getByRole('dialog')).toBeVisible();
    await expect.poll(() => focusedOn(page)).toBe('textbox “Song”');
    await look(page, 'new session');
    await press('Enter');
    await expect(page.getByText('Give the song a name')).toBeVisible();
    await look(page, 'a name is missing');
    await page.keyboard.type('Lanterns by Keys');
    await press('Enter');
    await expect(page).toHaveURL(/\/intake$/);
    await look(page, 'empty intake');
  });

  await test.step('intake', async () => {
    // Where the machine is busy the page may not hear a key yet: then it is pressed again, as one would.
    await expect(async () => {
      const chooser = page.waitForEvent('filechooser', { timeout: 10_000 });
      await press('Control+Enter');
      await (await chooser).setFiles(files);
    }).toPass({ timeout: 60_000 });
    await expect(page.getByText('9 recordings', { exact: true })).toBeVisible({ timeout: 90_000 });
    await expect(page.getByRole('button', { name: /On to Sort/ })).toBeVisible({ timeout: 90_000 });
    await look(page, 'intake');
    await press('ArrowDown');
    await look(page, 'a finding');
    await tabTo(page, /searchbox “Search recordings”/);
    await page.keyboard.type('oh_');
    await expect(page.getByText('2 of 9')).toBeVisible();
    await look(page, 'found recordings');
    await press('Control+a');
    await page.keyboard.type('oboe');
    await expect(page.getByText('Nothing is called so.')).toBeVisible();
    await tabTo(page, /button “Clear the search”/);
    await press('Enter');
    await expect(page.getByRole('row', { name: /OH_L/ })).toBeVisible();
    await opened(page, 'questions', () => press('q'));
    await tabTo(page, /button “Add more”/);
    await opened(page, 'add more', () => press('Enter'));
    await expect.poll(() => focusedOn(page)).toMatch(/button “Add more”/);
  });

  await test.step('sort', async () => {
    await press('Control+Enter');
    await expect(page).toHaveURL(/\/sort$/);
    await expect(page.getByRole('button', { name: /Apply/ })).toBeVisible();
    await look(page, 'sort, proposed');
    await press('Control+Enter');
    await expect(page.getByRole('row', { name: /Drums/ }).first()).toBeVisible();
    await press('n');
    const details = page.getByRole('complementary', { name: 'Details' });
    await expect(details).toContainText('rec0011 t2.wav');
    await look(page, 'a doubtful track');
    const choices = await page.getByRole('group', { name: 'Family' }).getByRole('button').allTextContents();
    await press(String(choices.findIndex((t) => t.includes('guitars')) + 1));
    await press('Enter');
    await expect.poll(() => focusedOn(page)).toBe('textbox “Name”');
    await look(page, 'a name being typed');
    await press('Control+a');
    await page.keyboard.type('Tenor Banjo');
    await press('Enter');
    await expect(page.getByRole('row', { name: /Tenor Banjo/ })).toBeVisible();
    await press('Control+Enter');
    await tabTo(page, /treegrid “Tracks”|row “/);
    await press('Home');
    await press('ArrowDown');
    await look(page, 'in the sheet');
    await opened(page, 'menu of a row', () => press('Shift+F10'));
    await press('Control+a');
    await look(page, 'several rows');
    await press('Escape');
    await tabTo(page, /button “Rows/);
    await opened(page, 'menu of rows', () => press('Enter'));
    await tabTo(page, /button “Columns/);
    await opened(page, 'columns', () => press('Enter'));
    await press('b');
    await look(page, 'routing');
    await press('b');
    await look(page, 'takes');
    await press('b');
    await opened(page, 'keys', () => press('?'));
    await opened(page, 'history', () => press('k'));
    await tabTo(page, /button “Output level/);
    await opened(page, 'output', () => press('Enter'));
  });

  await test.step('tidy', async () => {
    await press('Alt+3');
    await expect(page).toHaveURL(/\/tidy/);
    await expect(page.getByText(/would go/).first()).toBeVisible({ timeout: 60_000 });
    await look(page, 'tidy, proposed');
    await press('ArrowDown');
    await look(page, 'a track at tidy');
    await press('n');
    await look(page, 'a piece at tidy');
    await press('b');
    await expect(page.getByText(/at the level wanted|would be turned/)).toBeVisible({ timeout: 90_000 });
    await look(page, 'matching');
    await press('b');
    await look(page, 'levels');
    await press('Control+Enter');
    await expect(page.getByText('Hear one against another')).toBeVisible({ timeout: 90_000 });
    await look(page, 'levels, worked out');
  });

  await test.step('tempo', async () => {
    await press('Alt+4');
    await expect(page).toHaveURL(/\/tempo/);
    await expect(page.getByText('104.00 steady')).toBeVisible({ timeout: 90_000 });
    await look(page, 'tempo, found');
    await press('Control+Enter');
    await expect(page.getByText('accepted', { exact: true })).toBeVisible();
    await look(page, 'tempo, accepted');
    await press('h');
    await expect(page).toHaveURL(/half=conform/);
    await look(page, 'conform');
  });

  await test.step('sections', async () => {
    await press('Alt+5');
    await expect(page).toHaveURL(/\/sections/);
    await press('Control+Enter');
    await expect(page.getByText('found, not used yet')).toBeVisible({ timeout: 60_000 });
    await look(page, 'sections, found');
    await press('Control+Enter');
    await press('ArrowDown');
    await look(page, 'a section');
  });

  await test.step('handover', async () => {
    await press('Alt+6');
    await expect(page.getByText('02_Drums_SnareTop.wav')).toBeVisible();
    await look(page, 'handover');
    await press('Control+Enter');
    await expect(page.getByText('as the session is now')).toBeVisible({ timeout: 90_000 });
    await look(page, 'a package');
    await tabTo(page, /button “.*[Cc]over note/);
    await opened(page, 'cover note', () => press('Enter'));
    await expect.poll(() => focusedOn(page)).toMatch(/button “.*[Cc]over note/);
    await tabTo(page, /link “Download ZIP/);
    const download = page.waitForEvent('download');
    await press('Enter');
    expect((await download).suggestedFilename()).toMatch(/_v1\.zip$/);
  });

  await test.step('beside the stages', async () => {
    await page.goto('/settings');
    await look(page, 'settings');
    await page.goto('/styles');
    await look(page, 'house styles');
    await tabTo(page, /button “More of/);
    await opened(page, 'menu of a style', () => press('Enter'));
    await tabTo(page, /link “Plain house/);
    await press('Enter');
    await expect(page).toHaveURL(/\/styles\//);
    for (let part = 1; part <= 9; part++) {
      await press(String(part));
      await look(page, `part ${part} of a house style`);
    }
    await page.goto('/');
    await tabTo(page, /button “More for Lanterns by Keys/);
    await opened(page, 'menu of a session', () => press('Enter'));
    await tabTo(page, /button “Space of/);
    await opened(page, 'space of a session', () => press('Enter'));
  });
});
