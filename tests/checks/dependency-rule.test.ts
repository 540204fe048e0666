import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { ROOT } from '../support/programs';

/** A small tree of our shape. */
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
/** Each planted in a file of its own, so that all of them stand in one tree. */
const FAULTS: readonly (readonly [rule: string, file: string, text: string])[] = [
  ['core-order-units', 'src/core/units/up.ts', `import { t } from '../time'; export const a = t;`],
  ['core-through-index', 'src/core/time/deep.ts', `import { b } from '../units/inner'; export const t = b;`],
  [
    'core-from-outside-through-index',
    'src/contracts/deep.ts',
    `import { b } from '@/core/units/inner'; export const c = b;`,
  ],
  [
    'core-pure',
    'src/core/time/files.ts',
    `import { readFileSync } from 'node:fs'; export const t = readFileSync;`,
  ],
  ['core-known-domain', 'src/contracts/misc.ts', `import { x } from '@/core/misc'; export const c = x;`],
  ['layer-contracts', 'src/contracts/up.ts', `import { e } from '@/engine'; export const c = e;`],
  ['layer-ui', 'src/ui/kit/across.ts', `import { d } from '@/server/db'; export const k = d;`],
  ['layer-app', 'src/app/across.ts', `import { e } from '@/engine'; export const p = e;`],
  ['db-only-from-server', 'src/app/deep.ts', `import { d } from '@/server/db'; export const p = d;`],
  [
    'features-apart',
    'src/ui/features/one/across.ts',
    `import { w } from '@/ui/features/two'; export const o = w;`,
  ],
  ['kit-below-features', 'src/ui/kit/up.ts', `import { w } from '@/ui/features/two'; export const k = w;`],
  ['no-value-cycles', 'src/core/units/again.ts', `import { r } from './round'; export const b = r;`],
];
/** What the faults need beside them. */
const BESIDE: Readonly<Record<string, string>> = {
  'src/core/misc/index.ts': 'export const x = 1;',
  // A cycle is told of the file that comes first.
  'src/core/units/round.ts': `import { b } from './again'; export const r = b;`,
};

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-rule-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Rules that files of a tree break, as `rule file`. */
function broken(tree: Readonly<Record<string, string>>): readonly string[] {
  rmSync(join(folder, 'src'), { recursive: true, force: true });
  for (const [path, text] of Object.entries(tree)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  }
  const { stdout } = spawnSync(
    join(ROOT, 'node_modules/.bin/depcruise'),
    ['--config', join(ROOT, '.dependency-cruiser.cjs'), '--output-type', 'json', 'src'],
    { cwd: folder, encoding: 'utf8' },
  );
  const { summary } = JSON.parse(stdout) as {
    summary: { violations: { rule: { name: string }; from: string }[]; totalCruised: number };
  };
  expect(summary.totalCruised).toBeGreaterThanOrEqual(Object.keys(tree).length);
  return summary.violations.map((v) => `${v.rule.name} ${v.from}`);
}

beforeAll(() => cpSync(join(ROOT, 'tsconfig.json'), join(folder, 'tsconfig.json')));

it('lets a sound tree pass', () => expect(broken(SOUND)).toEqual([]));
it('finds every planted fault, where it is', () => {
  const planted = Object.fromEntries(FAULTS.map(([, file, text]) => [file, text]));
  expect(broken({ ...SOUND, ...BESIDE, ...planted })).toEqual(
    expect.arrayContaining(FAULTS.map(([rule, file]) => `${rule} ${file}`)),
  );
});
