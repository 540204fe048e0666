import { expect, test } from '@playwright/test';
import { newSession } from '../support/server';
import { tone, wavBytes } from '../support/recordings';

test('files chosen or dropped before the page’s own code is there are taken in once it is', async ({
  page,
}) => {
  const bytes = await wavBytes([tone(220, 0.3)]);
  const id = await newSession('Early');
  let letThrough = (): void => undefined;
  const held = new Promise<void>((done) => (letThrough = done));
  await page.route(/_next\/static\/.*\.js/, async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(`/sessions/${id}/intake`, { waitUntil: 'commit' });
  await page
    .getByLabel('Recordings', { exact: true })
    .setInputFiles({ name: 'Oar.wav', mimeType: 'audio/wav', buffer: Buffer.from(bytes) });
  const carried = await page.evaluateHandle(
    (sound) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([new Uint8Array(sound)], 'Keel.wav', { type: 'audio/wav' }));
      return transfer;
    },
    [...bytes],
  );
  await page.getByRole('region', { name: 'Intake' }).dispatchEvent('drop', { dataTransfer: carried });
  letThrough();
  await expect(page.getByRole('row', { name: /Oar/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /Keel/ })).toBeVisible();
});
