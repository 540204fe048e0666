import {
  Document,
  isCollection,
  isMap,
  isNode,
  isScalar,
  isSeq,
  LineCounter,
  type Node,
  parseDocument,
  visit,
} from 'yaml';
import type { HouseStyle } from '@/core/style';
import { err, type Result } from '@/core/units';
import { parseHouseStyle } from './house-style';

/** Something wrong with a style file, and where. */
export interface StyleFileIssue {
  readonly message: string;
  /** From 1; null = of the whole file. */
  readonly line: number | null;
  readonly column: number | null;
}

/** A style read from a file. */
export interface StyleFile {
  readonly style: HouseStyle;
  /** What is kept though nothing here reads it. */
  readonly unknown: readonly string[];
}

/** Largest file that is read, characters. */
const LARGEST = 10 << 20;
/** Lists and names as deep in each other are refused. */
const DEEPEST = 100;

const whole = (message: string): Result<never, { readonly issues: readonly StyleFileIssue[] }> =>
  err({ issues: [{ message, line: null, column: null }] });

/** Whether nesting is out of all bounds, told without building anything: what follows takes a file apart by recursion. */
function isFarTooDeep(text: string): boolean {
  let open = 0;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c === 0x5b || c === 0x7b) open++;
    else if (c === 0x5d || c === 0x7d) open = Math.max(0, open - 1);
    if (open > 10 * DEEPEST) return true;
  }
  // Blocks in blocks stand ever further to the right, or begin with dash after dash.
  return /(^|\n)[ \-?]{1500}/.test(text);
}

/** Whether lists and names stand in each other `left` deep or deeper. */
const isAsDeep = (value: unknown, left: number): boolean =>
  typeof value === 'object' &&
  value !== null &&
  (left <= 1 || Object.values(value).some((v) => isAsDeep(v, left - 1)));

/** Reads a house style from YAML or JSON; all that is wrong with it comes with its line and column. */
export function readStyleFile(
  text: string,
): Result<StyleFile, { readonly issues: readonly StyleFileIssue[] }> {
  if (text.length > LARGEST) return whole('this file is larger than 10 MB: no house style is');
  if (isFarTooDeep(text)) return whole(`this file is nested ${DEEPEST} deep or more`);
  const lines = new LineCounter();
  let value: unknown;
  let doc: ReturnType<typeof parseDocument>;
  try {
    doc = parseDocument(text, { lineCounter: lines, prettyErrors: false });
    const wrong = doc.errors.map((e) => ({
      message: `not readable as YAML: ${e.message}`,
      line: lines.linePos(e.pos[0]).line,
      column: lines.linePos(e.pos[0]).col,
    }));
    if (wrong.length > 0) return err({ issues: wrong });
    value = doc.toJS() as unknown;
  } catch (cause) {
    return whole(
      cause instanceof RangeError
        ? `this file is nested ${DEEPEST} deep or more`
        : `not readable as YAML: ${(cause as Error).message}`,
    );
  }
  if (isAsDeep(value, DEEPEST)) return whole(`this file is nested ${DEEPEST} deep or more`);
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return whole('a house style is names with values, like “name: Saltmarsh Studio”');
  const parsed = parseHouseStyle(value);
  if (parsed.ok) return parsed;
  return err({
    issues: parsed.error.issues
      .map(({ path, message }) => ({ message, ...placeOf(doc, path, lines) }))
      .sort((a, b) => (a.line ?? 0) - (b.line ?? 0)),
  });
}

/** Where a path stands in a file, or the nearest thing around it. */
function placeOf(
  doc: Document,
  path: string,
  lines: LineCounter,
): { readonly line: number | null; readonly column: number | null } {
  const steps = [...path.matchAll(/\["([^"]*)"\]|\[(\d+)\]|([^.[\]]+)/g)].map(
    (m) => m[1] ?? (m[2] === undefined ? (m[3] as string) : Number(m[2])),
  );
  for (let n = steps.length; n >= 0; n--) {
    const found: unknown = n === 0 ? doc.contents : doc.getIn(steps.slice(0, n), true);
    if (isNode(found) && found.range) {
      const at = lines.linePos(found.range[0]);
      return { line: at.line, column: at.col };
    }
  }
  return { line: null, column: null };
}

const WIDTH = 110;

/** A house style as a file people read; reading it again gives the same style. */
export function writeStyleFile(style: HouseStyle): string {
  const doc = new Document(style);
  // Short lists and small things on one line, as one would write them.
  visit(doc, {
    Collection(_key, node) {
      if (isFlat(node)) node.flow = true;
    },
  });
  return doc.toString({ lineWidth: WIDTH, flowCollectionPadding: false, indentSeq: true });
}

function isFlat(node: Node): boolean {
  if (isSeq(node)) return node.items.every(isScalar);
  // A condition or what follows from it: {all: [...]} as well.
  return (
    isMap(node) &&
    node.items.length <= 3 &&
    node.items.every((p) => isScalar(p.value) || (isCollection(p.value) && isFlatOrList(p.value)))
  );
}

const isFlatOrList = (node: Node): boolean =>
  isSeq(node) ? node.items.every((x) => isScalar(x) || (isNode(x) && isFlat(x))) : isFlat(node);
