import { expect, test } from '@playwright/test';
import { movedParts, tracksInOrder } from '@/core/session';
import { tone, wavBytes } from '../support/recordings';
import { edit, newSession, settled, upload, viewOf } from '../support/server';

test('tracks are moved by bars, pulses, seconds or samples, their group with them, and laid back, as one step each', async ({
  page,
}) => {
  const id = await newSession('Slack Tide');
  for (const [i, name] of ['Kick.wav', 'Bass.wav', 'Vox.wav'].entries())
    await upload(id, name, await wavBytes([tone(90 + 40 * i, 0.5)]));
  await settled(id);
  const [kick, bass, vox] = tracksInOrder((await viewOf(id)).session);
  if (!kick || !bass || !vox) throw new Error('three tracks');
  // 120 quarters a minute: a bar of 4/4 lasts 2 s.
  await edit(id, 'A map, a group and a place', [
    {
      kind: 'map.replace',
      map: {
        schemaVersion: 1,
        points: [
          { quarters: 0, seconds: 0 },
          { quarters: 64, seconds: 32 },
        ],
        meters: [{ bar: 1, numerator: 4, denominator: 4 }],
      },
      facts: null,
    },
    {
      kind: 'groups.set',
      groups: [{ id: 'low', name: 'Low', trackIds: [kick.id, bass.id], on: true, gainDb: 0, byHand: true }],
    },
    { kind: 'markers.set', markers: [{ id: 'verse', name: 'Verse', seconds: 8 }] },
  ]);
  const begins = async (): Promise<number[]> => {
    const { session } = await viewOf(id);
    return [kick, bass, vox].map(
      (t) => tracksInOrder(session).find((x) => x.id === t.id)?.startFrames ?? NaN,
    );
  };

  await page.goto(`/sessions/${id}/sort`);
  await page.getByRole('row', { name: /Kick/ }).click();
  await page.keyboard.press('w');
  const dialog = page.getByRole('dialog', { name: 'Move in time' });
  await expect(dialog.getByText('What is selected: 1 track')).toBeVisible();
  await expect(dialog.getByText('Nothing: every track begins at the common zero')).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Move 1 track' })).toBeDisabled();
  await dialog.getByLabel('Bars').fill('-1,5');
  await dialog.getByLabel('Bars').blur();
  await expect(dialog.getByLabel('Pulses')).toHaveValue('−6');
  await expect(dialog.getByLabel('Seconds')).toHaveValue('−3');
  await expect(dialog.getByLabel('Samples')).toHaveValue('−144000');
  await expect(dialog.getByText('1 track that is in a group with these moves as far.')).toBeVisible();
  await dialog.getByLabel('Pulses').fill('4');
  await dialog.getByLabel('Pulses').press('Enter');
  await dialog.getByRole('button', { name: 'Move 2 tracks' }).click();
  await expect(dialog).toBeHidden();
  await expect.poll(begins).toEqual([96_000, 96_000, 0]);

  await page.keyboard.press('w');
  await dialog.getByText('Everything: 3 tracks').click();
  await dialog.getByText('The one named place as well').click();
  await dialog.getByLabel('Samples').fill('48,000');
  await dialog.getByLabel('Samples').blur();
  await dialog.getByRole('button', { name: 'Move 3 tracks' }).click();
  await expect.poll(begins).toEqual([144_000, 144_000, 48_000]);
  expect((await viewOf(id)).session.markers[0]?.seconds).toBe(9);

  await page.keyboard.press('Control+z');
  await expect.poll(begins).toEqual([96_000, 96_000, 0]);
  expect((await viewOf(id)).session.markers[0]?.seconds).toBe(8);

  await page.keyboard.press('w');
  await expect(dialog.getByText('+1 bar · 4 pulses · 2 s · 96,000 samples')).toHaveCount(2);
  await dialog.getByLabel('Bars').fill('a few');
  await dialog.getByLabel('Bars').blur();
  await expect(dialog.getByText(/Not a number/)).toBeVisible();
  await dialog.getByLabel('Bars').press('Escape');
  await page.keyboard.press('w');
  await dialog.getByRole('button', { name: /Take Kick.* back/ }).click();
  await expect.poll(begins).toEqual([0, 96_000, 0]);
  await dialog.getByRole('button', { name: /Take Bass.* back/ }).click();
  await expect.poll(async () => movedParts((await viewOf(id)).session)).toEqual([]);
});
