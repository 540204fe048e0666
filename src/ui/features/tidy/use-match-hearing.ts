'use client';
import { applyChanges, isHeard, levelDb, type SessionState, soundTracks, type Track } from '@/core/session';
import { useSession, useSessionStore, workbench } from '@/ui/client';
import { sessionTrack } from '@/ui/listening';
import { loudnessOf } from './levels';
import { matchChanges, type MatchRow } from './match-rows';
import { recordedSounds, trimTo, useTrying } from './use-trying';

/** Tracks as they are, or as the table would have them. */
export type MatchedWay = 'now' | 'matched';

/** Listening to a match before it is done. */
export interface MatchHearing {
  readonly heard: MatchedWay | null;
  readonly toggle: (way: MatchedWay) => void;
  readonly stop: () => void;
}

/** What is selected is heard alone, else the song; both ways about equally loud. */
export function useMatchHearing(ticked: readonly MatchRow[]): MatchHearing {
  const store = useSessionStore();
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const trying = useTrying<MatchedWay>(rateHz);
  const toggle = (way: MatchedWay): void => {
    if (trying.heard === way) return trying.stop();
    const { session, recordings } = store.getState().view;
    const made = applyChanges(session, matchChanges(ticked)(store.getState().view));
    if (!made.ok) return trying.stop();
    const { selected } = workbench.getState();
    const isAlone = soundTracks(session).some((t) => selected.has(t.id));
    const partsOf = (of: SessionState): Track[] =>
      soundTracks(of).filter((t) => (isAlone ? selected.has(t.id) : isHeard(of, t)));
    const loudnessIn = (of: SessionState): number | null =>
      loudnessOf(
        partsOf(of),
        partsOf(of).map((t) => ({ gainDb: levelDb(of, t), pan: t.pan })),
        recordings,
      );
    const ways = { now: session, matched: made.session };
    const trim = trimTo<MatchedWay>(
      new Map([
        ['now', loudnessIn(ways.now)],
        ['matched', loudnessIn(ways.matched)],
      ]),
      way,
    );
    const soundOf = recordedSounds(recordings);
    const tracks = partsOf(ways[way]).flatMap((t) => {
      const track = sessionTrack(ways[way], t, soundOf);
      if (!track) return [];
      return [{ ...track, gainDb: track.gainDb + trim, muted: isAlone ? false : track.muted }];
    });
    trying.play(way, tracks);
  };
  return { heard: trying.heard, toggle, stop: trying.stop };
}
