import { closeDb } from '@/server/db';
import { runCampaign } from '../campaign/campaign';
import { runTwoEditors } from '../campaign/two-editors';

afterAll(closeDb);

// The short form; `npm run campaign` does sixty rounds and more.
it('kill -9 of worker, web process and database in the middle of work loses nothing', async () => {
  const report = await runCampaign({ rounds: 6, seed: 20 });
  expect(report.failures).toEqual([]);
  expect(Math.min(report.kills.worker, report.kills.web, report.kills.database)).toBeGreaterThan(0);
}, 600_000);

// The short form; `npm run campaign -- --editors 10` does ten minutes.
it('two editors at work: every package holds every track', async () => {
  const report = await runTwoEditors({ ms: 10_000, leastPackages: 3, seed: 3 });
  expect(report.failures).toEqual([]);
  expect(report.edits).toBeGreaterThan(0);
}, 300_000);
