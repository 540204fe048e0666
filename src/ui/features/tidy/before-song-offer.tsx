'use client';
import { useMemo } from 'react';
import type { Change, Lane } from '@/core/session';
import { beforeSong, type BeforeSong, talkApart, talkIn, type TidyProposal } from '@/core/tidy';
import type { SessionView } from '@/contracts';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Clock, Line } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';

/** What is heard before the first note, and the offer to keep it apart, silent. */
export function BeforeSongOffer({ byTrack }: { readonly byTrack: ReadonlyMap<string, TidyProposal> }) {
  const store = useSessionStore();
  const player = usePlayer();
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const before = useMemo(() => beforeSong([...byTrack.values()]), [byTrack]);
  const isOpen = useMemo(
    () => before !== null && apart({ session, recordings }, before).length > 0,
    [before, session, recordings],
  );
  if (!before || !isOpen) return null;
  const { fromFrames, toFrames, rateHz } = talkIn(session, before);
  return (
    <>
      <h3>Before the first note</h3>
      <p className="fm-below-1">
        <Clock seconds={fromFrames / rateHz} decimals={1} /> to{' '}
        <Clock seconds={toFrames / rateHz} decimals={1} />, in {before.tracks}{' '}
        {before.tracks === 1 ? 'track' : 'tracks'}: perhaps talk, or a count-in.
      </p>
      <Line as="p" align="start" wraps>
        <Button
          onClick={() => {
            player.seek(Math.max(0, fromFrames / rateHz));
            void player.play();
          }}
        >
          Listen
        </Button>
        <Button onClick={() => store.getState().commit('Keep the talk apart', (now) => apart(now, before))}>
          Keep it apart, silent
        </Button>
      </Line>
      <p className="fm-faint">
        It stays in the session, silent, under a marker. The sender’s mix and a click stay as they are.
      </p>
    </>
  );
}

function apart(
  { session, recordings }: Pick<SessionView, 'session' | 'recordings'>,
  before: BeforeSong,
): Change[] {
  const lengths = new Map(recordings.map((r) => [r.id, r.sessionFrames ?? 0]));
  return talkApart(session, (lane: Lane) => lengths.get(lane.recordingId) ?? 0, before);
}
