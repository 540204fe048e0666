import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { promisify } from 'node:util';
import { makeDelivery, type MadeDelivery, type Naming } from '../../tests/support/takes/delivery';
import { GROUP_KINDS } from '../../tests/support/takes/groups';

interface Answer {
  readonly lanes?: readonly { readonly file: string }[];
  readonly reason?: string;
  readonly wanted?: string | null;
  readonly notTakes?: readonly { readonly files: readonly string[]; readonly reason: string }[];
  readonly questions?: readonly { readonly files: readonly string[]; readonly question: string }[];
}

interface Case {
  readonly kind: string;
  readonly naming: Naming;
  readonly hasMix: boolean;
  readonly seed: number;
}

interface Told {
  readonly isRight: boolean;
  /** Files became one track that are none. */
  readonly isWrongPack: boolean;
  readonly says: string;
}

const run = promisify(execFile);

/** What the command line says of a delivery. */
async function answerOf(folder: string): Promise<Answer[]> {
  const args = [join(import.meta.dirname, 'fernmoss.mjs'), 'takes', folder, '--json'];
  const { stdout } = await run('node', args, { maxBuffer: 1e8 }).catch((cause: unknown) => {
    const { stdout: said, code } = cause as { stdout: string; code: number };
    if (code !== 1) throw cause;
    return { stdout: said };
  });
  return JSON.parse(stdout) as Answer[];
}

const names = (paths: readonly string[]): string =>
  paths
    .map((p) => basename(p))
    .sort()
    .join(' + ');

/** Whether what was said of a group is what it is; where nothing tells, that it was asked. */
function judge({ group, files }: MadeDelivery, { naming, hasMix }: Case, answer: readonly Answer[]): Told {
  const last = answer.at(-1) as Answer;
  const packs = answer.slice(0, -1);
  const all = names(files);
  const own = packs.find((p) => names((p.lanes ?? []).map((l) => l.file)) === all);
  const touched = packs.filter((p) => p.lanes?.some((l) => files.includes(basename(l.file))));
  const together = (last.notTakes ?? []).filter((n) => n.files.some((f) => files.includes(basename(f))));
  const asked = (last.questions ?? []).find((q) => names(q.files) === all);
  const says = [
    ...touched.map((p) => `pack ${names((p.lanes ?? []).map((l) => l.file))}: ${p.reason}`),
    ...together.map((t) => `together ${names(t.files)}: ${t.reason}`),
    ...(last.questions ?? []).map((q) => `asks ${names(q.files)}: ${q.question}`),
  ].join(' | ');
  const isOne = group.truth === 'takes' || group.truth === 'after';
  const isWrongPack =
    packs.some((p) => p.lanes?.some((l) => !files.includes(basename(l.file)))) ||
    (!isOne && touched.length > 0);
  const isAskedOne = group.comp === null && naming !== 'telling' && !hasMix;
  const isTogether = together.length > 0 && touched.length === 0;
  const right: Record<typeof group.truth, boolean> = {
    takes: isAskedOne ? asked !== undefined : own !== undefined,
    unison: isAskedOne ? asked !== undefined : isTogether,
    harmony: isTogether,
    octave: isTogether,
    microphones: isTogether,
    after: naming === 'telling' ? own !== undefined : own !== undefined || asked !== undefined,
    answer: naming === 'telling' ? isTogether : asked !== undefined && touched.length === 0,
  };
  return { isRight: right[group.truth] && !isWrongPack, isWrongPack, says };
}

async function tell(one: Case): Promise<Told> {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-takes-bench-'));
  try {
    const made = await makeDelivery(folder, one);
    return judge(made, one, await answerOf(folder));
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const [from = 1, to = 2] = (process.argv[2] ?? '1-2').split('-').map(Number);
const WAYS: readonly (readonly [Naming, boolean])[] = [
  ['telling', false],
  ['telling', true],
  ['numbers', true],
  ['recorder', true],
  ['numbers', false],
  ['recorder', false],
];
const cases: Case[] = [];
for (let seed = from; seed < to; seed++)
  for (const [k, kind] of GROUP_KINDS.entries())
    for (const [naming, hasMix] of WAYS) cases.push({ kind, naming, hasMix, seed: 100 * seed + k });

const results: (Case & Told)[] = [];
let next = 0;
await Promise.all(
  Array.from({ length: availableParallelism() }, async () => {
    for (let i = next++; i < cases.length; i = next++) {
      const one = cases[i] as Case;
      results.push({ ...one, ...(await tell(one)) });
      process.stderr.write(`${results.length} of ${cases.length}\r`);
    }
  }),
);
for (const [naming, hasMix] of WAYS) {
  const own = results.filter((r) => r.naming === naming && r.hasMix === hasMix);
  const right = own.filter((r) => r.isRight).length;
  console.log(
    `${`names: ${naming}, ${hasMix ? 'a mix' : 'no mix'}`.padEnd(28)} right ${((100 * right) / own.length).toFixed(1)} % of ${own.length}, wrong packs ${own.filter((r) => r.isWrongPack).length}`,
  );
  for (const r of own.filter((x) => !x.isRight || x.isWrongPack))
    console.log(`    ${r.kind} (${r.seed})${r.isWrongPack ? ' PACKED' : ''}: ${r.says || 'nothing'}`);
}
