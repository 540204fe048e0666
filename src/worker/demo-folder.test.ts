import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { hasDemo } from './demo-folder';

it('an empty folder is no demo that was made: a first start makes one', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-demo-'));
  try {
    const demo = join(folder, 'demo');
    expect(await hasDemo(demo)).toBe(false);
    mkdirSync(demo);
    expect(await hasDemo(demo)).toBe(false);
    writeFileSync(join(demo, 'Kick.wav'), '');
    expect(await hasDemo(demo)).toBe(true);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
