'use client';
import { useCallback, useEffect, useState } from 'react';
import { type Lane, soundTracks } from '@/core/session';
import { useSessionStore } from '@/ui/client';
import { recordingSound, sessionTrack, usePlayer, usePlayerState } from '@/ui/listening';
import { type Balance, loudnessOf, type Strip, stripIn } from './levels';

/** What is listened to: the tracks at the levels of a balance, or the sender's mix itself. */
export type HeardBalance = Balance | 'mix-itself';

/** Listening to balances, one against another, about equally loud. */
export interface BalanceHearing {
  readonly heard: HeardBalance | null;
  readonly toggle: (balance: HeardBalance) => void;
  readonly stop: () => void;
}

/** No balance is turned up, so that none clips: all come down to the softest. */
export function useBalances(): BalanceHearing {
  const store = useSessionStore();
  const player = usePlayer();
  const isTrying = usePlayerState((s) => s.trying);
  const [asked, setAsked] = useState<HeardBalance | null>(null);
  const stop = useCallback(() => {
    setAsked(null);
    void player.tryOut(null);
  }, [player]);
  useEffect(() => () => void player.tryOut(null), [player]);
  const toggle = (balance: HeardBalance): void => {
    const { view } = store.getState();
    const { session, recordings, balance: result } = view;
    if (isTrying && asked === balance) return stop();
    const all = soundTracks(session);
    const isPart = new Set(result?.tracks.map((t) => t.trackId));
    const tracks = all.filter((t) => isPart.has(t.id));
    const mix = all.find((t) => t.id === result?.mixTrackId);
    const strips = (of: Balance): (Strip | null)[] => tracks.map((t) => stripIn(of, t, { session, result }));
    const loudness = new Map<HeardBalance, number | null>(
      (['now', 'neutral', 'rough', ...(mix ? ['mix' as const] : [])] as const).map((b) => [
        b,
        loudnessOf(tracks, strips(b), recordings),
      ]),
    );
    if (mix) loudness.set('mix-itself', loudnessOf([mix], [{ gainDb: 0, pan: 0 }], recordings));
    const softest = Math.min(...[...loudness.values()].filter((l) => l !== null));
    const trim = Math.min(0, softest - (loudness.get(balance) ?? softest));
    const soundOf = ({ recordingId }: Lane) => recordingSound(recordings.find((r) => r.id === recordingId));
    const [parts, levels] =
      balance === 'mix-itself' ? [mix ? [mix] : [], [{ gainDb: 0, pan: 0 }]] : [tracks, strips(balance)];
    const heard = parts.flatMap((t, i) => {
      const made = sessionTrack(session, t, soundOf);
      const strip = levels[i];
      return made && strip ? [{ ...made, gainDb: strip.gainDb + trim, pan: strip.pan, muted: false }] : [];
    });
    const rateHz = session.sampleRateHz ?? 48_000;
    const end = Math.max(0, ...heard.flatMap((t) => t.pieces.map((p) => p.toFrames / rateHz)));
    const { positionSeconds } = player.state.getState();
    if (heard.length === 0) return stop();
    setAsked(balance);
    void player.tryOut({
      tracks: heard,
      time: null,
      fromSeconds: positionSeconds < end - 1 ? positionSeconds : 0,
      toSeconds: end,
    });
  };
  return { heard: isTrying ? asked : null, toggle, stop };
}
