import { expect, test } from '@playwright/test';
import { tracksInOrder } from '@/core/session';
import { createRandom } from '@/core/units';
import { madeSound } from '../../bench/heard/synth';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, until, upload, viewOf } from '../support/server';

test('where names say nothing the ear proposes; doubts are heard one after the other and settled by digits', async ({
  page,
}) => {
  const id = await newSession('Foghorns');
  const random = createRandom(21);
  await upload(id, 'rec0001.wav', await wavBytes([madeSound('kit', 8, random)]));
  await upload(id, 'rec0002.wav', await wavBytes([madeSound('voice', 8, random)]));
  await upload(id, 'Kick.wav', await wavBytes([madeSound('kit', 8, random)]));
  await upload(id, 'Bass.wav', await wavBytes([madeSound('bass', 8, random)]));
  await settled(id);
  await until(async () => (await viewOf(id)).recordings.every((r) => r.listened), 'all heard');
  const heard = Object.fromEntries(
    (await viewOf(id)).recordings.map((r) => [r.receivedName, r.heard?.as?.kind]),
  );
  expect(heard).toMatchObject({ 'rec0001.wav': 'drums', 'rec0002.wav': 'voice-like', 'Bass.wav': 'bass' });
  await page.goto(`/sessions/${id}/sort`);
  await expect(page.getByRole('row', { name: /rec0001/ })).toContainText('drums');
  await page.keyboard.press('q');
  const strip = page.getByRole('status').filter({ hasText: 'Quick assign' });
  const panel = page.getByRole('complementary', { name: 'Details' });
  await expect(strip).toContainText('1 of 2');
  await expect(panel.getByText(/sounds like/)).toBeVisible();
  await expect(page.getByRole('button', { name: /Pause/ })).toBeVisible();
  // The first digit is what is proposed; the next doubt comes by itself, and after the last it ends.
  const familyOf = async (name: string) =>
    tracksInOrder((await viewOf(id)).session).find((t) => t.receivedName === name)?.family;
  const first = (await strip.textContent())?.includes('rec0001') ? 'rec0001.wav' : 'rec0002.wav';
  const second = first === 'rec0001.wav' ? 'rec0002.wav' : 'rec0001.wav';
  await page.keyboard.press('1');
  await expect.poll(() => familyOf(first)).toBe(first === 'rec0001.wav' ? 'drums' : 'lead-vocal');
  await expect(strip).toContainText(`1 of 1: ${second}`);
  await page.keyboard.press('1');
  await expect(strip).toBeHidden();
  await expect.poll(() => familyOf(second)).toBe(second === 'rec0001.wav' ? 'drums' : 'lead-vocal');
  await expect(page.getByRole('button', { name: /Play/ }).first()).toBeVisible();
});

test('a delivery whose names say nothing: what was heard is accepted by one key, the rest by a digit each, all are named', async ({
  page,
}) => {
  const id = await newSession('Night nets');
  const random = createRandom(33);
  const made = ['kick', 'snare', 'hat', 'toms', 'bass', 'string', 'voice', 'noise'] as const;
  const sounds = [...made, 'kick', 'bass', 'string', 'hat'] as const;
  const fileOf = (i: number): string => `Audio 12_${String(i + 1).padStart(2, '0')}.wav`;
  for (const [i, name] of sounds.entries())
    await upload(id, fileOf(i), await wavBytes([madeSound(name, 8, random)]));
  await settled(id);
  await until(async () => (await viewOf(id)).recordings.every((r) => r.listened), 'all heard');
  await page.goto(`/sessions/${id}/sort`);
  const accept = page.getByRole('button', { name: /^Accept \d+ heard/ });
  await expect(accept).toBeVisible();
  let actions = 1;
  await page.keyboard.press('Shift+Y');
  await expect(accept).toBeHidden();
  const quick = page.getByRole('button', { name: /Quick assign/ });
  if (await quick.isVisible()) {
    actions++;
    await page.keyboard.press('q');
    while (await page.getByRole('status').filter({ hasText: 'Quick assign' }).isVisible()) {
      actions++;
      const left = await page.getByRole('status').filter({ hasText: 'Quick assign' }).textContent();
      await page.keyboard.press('1');
      await expect(page.getByRole('status').filter({ hasText: left ?? '' })).toBeHidden();
    }
  }
  const apply = page.getByRole('button', { name: /^Apply/ });
  if ((await apply.isVisible()) && (await apply.isEnabled())) {
    actions++;
    await page.keyboard.press('Control+Enter');
  }
  expect(actions).toBeLessThanOrEqual(12);
  const names = async (): Promise<string[]> => tracksInOrder((await viewOf(id)).session).map((t) => t.name);
  await expect.poll(async () => (await names()).filter((n) => n.startsWith('Audio'))).toEqual([]);
  expect(await names()).toEqual(expect.arrayContaining(['Kick 1', 'Kick 2', 'Bass 1', 'Bass 2']));
});

test('lenses together, words in names, sums only; what a lens leaves out of a family is said: by keys', async ({
  page,
}) => {
  const id = await newSession('Dinghies');
  for (const [i, name] of ['Kick.wav', 'Snare.wav', 'Bass.wav', 'Gtr 1.wav', 'Gtr 2.wav'].entries())
    await upload(id, name, await wavBytes([tone(90 + 20 * i, 0.5)]));
  await settled(id);
  await page.goto(`/sessions/${id}/sort`);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('gridcell', { name: '→ Drums bus' })).toBeVisible();
  const rows = async (): Promise<string[]> =>
    (await page.getByRole('rowgroup').getByRole('row').allTextContents()).map((t) =>
      t.replace(/\s+/g, ' ').trim(),
    );
  await page.keyboard.press('Shift+Digit2');
  await expect.poll(async () => (await rows()).length).toBe(3);
  await page.keyboard.press('Alt+Shift+Digit3');
  await expect.poll(async () => (await rows()).length).toBe(5);
  await expect(page.getByRole('button', { name: /Drums 2/ })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Shift+Digit1');
  await page.keyboard.press('/');
  await page.keyboard.type('gtr 2');
  await expect.poll(async () => (await rows()).length).toBe(2);
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await rows()).length).toBe(8);
  await page.getByRole('button', { name: /Sums only/ }).click();
  await expect.poll(async () => (await rows()).length).toBe(3);
  await page.keyboard.press('Shift+Digit1');
  await expect.poll(async () => (await rows()).length).toBe(8);
});
