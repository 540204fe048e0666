// Listening in headless Chromium: time from the key to the first sound, and a minute of many tracks, whole and cut into many clips, without a gap. One track in the same run is the reference.
import { chromium } from '@playwright/test';
import { startTestServices } from '../bin/lib/test-services.mjs';
import { client } from './lib.mjs';

const SECONDS = Number(process.env.FERNMOSS_BENCH_SECONDS ?? 60);
/** Tracks, and clips of each. */
const RUNS = (process.env.FERNMOSS_BENCH_TRACKS ?? '1,64,64x200')
  .split(',')
  .map((run) => run.split('x').map(Number));
const STARTS = 12;
const GOAL_MS = 150;

const services = await startTestServices();
const base = services.env.FERNMOSS_URL;
const { call, send, settled } = client(base);
const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const median = (x) => [...x].sort((a, b) => a - b)[Math.floor(x.length / 2)];
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking'],
});
/** Cuts every track into so many clips that cross over. */
async function cut(id, clips) {
  const { revision, session } = await call(`/api/sessions/${id}`);
  const length = Math.floor(((SECONDS + 6) * 48_000) / clips);
  let at = revision;
  for (const [n, track] of Object.values(session.nodes).entries()) {
    const [whole] = track.clips;
    const clip = (i) => ({
      fromFrames: i * length + n,
      toFrames: (i + 1) * length + n + (i === clips - 1 ? 0 : 480),
      fadeInFrames: i === 0 ? 0 : 480,
      fadeOutFrames: i === clips - 1 ? 0 : 480,
      gainDb: i % 3 === 0 ? -1.5 : 0,
      slipFrames: i % 5,
    });
    const edits = Array.from({ length: clips }, (_, i) =>
      i === 0
        ? { kind: 'patch', of: 'clip', id: whole.id, fields: clip(0) }
        : { kind: 'put', of: 'clip', record: { ...whole, id: `${whole.id.slice(0, 56)}-${i}`, ...clip(i) } },
    );
    const made = await call(`/api/sessions/${id}/edits`, { baseRevision: at, label: 'Cut', edits });
    at = made.revision;
  }
}
const show = (times) =>
  times.length === 0
    ? 'never while it was looked for'
    : `median ${median(times).toFixed(0)} ms, worst ${Math.max(...times).toFixed(0)} ms of ${times.length}`;

try {
  for (const [count, clips = 0] of RUNS) {
    const title = clips > 0 ? `${count} tracks × ${clips} clips` : `${count} tracks`;
    const { id } = await call('/api/sessions', { name: title });
    for (let i = 0; i < count; i += 8)
      await Promise.all(
        Array.from({ length: Math.min(8, count - i) }, (_, k) =>
          send(id, `T ${count} ${i + k}.wav`, (SECONDS + 6) * 144_000 + 44),
        ),
      );
    await settled(id);
    if (clips > 0) await cut(id, clips);
    const page = await browser.newPage();
    await page.goto(`${base}/sessions/${id}/sort`);
    await page.getByText(title).first().waitFor();
    const starts = () =>
      page.evaluate(() => performance.getEntriesByName('listening: start').map((e) => e.duration));
    // The first key of all opens the sound device as well.
    await wait(1500);
    await page.keyboard.press('Space');
    await wait(1500);
    await page.keyboard.press('Space');
    const first = await starts();
    for (let i = 0; i < STARTS; i++) {
      await wait(1000);
      await page.keyboard.press('Space');
      await wait(500);
      await page.keyboard.press('Space');
    }
    const again = (await starts()).slice(first.length);
    // Jumps while playing.
    await page.keyboard.press('Space');
    await wait(800);
    const before = (await starts()).length;
    const line = page.getByRole('slider', { name: 'Song position' });
    const box = await line.boundingBox();
    for (let i = 0; i < STARTS; i++) {
      await page.mouse.click(box.x + (box.width * ((i * 7) % STARTS)) / (STARTS + 2), box.y + 30);
      await wait(700);
    }
    const jumps = (await starts()).slice(before);
    await page.keyboard.press('Space');
    console.log(
      `player · ${title} · first key: ${first.map((x) => x.toFixed(0)).join(', ')} ms; key to sound: ${show(again)} of ${STARTS} (goal ≤ ${GOAL_MS}); jump to sound: ${show(jumps)}${again.length === STARTS && Math.max(...again) <= GOAL_MS ? '' : '  OVER'}`,
    );
    await page.keyboard.press('Control+Home');
    await wait(1500);
    await page.keyboard.press('Space');
    const clock = performance.now();
    let late = 0;
    let device = 0;
    const figure = (text, what) => Number(new RegExp(what).exec(text ?? '')?.[1] ?? 0);
    while (performance.now() - clock < SECONDS * 1000) {
      await wait(1000);
      const text = await page
        .locator('.fm-transport [role=status]')
        .getAttribute('title', { timeout: 50 })
        .catch(() => null);
      late = Math.max(late, figure(text, 'came ([\\d.]+) s'));
      device = Math.max(device, figure(text, 'play for ([\\d.]+) s'));
    }
    const position = await line.getAttribute('aria-valuenow');
    console.log(
      `player · ${title} · ${SECONDS} s played: ${late.toFixed(2)} s starved (goal 0), device left without sound by the machine ${device.toFixed(2)} s; reached ${position} s${late > 0 ? '  OVER' : ''}`,
    );
    await page.close();
  }
} finally {
  await browser.close();
  await services.stop();
}
