import { join } from 'node:path';
import { readConfig } from '../config';

/** Folder of a session's packages; ids only, so that no name becomes a path. */
export const packageDir = (sessionId: string, handoverId: string): string =>
  join(readConfig().dataDir, 'packages', sessionId, handoverId);
