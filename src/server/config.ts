import { join } from 'node:path';

/** Where this process finds its database, its bytes and its compute thread. */
export interface ServerConfig {
  readonly databaseUrl: string;
  readonly dataDir: string;
  readonly threadPath: string;
}

/** Reads the environment that `bin/start.mjs` sets; throws with the missing name. */
export function readConfig(env: NodeJS.ProcessEnv = process.env): ServerConfig {
  const need = (name: string): string => {
    const value = env[name];
    if (!value) throw new Error(`${name} is not set: start with “npm start”`);
    return value;
  };
  return {
    databaseUrl: need('FERNMOSS_DATABASE_URL'),
    dataDir: need('FERNMOSS_DATA'),
    threadPath: env.FERNMOSS_THREAD ?? join(process.cwd(), 'dist', 'compute.mjs'),
  };
}
