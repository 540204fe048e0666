import { expect, test } from '@playwright/test';
import { mixDown, stripGains } from '@/core/render';
import { wholePiece } from '../support/pieces';
import { tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload } from '../support/server';

const COUNT = 64;
const RING = 1 << 16;
const FRAMES = 48_000;

/** Noise of track `t`, the same in the page and here. */
const noise = (t: number): Float32Array => {
  let seed = t + 1;
  return Float32Array.from({ length: RING }, () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 31 - 1;
  });
};

test('what the page mixes in Chromium equals the mix of the core to −120 dBFS: 64 tracks', async ({
  page,
}) => {
  await page.goto('/');
  const strips = Array.from({ length: COUNT }, (_, t) => ({
    channels: 1,
    gainDb: -30 + (t % 7),
    inverted: false,
    pan: ((t % 21) - 10) / 10,
    pieces: [wholePiece([noise(t)], RING)],
  }));
  const gains = strips.map(stripGains);
  const rendered = await page.evaluate(
    async ({ count, ring, frames, left, right }) => {
      const context = new OfflineAudioContext(2, frames, 48_000);
      await context.audioWorklet.addModule('/engine/mixer.worklet.js');
      const node = new AudioWorkletNode(context, 'fernmoss-mixer', {
        numberOfInputs: 0,
        outputChannelCount: [2],
      });
      node.connect(context.destination);
      const control = new SharedArrayBuffer(64);
      const watermarks = new SharedArrayBuffer(count * 4);
      new Int32Array(watermarks).fill(ring - 128);
      new Int32Array(control)[0] = 1; // the feeder has filled epoch 1
      const tracks = Array.from({ length: count }, (_, t) => {
        const rings = new SharedArrayBuffer(ring * 4);
        let seed = t + 1;
        const samples = new Float32Array(rings);
        for (let i = 0; i < ring; i++) {
          seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
          samples[i] = seed / 2 ** 31 - 1;
        }
        return { channels: 1, pieces: [], rings };
      });
      node.port.postMessage({ kind: 'tracks', control, watermarks, ringFrames: ring, tracks });
      node.port.postMessage({
        kind: 'gains',
        left: Float32Array.from(left),
        right: Float32Array.from(right),
      });
      node.port.postMessage({ kind: 'start', epoch: 1, startFrames: 0, loop: null });
      // Rendering runs ahead of messages: it stands still until they are through.
      void context.suspend(0).then(async () => {
        await new Promise((resolve) => setTimeout(resolve, 500));
        await context.resume();
      });
      const buffer = await context.startRendering();
      return [0, 1].map((c) => Array.from(buffer.getChannelData(c)));
    },
    {
      count: COUNT,
      ring: RING,
      frames: FRAMES,
      left: gains.map((g) => g.left),
      right: gains.map((g) => g.right),
    },
  );
  const begin = Math.floor((rendered[0] as number[]).findIndex((x) => x !== 0) / 128) * 128;
  expect(begin).toBeLessThan(FRAMES / 2);
  const want = mixDown(strips, 0, FRAMES - begin);
  let worst = 0;
  let loudest = 0;
  for (const c of [0, 1] as const)
    for (let i = 300; i < FRAMES - begin; i++) {
      worst = Math.max(worst, Math.abs((rendered[c]?.[begin + i] as number) - (want[c][i] as number)));
      loudest = Math.max(loudest, Math.abs(want[c][i] as number));
    }
  expect(loudest).toBeGreaterThan(0.3);
  expect(20 * Math.log10(worst)).toBeLessThan(-120);
});

test('plays on through the stages; overs are counted; a folder alone, dimmed, in a loop', async ({
  page,
}) => {
  const id = await newSession('Loud');
  // Three at 0.9 each are over full scale together; alone none is.
  for (const name of ['Kick.wav', 'Snare.wav', 'Vox.wav'])
    await upload(id, name, await wavBytes([tone(100, 30, 0.9), tone(100, 30, 0.9)]));
  await settled(id);
  await page.goto(`/sessions/${id}/sort`);
  await page.getByRole('button', { name: /Apply 3 of 3/ }).click();
  const listening = page.getByRole('group', { name: 'Listening', exact: true });
  const place = async (): Promise<number> =>
    Number(await page.getByRole('slider', { name: 'Song position' }).getAttribute('aria-valuenow'));
  await page.keyboard.press('Space');
  await expect(listening.getByRole('button', { name: 'Pause' })).toBeVisible();
  await expect.poll(place).toBeGreaterThanOrEqual(1);
  await expect(listening.getByText(/over$/)).toBeVisible();

  await page.getByRole('link', { name: /Handover/ }).click();
  await expect(page.getByRole('heading', { name: 'Handover' })).toBeVisible();
  const here = await place();
  await expect.poll(place).toBeGreaterThan(here);

  await page.getByRole('link', { name: /Sort/ }).click();
  await page.getByRole('button', { name: 'Listen to Voices alone' }).click();
  await page.keyboard.press('d');
  await expect(listening.getByRole('button', { name: 'Dim' })).toHaveAttribute('aria-pressed', 'true');
  await listening.getByRole('button', { name: /over full scale/ }).click();
  await page.getByRole('button', { name: 'Count anew' }).click();
  await expect(page.getByText('no frame over full scale')).toBeVisible();
  const since = await place();
  await expect.poll(place).toBeGreaterThan(since);
  await expect(page.getByText('no frame over full scale')).toBeVisible();
  await page.keyboard.press('Escape');

  await page.keyboard.press('l');
  await expect(listening.getByRole('button', { name: 'Loop' })).toHaveAttribute('aria-pressed', 'true');
  await listening.getByRole('button', { name: 'Pause' }).click();
  await expect(listening.getByRole('button', { name: 'Play' })).toBeVisible();
  // A busy machine may be late for a moment, and it is said; the bench of the player judges on a quiet one.
  const said = await listening
    .getByRole('status')
    .evaluateAll((all) => all.map((e) => e.getAttribute('title')));
  const late = said.flatMap((title) => [...(title ?? '').matchAll(/([\d.]+) s/g)].map((m) => Number(m[1])));
  expect(late.reduce((sum, seconds) => sum + seconds, 0)).toBeLessThan(0.25);
});
