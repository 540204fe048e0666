import type { MachineView } from '@/contracts';
import { VERSION } from '@/contracts';
import { listFolders } from './folders';
import { freeBytes } from './room';

/** What a person may want to know of the machine Fernmoss runs on. */
export async function viewMachine(): Promise<MachineView> {
  const { folders } = await listFolders(null);
  return {
    version: VERSION,
    freeBytes: await freeBytes(),
    allowedFolders: folders.map((f) => f.path),
  };
}
