import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createRandom, type Random } from '@/core/units';
import { pidOf, until } from '../support/server';
import { checkWorld } from './invariants';
import { ACTIVITIES, prepareWorld, type World } from './world';

/** What is killed. */
export type Victim = 'worker' | 'web' | 'database';

/** How a campaign went. */
export interface CampaignReport {
  readonly rounds: number;
  readonly kills: Readonly<Record<Victim, number>>;
  /** How often each activity was under way in a round. */
  readonly activities: Readonly<Record<string, number>>;
  readonly acknowledged: { readonly edits: number; readonly uploads: number };
  /** What did not hold, with its round; empty = all held. */
  readonly failures: readonly string[];
}

const LATEST_KILL_MS = 1500;
const AT_ONCE = 3;

/** Process id of a part of the server under test. */
function victimPid(victim: Victim): number | null {
  if (victim !== 'database') return pidOf(`${victim}.mjs`);
  try {
    return Number(
      readFileSync(join(process.env.FERNMOSS_CLUSTER ?? '', 'postmaster.pid'), 'utf8').split('\n')[0],
    );
  } catch {
    return null;
  }
}

function kill(victim: Victim): boolean {
  const pid = victimPid(victim);
  if (pid === null) return false;
  try {
    process.kill(pid, 'SIGKILL');
    return true;
  } catch {
    return false;
  }
}

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;

/**
 * Kills worker, web process and database at random moments while people work, and looks after each restart whether anything was lost.
 * The choices repeat with the seed; how far each work is at that moment depends on the machine.
 */
export async function runCampaign({
  rounds,
  seed,
  say = () => undefined,
}: {
  readonly rounds: number;
  readonly seed: number;
  readonly say?: (line: string) => void;
}): Promise<CampaignReport> {
  const random = createRandom(seed);
  const world = await prepareWorld(random, seed);
  const kills = { worker: 0, web: 0, database: 0 };
  const activities: Record<string, number> = {};
  const failures: string[] = [];
  const names = Object.keys(ACTIVITIES);
  for (let round = 1; round <= rounds; round++) {
    // Each kind comes round in turn, with others by chance beside it; so do the victims.
    const chosen = [
      ...new Set([
        names[round % names.length] as string,
        ...Array.from({ length: AT_ONCE - 1 }, () => pick(random, names)),
      ]),
    ];
    const victims = [
      ...new Set<Victim>([
        (['worker', 'web', 'database'] as const)[round % 3] as Victim,
        ...(random() < 0.25 ? [pick(random, ['worker', 'web', 'database'] as const)] : []),
      ]),
    ];
    const delay = random() * random() * LATEST_KILL_MS;
    world.round = round;
    const before = Date.now();
    const atWork = chosen.map((name) => {
      activities[name] = (activities[name] ?? 0) + 1;
      return (ACTIVITIES[name] as (w: World, r: Random) => Promise<void>)(
        world,
        createRandom(seed * 1000 + round),
      ).catch((cause: unknown) => void failures.push(`round ${round}: ${name}: ${(cause as Error).message}`));
    });
    await new Promise((resolve) => setTimeout(resolve, delay));
    for (const victim of victims) if (kill(victim)) kills[victim]++;
    await Promise.all(atWork);
    const wrong = await checkWorld(world).catch((cause: unknown) => [
      `could not be looked at: ${(cause as Error).message}`,
    ]);
    failures.push(...wrong.map((w) => `round ${round}: ${w}`));
    say(
      `round ${round}: ${victims.join(' and ')} killed after ${delay.toFixed(0)} ms of ${chosen.join(', ')} · ${wrong.length === 0 ? 'all held' : wrong.join('; ')} · ${((Date.now() - before) / 1000).toFixed(1)} s`,
    );
    // The services are only started again so often a minute.
    await until(
      async () => victimPid('worker') !== null && victimPid('web') !== null && victimPid('database') !== null,
      'all to be there again',
    );
  }
  return {
    rounds,
    kills,
    activities,
    acknowledged: { edits: world.edits.length, uploads: world.uploads.length },
    failures,
  };
}
