import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { lanesOf, type Track, tracksInOrder } from '@/core/session';
import { seriousFindings } from '../support/accessible';
import { newSession, settled, upload, viewOf } from '../support/server';
import { makeDelivery } from '../support/takes/delivery';

const filled = async (name: string, kind: string, hasMix: boolean): Promise<string> => {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-takes-'));
  await makeDelivery(folder, { kind, seed: 21, naming: 'numbers', hasMix });
  const id = await newSession(name);
  for (const file of readdirSync(folder)) await upload(id, file, readFileSync(join(folder, file)));
  await settled(id);
  return id;
};
const voices = async (id: string): Promise<Track[]> =>
  tracksInOrder((await viewOf(id)).session).filter((t) => /Vox|Vocal/.test(`${t.name} ${t.receivedName}`));

test('takes are found by the rough mix, packed as lanes of one track, another one sounds, unpacked', async ({
  page,
}) => {
  const id = await filled('Three times the same song', 'takes, changed notes', true);
  await page.goto(`/sessions/${id}/sort?view=takes`);
  await page.getByRole('button', { name: 'Look for takes' }).click();
  const offer = page.getByRole('region', { name: /^Takes of Lead Vo/ });
  await expect(offer).toContainText('the rough mix has only Lead Vox 2.wav', { timeout: 60_000 });
  expect(await seriousFindings(page)).toEqual([]);
  await offer.getByRole('button', { name: 'Pack as lanes of one track' }).click();
  await expect(offer).toBeHidden();
  await expect(page.getByText('Nothing is open')).toBeVisible();
  const [packed] = await voices(id);
  expect([(await voices(id)).length, packed?.takeNumber, packed && lanesOf(packed).length]).toEqual([
    1, 2, 3,
  ]);

  // Which sounds is chosen in the panel; one step, undone as one.
  await page.keyboard.press('b');
  await page.getByRole('row', { name: /Lead Vo/ }).click();
  await page.getByRole('radio', { name: /Lead Vox 3.wav/ }).check();
  await expect.poll(async () => (await voices(id))[0]?.recordingId).not.toBe(packed?.recordingId);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await voices(id))[0]?.recordingId).toBe(packed?.recordingId);
  await page.getByRole('button', { name: 'A track for each take again' }).click();
  await expect
    .poll(async () => (await voices(id)).map((t) => t.receivedName).sort())
    .toEqual(['Lead Vox 1.wav', 'Lead Vox 2.wav', 'Lead Vox 3.wav']);
});

test('what nothing tells is asked, once for the group, and the answer stays', async ({ page }) => {
  const id = await filled('Twice at once', 'double, loose', false);
  await page.goto(`/sessions/${id}/sort?view=takes`);
  await page.getByRole('button', { name: 'Look for takes' }).click();
  const question = page.getByRole('region', { name: /^Question about Lead Vo/ });
  await expect(question).toContainText('there is no rough mix', { timeout: 60_000 });
  await expect(page.getByRole('button', { name: /^Pack/ })).toHaveCount(0);
  await question.getByRole('button', { name: 'They sound together' }).click();
  await expect(question).toBeHidden();
  await page.reload();
  await expect(page.getByText('Nothing is open')).toBeVisible();
  expect(await voices(id)).toHaveLength(2);
  await page.getByRole('button', { name: 'Ask again' }).click();
  await expect(question).toBeVisible();
});

/** Three takes of a voice, packed; the page shows them. */
async function packedVoice(page: Page, name: string): Promise<string> {
  const id = await filled(name, 'takes, changed notes', true);
  await page.goto(`/sessions/${id}/sort?view=takes`);
  await page.getByRole('button', { name: 'Look for takes' }).click();
  const offer = page.getByRole('region', { name: /^Takes of Lead Vo/ });
  await offer.getByRole('button', { name: 'Pack as lanes of one track' }).click({ timeout: 60_000 });
  await takeTrack(page);
  return id;
}
/** Takes the packed track in hand by its name: a click into its picture takes a phrase too. */
const takeTrack = (page: Page): Promise<void> =>
  page
    .getByRole('row', { name: /Lead Vo.*takes/ })
    .getByText(/^Lead Vo/)
    .click();
/** Numbers of the takes that sound, in order. */
const sounding = async (id: string): Promise<readonly number[]> => {
  const [track] = await voices(id);
  if (!track) return [];
  const numbers = new Map(lanesOf(track).map((l) => [l.id, l.takeNumber]));
  return track.clips.map((c) => numbers.get(c.laneId) ?? 0).filter((n, i, all) => n !== all[i - 1]);
};

test('takes are put together by keys: phrases, what is heard, ratings, a rough pass, versions', async ({
  page,
}) => {
  const id = await packedVoice(page, 'Put together by ear');
  const panel = page.getByRole('complementary', { name: 'Takes of the track' });
  await expect(panel).toContainText('in this track');
  expect(await sounding(id)).toEqual([2]);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('row', { name: /Lead Vox 3.wav/ })).toBeVisible();
  expect(await seriousFindings(page)).toEqual([]);

  // One phrase from another take; its joins keep inside the track.
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(panel).toContainText('Take 2 sounds.');
  await page.keyboard.press('3');
  await expect(panel).toContainText('Take 3 sounds.');
  await expect.poll(async () => sounding(id)).toEqual([2, 3, 2]);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => sounding(id)).toEqual([2]);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(async () => sounding(id)).toEqual([2, 3, 2]);

  // The ruler goes nearer around the phrase, and back.
  const ruler = page.locator('.fm-takes-grid .fm-ruler');
  const whole = await ruler.textContent();
  await page.keyboard.press('.');
  await expect.poll(() => ruler.textContent()).not.toBe(whole);
  await page.keyboard.press(',');
  await expect.poll(() => ruler.textContent()).toBe(whole);

  // Heard one after the other while the phrase repeats.
  await page.keyboard.press('v');
  await expect(page.getByRole('button', { name: 'Loop' })).toHaveAttribute('aria-pressed', 'true');
  for (const heard of ['take 1', 'take 2', 'take 3', 'as it is put together']) {
    await page.keyboard.press('t');
    await expect(panel).toContainText(`Heard: ${heard}`);
  }
  await page.keyboard.press('t');
  await page.keyboard.press('Escape');
  await expect(panel).toContainText('Heard: as it is put together');
  await page.keyboard.press(' ');

  // Rated, noted, put aside: each a step of its own.
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  await expect(panel.getByRole('button', { name: 'Keep', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await panel.getByRole('textbox', { name: 'Note on take 1' }).fill('breath at the end');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => {
      const [track] = await voices(id);
      return (
        track &&
        lanesOf(track)
          .map((l) => [l.takeNumber, l.takeRating, l.takeNote])
          .sort()[0]
      );
    })
    .toEqual([1, 'keep', 'breath at the end']);

  // A version of its own: the rough pass takes what was rated best.
  await panel.getByRole('button', { name: 'Keep this, try another' }).click();
  await panel.getByRole('button', { name: 'Rough pass' }).click();
  await expect.poll(async () => (await sounding(id))[0]).toBe(1);
  await panel.getByRole('radio', { name: 'Version 1 sounds' }).check();
  await expect.poll(async () => sounding(id)).toEqual([2, 3, 2]);
  await page.reload();
  await takeTrack(page);
  await panel.getByRole('radio', { name: 'Version 2 sounds' }).check();
  await expect.poll(async () => (await sounding(id))[0]).toBe(1);
});

test('with the pointer: drawn over a take, an edge pulled, a phrase by a double click', async ({ page }) => {
  const id = await packedVoice(page, 'Put together by hand');
  await page.keyboard.press('Enter');
  const picture = async (row: RegExp): Promise<{ x: (share: number) => number; y: number }> => {
    const box = await page.getByRole('row', { name: row }).getByRole('gridcell').boundingBox();
    if (!box) throw new Error('no picture');
    return { x: (share) => box.x + share * box.width, y: box.y + box.height / 2 };
  };
  const drag = async (from: readonly [number, number], to: readonly [number, number]): Promise<void> => {
    await page.mouse.move(...from);
    await page.mouse.down();
    await page.mouse.move((from[0] + to[0]) / 2, to[1]);
    await page.mouse.move(...to);
    await page.mouse.up();
  };
  /** Where the second take begins to sound, s, and how long the picture is. */
  const meeting = async (): Promise<{ readonly at: number; readonly length: number }> => {
    const view = await viewOf(id);
    const [track] = await voices(id);
    const rate = view.session.sampleRateHz ?? 48_000;
    const [one, two] = track?.clips ?? [];
    const length = Math.max(...view.recordings.map((r) => (r.sessionFrames ?? 0) / rate));
    return { at: ((one?.toFrames ?? 0) + (two?.fromFrames ?? 0)) / 2 / rate, length };
  };

  const third = await picture(/Lead Vox 3.wav/);
  await drag([third.x(0.3), third.y], [third.x(0.6), third.y]);
  await expect.poll(async () => sounding(id)).toEqual([2, 3, 2]);

  const before = await meeting();
  const head = await picture(/Lead Vo.*takes/);
  const share = before.at / before.length;
  await drag([head.x(share), head.y], [head.x(share) - 40, head.y]);
  await expect.poll(async () => (await meeting()).at).toBeLessThan(before.at - 0.3);
  await expect.poll(async () => sounding(id)).toEqual([2, 3, 2]);

  const first = await picture(/Lead Vox 1.wav/);
  await page.mouse.dblclick(first.x(0.9), first.y);
  await expect.poll(async () => (await sounding(id)).at(-1)).toBe(1);
});

test('two at once put one track together: neither loses what the other did', async ({ page, browser }) => {
  const id = await packedVoice(page, 'Two put together');
  const other = await (await browser.newContext()).newPage();
  await other.goto(`/sessions/${id}/sort?view=takes`);
  for (const p of [page, other]) {
    await takeTrack(p);
    await expect(p.getByRole('complementary', { name: 'Takes of the track' })).toContainText('in this track');
    await p.keyboard.press('ArrowRight');
  }
  await other.keyboard.press('ArrowRight');
  await page.keyboard.press('1');
  await expect.poll(async () => sounding(id)).toEqual([1, 2]);
  await expect(other.getByRole('complementary', { name: 'Takes of the track' })).toContainText(
    'Take 2 sounds.',
  );
  await other.keyboard.press('3');
  await expect.poll(async () => sounding(id)).toEqual([1, 3, 2]);
});
