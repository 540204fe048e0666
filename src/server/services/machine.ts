import type { MachineView } from '@/contracts';
import { VERSION } from '@/contracts';
import { readConfig } from '../config';
import { listFolders } from './folders';
import { freeBytes } from './room';

/** What a person may want to know of the machine Fernmoss runs on. */
export async function viewMachine(): Promise<MachineView> {
  const { folders } = await listFolders(null);
  return {
    version: VERSION,
    dataFolder: readConfig().dataDir,
    freeBytes: await freeBytes(),
    allowedFolders: folders.map((f) => f.path),
  };
}
