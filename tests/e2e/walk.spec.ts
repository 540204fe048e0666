import { expect, test, type Page } from '@playwright/test';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fernmossJson } from '../support/programs';
import { writeSongFiles } from '../support/song-files';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-e2e-'));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

const rowNames = (page: Page): Promise<string[]> =>
  page
    .getByRole('treegrid', { name: 'Tracks' })
    .getByRole('rowgroup')
    .getByRole('row')
    .evaluateAll((rows) =>
      rows
        .sort((a, b) => a.getBoundingClientRect().top - b.getBoundingClientRect().top)
        .map((r) => r.querySelector('.fm-cell-name b')?.textContent ?? ''),
    );

test('from recordings to a verified package', async ({ page }) => {
  const problems: string[] = [];
  page.on('pageerror', (e) => problems.push(e.message));
  page.on('console', (m) => {
    if (m.type() === 'error') problems.push(`${m.text()} ${m.location().url}`);
  });
  const files = await writeSongFiles(join(folder, 'song'));
  const letter = join(folder, 'letter.wav');
  writeFileSync(letter, 'Dear mixer, the bass comes tomorrow.');

  await test.step('a new session', async () => {
    await page.goto('/');
    await page.getByRole('button', { name: 'New session' }).first().click();
    await page.getByRole('button', { name: 'Make session' }).click();
    await expect(page.getByText('Give the song a name')).toBeVisible();
    await page.getByLabel('Song', { exact: true }).fill('Lanterns at Low Water');
    await page.getByLabel('Artist').fill('The Tidewrack Nine');
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(/\/intake$/);
    await expect(page.getByText('Drop the recordings of the song here')).toBeVisible();
  });

  await test.step('intake: recordings arrive, a letter is refused in words', async () => {
    await page.getByTestId('files').setInputFiles([...files, letter]);
    await expect(page.getByText('9 recordings', { exact: true })).toBeVisible({ timeout: 60_000 });
    await expect(
      page.getByText('This is no sound file that can be read here (it begins with “Dear”)'),
    ).toBeVisible();
    await expect(page.getByRole('row', { name: /KICK in_03/ })).toContainText('48');
    await expect(page.getByRole('link', { name: /Intake/ })).toContainText('1 failed');
    await page.getByRole('button', { name: 'Take off the list' }).click();
    await expect(page.getByText('letter.wav')).toBeHidden();
  });

  await test.step('sort: the proposal is applied as one step, certain ones apart from the rest', async () => {
    await page.getByRole('link', { name: /^Sort/ }).click();
    await expect(page.getByText('1 no rule')).toBeVisible();
    await expect(
      page.getByRole('row', { name: /rec0011/ }).getByRole('img', { name: 'no rule matched' }),
    ).toBeVisible();
    // It has a tick box only if it arrived elsewhere than the style would leave it; then that is empty.
    await expect(
      page.getByRole('checkbox', { name: 'Apply the proposal for rec0011 t2.wav', checked: true }),
    ).toHaveCount(0);
    await page.getByRole('checkbox', { name: 'Apply the proposal for OH_R.wav' }).uncheck();
    await page.getByRole('button', { name: /Apply 7 of/ }).click();
    // The two left out stay loose, before the references, in the order they arrived.
    const loose = ['rec0011 t2', 'Overhead R'];
    await expect
      .poll(async () => (await rowNames(page)).filter((n) => !loose.includes(n)))
      .toEqual([
        'Drums',
        'Kick In',
        'Snare Top',
        'Hat',
        'Overhead L',
        'Bass',
        'Double Bass DI',
        'Voices',
        'Lead Vocal',
        'Reference',
        'Rough Mix',
      ]);
    expect((await rowNames(page)).slice(9, 11).sort()).toEqual([...loose].sort());
    await page.getByRole('button', { name: /^Apply house style to 7/ }).click(); // undo, named after its step
    await expect.poll(async () => (await rowNames(page)).includes('Drums')).toBe(false);
    await page.getByRole('button', { name: /^Redo/ }).click();
    await expect.poll(async () => (await rowNames(page)).includes('Drums')).toBe(true);
    await page.getByRole('checkbox', { name: 'Apply the proposal for OH_R.wav' }).check();
    await page.keyboard.press('Control+Enter');
    await expect
      .poll(() => rowNames(page))
      .toEqual([
        'Drums',
        'Kick In',
        'Snare Top',
        'Hat',
        'Overhead L',
        'Overhead R',
        'Bass',
        'Double Bass DI',
        'Voices',
        'Lead Vocal',
        'rec0011 t2',
        'Reference',
        'Rough Mix',
      ]);
  });

  await test.step('sort: N walks to the doubt, a digit settles it, Enter renames', async () => {
    await page.keyboard.press('n');
    await expect(page.getByRole('complementary', { name: 'Details' })).toContainText('rec0011 t2.wav');
    // The ear puts what it may be first: the digit is read where it stands.
    const choices = await page.getByRole('group', { name: 'Family' }).getByRole('button').allTextContents();
    await page.keyboard.press(String(choices.findIndex((t) => t.includes('guitars')) + 1));
    await expect(page.getByText('1 no rule')).toBeHidden();
    await page.keyboard.press('Enter');
    await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Tenor Banjo');
    await page.keyboard.press('Enter');
    await expect.poll(async () => (await rowNames(page)).includes('Tenor Banjo')).toBe(true);
    await page.keyboard.press('Control+Enter');
    await expect
      .poll(() => rowNames(page))
      .toEqual([
        'Drums',
        'Kick In',
        'Snare Top',
        'Hat',
        'Overhead L',
        'Overhead R',
        'Bass',
        'Double Bass DI',
        'Guitars',
        'Tenor Banjo',
        'Voices',
        'Lead Vocal',
        'Reference',
        'Rough Mix',
      ]);
  });

  await test.step('sort: a row is dragged into another folder, moved by keys, recoloured', async () => {
    const from = await page
      .getByRole('row', { name: /Tenor Banjo/ })
      .locator('.fm-cell-icon')
      .boundingBox();
    const to = await page.getByRole('row', { name: /^Unfold|^Fold Bass/ }).boundingBox();
    if (!from || !to) throw new Error('rows are not in sight');
    await page.mouse.move(from.x + 8, from.y + 8);
    await page.mouse.down();
    await page.mouse.move(from.x + 12, from.y + 2);
    await page.mouse.move(to.x + 120, to.y + to.height / 2, { steps: 12 });
    await page.mouse.up();
    await expect
      .poll(async () => {
        const names = await rowNames(page);
        return names.indexOf('Tenor Banjo') - names.indexOf('Bass');
      })
      .toBe(2);
    await page.getByRole('row', { name: /Tenor Banjo/ }).click();
    await page.keyboard.press('Alt+ArrowUp');
    await expect
      .poll(async () => {
        const names = await rowNames(page);
        return names.indexOf('Tenor Banjo') - names.indexOf('Bass');
      })
      .toBe(1);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect
      .poll(async () => {
        const names = await rowNames(page);
        return names.indexOf('Tenor Banjo') - names.indexOf('Guitars');
      })
      .toBe(1);
    await page.getByLabel('Colour', { exact: true }).fill('#aa3377');
    await page.getByLabel('Colour', { exact: true }).blur();
    await expect(page.getByRole('row', { name: /Tenor Banjo/ }).locator('.fm-cell-color')).toHaveCSS(
      'background-color',
      'rgb(170, 51, 119)',
    );
  });

  await test.step('listening: plays, seeks, solo, in every stage', async () => {
    await page.keyboard.press('s');
    await expect(page.getByRole('row', { name: /Tenor Banjo/ })).toContainText('S');
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
    await expect
      .poll(
        async () =>
          Number(
            /(\d+)\.\d{3}/.exec(
              (await page.getByLabel('Position', { exact: true }).textContent()) ?? '',
            )?.[1] ?? 0,
          ),
        { timeout: 20_000 },
      )
      .toBeGreaterThan(0);
    await page.getByRole('link', { name: /^Tempo/ }).click();
    await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Play' })).toBeVisible();
  });

  await test.step('tempo: found, doubled and taken back, accepted', async () => {
    // Looked for by itself once the tracks were sorted.
    await expect(page.getByText('104.00 steady')).toBeVisible({ timeout: 60_000 });
    await page.getByRole('button', { name: /Twice as fast/ }).click();
    await expect(page.getByText('208.00 steady')).toBeVisible();
    // A correction makes it the session's map; one undo brings back what was found.
    await expect(page.getByText('accepted', { exact: true })).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(page.getByText('104.00 steady')).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('accepted', { exact: true })).toBeVisible();
    await page.reload();
    await expect(page.getByText('accepted', { exact: true })).toBeVisible();
    await expect(page.getByText('104.00 steady')).toBeVisible();
    await page.keyboard.press('c');
    await expect(page.getByRole('button', { name: 'Click', exact: true })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
  });

  await test.step('conform: a few bars are heard at another tempo, then the song follows; as played stays', async () => {
    await page.keyboard.press('h');
    await expect(page).toHaveURL(/half=conform/);
    await expect(page.getByText('104 changes least').or(page.getByText(/^changes least/))).toBeVisible();
    await page.getByLabel('Target tempo, BPM').fill('106');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('row', { name: /Drum kit 5 tracks/ })).toContainText('−1.9 %');
    await page
      .getByRole('combobox', { name: 'How Tenor Banjo follows' })
      .selectOption('moved, not stretched');
    await page.getByRole('heading', { name: 'Try a few bars' }).click();
    await page.keyboard.press('b');
    await expect(page.getByText(/Made in/)).toBeVisible({ timeout: 60_000 });
    await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
    await page.keyboard.press('b');
    await expect(page.getByRole('button', { name: 'B As played' })).toBeHidden();
    await page.getByRole('button', { name: 'Back to the song' }).click();
    await expect(page.getByText(/Made in/)).toBeHidden();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('conformed to 106', { exact: true })).toBeVisible({ timeout: 90_000 });
    await page.getByRole('button', { name: 'Conformed to 106' }).click();
    await expect(page.getByRole('link', { name: '106.0 BPM conformed' })).toBeVisible();
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
    await page.keyboard.press('Space');
    await page.getByRole('link', { name: /^Handover/ }).click();
    await expect(page.getByLabel('What the package holds')).toHaveValue('conformed');
    await page.getByRole('link', { name: /^Tempo/ }).click();
    await page.getByRole('button', { name: 'Conform', exact: true }).click();
    await page.getByRole('button', { name: 'Leave it as played' }).click();
    await expect(page.getByRole('link', { name: '104.0 BPM steady' })).toBeVisible();
  });

  await test.step('handover: built, read back, downloaded, verified by the command line', async () => {
    await page.getByRole('link', { name: /^Handover/ }).click();
    await expect(page.getByText('02_Drums_SnareTop.wav')).toBeVisible();
    await page.getByRole('button', { name: /Build v1/ }).click();
    await expect(page.getByText('as the session is now')).toBeVisible({ timeout: 60_000 });
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: /Download ZIP/ }).click(),
    ]);
    expect(download.suggestedFilename()).toBe('The-Tidewrack-Nine_Lanterns-at-Low-Water_v1.zip');
    const zip = join(folder, 'package.zip');
    await download.saveAs(zip);
    expect(fernmossJson<{ pass: boolean }>(['verify', zip]).pass).toBe(true);
  });
  expect(problems).toEqual([]);
});
