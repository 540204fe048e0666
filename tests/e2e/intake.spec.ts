import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { knocks, tone, wavBytes } from '../support/recordings';
import { newSession, settled, upload } from '../support/server';

const hits = Array.from({ length: 10 }, (_, i) => 0.6 + 0.5 * i);
const top = knocks(hits, 6, 190).map((x) => 0.5 * x);
const bottom = top.map((_, i) => -0.7 * (top[i - 40] ?? 0));
/** Quiet, a phrase, a pause, a louder phrase. */
const voice = tone(220, 6, 0.5).map((x, i) => {
  const t = i / 48_000;
  return (
    x *
    (t > 1 && t < 2 ? 0.3 : t > 4 && t < 5.5 ? 0.8 * Math.min(1, (t - 4) * 20, (5.5 - t) * 20) : 0) *
    Math.min(1, Math.abs(t - 1) * 20, Math.abs(t - 2) * 20)
  );
});
const half = top.map((x, i) => (i < 20_000 ? 0 : x * 0.4));

test('what was found, worst first; remedies, putting aside and a message to the sender by keys alone; go to where a track plays', async ({
  page,
}) => {
  const id = await newSession('Low Water');
  await upload(id, 'Snare top.wav', await wavBytes([top]));
  await upload(id, 'Snare btm.wav', await wavBytes([bottom]));
  await upload(id, 'Vox.wav', await wavBytes([voice]));
  await upload(id, 'Keys.wav', await wavBytes([half, half]));
  await upload(id, 'Bass.wav', (await wavBytes([voice])).subarray(0, 500_000));
  await settled(id);
  await page.goto(`/sessions/${id}/intake`);
  const findings = page.getByRole('group', { name: 'What was found' });
  const lines = findings.getByRole('button');
  await expect(lines.first()).toContainText('Ends before its header says');
  await expect(findings.getByText('Polarity against the leading microphone')).toBeVisible();

  // The keys: down to the polarity, 1 does it, undo brings it back.
  const panel = page.getByRole('complementary', { name: 'Details' });
  const goTo = async (title: string): Promise<void> => {
    for (let i = 0; i < 12; i++) {
      if ((await panel.getByRole('heading', { level: 2 }).textContent()) === title) return;
      await page.keyboard.press('ArrowDown');
    }
    throw new Error(`no way to ${title}`);
  };
  await goTo('Polarity against the leading microphone');
  await expect(
    panel.getByRole('img', { name: /Snare top.wav and Snare btm.wav over each other/ }),
  ).toBeVisible();
  await page.keyboard.press('1');
  await expect(findings.getByText('Polarity against the leading microphone')).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(findings.getByText('Polarity against the leading microphone')).toBeVisible();

  await page.keyboard.press('Escape');
  await goTo('Stereo files that are mono');
  await page.keyboard.press('2');
  await expect(findings.getByText('Stereo files that are mono')).toBeHidden();
  await page.getByRole('button', { name: '1 put aside' }).click();
  await expect(findings.getByText('Stereo files that are mono')).toBeVisible();

  await page.keyboard.press('q');
  const message = page.getByRole('textbox', { name: /From what was found/ });
  await expect(message).toHaveValue(
    /These end before their header says\. Could you send them again\?\n {3}Bass\.wav/,
  );
  await page.keyboard.press('Escape');

  // Where the voice plays: first sound, then the next phrase, then the loudest.
  await page.getByRole('row', { name: /Vox\.wav/ }).click();
  const position = page.getByRole('slider', { name: 'Song position' });
  const at = async (): Promise<number> => Number(await position.getAttribute('aria-valuenow'));
  await page.keyboard.press('f');
  await expect.poll(at).toBe(1);
  await page.keyboard.press('p');
  await expect.poll(at).toBeGreaterThanOrEqual(4);
  await page.keyboard.press('Space');
});

test('a session takes another rate as a whole: chosen in one place, what differs is converted', async ({
  page,
}) => {
  const id = await newSession('Two rates');
  for (const [name, rateHz] of [
    ['A.wav', 48_000],
    ['B.wav', 48_000],
    ['C.wav', 44_100],
  ] as const)
    await upload(
      id,
      name,
      await wavBytes(
        [
          tone(200, 1, 0.3, rateHz).map(
            (x, i, all) => x * Math.min(1, i / 2000, (all.length - 1 - i) / 2000),
          ),
        ],
        { rateHz },
      ),
    );
  await settled(id);
  await page.goto(`/sessions/${id}/intake`);
  await page.getByRole('button', { name: /Another sample rate/ }).click();
  await expect(page.getByRole('radio', { name: /48 kHz: as 2 files were recorded/ })).toBeChecked();
  await page.getByRole('radio', { name: /44\.1 kHz: as 1/ }).click();
  await expect(page.getByText('Converted to 44.1 kHz for the session')).toHaveCount(2, { timeout: 30_000 });
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Converted to 48 kHz for the session')).toHaveCount(1, { timeout: 30_000 });
  // Or it plays as it is, faster and higher: 48/44.1, and 12·log2 of it.
  await page
    .getByRole('radio', { name: /Keep the samples: 1\.0884 times as fast, \+1\.47 semitones/ })
    .click();
  await expect(page.getByRole('row', { name: /C\.wav/ })).toContainText(
    'Its samples are kept: 1.0884 times as fast',
  );
  await expect(page.getByRole('radio', { name: /Keep the samples/ })).toBeChecked();
});

test('what names claim of the tempo is shown, set aside for one file or all, and taken up again', async ({
  page,
}) => {
  const id = await newSession('Claims');
  for (const [k, name] of ['Kick_96bpm.wav', 'Bass_96bpm.wav', 'Vox_120bpm.wav'].entries())
    await upload(
      id,
      name,
      await wavBytes([
        tone(100 + 90 * k, 1).map((x, i, all) => x * Math.min(1, i / 2000, (all.length - 1 - i) / 2000)),
      ]),
    );
  await settled(id);
  await page.goto(`/sessions/${id}/intake`);
  const panel = page.getByRole('complementary', { name: 'Details' });
  await expect(panel.getByText('96 BPM')).toBeVisible();
  await page
    .getByRole('row', { name: /Vox_120bpm/ })
    .last()
    .click();
  await panel.getByRole('button', { name: 'set its tempo aside' }).click();
  await expect(panel.getByRole('button', { name: /its tempo is set aside/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(panel.getByText('96 BPM')).toBeVisible();
  await expect(panel.getByText('120 BPM')).toHaveCount(0);
  await panel.getByRole('button', { name: 'set all tempi aside' }).click();
  await expect(panel.getByText('96 BPM')).toHaveCount(0);
  await panel.getByRole('button', { name: /take up the tempi of 3 files again/ }).click();
  await expect(panel.getByText('120 BPM')).toBeVisible();
});

test('a delivery with a folder a song becomes a session each, together, with one list of what is open', async ({
  page,
}) => {
  const album = join(mkdtempSync(join(tmpdir(), 'fernmoss-songs-')), 'Harbour Album');
  for (const [n, song] of ['Slack Tide', 'Ebb Song'].entries()) {
    mkdirSync(join(album, song), { recursive: true });
    for (const [k, name] of ['Kick.wav', 'Snare.wav', 'Gtr L.wav'].entries())
      writeFileSync(
        join(album, song, name),
        await wavBytes([
          tone(90 + 70 * k + 11 * n, 0.5).map((x, i) => x * Math.min(1, i / 2000, (24_000 - i) / 2000)),
        ]),
      );
  }
  await page.goto(`/sessions/${await newSession('Inbox')}/intake`);
  await page.getByLabel('Folder of recordings').setInputFiles(album);
  await expect(page.getByRole('heading', { name: '2 songs?' })).toBeVisible();
  await page.getByRole('button', { name: 'Make 2 sessions' }).click();
  const row = page.getByRole('row', { name: /Harbour Album 2 songs/ });
  await expect(row).toBeVisible();
  await expect(page.getByRole('row', { name: /Ebb Song/ })).toContainText('3');
  await row.getByRole('button', { name: 'What is open' }).click();
  const list = page.getByRole('dialog');
  await expect(list.getByText('Only one side of a pair: 1 file')).toHaveCount(2, { timeout: 30_000 });
  await list.getByRole('link', { name: 'Ebb Song' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
});
