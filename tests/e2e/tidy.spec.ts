import { expect, type Page, test } from '@playwright/test';
import { type Clip, isTrack } from '@/core/session';
import { tone, wavBytes } from '../support/recordings';
import { edit, newSession, settled, upload, viewOf } from '../support/server';
import { sine, soundOf, struck } from '../support/tidy-sounds';

/** Notes over the hum of an amp, and a quiet breath before the second phrase of a voice. */
const guitar = soundOf(
  20,
  (t, noise) =>
    1e-3 * sine(100, t) +
    1e-4 * noise() +
    [3, 3.6, 12].reduce((sum, at) => sum + 0.3 * struck(t - at, 196, 0.8), 0),
);
const inSpan = (t: number, from: number, to: number): number => (t >= from && t < to ? 1 : 0);
const voice = soundOf(
  20,
  (t, noise) =>
    1e-4 * noise() +
    0.2 * (inSpan(t, 4, 6) + inSpan(t, 13, 16)) * (sine(220, t) + 0.4 * sine(440, t)) +
    4e-3 * inSpan(t, 11.2, 11.5) * noise(),
  11,
);

async function songOf(page: Page): Promise<string> {
  const id = await newSession('Harbour lights, to be tidied');
  await upload(id, 'Amp Gtr.wav', await wavBytes([guitar]));
  await upload(id, 'Lead Vox.wav', await wavBytes([voice]));
  await settled(id);
  await page.goto(`/sessions/${id}/tidy`);
  await expect(page.getByText('would go of 2 tracks')).toBeVisible({ timeout: 30_000 });
  return id;
}

async function clipsOf(id: string, name: RegExp): Promise<readonly Clip[]> {
  const track = Object.values((await viewOf(id)).session.nodes).find((n) => isTrack(n) && name.test(n.name));
  return isTrack(track) ? track.clips : [];
}

test('what can go is proposed, walked through, decided, heard, cut as one step, and comes back', async ({
  page,
}) => {
  const id = await songOf(page);
  const panel = page.getByRole('complementary', { name: 'Track' });

  // The breath is somebody's to decide.
  await page.keyboard.press('n');
  await expect(panel).toContainText('it may be a breath');
  await expect(panel.getByRole('button', { name: /It stays/ })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('2');
  await expect(page.getByText(/to hear/)).toBeHidden();

  // Hearing goes round the cuts of the row, and back to the song.
  await page.getByRole('row', { name: /Gtr/ }).click({ position: { x: 80, y: 20 } });
  await page.keyboard.press('o');
  await expect(panel.getByRole('button', { name: /Around the cuts/ })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.keyboard.press('Shift+O');
  await expect(panel.getByRole('button', { name: /Only what goes/ })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Escape');
  await expect(panel.getByRole('button', { name: 'Back to the song' })).toBeHidden();

  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('2 of 2 tracks are cut')).toBeVisible();
  await expect.poll(async () => (await clipsOf(id, /Vox|Voc/)).length).toBe(2);
  const guitars = await clipsOf(id, /Gtr|Guitar/);
  expect(guitars).toHaveLength(2);
  // 60 ms stay before the note at 3 s; levels alone would say it to 20 ms.
  expect(Math.abs((guitars[0]?.fromFrames ?? 0) / 48_000 - 2.94)).toBeLessThan(0.01);
  expect(guitars[0]?.fadeInFrames).toBe(480);
  // Both notes close together are one piece; what rings on stays.
  expect((guitars[0]?.toFrames ?? 0) / 48_000).toBeGreaterThan(4.2);

  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await clipsOf(id, /Gtr|Guitar/)).length).toBe(1);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(async () => (await clipsOf(id, /Gtr|Guitar/)).length).toBe(2);
  await page.keyboard.press('Backspace');
  await expect.poll(async () => (await clipsOf(id, /Gtr|Guitar/)).length).toBe(1);
  expect(await clipsOf(id, /Vox|Voc/)).toHaveLength(2);
});

test('controls redraw at once, edges are pulled by pointer and keys, and a reload keeps what was decided', async ({
  page,
}) => {
  const id = await songOf(page);
  const row = page.getByRole('row', { name: /Gtr/ });
  await row.click({ position: { x: 80, y: 20 } });
  await expect(row).toContainText('3 places would go');
  await page.getByLabel('Shortest silence, ms').fill('12000');
  await page.keyboard.press('Enter');
  // What is shorter than that between two sounds stays; the ends go as before.
  await expect(row).toContainText('2 places would go');
  await page.getByRole('button', { name: 'As proposed at first' }).click();
  await expect(row).toContainText('3 places would go');
  await page.getByLabel('Told by its own floor').uncheck();
  await page.getByLabel('Threshold, dBFS', { exact: true }).fill('-5');
  await page.keyboard.press('Enter');
  await expect(row).toContainText('left whole');
  await expect(page.getByRole('complementary', { name: 'Track' })).toContainText(
    'nothing reaches the threshold',
  );
  await page.getByLabel('Threshold, dBFS', { exact: true }).fill('-30');
  await page.keyboard.press('Enter');
  await page.getByLabel('Shortest silence, ms').fill('50');
  await page.keyboard.press('Enter');
  await expect(row).toContainText('4 places would go');
  await page.getByRole('button', { name: 'As proposed at first' }).click();
  await expect(page.getByLabel('Told by its own floor')).toBeChecked();
  await expect(row).toContainText('3 places would go');

  // The beginning of the first note is pulled a second earlier.
  const picture = row.locator('.fm-tidy-picture');
  const box = await picture.boundingBox();
  if (!box) throw new Error('no picture');
  const at = (seconds: number): number => box.x + (seconds / 20) * box.width;
  await page.mouse.move(at(2.94), box.y + 20);
  await page.mouse.down();
  await page.mouse.move(at(2.5), box.y + 20, { steps: 4 });
  await page.mouse.move(at(1.94), box.y + 20, { steps: 4 });
  await page.mouse.up();
  await page.mouse.click(at(3.2), box.y + 20);
  await page.keyboard.press('.');
  await page.keyboard.press('.');
  await page.reload();
  await expect(page.getByText('would go of 2 tracks')).toBeVisible({ timeout: 30_000 });
  await page.keyboard.press('Control+Enter');
  await expect.poll(async () => (await clipsOf(id, /Gtr|Guitar/)).length).toBe(2);
  const first = async (): Promise<number> => ((await clipsOf(id, /Gtr|Guitar/))[0]?.fromFrames ?? 0) / 48_000;
  expect(Math.abs((await first()) - 1.98)).toBeLessThan(0.06);

  // What is cut is pulled as well: a step of its own.
  await page.mouse.move(at(await first()), box.y + 20);
  await page.mouse.down();
  await page.mouse.move(at(1.5), box.y + 20, { steps: 4 });
  await page.mouse.move(at(1), box.y + 20, { steps: 4 });
  await page.mouse.up();
  await expect.poll(first).toBeLessThan(1.1);
  expect(await clipsOf(id, /Gtr|Guitar/)).toHaveLength(2);
  expect((await viewOf(id)).undoLabel).toMatch(/^Move an edge of/);

  // A piece that is out comes back, and what it parted is one again.
  await page.mouse.click(at(8), box.y + 20);
  await expect(page.getByRole('complementary', { name: 'Track' })).toContainText('it is out');
  await page.keyboard.press('1');
  await expect.poll(async () => (await clipsOf(id, /Gtr|Guitar/)).length).toBe(1);
  expect((await viewOf(id)).undoLabel).toMatch(/^Bring back a piece of/);
});

test('an empty session, and one with a file that cannot be read, say what is the matter', async ({
  page,
}) => {
  const empty = await newSession('Nothing yet');
  await page.goto(`/sessions/${empty}/tidy`);
  await expect(page.getByText('No recordings yet.')).toBeVisible();
  const id = await newSession('Broken');
  await upload(id, 'Broken.wav', new TextEncoder().encode('no sound at all'));
  await upload(id, 'Held.wav', await wavBytes([soundOf(5, (t) => 0.1 * sine(300, t))]));
  await settled(id);
  await page.goto(`/sessions/${id}/tidy`);
  await page.getByRole('row', { name: /Held/ }).click({ position: { x: 80, y: 20 } });
  await expect(page.getByRole('complementary', { name: 'Track' })).toContainText('Left whole:');
  await expect(page.getByRole('button', { name: /On to Tempo/ })).toBeEnabled();
});

test('levels are worked out, heard one against another, taken as one step, and put back to neutral', async ({
  page,
}) => {
  const id = await newSession('Harbour lights, to be balanced');
  const bass = soundOf(16, (t, noise) => 0.3 * struck(t % 1.5, 55, 1.2) + 1e-4 * noise(), 4);
  const keys = soundOf(16, (t, noise) => 0.2 * struck(t % 2, 880, 2) + 1e-4 * noise(), 6);
  const singing = soundOf(16, (t, noise) => 0.2 * inSpan(t % 5, 1, 4) * sine(220, t) + 1e-4 * noise(), 7);
  const mix = singing.map((v, i) => 0.6 * v + 0.3 * (bass[i] as number) + 0.3 * (keys[i] as number));
  for (const [name, sound] of [
    ['Lead Vox.wav', singing],
    ['Bass DI.wav', bass],
    ['Rhodes.wav', keys],
    ['Rough Mix.wav', mix],
  ] as const)
    await upload(id, name, await wavBytes([sound]));
  await settled(id);
  await page.goto(`/sessions/${id}/tidy`);
  await expect(page.getByText(/would go/).first()).toBeVisible({ timeout: 30_000 });
  await page.keyboard.press('b');
  await page.keyboard.press('b');
  await expect(page).toHaveURL(/view=levels/);
  await page.keyboard.press('Control+Enter');
  const panel = page.getByRole('complementary', { name: 'Levels' });
  await expect(panel).toContainText('Hear one against another', { timeout: 60_000 });
  await expect(panel).toContainText(/The tracks explain (9\d|100) % of it/);
  await expect(page.getByRole('row', { name: /Rough Mix/ })).toContainText('the mix');

  for (const [digit, name] of [
    ['2', /^2\s*Rough balance/],
    ['3', /Tracks as in the rough mix/],
    ['4', /The rough mix itself/],
  ] as const) {
    await page.keyboard.press(digit);
    await expect(panel.getByRole('button', { name })).toHaveAttribute('aria-pressed', 'true');
  }
  await page.keyboard.press('Escape');
  await expect(panel.getByRole('button', { name: 'Back to the song' })).toBeHidden();

  const levels = async (): Promise<number[]> =>
    Object.values((await viewOf(id)).session.nodes).flatMap((n) => (isTrack(n) ? [n.gainDb] : []));
  await panel.getByRole('button', { name: 'Those of the mix' }).click();
  await expect.poll(async () => (await levels()).filter((db) => db !== 0).length).toBe(3);
  const voice = page.getByRole('row', { name: /Lead Vox/ });
  // 0.6 of it, the mix being mono: as loud as it was mixed.
  await expect(voice.getByRole('button', { name: /^Level of Lead Vox −4\.[345]/ })).toBeVisible();
  await panel.getByRole('button', { name: 'All to neutral' }).click();
  await expect.poll(async () => (await levels()).every((db) => db === 0)).toBe(true);
  await expect(panel.getByRole('button', { name: 'All to neutral' })).toBeDisabled();
});

test('buses have a level, a pan and a mute of their own; head and tail of the song are trimmed as one step', async ({
  page,
}) => {
  const id = await newSession('Harbour lights, its buses');
  for (const [name, from, to] of [
    ['Bass DI.wav', 3, 9],
    ['Lead Vox.wav', 4, 10],
  ] as const)
    await upload(
      id,
      name,
      await wavBytes([
        soundOf(14, (t, noise) => 0.2 * inSpan(t, from, to) * sine(220, t) + 3e-4 * noise(), 5),
      ]),
    );
  const { session } = await settled(id);
  const bass = Object.values(session.nodes).find((n) => n.name === 'Bass DI');
  await edit(id, 'A bus', [
    { kind: 'bus.add', bus: { id: 'low', name: 'Low', color: '#446688', outputBusId: null }, index: 0 },
    { kind: 'track.change', id: bass?.id ?? '', fields: { busId: 'low' } },
  ]);
  await page.goto(`/sessions/${id}/tidy?view=levels`);
  const row = page.getByRole('row', { name: /Mute Low bus/ });
  const low = async () => {
    const { gainDb, pan, muted } = (await viewOf(id)).session.buses.low ?? {};
    return { gainDb, pan, muted };
  };
  await row.click({ position: { x: 60, y: 12 } });
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press(',');
  await expect.poll(low).toEqual({ gainDb: -0.5, pan: -0.05, muted: false });
  await page.keyboard.press('Enter');
  await page.keyboard.type('-6');
  await page.keyboard.press('Enter');
  await expect(row.getByRole('slider', { name: 'Level of Low bus' })).toHaveAttribute(
    'aria-valuetext',
    /^−6\.0 dB, about −\d+\.\d LUFS$/,
  );
  await row.getByRole('button', { name: 'Mute Low bus' }).click();
  await expect.poll(low).toEqual({ gainDb: -6, pan: -0.05, muted: true });
  await page.keyboard.press('Control+z');
  await expect.poll(low).toMatchObject({ muted: false });

  await page.goto(`/sessions/${id}/tidy`);
  const panel = page.getByRole('complementary', { name: 'Track' });
  await expect(panel).toContainText(/First note at 0:03\.0\d \(Bass DI\)/, { timeout: 30_000 });
  await expect(panel).toContainText(/died away at 0:1\d\.\d \(Lead Vox\)/);
  await panel.getByRole('button', { name: 'Trim 2 tracks to the song' }).click();
  await expect(panel.getByRole('button', { name: 'Nothing lies outside' })).toBeDisabled();
  const ends = async () =>
    Object.values((await viewOf(id)).session.nodes).flatMap((n) =>
      isTrack(n) ? n.clips.map((c) => [c.fromFrames ?? 0, c.toFrames ?? 0]) : [],
    );
  await expect.poll(async () => (await ends())[0]?.[0] ?? 0).toBeGreaterThan(0);
  for (const [from, to] of (await ends()) as [number, number][]) {
    // 100 ms before the note at 3 s, to 5 ms; half a second after the voice has ended at 10 s.
    expect(Math.abs(from / 48_000 - 2.9)).toBeLessThan(0.005);
    expect(to / 48_000).toBeGreaterThan(10.4);
    expect(to / 48_000).toBeLessThan(10.8);
  }
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await ends()).flat()).toEqual([0, 0, 0, 0]);
});

test('on the ladder a mark is pulled, stepped and typed; Tab goes along, nonsense says why, undo brings it back', async ({
  page,
}) => {
  const id = await newSession('Harbour lights, on the ladder');
  for (const [name, hz] of [
    ['Bass DI.wav', 110],
    ['Lead Vox.wav', 330],
  ] as const)
    await upload(id, name, await wavBytes([tone(hz, 3)]));
  await settled(id);
  await page.goto(`/sessions/${id}/tidy?view=levels`);
  const strip = async (name: string): Promise<{ gainDb: number; pan: number }> => {
    const found = Object.values((await viewOf(id)).session.nodes).find((n) => n.name === name);
    if (!isTrack(found)) throw new Error(`no ${name}`);
    return { gainDb: found.gainDb, pan: found.pan };
  };
  const [bass, voice] = [/Bass DI/, /Lead Vox/].map((name) => page.getByRole('row', { name }));
  if (!bass || !voice) throw new Error('no rows');
  const mark = bass.getByRole('slider', { name: 'Level of Bass DI' });
  const [at, ladder] = [await mark.boundingBox(), await mark.locator('..').boundingBox()];
  if (!at || !ladder) throw new Error('not drawn');
  const [x, y] = [at.x + at.width / 2, at.y + at.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  // A tenth of 60 dB.
  await page.mouse.move(x - ladder.width / 10, y, { steps: 4 });
  await expect(mark).toHaveAttribute('aria-valuetext', /^−(5\.9|6\.0|6\.1) dB, −\d/);
  await page.mouse.up();
  await expect.poll(async () => (await strip('Bass DI')).gainDb).toBeCloseTo(-6, 0);
  // Let go by Escape, nothing is changed.
  const before = await strip('Bass DI');
  await mark.hover();
  await page.mouse.down();
  await page.mouse.move(x, y - 2, { steps: 4 });
  await page.keyboard.press('Escape');
  await page.mouse.up();

  await voice.click({ position: { x: 60, y: 12 } });
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('.');
  await expect.poll(() => strip('Lead Vox')).toEqual({ gainDb: -0.5, pan: 0.05 });
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await page.keyboard.type('loud');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'Not a number' })).toBeVisible();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('-9');
  await page.keyboard.press('Tab');
  await page.keyboard.type('L30');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('textbox', { name: 'Level of Lead Vox' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect.poll(() => strip('Bass DI')).toEqual({ gainDb: -9, pan: -0.3 });
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(() => strip('Bass DI')).toEqual(before);
  await page.getByRole('combobox', { name: 'The ladder is read in' }).selectOption('peak');
  await expect(mark).toHaveAttribute('aria-valuetext', /dBFS$/);

  // Of several selected one is pulled: all by as much, as far as all can, and they stay selected.
  await bass.click({ position: { x: 60, y: 12 } });
  await voice.click({ position: { x: 60, y: 12 }, modifiers: ['Shift'] });
  await page.keyboard.press('Shift+Enter');
  await expect(page.getByRole('textbox', { name: 'Pan of Lead Vox and 1 more' })).toBeFocused();
  await page.keyboard.type('R95');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => [(await strip('Bass DI')).pan, (await strip('Lead Vox')).pan])
    .toEqual([0.95, 0.95]);
  await voice.click({ position: { x: 60, y: 12 } });
  await page.keyboard.press('.');
  await expect.poll(async () => (await strip('Lead Vox')).pan).toBe(1);
  await bass.click({ position: { x: 60, y: 12 }, modifiers: ['Control'] });
  const pan = await bass.getByRole('slider', { name: 'Pan of Bass DI' }).boundingBox();
  if (!pan) throw new Error('not drawn');
  await page.mouse.move(pan.x + 12, pan.y + 12);
  await page.mouse.down();
  await page.mouse.move(pan.x + 200, pan.y + 12, { steps: 4 });
  // The other stands at its end already: neither moves, and what is shown says so.
  await expect(bass.getByRole('slider', { name: 'Pan of Bass DI' })).toHaveAttribute('aria-valuetext', 'R95');
  await expect(bass.locator('.fm-ladder-tip')).toHaveText('R95: Lead Vox is at its end');
  await page.mouse.up();
  expect((await strip('Bass DI')).pan).toBe(0.95);
  await expect(page.locator('.fm-ladders tr.is-selected')).toHaveCount(2);
});

test('a piece is split, slipped, silenced, copied, joined and mended by keys, each a step that comes back', async ({
  page,
}) => {
  const id = await songOf(page);
  const row = page.getByRole('row', { name: /Gtr/ });
  const panel = page.getByRole('complementary', { name: 'Track' });
  const clips = () => clipsOf(id, /Gtr|Guitar/);
  const shape = async () =>
    (await clips()).map((c) => [c.fromFrames, c.toFrames, c.slipFrames, c.off, c.fadeOutFrames]);
  await row.click({ position: { x: 80, y: 20 } });
  const box = await row.locator('.fm-tidy-picture').boundingBox();
  if (!box) throw new Error('no picture');
  const goTo = (seconds: number) => page.mouse.click(box.x + (seconds / 20) * box.width, box.y + 20);

  // Without a piece in hand the tools say what they need.
  await page.keyboard.press('j');
  await expect(panel.getByRole('status')).toContainText('Take a piece in hand first');
  await goTo(5);
  await page.keyboard.press('t');
  await expect.poll(async () => (await clips()).length).toBe(2);
  await goTo(10);
  await page.keyboard.press('t');
  await expect.poll(async () => (await clips()).length).toBe(3);
  const edges = (await clips()).map((c) => c.toFrames);
  expect(Math.abs((edges[0] ?? 0) - 5 * 48_000)).toBeLessThan(2000);

  await goTo(7);
  await page.keyboard.press(']');
  await expect.poll(async () => (await clips())[1]?.slipFrames).toBe(48);
  await page.getByLabel('Slipped by, ms').fill('20');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await clips())[1]?.slipFrames).toBe(960);
  await page.getByLabel('Fade out, ms').fill('10');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await clips())[1]?.fadeOutFrames).toBe(480);
  await page.getByLabel('Level, dB').fill('-6');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await clips())[1]?.gainDb).toBe(-6);
  // What was moved against each other is not joined.
  await page.keyboard.press('j');
  await expect(panel.getByRole('status')).toContainText('was moved');

  await page.keyboard.press('v');
  await expect.poll(async () => (await clips())[1]?.off).toBe(true);
  await expect(panel).toContainText('it is there, and silent');
  await page.keyboard.press('v');
  await expect.poll(async () => (await clips())[1]?.off).toBe(false);
  await page.keyboard.press('w');
  await expect.poll(async () => (await clips())[1]?.fadeOutFrames).toBe(960);
  const before = await shape();
  // The copy stands where the song is, set without letting go of the piece; what is there gives way.
  await page.keyboard.down('Alt');
  await goTo(12);
  await page.keyboard.up('Alt');
  await page.keyboard.press('u');
  await expect.poll(async () => (await clips()).length).toBe(5);
  expect((await clips())[3]).toMatchObject({ gainDb: -6 });
  await page.keyboard.press('Control+z');
  await expect.poll(shape).toEqual(before);
  for (let i = 0; i < 9; i++) {
    const { revision } = await viewOf(id);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await viewOf(id)).revision).not.toBe(revision);
    if ((await clips()).length === 1) break;
  }
  expect(await shape()).toEqual([[null, null, 0, false, 0]]);
});

test('tracks are brought to each other as the table says, as one step, and the papers of the house follow', async ({
  page,
}) => {
  const id = await songOf(page);
  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: 'Matching' })).toHaveAttribute('aria-pressed', 'true');
  const row = page.getByRole('row', { name: /Vox|Vocal/ });
  // A lead voice is brought to −21 LUFS where its peaks leave room for it.
  await expect(row).toContainText('−21.0', { timeout: 30_000 });
  const gain = Number((await row.locator('td').nth(3).innerText()).replace('−', '-'));
  await page.keyboard.press('Control+Enter');
  await expect.poll(async () => (await clipsOf(id, /Vox|Voc/))[0]?.gainDb).toBe(gain);
  await expect(page.getByText('2 tracks are at the level wanted')).toBeVisible();
  await expect(page.getByRole('link', { name: /^Tidy/ })).toContainText('2 matched');

  // Other targets are shown before they are taken.
  await page.getByLabel('Matched by').selectOption('peak');
  await page.getByLabel('Peaks at, dB').fill('-6');
  await page.keyboard.press('Enter');
  await expect(row).toContainText(/−6\.[01]/);
  expect((await clipsOf(id, /Vox|Voc/))[0]?.gainDb).toBe(gain);
  await page.getByRole('button', { name: 'As the house has it' }).click();
  await page.getByRole('button', { name: 'Gains to 0 dB' }).click();
  await expect.poll(async () => (await clipsOf(id, /Vox|Voc/))[0]?.gainDb).toBe(0);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await clipsOf(id, /Vox|Voc/))[0]?.gainDb).toBe(gain);

  // A cut changes what is measured: it is measured again by itself.
  await page.keyboard.press('b');
  await page.keyboard.press('b');
  await expect(page.getByText('would go of 2 tracks')).toBeVisible({ timeout: 30_000 });
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('2 of 2 tracks are cut')).toBeVisible();
  expect((await clipsOf(id, /Vox|Voc/)).every((c) => c.gainDb === gain)).toBe(true);
  await page.keyboard.press('b');
  await expect(page.getByText(/at the level wanted|would be turned/)).toBeVisible({ timeout: 30_000 });
});
