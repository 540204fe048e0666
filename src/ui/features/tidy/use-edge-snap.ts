'use client';
import { soundTracks } from '@/core/session';
import { CROSSING_REACH_SECONDS, crossingNear, heardAt, type HeardAt, originOf } from '@/core/tidy';
import { fetchSound, loadHits, useSession, useSessionStore, useSongMap } from '@/ui/client';
import { keptChoice } from '@/ui/kit';
import { laneSound } from '@/ui/listening';
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
  readonly next: (row: TidyRow, frame: number, by: -1 | 1) => Promise<number | null>;
}

export function useEdgePlaces(): EdgePlaces {
  const store = useSessionStore();
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const map = useSongMap();
  const to = edgeSnap.use();
  /** Seconds at which a row strikes; where that cannot be asked, none. */
  const hitsOf = async ({ track }: TidyRow): Promise<readonly number[]> => {
    const hits = await loadHits(store.getState().view).catch((): null => null);
    return hits?.get(track.id)?.seconds ?? [];
  };
  return {
    next: async (row, frame, by) => {
      const originFrames = originOf(soundTracks(store.getState().view.session));
      const places = placesIn({ hits: await hitsOf(row), proposal: row.proposal }, { originFrames, rateHz });
      return nextPlace(frame, places, by, rateHz);
    },
    snapped: async (row, frame) => {
      if (to === 'pulse') return pulseNear(frame, map, rateHz);
      if (to === 'hit')
        return nearestPlace(
          frame,
          (await hitsOf(row)).map((s) => Math.round(s * rateHz)),
        );
      return to === 'crossing' ? crossingOf(heardAt(row.hand, frame), frame, rateHz) : frame;
    },
  };
}

/** Where the wave crosses zero nearest to a frame; the frame itself where its sound cannot be fetched. */
async function crossingOf(heard: HeardAt | null, frame: number, rateHz: number): Promise<number> {
  if (!heard) return frame;
  const reach = Math.round(CROSSING_REACH_SECONDS * rateHz);
  const from = Math.max(0, heard.soundFrame - reach);
  const [channels] = await fetchSound([{ sound: laneSound(heard.lane), from, count: 2 * reach }]);
  if (!channels || channels.length === 0) return frame;
  const at = heard.soundFrame - from;
  return Math.round(frame) + crossingNear(channels, at) - at;
}
