import type { RecordingView, SessionView } from '@/contracts';
import { factsInName } from '@/core/naming';

const key = (sha256: string): string => `tempo-claim ${sha256}`;

/** Whether a recording, by its name or inside, claims a tempo. */
const claims = (r: RecordingView): boolean => r.metadata.tempoClaims.length > 0 || factsInName(r.receivedName).some((f) => f.kind === 'tempo');

/** Recordings that claim a tempo a person has not set aside. */
export function claimingTempo(view: SessionView): readonly RecordingView[] {
  const aside = new Set(view.dismissals.map((d) => d.key));
  return view.recordings.filter((r) => r.state === 'ready' && r.sha256 !== null && claims(r) && !aside.has(key(r.sha256)));
}

/** Recordings whose claims were set aside. */
export function tempoSetAside(view: SessionView): readonly RecordingView[] {
  const heard = new Set(claimingTempo(view).map((r) => r.id));
  return view.recordings.filter((r) => r.state === 'ready' && r.sha256 !== null && claims(r) && !heard.has(r.id));
}

/** Names under which the claims of these recordings are put aside. */
export const tempoClaimKeys = (recordings: readonly RecordingView[]): string[] => [...new Set(recordings.flatMap((r) => (r.sha256 === null ? [] : [key(r.sha256)])))];
