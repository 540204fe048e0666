import { expect, test, type Page } from '@playwright/test';
import { type Clip, isTrack } from '@/core/session';
import { tone, wavBytes } from '../support/recordings';
import { edit, newSession, settled, upload, viewOf } from '../support/server';

const SECONDS = 40;

/** Share of columns of the picture in which something of the wave's colour stands. */
const filled = (page: Page): Promise<number> =>
  page.locator('.fm-close-wave canvas').evaluate((element: HTMLCanvasElement) => {
    const { data, width, height } = (element.getContext('2d') as CanvasRenderingContext2D).getImageData(
      0,
      0,
      element.width,
      element.height,
    );
    let columns = 0;
    for (let x = 0; x < width; x++) {
      let hit = false;
      for (let y = 18; y < height && !hit; y++) {
        const at = 4 * (y * width + x);
        // The colour of a track nobody has sorted yet, #8c8877.
        hit =
          Math.abs((data[at] as number) - 0x8c) < 40 &&
          Math.abs((data[at + 1] as number) - 0x88) < 40 &&
          Math.abs((data[at + 2] as number) - 0x77) < 40 &&
          (data[at + 3] as number) > 100;
      }
      if (hit) columns++;
    }
    return columns / width;
  });

test('the selected track from the whole song to single samples, by keys and wheel: never blank, with what was found at its place', async ({
  page,
}) => {
  const id = await newSession('Close');
  const sound = tone(220, SECONDS, 0.6);
  // Clipped for a millisecond at 10 s; silent from 20 to 30 s.
  sound.fill(1, 480_000, 480_048);
  sound.fill(0, 960_000, 1_440_000);
  await upload(id, 'Bass.wav', await wavBytes([sound]));
  await settled(id);
  await page.goto(`/sessions/${id}/intake`);
  await page.keyboard.press('z');
  await expect(page.getByText('Choose a track to look at it closely')).toBeVisible();
  await page.keyboard.press('z');
  await page
    .getByRole('row', { name: /Bass\.wav/ })
    .last()
    .click();
  await page.keyboard.press('z');
  const wave = page.getByRole('slider', { name: 'Waveform of Bass' });
  await expect(wave).toBeFocused();
  const canvas = wave.locator('canvas');
  await expect.poll(() => filled(page)).toBeGreaterThan(0.7);
  // A quarter of the song is silent: dots there, no wave.
  expect(await filled(page)).toBeLessThan(0.85);
  await expect(page.locator('.fm-close-place')).toHaveAttribute('title', /Clipped \(0:10\.000\)/);
  // Go there, and look ever closer.
  const box = await wave.boundingBox();
  await page.mouse.click((box?.x ?? 0) + ((box?.width ?? 0) * 10) / SECONDS, (box?.y ?? 0) + 80);
  await wave.focus();
  const levels = [await canvas.getAttribute('data-level')];
  for (let n = 0; n < 17; n++) {
    await page.keyboard.press('+');
    levels.push(await canvas.getAttribute('data-level'));
    await expect.poll(() => filled(page)).toBeGreaterThan(0.6);
    // What was asked for is shown, not only the peaks that stand in for it.
    await expect(canvas).toHaveAttribute('data-shown', (await canvas.getAttribute('data-level')) ?? '');
  }
  expect([...new Set(levels)]).toEqual(['1024', '256', 'samples']);
  await expect(page.getByLabel('Close look').getByText(/, [0-9.]+ ms/)).toBeVisible();
  await page.keyboard.press('0');
  expect(await canvas.getAttribute('data-level')).toBe('1024');
  // The wheel goes in about the pointer.
  await page.mouse.move((box?.x ?? 0) + 400, (box?.y ?? 0) + 60);
  for (let n = 0; n < 12; n++) await page.mouse.wheel(0, -300);
  await expect(canvas).toHaveAttribute('data-level', 'samples');
  await page.getByRole('button', { name: 'linear' }).click();
  await expect(page.getByRole('button', { name: 'linear' })).toHaveAttribute('aria-pressed', 'true');
  await wave.focus();
  await page.keyboard.press('Escape');
  await expect(wave).toHaveCount(0);
});

test('edges and fades of a track are pulled in the close look, by pointer, finger and keys, each a step that comes back', async ({
  page,
}) => {
  const id = await newSession('Close, cut');
  await upload(id, 'Bass.wav', await wavBytes([tone(220, SECONDS, 0.6)]));
  const { session } = await settled(id);
  const [track] = Object.values(session.nodes);
  if (!isTrack(track)) throw new Error('no track');
  const [whole] = track.clips;
  await edit(id, 'Cut', [
    {
      kind: 'track.cut',
      id: track.id,
      clips: [
        { ...(whole as Clip), id: 'clip-1', toFrames: 10 * 48_000 },
        { ...(whole as Clip), id: 'clip-2', fromFrames: 20 * 48_000 },
      ],
    },
  ]);
  await page.goto(`/sessions/${id}/sort`);
  await page.getByRole('row', { name: /Bass/ }).last().click();
  await page.keyboard.press('z');
  const clips = async () => {
    const now = (await viewOf(id)).session.nodes[track.id];
    return isTrack(now) ? now.clips : [];
  };
  const edges = page.getByRole('slider', { name: 'Edge of a piece of Bass' });
  await expect(edges).toHaveCount(4);
  const stage = await page.locator('.fm-close-stage').boundingBox();
  if (!stage) throw new Error('not drawn');
  const xAt = (seconds: number): number => stage.x + (stage.width * seconds) / SECONDS;
  const y = stage.y + 100;
  await page.mouse.move(xAt(20), y);
  await page.mouse.down();
  await page.mouse.move(xAt(15), y, { steps: 5 });
  await expect(page.locator('.fm-clip-tip')).toContainText('by −5');
  await page.mouse.up();
  await expect.poll(async () => ((await clips())[1]?.fromFrames ?? 0) / 48_000).toBeCloseTo(15, 0);
  // As far in as a pixel is a sample, the arrows go by samples.
  const before = (await clips())[0]?.toFrames ?? 0;
  await edges.nth(1).focus();
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await clips())[0]?.toFrames ?? 0).toBeLessThan(before);
  // The top of an edge pulls out a fade.
  await page.mouse.move(xAt(15), stage.y + 26);
  await page.mouse.down();
  await page.mouse.move(xAt(17), stage.y + 26, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => ((await clips())[1]?.fadeInFrames ?? 0) / 48_000).toBeCloseTo(2, 0);
  for (let n = 0; n < 3; n++) await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await clips()).map((c) => [c.fromFrames, c.toFrames]))
    .toEqual([
      [null, 480_000],
      [960_000, null],
    ]);
  const finger = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', seconds?: number) =>
    finger.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: seconds === undefined ? [] : [{ x: xAt(seconds), y }],
    });
  await touch('touchStart', 10);
  for (const at of [10.5, 11, 12]) await touch('touchMove', at);
  await touch('touchEnd');
  await expect.poll(async () => ((await clips())[0]?.toFrames ?? 0) / 48_000).toBeCloseTo(12, 0);
});
