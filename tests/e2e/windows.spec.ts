import { expect, test, type Page } from '@playwright/test';
import { allFindings } from '../support/accessible';
import { layoutFindings } from '../support/layout';
import { knocks, tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload } from '../support/server';

const SIZES = [
  { width: 1024, height: 768 },
  { width: 1280, height: 800 },
  { width: 1920, height: 1080 },
  { width: 2560, height: 1440 },
  // 1280 at 200 %.
  { width: 640, height: 400 },
] as const;
const MOST_SHIFT = 0.02;

let id: string;
test.beforeAll(async () => {
  id = await newSession('Lanterns under a rather long name of a song');
  const hits = Array.from({ length: 12 }, (_, i) => 0.5 + 0.5 * i);
  await upload(id, 'KICK in_03.wav', await wavBytes([knocks(hits, 7, 60)]));
  await upload(
    id,
    'LV_main_comp of the second evening, with the other microphone.wav',
    await wavBytes([tone(440, 7)]),
  );
  await upload(id, 'rec0011 t2.wav', await wavBytes([tone(150, 7)]));
  await settled(id);
  // What other tests left at work is told in the list of sessions, and goes from there when it is done.
  await expect
    .poll(
      async () => {
        const sessions = (await (await fetch(`${process.env.FERNMOSS_URL}/api/sessions`)).json()) as {
          openJobs: number;
        }[];
        return sessions.filter((other) => other.openJobs > 0).length;
      },
      { timeout: 120_000 },
    )
    .toBe(0);
});

/** Views and dialogs, and how one comes to them. */
const VIEWS: readonly (readonly [name: string, path: () => string, step?: (page: Page) => Promise<void>])[] =
  [
    ['sessions', () => '/'],
    ['house styles', () => '/styles'],
    ['intake', () => `/sessions/${id}/intake`],
    ['sort', () => `/sessions/${id}/sort`],
    ['a row', () => `/sessions/${id}/sort`, (page) => page.getByRole('row', { name: /KICK in/ }).click()],
    ['routing', () => `/sessions/${id}/sort?view=routing`],
    ['takes', () => `/sessions/${id}/sort?view=takes`],
    ['tidy', () => `/sessions/${id}/tidy`],
    ['matching', () => `/sessions/${id}/tidy?view=match`],
    ['levels', () => `/sessions/${id}/tidy?view=levels`],
    ['tempo', () => `/sessions/${id}/tempo`],
    ['sections', () => `/sessions/${id}/sections`],
    ['handover', () => `/sessions/${id}/handover`],
    ['keys', () => `/sessions/${id}/sort`, (page) => page.keyboard.press('?')],
    ['history', () => `/sessions/${id}/sort`, (page) => page.keyboard.press('k')],
    ['new session', () => '/', (page) => page.getByRole('button', { name: 'New session' }).first().click()],
  ];

for (const size of SIZES)
  test(`at ${size.width} × ${size.height} nothing lies off-screen, overlaps, jumps or is too small to aim at`, async ({
    browser,
  }) => {
    const context = await browser.newContext({ viewport: size, baseURL: process.env.FERNMOSS_URL });
    await context.addInitScript(() => {
      const shifts = { sum: 0 };
      Object.assign(window, { shifts });
      new PerformanceObserver((list) => {
        for (const e of list.getEntries() as unknown as { value: number; hadRecentInput: boolean }[])
          if (!e.hadRecentInput) shifts.sum += e.value;
      }).observe({ type: 'layout-shift', buffered: true });
    });
    for (const [name, path, step] of VIEWS)
      await test.step(name, async () => {
        const page = await context.newPage();
        await page.goto(path());
        await page.waitForLoadState('networkidle', { timeout: 3000 }).catch(() => undefined);
        const shift = await page.evaluate(
          () => (window as unknown as { shifts: { sum: number } }).shifts.sum,
        );
        expect.soft(shift, `${name}: layout shift`).toBeLessThanOrEqual(MOST_SHIFT);
        await step?.(page);
        if (['keys', 'history', 'new session'].includes(name))
          await expect(page.getByRole('dialog')).toBeVisible();
        expect.soft(await layoutFindings(page), name).toEqual([]);
        if (size.width === 1280) expect.soft(await allFindings(page), name).toEqual([]);
        await page.close();
      });
    await context.close();
  });
