'use client';
import { soundTracks } from '@/core/session';
import { originOf, CROSSING_REACH_SECONDS, crossingNear } from '@/core/tidy';
import { fetchSound, useHits, useSession, useSessionStore, useSongMap } from '@/ui/client';
import { keptChoice } from '@/ui/kit';
import { nearestPlace, nextPlace, placesIn, pulseNear } from './edge-places';
import { type TidyRow } from './tidy-rows';

/** What edges go to that are moved by hand, and where a piece is split. */
export const SNAPS = ['nothing', 'pulse', 'hit', 'crossing'] as const;

/** One of {@link SNAPS}. */
export type EdgeSnap = (typeof SNAPS)[number];

/** The choice, kept in this browser. */
export const edgeSnap = keptChoice<EdgeSnap>('fernmoss.edge-snap', [...SNAPS]);

/** Places that edges can be put to. */
export interface EdgePlaces {
  /** Where an edge of a row goes that was put to a frame by hand, as chosen. */
  readonly snapped: (row: TidyRow, frame: number) => Promise<number>;
  /** The hit or edge of silence before or behind a frame; null = there is none. */
  readonly next: (row: TidyRow, frame: number, by: -1 | 1) => number | null;
}

export function useEdgePlaces(): EdgePlaces {
  const store = useSessionStore();
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const map = useSongMap();
  const hits = useHits();
  const to = edgeSnap.use();
  const placesOf = (row: TidyRow): number[] =>
    placesIn(
      { hits: hits.get(row.track.id)?.seconds ?? [], proposal: row.proposal },
      { originFrames: originOf(soundTracks(store.getState().view.session)), rateHz },
    );
  return {
    next: (row, frame, by) => nextPlace(frame, placesOf(row), by, rateHz),
    snapped: async (row, frame) => {
      if (to === 'pulse') return pulseNear(frame, map, rateHz);
      if (to === 'hit')
        return nearestPlace(
          frame,
          (hits.get(row.track.id)?.seconds ?? []).map((s) => Math.round(s * rateHz)),
        );
      return to === 'crossing' ? crossingOf(row, frame, rateHz) : frame;
    },
  };
}

/** Where the wave crosses zero nearest to a frame; the frame itself where its sound cannot be fetched. */
async function crossingOf({ track, lane }: TidyRow, frame: number, rateHz: number): Promise<number> {
  const { recordingId, startFrames } = lane ?? track;
  const reach = Math.round(CROSSING_REACH_SECONDS * rateHz);
  const from = Math.max(0, Math.round(frame) - startFrames - reach);
  const [channels] = await fetchSound([{ sound: recordingId, from, count: 2 * reach }]);
  if (!channels || channels.length === 0) return frame;
  return startFrames + from + crossingNear(channels, Math.round(frame) - startFrames - from);
}
