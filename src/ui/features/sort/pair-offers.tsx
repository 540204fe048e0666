'use client';
import { type Fault, faultText } from '@/contracts';
import { canSplit, commonName, leftFirst, pairFault, type Track } from '@/core/session';
import { knownNames, useNamesRead, useSession, useSessionStore } from '@/ui/client';
import { Button } from '@/ui/kit';

/** Two selected tracks as one stereo track, or what keeps them apart. */
export function JoinOffer({ tracks }: { readonly tracks: readonly Track[] }) {
  const store = useSessionStore();
  useNamesRead();
  const { id, recordings, jobs } = useSession((s) => s.view);
  const [a, b] = tracks;
  if (!a || !b) return null;
  const [left, right] = leftFirst(a, b, knownNames().read([a.receivedName, b.receivedName]));
  const what = pairFault(left, right, (recording) =>
    recordings.find((r) => r.id === recording && r.state === 'ready'),
  );
  if (what === 'notes') return null;
  const isJoining = jobs.some(
    (j) => j.kind === 'pair.join' && (j.state === 'queued' || j.state === 'running'),
  );
  return (
    <div className="fm-field">
      <Button
        disabled={what !== null || isJoining}
        onClick={() => void store.getState().call(`/api/sessions/${id}/pairs`, { join: [left.id, right.id] })}
      >
        {isJoining ? 'Joining …' : 'Join as one stereo track'}
      </Button>
      <p className="fm-faint fm-tight">
        {what === null ? (
          <>
            “{commonName(left.name, right.name)}”: {left.name} left, {right.name} right. The two recordings
            stay; splitting brings them back.
          </>
        ) : (
          faultText({ code: 'pair.unlike', what } satisfies Fault)
        )}
      </p>
    </div>
  );
}

/** A stereo track as two mono ones. */
export function SplitOffer({ track }: { readonly track: Track }) {
  const store = useSessionStore();
  const { id, recordings } = useSession((s) => s.view);
  const recording = recordings.find((r) => r.id === track.recordingId);
  if (!canSplit(track, recording)) return null;
  return (
    <Button
      tone="quiet"
      className="fm-above-2"
      onClick={() => void store.getState().call(`/api/sessions/${id}/pairs`, { split: track.id })}
    >
      Split into left and right
    </Button>
  );
}
