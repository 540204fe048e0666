'use client';
import { isHeard, type SessionState, soundTracks, type Track, wayToMix } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
import { sessionTrack } from '@/ui/listening';
import { type Balance, loudnessOf, type Strip, stripIn } from './levels';
import { recordedSounds, trimTo, useTrying } from './use-trying';

/** What is listened to: the tracks at the levels of a balance, or the sender's mix itself. */
export type HeardBalance = Balance | 'mix-itself';

/** Listening to balances, one against another, about equally loud. */
export interface BalanceHearing {
  readonly heard: HeardBalance | null;
  readonly toggle: (balance: HeardBalance) => void;
  readonly stop: () => void;
}

/** See {@link BalanceHearing}. */
export function useBalances(): BalanceHearing {
  const store = useSessionStore();
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const trying = useTrying<HeardBalance>(rateHz);
  const toggle = (balance: HeardBalance): void => {
    if (trying.heard === balance) return trying.stop();
    const { view } = store.getState();
    const { session, recordings, balance: result } = view;
    const all = soundTracks(session);
    const isPart = new Set(result?.tracks.map((t) => t.trackId));
    // Mutes are no part of a balance: what is taken keeps them, so what is heard does.
    const tracks = all.filter((t) => isPart.has(t.id) && isHeard(session, t));
    const mix = all.find((t) => t.id === result?.mixTrackId);
    const strips = (of: Balance): (Strip | null)[] => tracks.map((t) => stripIn(of, t, { session, result }));
    // As they are, buses have their part in it; other balances leave them neutral.
    const withBuses = strips('now').map((strip, i) => strip && louderBy(strip, busesDb(session, tracks[i])));
    const loudness = new Map<HeardBalance, number | null>(
      (['now', 'neutral', 'rough', ...(mix ? ['mix' as const] : [])] as const).map((b) => [
        b,
        loudnessOf(
          tracks,
          // As they are is not measured: nearest to it is what sounds when nothing is set.
          (b === 'now' ? withBuses : strips(b)).map(
            (s) => s && louderBy(s, result?.louderThanSum?.[b === 'now' ? 'neutral' : b] ?? 0),
          ),
          recordings,
        ),
      ]),
    );
    if (mix) loudness.set('mix-itself', loudnessOf([mix], [{ gainDb: 0, pan: 0 }], recordings));
    const trim = trimTo(loudness, balance);
    const soundOf = recordedSounds(recordings);
    const [parts, levels] =
      balance === 'mix-itself' ? [mix ? [mix] : [], [{ gainDb: 0, pan: 0 }]] : [tracks, strips(balance)];
    const heard = parts.flatMap((t, i) => {
      const made = sessionTrack(session, t, soundOf);
      const strip = levels[i];
      if (!made || !strip) return [];
      const { buses, ...own } = made;
      const way = balance === 'now' && buses ? { buses } : {};
      return [{ ...own, ...way, gainDb: strip.gainDb + trim, pan: strip.pan, muted: false }];
    });
    trying.play(balance, heard);
  };
  return { heard: trying.heard, toggle, stop: trying.stop };
}

const louderBy = (strip: Strip, db: number): Strip => ({ ...strip, gainDb: strip.gainDb + db });

/** What the buses on its way do to the power of a track, dB. */
function busesDb(session: SessionState, track: Track | undefined): number {
  const way = track && wayToMix(session, track.busId);
  return way ? 10 * Math.log10((way.left ** 2 + way.right ** 2) / 2) : 0;
}
