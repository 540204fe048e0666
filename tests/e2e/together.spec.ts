import type { Change } from '@/core/session';
import { expect, type Page, type Route, test } from '@playwright/test';
import { tone, wavBytes } from '../support/recordings';
import { edit, killAndWait, newSession, settled, upload, viewOf } from '../support/server';

test('two windows on one session follow each other; what both changed is asked', async ({
  page,
  context,
}) => {
  const id = await newSession('Two windows');
  for (const name of ['Kick.wav', 'Snare.wav']) await upload(id, name, await wavBytes([tone(200, 0.5)]));
  await settled(id);
  const other = await context.newPage();
  for (const p of [page, other]) {
    await p.goto(`/sessions/${id}/sort`);
    await expect(p.getByRole('button', { name: /Apply 2 of 2/ })).toBeVisible();
  }
  await page.getByRole('button', { name: /Apply 2 of 2/ }).click();
  await expect(other.getByText('On to Tidy')).toBeVisible();

  await page.getByRole('row', { name: /Kick/ }).locator('[data-column=name]').dblclick();
  await page.keyboard.type('Boom');
  await page.keyboard.press('Enter');
  await expect(other.getByRole('row', { name: /Boom/ })).toBeVisible();

  // The other window did not hear of the next rename yet, and names another track meanwhile: both are done.
  const behind = async (route: Route): Promise<void> => {
    const body = route.request().postDataJSON() as { baseRevision: number };
    await route.continue({ postData: JSON.stringify({ ...body, baseRevision: body.baseRevision - 1 }) });
  };
  await other.route('**/edits', behind, { times: 1 });
  await other.getByRole('row', { name: /Snare/ }).locator('[data-column=name]').dblclick();
  await other.keyboard.type('Crack');
  await other.keyboard.press('Enter');
  await expect(page.getByRole('row', { name: /Crack/ })).toBeVisible();
  await expect(other.getByRole('row', { name: /Boom/ })).toBeVisible();

  // Both name the same track: who came later is asked, sees both names, and decides.
  const boom = Object.values((await viewOf(id)).session.nodes).find((n) => n.name === 'Boom');
  const rename: Change[] = [{ kind: 'track.change', id: boom?.id ?? '', fields: { name: 'Thud' } }];
  await other.route(
    '**/edits',
    async (route) => {
      await edit(id, 'Rename Thud', rename);
      await route.continue();
    },
    { times: 1 },
  );
  await other.getByRole('row', { name: /Boom/ }).locator('[data-column=name]').dblclick();
  await other.keyboard.type('Knock');
  await other.keyboard.press('Enter');
  const question = other.getByRole('alertdialog', { name: 'Changed by somebody else' });
  await expect(question).toContainText('Before your step “Rename Knock” arrived');
  await expect(question.getByRole('button', { name: 'Theirs: Thud' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await question.getByRole('button', { name: 'Mine: Knock' }).click();
  await question.getByRole('button', { name: 'Apply', exact: true }).click();
  await expect(question).toBeHidden();
  await expect(page.getByRole('row', { name: /Knock/ })).toBeVisible();
  expect(
    Object.values((await viewOf(id)).session.nodes)
      .map((n) => n.name)
      .sort(),
  ).toEqual(['Crack', 'Drums', 'Knock']);
});

test('while the server is away the page says so and goes on by itself', async ({ page }) => {
  const id = await newSession('Away');
  await page.goto(`/sessions/${id}/intake`);
  await page.context().setOffline(true);
  // Told again: the stream that was asked for before may still open.
  await expect(async () => {
    await page.evaluate(() => window.dispatchEvent(new Event('offline')));
    await expect(page.getByText('Fernmoss does not answer')).toBeVisible({ timeout: 3000 });
  }).toPass({ timeout: 20_000 });
  await page.context().setOffline(false);
  await expect(page.getByText('Fernmoss does not answer')).toBeHidden({ timeout: 20_000 });
});

test('the web process is killed while two windows work: every step of both is there, and nothing is said that is not so', async ({
  page,
  context,
}) => {
  const id = await newSession('Killed');
  for (let n = 0; n < 5; n++) await upload(id, `Trk ${n}.wav`, await wavBytes([tone(200 + 30 * n, 0.3)]));
  await settled(id);
  const other = await context.newPage();
  for (const p of [page, other]) {
    await p.goto(`/sessions/${id}/sort`);
    await expect(p.getByRole('row', { name: /Trk 4/ })).toBeVisible();
  }
  const rename = async (p: Page, from: string, to: string): Promise<void> => {
    await p.getByRole('row', { name: from }).first().locator('[data-column=name]').dblclick();
    await p.keyboard.press('Control+A');
    await p.keyboard.type(to);
    await p.keyboard.press('Enter');
  };
  await rename(page, 'Trk 0', 'Zero');
  await rename(other, 'Trk 1', 'One');
  const killed = killAndWait('web.mjs');
  await rename(page, 'Trk 2', 'Two');
  await rename(other, 'Trk 3', 'Three');
  await rename(page, 'Trk 4', 'Four');
  await killed;
  const all = ['Four', 'One', 'Three', 'Two', 'Zero'];
  await expect
    .poll(
      async () =>
        Object.values((await viewOf(id)).session.nodes)
          .map((n) => n.name)
          .sort(),
      { timeout: 30_000 },
    )
    .toEqual(all);
  for (const p of [page, other]) {
    for (const name of all) await expect(p.getByRole('row', { name })).toBeVisible({ timeout: 15_000 });
    await expect(p.locator('.fm-notices .alert')).toHaveCount(0, { timeout: 15_000 });
  }
});
