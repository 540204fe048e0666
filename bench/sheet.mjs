// The sheet with 300 tracks (FERNMOSS_BENCH_TRACKS for others), beside the same table with 20 rows in the same run: first rows after navigation, and the frames while it is scrolled and a row dragged, in headless Chromium.
import { chromium } from '@playwright/test';
import { startTestServices } from '../bin/lib/test-services.mjs';
import { client } from './lib.mjs';

const COUNTS = (process.env.FERNMOSS_BENCH_TRACKS ?? '20,300').split(',').map(Number);
const FIRST_ROWS_MS = 1000;
const FRAME_MS = 32;
const NAMES = [
  'Kick in',
  'Snare top',
  'OH L',
  'OH R',
  'Tom 1',
  'Bass DI',
  'Gtr L',
  'Gtr R',
  'Keys L',
  'LV',
  'BV 1',
  'Tamb',
  'Vln',
  'Tpt',
  'rec0011',
];

const services = await startTestServices();
const base = services.env.FERNMOSS_URL;
const { call, send, settled } = client(base);
const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking'],
});
const share = (list, p) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(p * list.length))] ?? 0;

/** Frame by frame while something is done: milliseconds from each to the next. */
async function frames(page, work) {
  await page.evaluate(() => {
    window.frames_ = [];
    let last = performance.now();
    const step = (now) => {
      window.frames_?.push(now - last);
      last = now;
      if (window.frames_) requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
  });
  await work();
  return page.evaluate(() => {
    const found = window.frames_.slice(2);
    window.frames_ = null;
    return found;
  });
}

try {
  for (const count of COUNTS) {
    const { id } = await call('/api/sessions', { name: `${count} tracks` });
    for (let i = 0; i < count; i += 4)
      await Promise.all(
        Array.from({ length: Math.min(4, count - i) }, (_, k) =>
          send(id, `${NAMES[(i + k) % NAMES.length]}_${i + k}.wav`, 144_000 + 44),
        ),
      );
    await settled(id);
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${base}/sessions/${id}/intake`);
    await wait(2500);
    const begin = Date.now();
    await page.keyboard.press('Alt+2');
    await page.getByRole('row').nth(5).waitFor();
    const first = Date.now() - begin;
    await wait(2500);
    const grid = await page.locator('.fm-sheet').boundingBox();
    await page.mouse.move(grid.x + 400, grid.y + 200);
    const scrolled = await frames(page, async () => {
      for (let n = 0; n < 90; n++) {
        await page.mouse.wheel(0, n < 60 ? 120 : -180);
        await wait(16);
      }
    });
    await page.mouse.wheel(0, -1e6);
    await wait(500);
    const icon = await page.locator('.fm-cell-icon').nth(2).boundingBox();
    await page.mouse.move(icon.x + 8, icon.y + 8);
    const dragged = await frames(page, async () => {
      await page.mouse.down();
      for (let n = 0; n < 60; n++) {
        await page.mouse.move(icon.x + 8, icon.y + 8 + 6 * n);
        await wait(16);
      }
      await page.keyboard.press('Escape');
      await page.mouse.up();
    });
    const line = (name, list) =>
      `${name}: ${list.length} frames, median ${share(list, 0.5).toFixed(0)} ms, 99 % within ${share(list, 0.99).toFixed(0)}, longest ${Math.max(...list).toFixed(0)} ms (goal ≤ ${FRAME_MS}), over it ${list.filter((f) => f > FRAME_MS + 1.5).length}`;
    console.log(
      `sheet · ${count} tracks: first rows ${first} ms after the key (goal ≤ ${FIRST_ROWS_MS}) · ${line('scrolling', scrolled)} · ${line('dragging', dragged)}`,
    );
    await page.close();
  }
} finally {
  await browser.close();
  await services.stop();
}
