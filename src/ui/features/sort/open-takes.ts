import type { SessionView, TakesRequest, TakesResult } from '@/contracts';
import { isTrack, packedName, type Track } from '@/core/session';

type Group = NonNullable<TakesRequest['pack']>['groups'][number];

/** Tracks that would become one. */
export interface TakesOffer {
  readonly tracks: readonly Track[];
  /** Name of the track that is left. */
  readonly name: string;
  /** The one that sounds; null = each where it plays. */
  readonly wantedId: string | null;
  readonly numbers: readonly number[];
  readonly reason: string;
  readonly pieces: TakesResult['takes'][number]['pieces'];
  /** Under which it is put aside. */
  readonly keys: readonly string[];
}

/** Tracks of which only a person can say whether they are takes. */
export interface TakesQuestion {
  readonly tracks: readonly Track[];
  readonly question: string;
  /** Under which it is put aside. */
  readonly keys: readonly string[];
}

/** What was found of takes, as far as it is open still. */
export interface OpenTakes {
  readonly offers: readonly TakesOffer[];
  readonly questions: readonly TakesQuestion[];
  /** A person said that they stay apart. */
  readonly apart: readonly { readonly tracks: readonly Track[]; readonly keys: readonly string[] }[];
  readonly together: readonly { readonly tracks: readonly Track[]; readonly reason: string }[];
}

/** Keys under which it is put aside that some recordings are apart: each with the next, by their bytes. */
const keysOf = (tracks: readonly Track[], recordings: SessionView['recordings']): string[] => {
  const shas = tracks.map((t) => recordings.find((r) => r.id === t.recordingId)?.sha256 ?? '').sort();
  return shas.slice(1).map((sha, i) => `takes-apart ${shas[i]} ${sha}`);
};

/** What of the newest look at takes is open: what was packed, removed or answered since is not. */
export function openTakes({
  session,
  recordings,
  takes,
  dismissals,
}: Pick<SessionView, 'session' | 'recordings' | 'takes' | 'dismissals'>): OpenTakes {
  const dismissed = new Set(dismissals.map((d) => d.key));
  const isAside = (keys: readonly string[]): boolean => keys.every((k) => dismissed.has(k));
  /** Null = not all of them are tracks of their own. */
  const tracksOf = (ids: readonly string[]): Track[] | null => {
    const found = ids
      .map((id) => session.nodes[id])
      .filter((n): n is Track => isTrack(n) && n.otherLanes.length === 0);
    return found.length === ids.length ? found : null;
  };
  return {
    offers: (takes?.takes ?? []).flatMap(({ lanes, wantedId, reason, pieces }): TakesOffer[] => {
      const tracks = tracksOf(lanes.map((l) => l.trackId));
      const keys = tracks ? keysOf(tracks, recordings) : [];
      if (!tracks || isAside(keys)) return [];
      return [
        {
          tracks,
          keys,
          name: packedName(tracks.map((t) => t.name)),
          wantedId: pieces ? null : (wantedId ?? (tracks[0] as Track).id),
          numbers: lanes.map((l) => l.number),
          reason,
          pieces,
        },
      ];
    }),
    questions: (takes?.questions ?? []).flatMap(({ trackIds, question }): TakesQuestion[] => {
      const tracks = tracksOf(trackIds);
      const keys = tracks ? keysOf(tracks, recordings) : [];
      return tracks && !isAside(keys) ? [{ tracks, question, keys }] : [];
    }),
    apart: [
      ...(takes?.takes ?? []).map((t) => t.lanes.map((l) => l.trackId)),
      ...(takes?.questions ?? []).map((q) => q.trackIds),
    ].flatMap((ids) => {
      const tracks = tracksOf(ids);
      const keys = tracks ? keysOf(tracks, recordings) : [];
      return tracks && isAside(keys) ? [{ tracks, keys }] : [];
    }),
    together: (takes?.together ?? []).flatMap(({ trackIds, reason }) => {
      const tracks = tracksOf(trackIds);
      return tracks ? [{ tracks, reason }] : [];
    }),
  };
}

/** How an offer is asked for; `wantedId`: the one that sounds, if another than was found. */
export const packingOf = (offer: TakesOffer, wantedId: string | null = offer.wantedId): Group => ({
  id: wantedId ?? (offer.tracks[0] as Track).id,
  name: offer.name,
  lanes: offer.tracks.map((t, i) => ({ trackId: t.id, takeNumber: offer.numbers[i] as number })),
  pieces: offer.pieces,
});

/** Tracks of a question that are takes after all, the first of them sounds. */
export const packingOfAnswer = ({ tracks }: TakesQuestion): Group => ({
  id: (tracks[0] as Track).id,
  name: packedName(tracks.map((t) => t.name)),
  lanes: tracks.map((t, i) => ({ trackId: t.id, takeNumber: i + 1 })),
  pieces: null,
});
