import type { EdgesAnswer, EdgesRequest, SessionView } from '@/contracts';
import { MAX_EDGE_FILES } from '@/contracts';
import { type Change, isTrack, type Track, wholeClip } from '@/core/session';
import { cutClips, cutLane, type Stretch } from '@/core/tidy';
import { LEVELS_PER_SECOND } from '@/core/analysis';
import { api } from '@/ui/client';
import { controlsOf, type TidyHand } from './tidy-hand';
import { kept, type TidyRow } from './tidy-rows';

/** A track and what of it is to stay. */
export interface Cut {
  readonly row: TidyRow;
  readonly kept: readonly Stretch[];
}

/** The cuts that are ticked, with edges to the sample where a track is cut by itself; what is cut together keeps its places, which are the same on all. */
export async function fineCuts(
  rows: readonly TidyRow[],
  hand: TidyHand,
  { rateHz, originFrames }: { readonly rateHz: number; readonly originFrames: number },
): Promise<Cut[]> {
  const asked = rows.flatMap((row) =>
    row.proposal?.group === null ? [{ row, file: fileOf(row, hand, { rateHz, originFrames }) }] : [],
  );
  const fine = new Map<string, readonly Stretch[]>();
  for (let at = 0; at < asked.length; at += MAX_EDGE_FILES) {
    const part = asked.slice(at, at + MAX_EDGE_FILES);
    const answer = await api<EdgesAnswer>('/api/edges', 'POST', {
      files: part.map((p) => p.file),
    } satisfies EdgesRequest);
    part.forEach(({ row }, i) => {
      const edges = answer[i];
      const begin = row.lane?.startFrames ?? 0;
      if (edges)
        fine.set(
          row.track.id,
          edges.map((e) => ({ fromFrames: begin + e.from, toFrames: begin + e.to })),
        );
    });
  }
  return rows.map((row) => ({ row, kept: fine.get(row.track.id) ?? kept(row.proposed) }));
}

function fileOf(
  { track, lane, proposal, proposed }: TidyRow,
  hand: TidyHand,
  { rateHz, originFrames }: { readonly rateHz: number; readonly originFrames: number },
): EdgesRequest['files'][number] {
  const begin = lane?.startFrames ?? 0;
  const controls = controlsOf(hand, track.id);
  const begins = new Map(
    proposal?.pieces.filter((p) => p.keeps).map((p, i) => [p.from, proposal.begins[i] ?? p.from]),
  );
  const soundAt = (from: number | undefined): number | null => {
    // A threshold is an edge of its own, and what was moved by hand stays there.
    const at = controls.thresholdDb === null && from !== undefined ? begins.get(from) : undefined;
    if (at === undefined) return null;
    return Math.max(0, Math.round(originFrames + (at * rateHz) / LEVELS_PER_SECOND) - begin);
  };
  return {
    recordingId: (lane ?? track).recordingId,
    beforeSeconds: controls.beforeSeconds,
    kept: proposed
      .filter((p) => p.keeps)
      .map((p) => ({
        from: p.fromFrames - begin,
        to: p.toFrames - begin,
        sound: soundAt(p.span?.from),
      })),
  };
}

/** Cuts as changes of the session as it is now: a track that was arranged otherwise meanwhile is left. */
export const cutChanges =
  (cuts: readonly Cut[], hand: TidyHand) =>
  ({ session }: SessionView): Change[] =>
    cuts.flatMap(({ row, kept: all }): Change[] => {
      const stretches = all.filter((s) => s.toFrames > s.fromFrames);
      const track = session.nodes[row.track.id];
      const lane = isTrack(track) ? cutLane(track) : null;
      if (!isTrack(track) || !lane || lane.id !== row.lane?.id || stretches.length === 0) return [];
      const fadeFrames = Math.round(
        controlsOf(hand, track.id).fadeSeconds * (session.sampleRateHz ?? 48_000),
      );
      return [
        {
          kind: 'track.cut',
          id: track.id,
          clips: cutClips(track, { lane, lengthFrames: row.lengthFrames, kept: stretches, fadeFrames }),
        },
      ];
    });

/** All edges of tracks back: what is cut is whole again. */
export const wholeAgain = (tracks: readonly Track[]): Change[] =>
  tracks.flatMap((t): Change[] => {
    const lane = cutLane(t);
    return lane ? [{ kind: 'track.cut', id: t.id, clips: wholeClip(lane.id) }] : [];
  });
