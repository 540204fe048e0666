import { deliveryFindings } from './delivery-findings';
import { fileFindings } from './file-findings';
import {
  FINDING_CODES,
  type Finding,
  findingKey,
  type FindingFile,
  type KnownFile,
  type Relations,
  SEVERITIES,
} from './finding';

/** Findings of a delivery, those put aside apart. */
export interface FindingsView {
  readonly open: readonly Finding[];
  readonly dismissed: readonly Finding[];
}

/** Everything noticed about a delivery: equal findings of many files as one, worst first. `dismissed` holds keys of {@link findingKey}, `cutOffNotes` the ids of tracks of notes whose file breaks off. */
export function collectFindings(
  files: readonly KnownFile[],
  relations: Relations,
  dismissed: ReadonlySet<string> = new Set(),
  cutOffNotes: readonly string[] = [],
): FindingsView {
  const all = merge([
    ...files.flatMap(fileFindings),
    ...deliveryFindings(files, relations),
    ...cutOffNotes.map(notesCutOff),
  ]);
  const shas = new Map(files.map((f) => [f.id, f.sha256]));
  const aside = (finding: Finding, p: FindingFile): boolean =>
    dismissed.has(findingKey(finding.code, p, (id) => shas.get(id) ?? id));
  const keep = (wanted: boolean): Finding[] =>
    all
      .map((f) => ({ ...f, files: f.files.filter((p) => aside(f, p) === wanted) }))
      .filter((f) => f.files.length > 0);
  return { open: keep(false), dismissed: keep(true) };
}

const notesCutOff = (id: string): Finding => ({
  code: 'notes-cut-off',
  severity: 'problem',
  remedy: null,
  files: [{ id, other: null, figures: {}, places: [] }],
});

function merge(findings: readonly Finding[]): Finding[] {
  const byCode = new Map<string, Finding>();
  for (const f of findings) {
    const before = byCode.get(f.code);
    byCode.set(f.code, before ? { ...before, files: [...before.files, ...f.files] } : f);
  }
  return [...byCode.values()].sort(
    (a, b) =>
      SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) ||
      FINDING_CODES.indexOf(a.code) - FINDING_CODES.indexOf(b.code),
  );
}
