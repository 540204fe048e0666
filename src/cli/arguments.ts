import { readFileSync } from 'node:fs';
import { readStyleFile } from '@/contracts';
import { DEFAULT_STYLE, type HouseStyle } from '@/core/style';

/** A call that cannot be understood; ends with exit code 2. */
export class CallFault extends Error {}

/** Words of a call after the command. */
export interface Arguments {
  /** Words that are not options, in order. */
  readonly words: readonly string[];
  readonly json: boolean;
  readonly style: HouseStyle;
  /** Values of an option in order; empty when absent. */
  all(name: string): readonly string[];
  /** Last value of an option; null when absent. */
  one(name: string): string | null;
  has(name: string): boolean;
}

const FLAGS = new Set(['json', 'session']);
const VALUES = new Set([
  'style',
  'timekeeper',
  'map',
  'map-out',
  'midi-out',
  'out',
  'from',
  'to',
  'received',
  'mix',
  'threshold',
  'shortest',
  'before',
  'after',
]);

/** Splits words and options; throws CallFault for unknown or valueless options. */
export function readArguments(argv: readonly string[]): Arguments {
  const words: string[] = [];
  const values = new Map<string, string[]>();
  for (let i = 0; i < argv.length; i++) {
    const word = argv[i] as string;
    if (!word.startsWith('--')) {
      words.push(word);
      continue;
    }
    const name = word.slice(2);
    if (FLAGS.has(name)) values.set(name, []);
    else if (VALUES.has(name)) {
      const value = argv[++i];
      if (value === undefined) throw new CallFault(`--${name} needs a value`);
      values.set(name, [...(values.get(name) ?? []), value]);
    } else throw new CallFault(`unknown option --${name}`);
  }
  return {
    words,
    json: values.has('json'),
    style: readStyle(values.get('style')?.at(-1) ?? null),
    all: (name) => values.get(name) ?? [],
    one: (name) => values.get(name)?.at(-1) ?? null,
    has: (name) => values.has(name),
  };
}

function readStyle(path: string | null): HouseStyle {
  if (path === null) return DEFAULT_STYLE;
  let text: string;
  try {
    text = readFileSync(path, 'utf8');
  } catch {
    throw new CallFault(`cannot read the house style ${path}`);
  }
  const read = readStyleFile(text);
  if (!read.ok)
    throw new CallFault(
      `the house style ${path} does not fit:\n  ${read.error.issues.map((i) => (i.line === null ? i.message : `line ${i.line}, column ${i.column}: ${i.message}`)).join('\n  ')}`,
    );
  if (read.value.unknown.length > 0)
    process.stderr.write(
      `the house style ${path} has what nothing here reads: ${read.value.unknown.join(', ')}\n`,
    );
  return read.value.style;
}

/** Prints a value as JSON, or rows as a plain table. */
export function print(json: boolean, value: unknown, rows: readonly (readonly unknown[])[]): void {
  if (json) process.stdout.write(`${JSON.stringify(value, null, 1)}\n`);
  else {
    const widths = (rows[0] ?? []).map((_, c) => Math.max(...rows.map((r) => String(r[c] ?? '').length)));
    for (const row of rows)
      process.stdout.write(
        `${row
          .map((x, c) => String(x ?? '').padEnd(widths[c] ?? 0))
          .join('  ')
          .trimEnd()}\n`,
      );
  }
}
