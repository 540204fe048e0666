import { expect, test } from '@playwright/test';
import { tracksInOrder } from '@/core/session';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload, viewOf } from '../support/server';

/** A tone of 100 Hz at 48 kHz goes through zero every 240 frames, and comes back to the same every 480. */
const [HALF, PERIOD] = [240, 480];
const toNearest = (frames: number, step: number): number =>
  Math.abs(frames - Math.round(frames / step) * step);

test('cuts by hand are set where the sound goes through zero, and what mends a place takes over in phase', async ({
  page,
}) => {
  const id = await newSession('Bilge');
  await upload(id, 'Gtr.wav', await wavBytes([tone(100, 20, 0.4)]));
  await settled(id);
  const clips = async () => tracksInOrder((await viewOf(id)).session)[0]?.clips ?? [];
  await page.goto(`/sessions/${id}/tidy`);
  const row = page.getByRole('row', { name: /Gtr|Guitar/ });
  await row.click({ position: { x: 80, y: 20 } });
  const box = await row.locator('.fm-tidy-picture').boundingBox();
  if (!box) throw new Error('no picture');
  const goTo = (seconds: number) => page.mouse.click(box.x + (seconds / 20) * box.width, box.y + 20);
  await page.getByLabel('Edges and splits go').selectOption('crossing');
  for (const [i, seconds] of [5.003, 9.001].entries()) {
    await goTo(seconds);
    await page.keyboard.press('t');
    await expect.poll(async () => (await clips()).length).toBe(i + 2);
  }
  const edges = (await clips()).slice(0, 2).map((c) => c.toFrames ?? NaN);
  for (const edge of edges) expect(toNearest(edge, HALF)).toBeLessThanOrEqual(1);

  await goTo(7);
  await page.keyboard.down('Alt');
  await goTo(12.0017);
  await page.keyboard.up('Alt');
  await page.keyboard.press('r');
  await expect.poll(async () => (await clips()).find((c) => c.slipFrames !== 0)?.slipFrames).toBeDefined();
  const mended = (await clips()).find((c) => c.slipFrames !== 0);
  expect(Math.abs(mended?.slipFrames ?? 0)).toBeGreaterThan(2 * 48_000);
  expect(toNearest(mended?.slipFrames ?? NaN, PERIOD)).toBeLessThanOrEqual(1);
});
