import { expect, test } from '@playwright/test';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { seriousFindings } from '../support/accessible';
import { newSession, settled, upload, viewOf } from '../support/server';
import { SONG_BEATS, writeSongFiles } from '../support/song-files';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-e2e-tempo-'));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Seconds of “m:ss.mmm”. */
const secondsIn = (text: string): number => {
  const [minutes = '0', seconds = '0'] = text.split(':');
  return 60 * Number(minutes) + Number(seconds);
};

test('a map is found, corrected pulse by pulse, written anew, put by, checked and tapped; all of it can be undone', async ({
  page,
}) => {
  const problems: string[] = [];
  page.on('pageerror', (e) => problems.push(e.message));
  page.on('console', (m) => {
    if (m.type() === 'error') problems.push(m.text());
  });
  const id = await newSession('Low Water, tempo');
  for (const path of await writeSongFiles(folder)) await upload(id, basename(path), readFileSync(path));
  await settled(id);
  const session = async () => (await viewOf(id)).session;
  const pulses = async () => (await session()).mapFacts?.pulses ?? [];
  const panel = page.getByRole('complementary', { name: 'Details of the tempo' });
  const part = (name: string) => panel.getByRole('button', { name, exact: true });

  await test.step('without a map one can be typed', async () => {
    await page.goto(`/sessions/${id}/tempo`);
    await part('Points').click();
    await panel.getByLabel('Tempo, BPM').fill('90');
    await page.keyboard.press('Enter');
    await expect(page.getByText('90.00 steady')).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(page.getByText('No tempo yet.')).toBeVisible();
  });

  await test.step('found; a pulse is moved by keys, pinned, set by hand, and let go', async () => {
    await page.getByRole('button', { name: 'Find the tempo' }).click();
    await expect(page.getByText('104.00 steady')).toBeVisible({ timeout: 60_000 });
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('accepted', { exact: true })).toBeVisible();
    // Steady: the first pulse moves the grid, a second one with a pin its tempo.
    await expect.poll(async () => (await pulses()).length).toBeGreaterThan(40);
    const before = (await pulses())[1]?.seconds ?? 0;
    await part('Found').click();
    // Taking a pulse in hand opens what can be done with it.
    await page.keyboard.press('.');
    await expect(panel.getByRole('heading', { name: 'Pulse 3.2' })).toBeVisible();
    await page.keyboard.press('Shift+ArrowRight');
    await expect.poll(async () => (await pulses())[1]?.seconds).toBeCloseTo(before + 0.005, 4);
    await expect(page.getByText('104.00 steady')).toBeVisible();
    expect((await pulses())[1]?.pinned).toBe(true);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await pulses())[1]?.seconds).toBeCloseTo(before, 4);
  });

  await test.step('from bar 5 on twice as fast, and a moved pulse takes its neighbours along; what cannot be is said in words', async () => {
    for (let i = 0; i < 15; i++) await page.keyboard.press('.');
    await expect(panel.getByRole('heading', { name: 'Pulse 7.1' })).toBeVisible();
    expect(await seriousFindings(page)).toEqual([]);
    const count = (await pulses()).length;
    await page.keyboard.press('3');
    await expect.poll(async () => (await pulses()).length).toBeGreaterThan(1.5 * count);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await pulses()).length).toBe(count);
    await page.keyboard.press('5');
    await expect.poll(async () => (await pulses()).length).toBe(count + 4);
    await expect(page.getByText('not steady')).toBeVisible();
    const at = panel.getByLabel('Moment of the pulse');
    const [own, next] = [(await pulses())[16]?.seconds ?? 0, (await pulses())[17]?.seconds ?? 0];
    await at.fill((own + 0.02).toFixed(3));
    await at.press('Enter');
    await expect.poll(async () => (await pulses())[16]?.pinned).toBe(true);
    expect((await pulses())[17]?.seconds).toBeGreaterThan(next);
    await at.fill('0:29.000');
    await at.press('Enter');
    await expect(panel.getByRole('alert')).toContainText('would come before');
  });

  await test.step('found again between two pins: what was right comes back, the pins stay', async () => {
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await pulses()).length).toBeLessThan(50);
    // The page has both steps back, too: what it shows decides between pinning and letting go.
    await expect(panel.getByRole('button', { name: /^Pin/ })).toBeVisible();
    await expect(panel.getByRole('heading', { name: 'Pulse 7.1' })).toBeVisible();
    const right = (await pulses()).map((p) => p.seconds);
    await page.keyboard.press('i');
    await expect.poll(async () => (await pulses())[16]?.pinned).toBe(true);
    await page.keyboard.press('6');
    await expect.poll(async () => (await pulses()).length).toBe(right.length - 4);
    await panel.getByRole('button', { name: 'Find again between the pins' }).click();
    await page.getByRole('button', { name: /^Use this map/ }).click({ timeout: 60_000 });
    await expect.poll(async () => (await pulses()).length).toBe(right.length);
    (await pulses()).forEach((p, i) =>
      expect(Math.abs(p.seconds - (right[i] as number))).toBeLessThan(0.015),
    );
    expect((await pulses())[16]?.seconds).toBe(right[16]);
    // Something to thin out below.
    await page.keyboard.press('5');
    await expect.poll(async () => (await pulses()).length).toBe(right.length + 4);
  });

  await test.step('players against the grid, in numbers', async () => {
    await part('Timing').click();
    await expect(panel.getByRole('img', { name: /^How late hits are/ })).toBeVisible();
    await expect(panel.getByRole('rowheader', { name: /HH|Hat/ })).toBeVisible();
    expect(await seriousFindings(page)).toEqual([]);
  });

  await test.step('put by; fewer points, a ramp, one tempo; taken again', async () => {
    await part('Points').click();
    // Files that are no map: said in words, and the map stays.
    const before = (await session()).map;
    for (const [name, bytes, why] of [
      [
        'no-tempo.mid',
        Buffer.from('4d546864000000060001000103c04d54726b0000000400ff2f00', 'hex'),
        'says no tempo',
      ],
      ['torn.csv', Buffer.from('quarters,seconds\n0,1\n4,x'), 'line 3'],
    ] as const) {
      await panel
        .getByLabel('A MIDI file or a table of points')
        .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: bytes });
      await expect(panel.getByRole('alert')).toContainText(why);
    }
    expect((await session()).map).toEqual(before);
    await panel.getByLabel('Name of the map').fill('With the slip');
    await page.keyboard.press('Enter');
    await expect(panel.getByText('in use')).toBeVisible();
    const points = (await session()).map?.points.length ?? 0;
    expect(await seriousFindings(page)).toEqual([]);
    await panel.getByRole('button', { name: 'Fewest points within ±' }).click();
    await expect.poll(async () => (await session()).map?.points.length).toBeLessThan(points / 3);
    // A ramp keeps all moments, or the tempi if one wants: then what follows comes at other times.
    const moments = async (): Promise<number[]> =>
      ((await session()).map?.points ?? []).map((p) => p.seconds);
    const asThinned = await moments();
    await panel.getByRole('button', { name: 'jump' }).first().click();
    await expect.poll(async () => (await session()).map?.points[0]?.ramp ?? 0).toBeGreaterThan(0);
    expect(await moments()).toEqual(asThinned);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await session()).map?.points[0]?.ramp ?? 0).toBe(0);
    await panel.getByLabel('A ramp keeps').selectOption({ label: 'the tempi' });
    await panel.getByRole('button', { name: 'jump' }).first().click();
    await expect.poll(async () => (await session()).map?.points[0]?.ramp ?? 0).toBeGreaterThan(0);
    expect(await moments()).not.toEqual(asThinned);
    const written = (await session()).map?.points.length;
    await panel.getByLabel('Number of the first bar').fill('5');
    await page.keyboard.press('Enter');
    await expect(panel.getByRole('button', { name: '5.1', exact: true })).toBeVisible();
    expect((await session()).map?.points.length).toBe(written);
    await page.keyboard.press('Control+z');
    await expect(panel.getByRole('button', { name: '3.1', exact: true })).toBeVisible();
    await panel.getByLabel('When handed over').selectOption({ label: 'cut, one bar stays' });
    await expect.poll(async () => (await session()).cutBars).toBe(1);
    await expect(panel.getByText('will not be in the package')).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await session()).cutBars).toBeNull();
    await panel.getByLabel('One tempo for all').fill('99.5');
    await page.keyboard.press('Enter');
    // Seen at once; a reload may only come when it is kept.
    await expect.poll(async () => (await session()).mapFacts?.bpm ?? 0).toBeCloseTo(99.5, 6);
    await page.reload();
    await expect(page.getByText('99.50 steady')).toBeVisible();
    await part('Points').click();
    // What one tempo took the place of was put by as well.
    await expect(panel.getByText('Before 99.5')).toBeVisible();
    await panel.getByRole('button', { name: 'use', exact: true }).first().click();
    await expect.poll(async () => (await session()).map?.points.length).toBe(points);
  });

  await test.step('spot check: two bars at six places, with what was said', async () => {
    await part('Found').click();
    expect(await seriousFindings(page)).toEqual([]);
    await panel.getByRole('button', { name: /^Spot check/ }).click();
    await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
    for (let i = 0; i < 6 && (await panel.getByRole('button', { name: 'It is right' }).isVisible()); i++) {
      await page.keyboard.press(i === 1 ? '2' : '1');
      await expect.poll(async () => (await session()).mapFacts?.checked?.length ?? 0).toBe(i + 1);
    }
    await expect(panel.getByText(/places are right/)).toBeVisible();
    await panel.getByRole('button', { name: 'Done' }).click();
  });

  await test.step('tapped: the map follows the taps, drawn to what strikes', async () => {
    await panel.getByRole('button', { name: 'Tap it yourself' }).click();
    expect(await seriousFindings(page)).toEqual([]);
    await page.keyboard.press('Control+Home');
    await page.keyboard.press('Space');
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
      .toBeGreaterThan(2);
    for (let i = 0; i < 5; i++) {
      await page.keyboard.press('t');
      await page.waitForTimeout(577);
    }
    await page.keyboard.press('Space');
    await expect(panel.getByText('BPM, from 5 taps')).toBeVisible();
    // One of them in hand: by key, typed, dragged above the waveforms, taken away.
    const moment = panel.getByLabel('Moment of the tap');
    await page.keyboard.press(',');
    await page.keyboard.press(',');
    await expect(panel.getByText('Tap 4', { exact: true })).toBeVisible();
    const before = await moment.inputValue();
    await page.keyboard.press('Shift+ArrowRight');
    await expect
      .poll(async () => secondsIn(await moment.inputValue()) - secondsIn(before))
      .toBeCloseTo(0.005, 4);
    // Typed far ahead of its place, near the beginning, wherever the machine let the taps fall: it stays in hand.
    const first = '1.000';
    await moment.fill(first);
    await moment.press('Enter');
    await expect(panel.getByText('Tap 4', { exact: true })).toBeHidden();
    await expect.poll(async () => secondsIn(await moment.inputValue())).toBeCloseTo(Number(first), 3);
    const strip = page.getByTitle('Drag a pulse or a tap to move it; click one to select it');
    const { x, y, width } = (await strip.boundingBox()) ?? { x: 0, y: 0, width: 0 };
    // The tap in hand is at the play position, a quarter into the window unless that is at an end.
    const playhead = (await page.locator('.fm-lanes .fm-playhead').boundingBox())?.x ?? 0;
    expect(playhead).toBeGreaterThan(x);
    await page.mouse.move(playhead + 1, y + 30);
    await page.mouse.down();
    await page.mouse.move(playhead + 1 + width / 20, y + 30, { steps: 4 });
    await page.mouse.up();
    await expect.poll(async () => secondsIn(await moment.inputValue())).toBeGreaterThan(Number(first) + 0.1);
    await page.keyboard.press('Delete');
    await expect(panel.getByText('BPM, from 4 taps')).toBeVisible();
    expect(await seriousFindings(page)).toEqual([]);
    // How exactly keys come depends on the machine; a track that plays every pulse taps the same everywhere.
    await panel.getByRole('button', { name: 'Start over' }).click();
    await panel.getByLabel('A track that taps').selectOption({ label: 'HH_tk3' });
    await panel.getByRole('button', { name: 'Its hits' }).click();
    await expect(panel.getByText('BPM, from 48 taps')).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect.poll(async () => (await pulses()).length).toBe(48);
    (await pulses()).forEach((p, i) =>
      expect(Math.abs(p.seconds - (SONG_BEATS[i] as number))).toBeLessThan(0.01),
    );
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await pulses()).length).not.toBe(48);
  });

  await test.step('the click as a file, a guide on its other side', async () => {
    await panel.getByRole('button', { name: 'Back' }).click();
    await panel.getByLabel('Bars counted in').selectOption('2');
    await panel.getByLabel('Guide', { exact: true }).selectOption({ label: 'HH_tk3' });
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      panel.getByRole('link', { name: 'Guide left, click right' }).click(),
    ]);
    // Two bars of 4/4 at 104 are 4.615 s, the first downbeat comes after 2.5 s.
    expect(download.suggestedFilename()).toBe(
      'Low-Water-tempo_Guide-left-click-right_begins-2.115s-early.wav',
    );
    const bytes = readFileSync(await download.path());
    const format = bytes.indexOf('fmt ') + 8;
    expect([
      bytes.readUInt16LE(format + 2),
      bytes.readUInt32LE(format + 4),
      bytes.readUInt16LE(format + 14),
    ]).toEqual([2, 48_000, 24]);
    await panel.getByLabel('Bars counted in').selectOption('0');
    const [alone] = await Promise.all([
      page.waitForEvent('download'),
      panel.getByRole('link', { name: 'The click alone' }).click(),
    ]);
    expect(alone.suggestedFilename()).toBe('Low-Water-tempo_Click.wav');
  });

  await test.step('a counter to be read from afar', async () => {
    await panel.getByRole('button', { name: 'Large counter' }).click();
    await expect(page.getByRole('dialog', { name: 'Large counter' })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog', { name: 'Large counter' })).toBeHidden();
  });
  expect(problems).toEqual([]);
});
