import { closeDb } from '@/server/db';
import { runCampaign } from '../campaign/campaign';

afterAll(closeDb);

// The short form; `npm run campaign` does sixty rounds and more.
it('kill -9 of worker, web process and database in the middle of work loses nothing', async () => {
  const report = await runCampaign({ rounds: 6, seed: 20 });
  expect(report.failures).toEqual([]);
  expect(Math.min(report.kills.worker, report.kills.web, report.kills.database)).toBeGreaterThan(0);
}, 600_000);
