import type { RecordingView, SessionView } from '@/contracts';
import { type Finding, findingKey, type FindingsView } from '@/core/findings';
import { noticed, type KnownRecording } from '@/core/session';

const known = new WeakMap<object, { readonly of: readonly unknown[]; readonly findings: FindingsView }>();

/** A recording with all that was found in it; null while it is still arriving. */
function knownRecording(r: RecordingView): KnownRecording | null {
  if (r.state !== 'ready' || !r.facts || r.sha256 === null || r.sampleRateHz === null || r.channels === null || r.lengthFrames === null) return null;
  return {
    id: r.id, receivedName: r.receivedName, sha256: r.sha256, sampleRateHz: r.sampleRateHz, channels: r.channels, bitDepth: r.bitDepth ?? 0, encoding: r.encoding ?? '', lengthFrames: r.lengthFrames,
    lossy: r.lossy, metadata: r.metadata, warnings: r.warnings, facts: r.facts, truePeakDbtp: r.truePeakDbtp, heard: r.heard,
  };
}

/** What was noticed in a session; worked out once for each state of it, however many parts of the page ask. */
export function findingsOf(view: SessionView): FindingsView {
  const of = [view.recordings, view.relations, view.dismissals];
  const found = known.get(view.session);
  if (found && found.of.every((x, i) => x === of[i])) return found.findings;
  const findings = noticed(view.session, view.recordings.flatMap((r) => knownRecording(r) ?? []), view.relations, new Set(view.dismissals.map((d) => d.key)));
  known.set(view.session, { of, findings });
  return findings;
}

/** The names under which a finding's parts are put aside. */
export function dismissalKeys(view: SessionView, finding: Finding): string[] {
  const shas = new Map(view.recordings.map((r) => [r.id, r.sha256 ?? '']));
  return finding.files.map((p) => findingKey(finding.code, p, (id) => shas.get(id) ?? ''));
}
