import { noticedIn, type SessionView } from '@/contracts';
import { type Finding, findingKey, type FindingsView } from '@/core/findings';
import { knownNames } from './names';

const known = new WeakMap<object, { readonly of: readonly unknown[]; readonly findings: FindingsView }>();

/** What was noticed in a session; worked out once for each state of it, however many parts of the page ask. */
export function findingsOf(view: SessionView): FindingsView {
  const names = knownNames();
  const of = [view.recordings, view.relations, view.dismissals, names.version()];
  const found = known.get(view.session);
  if (found && found.of.every((x, i) => x === of[i])) return found.findings;
  const findings = noticedIn(view, names.read);
  known.set(view.session, { of, findings });
  return findings;
}

/** The names under which a finding's parts are put aside. */
export function dismissalKeys(view: SessionView, finding: Finding): string[] {
  const shas = new Map(view.recordings.map((r) => [r.id, r.sha256 ?? '']));
  return finding.files.map((p) => findingKey(finding.code, p, (id) => shas.get(id) ?? ''));
}
