import type { SessionView, TakesRequest, TakesResult } from '@/contracts';
import { commonName, isTrack, type Track } from '@/core/session';
import { hashText } from '@/core/units';

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
}

/** Tracks of which only a person can say whether they are takes. */
export interface TakesQuestion {
  readonly tracks: readonly Track[];
  readonly question: string;
  /** Under which it is put aside. */
  readonly key: string;
}

/** What was found of takes, as far as it is open still. */
export interface OpenTakes {
  readonly offers: readonly TakesOffer[];
  readonly questions: readonly TakesQuestion[];
  readonly together: readonly { readonly tracks: readonly Track[]; readonly reason: string }[];
}

/** Key under which it is put aside that some recordings sound together. */
const keyOf = (tracks: readonly Track[]): string =>
  `takes ${hashText(
    tracks
      .map((t) => t.recordingId)
      .sort()
      .join(' '),
  )}`;

/** What of the newest look at takes is open: what was packed, removed or answered since is not. */
export function openTakes({
  session,
  takes,
  dismissals,
}: Pick<SessionView, 'session' | 'takes' | 'dismissals'>): OpenTakes {
  const aside = new Set(dismissals.map((d) => d.key));
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
      if (!tracks || aside.has(keyOf(tracks))) return [];
      return [
        {
          tracks,
          name: packedName(tracks),
          wantedId: pieces ? null : (wantedId ?? (tracks[0] as Track).id),
          numbers: lanes.map((l) => l.number),
          reason,
          pieces,
        },
      ];
    }),
    questions: (takes?.questions ?? []).flatMap(({ trackIds, question }): TakesQuestion[] => {
      const tracks = tracksOf(trackIds);
      const key = tracks && keyOf(tracks);
      return tracks && key !== null && !aside.has(key) ? [{ tracks, question, key }] : [];
    }),
    together: (takes?.together ?? []).flatMap(({ trackIds, reason }) => {
      const tracks = tracksOf(trackIds);
      return tracks ? [{ tracks, reason }] : [];
    }),
  };
}

/** What names of takes have in common: `Lead Vocal 1`, `Lead Vocal 2` → `Lead Vocal`. */
export function packedName(tracks: readonly Pick<Track, 'name'>[]): string {
  const names = tracks.map((t) => t.name);
  const common = names.reduce((a, b) => (a === b ? a : commonName(a, b)));
  const bare = common.replace(/[\s_.·-]*\d*$/, '');
  return bare.trim() === '' ? (names[0] as string) : bare;
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
  name: packedName(tracks),
  lanes: tracks.map((t, i) => ({ trackId: t.id, takeNumber: i + 1 })),
  pieces: null,
});

/** Key under which an offer is put aside. */
export const offerKey = ({ tracks }: TakesOffer): string => keyOf(tracks);
