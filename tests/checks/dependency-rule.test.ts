import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { ROOT } from '../support/programs';

/** A small tree of our shape; each fault planted in it must be found by the rule of its name. */
const SOUND: Readonly<Record<string, string>> = {
  'src/core/units/index.ts': `export const a = 1;`,
  'src/core/units/inner.ts': `export const b = 1;`,
  'src/core/time/index.ts': `import { a } from '../units'; export const t = a;`,
  'src/contracts/index.ts': `import { t } from '@/core/time'; export const c = t;`,
  'src/engine/index.ts': `import { c } from '@/contracts'; export const e = c;`,
  'src/server/db/index.ts': `import { c } from '@/contracts'; export const d = c;`,
  'src/server/services/index.ts': `import { d } from '../db'; export const s = d;`,
  'src/ui/kit/index.ts': `export const k = 1;`,
  'src/ui/features/one/index.ts': `import { k } from '@/ui/kit'; export const o = k;`,
  'src/ui/features/two/index.ts': `export const w = 1;`,
  'src/app/page.ts': `import { s } from '@/server/services'; export const p = s;`,
};
const FAULTS: readonly (readonly [rule: string, file: string, text: string])[] = [
  ['core-order-units', 'src/core/units/index.ts', `import { t } from '../time'; export const a = t;`],
  ['core-through-index', 'src/core/time/index.ts', `import { b } from '../units/inner'; export const t = b;`],
  [
    'core-from-outside-through-index',
    'src/contracts/index.ts',
    `import { b } from '@/core/units/inner'; export const c = b;`,
  ],
  [
    'core-pure',
    'src/core/time/index.ts',
    `import { readFileSync } from 'node:fs'; export const t = readFileSync;`,
  ],
  ['core-known-domain', 'src/contracts/index.ts', `import { x } from '@/core/misc'; export const c = x;`],
  ['layer-contracts', 'src/contracts/index.ts', `import { e } from '@/engine'; export const c = e;`],
  ['layer-ui', 'src/ui/kit/index.ts', `import { d } from '@/server/db'; export const k = d;`],
  ['layer-app', 'src/app/page.ts', `import { e } from '@/engine'; export const p = e;`],
  ['db-only-from-server', 'src/app/page.ts', `import { d } from '@/server/db'; export const p = d;`],
  [
    'features-apart',
    'src/ui/features/one/index.ts',
    `import { w } from '@/ui/features/two'; export const o = w;`,
  ],
  ['kit-below-features', 'src/ui/kit/index.ts', `import { w } from '@/ui/features/two'; export const k = w;`],
  ['no-value-cycles', 'src/core/units/inner.ts', `import { a } from './index'; export const b = a;`],
];

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-rule-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function check(changes: Readonly<Record<string, string>>): string {
  rmSync(join(folder, 'src'), { recursive: true, force: true });
  for (const [path, text] of Object.entries({ ...SOUND, ...changes })) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  }
  const done = spawnSync(
    join(ROOT, 'node_modules/.bin/depcruise'),
    ['--config', join(ROOT, '.dependency-cruiser.cjs'), 'src'],
    { cwd: folder, encoding: 'utf8' },
  );
  return `${done.status} ${done.stdout}${done.stderr}`;
}

beforeAll(() => cpSync(join(ROOT, 'tsconfig.json'), join(folder, 'tsconfig.json')));

it('lets a sound tree pass', () => {
  expect(check({})).toMatch(/^0 /);
});
it.each(FAULTS)('finds the planted fault: %s', (rule, file, text) => {
  const extra: Record<string, string> =
    rule === 'core-known-domain'
      ? { 'src/core/misc/index.ts': 'export const x = 1;' }
      : rule === 'no-value-cycles'
        ? { 'src/core/units/index.ts': `import { b } from './inner'; export const a = b;` }
        : {};
  const said = check({ ...extra, [file]: text });
  expect(said).toContain(rule);
  expect(said).not.toMatch(/^0 /);
});
