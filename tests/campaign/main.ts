import { closeDb } from '@/server/db';
import { runCampaign } from './campaign';
import { runTwoEditors } from './two-editors';

const option = (name: string, otherwise: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  const value = at < 0 ? otherwise : Number(process.argv[at + 1]);
  if (!Number.isInteger(value) || value < 1) throw new RangeError(`--${name} takes a whole number from 1 on`);
  return value;
};

if (process.argv.includes('--editors')) {
  const { packages, edits, stale, failures } = await runTwoEditors({
    ms: 60_000 * option('editors', 10),
    seed: option('seed', 1),
    say: (line) => console.log(`campaign · ${line}`),
  });
  console.log(`campaign · ${packages} packages, ${edits} edits, ${stale} refused as stale`);
  for (const failure of failures) console.log(`campaign · ${failure}`);
  console.log(
    failures.length === 0 ? 'campaign · every package holds every track' : 'campaign · it did not hold',
  );
  await closeDb();
  process.exit(failures.length === 0 ? 0 : 1);
}

const report = await runCampaign({
  rounds: option('rounds', 60),
  seed: option('seed', 1),
  say: (line) => console.log(`campaign · ${line}`),
});
const list = (counts: Readonly<Record<string, number>>): string =>
  Object.entries(counts)
    .map(([name, n]) => `${name} ${n}`)
    .join(', ');
console.log(
  `campaign · ${report.rounds} rounds; killed: ${list(report.kills)}; under way: ${list(report.activities)}; acknowledged: ${list(report.acknowledged)}`,
);
for (const failure of report.failures) console.log(`campaign · LOST · ${failure}`);
console.log(
  report.failures.length === 0
    ? 'campaign · nothing lost'
    : `campaign · ${report.failures.length} things did not hold`,
);
await closeDb();
process.exit(report.failures.length === 0 ? 0 : 1);
