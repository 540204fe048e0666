import type { Evidence, Family } from '../naming';
import { meets, type Subject } from './conditions';
import type { Rule, RuleResult } from './house-style';

/** What the rules made of one row. */
export interface Ruled {
  readonly subject: Subject;
  /** What the rules set, the last word of each. */
  readonly result: RuleResult;
  /** Names of the rules that met the row, in order. */
  readonly hits: readonly string[];
  readonly evidence: readonly Evidence[];
}

const plain = (value: unknown): string => (value === null ? 'nothing' : String(value).replaceAll('-', ' '));

/** What a rule sets, in plain words. */
export function resultText(then: RuleResult): string {
  const { family, part, name, color, folder, muted, pan, ...rest } = then;
  return [
    family === undefined
      ? part === undefined
        ? ''
        : plain(part)
      : `${plain(family)}${part ? ` · ${plain(part)}` : ''}`,
    ...Object.entries(rest)
      .filter(([, v]) => v !== undefined)
      .map(([k, v]) => `${k} ${plain(v)}`),
    name === undefined ? '' : `called “${name}”`,
    color === undefined ? '' : `coloured ${color}`,
    folder === undefined ? '' : `into ${plain(folder)}`,
    muted === undefined ? '' : muted ? 'muted' : 'not muted',
    pan === undefined ? '' : pan === 0 ? 'in the centre' : `pan ${Math.round(pan * 100)}`,
  ]
    .filter((x) => x !== '')
    .join(', ');
}

/** Runs rules over one row, from first to last, each on what those before it left. `folderOf` says where a row goes that no rule has placed. */
export function runRules(
  rules: readonly Rule[],
  start: Omit<Subject, 'folder'>,
  folderOf: (subject: Subject) => string | null,
): Ruled {
  let subject: Subject = { ...start, folder: null };
  subject = { ...subject, folder: folderOf(subject) };
  let result: RuleResult = {};
  const hits: string[] = [];
  const evidence: Evidence[] = [];
  for (const rule of rules) {
    if (!rule.on || !meets(rule.when, subject)) continue;
    const { then } = rule;
    hits.push(rule.name);
    evidence.push({ kind: 'rule', text: rule.name, means: resultText(then) });
    result = { ...result, ...then };
    subject = {
      ...subject,
      ...said(then, subject),
      ...(then.name === undefined ? {} : { name: then.name }),
      ...(then.color === undefined ? {} : { color: then.color.toLowerCase() }),
    };
    subject = { ...subject, folder: result.folder ?? folderOf(subject) };
  }
  return { subject, result, hits, evidence };
}

/** A rule that says another family takes the part of the first away, unless it says one too. */
function said(then: RuleResult, was: Subject): Partial<Subject> {
  const out: { family?: Family; part?: string | null; role?: string | null; position?: string | null } = {};
  if (then.family !== undefined)
    Object.assign(out, {
      family: then.family,
      part: then.part ?? (then.family === was.family ? was.part : null),
    });
  else if (then.part !== undefined) out.part = then.part;
  if (then.role !== undefined) out.role = then.role;
  if (then.position !== undefined) out.position = then.position;
  return out;
}
