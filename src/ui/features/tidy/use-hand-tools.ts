'use client';
import { useState } from 'react';
import type { FadeShape } from '@/core/session';
import { type Lane, lanesOf, type Track } from '@/core/session';
import {
  type CrossOver,
  crossAt,
  duplicateAt,
  edgeAt,
  fadeAt,
  type HandFades,
  type HandResult,
  type HandTrack,
  joinAt,
  levelAt,
  muteAt,
  repairAt,
  repairLag,
  slipAt,
  splitAt,
  toldClips,
  type ToldClip,
} from '@/core/tidy';
import { fetchSound, useSession } from '@/ui/client';
import { usePlayer } from '@/ui/listening';
import type { ShownPiece, TidyRow } from './tidy-rows';
import type { HandCuts } from './use-hand-cuts';
import type { EdgePlaces } from './use-edge-snap';

/** Cross-over where none was set yet, s; what is compared for a repair, on both sides of where it begins, and how far it may move, s. */
const [FIRST_CROSS_SECONDS, LIKE_SECONDS, REACH_SECONDS] = [0.02, 0.015, 0.01];

/** The tools for pieces of the row in hand. */
export interface HandTools {
  /** The piece in hand as it is now; null = none, or it is only proposed. */
  readonly clip: ToldClip | null;
  /** Why the last one did nothing; null = it did something. */
  readonly refused: string | null;
  /** Parts the row at the play position. */
  readonly split: () => void;
  readonly join: () => void;
  readonly silence: () => void;
  /** The piece in hand once more, from the play position on. */
  readonly copy: () => void;
  /** The place in hand sounds as at the play position, of the lane given. */
  readonly repair: (laneId?: string) => void;
  readonly cross: (by?: CrossOver) => void;
  readonly slip: (seconds: number) => void;
  readonly fade: (fades: HandFades) => void;
  readonly level: (gainDb: number) => void;
  /** The beginning or end of the piece in hand to the next hit or edge of silence. */
  readonly toPlace: (edge: 'begin' | 'end', by: -1 | 1) => void;
}

export function useHandTools(
  row: TidyRow | null,
  piece: ShownPiece | null,
  { work, places }: { readonly work: HandCuts['work']; readonly places: EdgePlaces },
): HandTools {
  const player = usePlayer();
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const recordings = useSession((s) => s.view.recordings);
  const [refused, setRefused] = useState<string | null>(null);
  const lengthOf = ({ recordingId }: Lane): number =>
    recordings.find((r) => r.id === recordingId)?.sessionFrames ?? 0;
  const here = (): number => Math.round(player.state.getState().positionSeconds * rateHz);
  const middle = piece ? Math.floor((piece.fromFrames + piece.toFrames) / 2) : null;
  const clip =
    row && piece?.span === null && middle !== null ? clipIn({ track: row.track, lengthOf }, middle) : null;
  const does = (label: string, why: string, tool: (hand: HandTrack) => HandResult): void => {
    if (row) setRefused(work(row, `${label} ${row.track.name}`, tool) ? null : why);
  };
  /** Works on the piece in hand. */
  const onPiece = (label: string, why: string, tool: (hand: HandTrack, at: number) => HandResult): void => {
    if (middle === null) setRefused('Take a piece in hand first: click it, or ← →.');
    else if (!clip) setRefused('This piece is only proposed: cut first, or untick the row.');
    else does(label, why, (hand) => tool(hand, middle));
  };
  return {
    clip,
    refused,
    split: () => {
      if (!row) return;
      void places
        .snapped(row, here())
        .then((at) =>
          does('Split', 'Nothing sounds at the play position, or it is at an edge.', (hand) =>
            splitAt(hand, at),
          ),
        );
    },
    join: () => onPiece('Join pieces of', 'The next piece is of another take, or was moved.', joinAt),
    silence: () => onPiece('Silence a piece of', '', muteAt),
    copy: () =>
      onPiece(
        'Copy a piece of',
        'The play position lies within it: there it would cover itself.',
        (hand, at) => duplicateAt(hand, at, here()),
      ),
    repair: (laneId) => {
      if (!row || !piece) return setRefused('Take the spoilt place in hand first: click it, or ← →.');
      const at = here();
      void lagOf(row.track, piece, { at, laneId, rateHz }).then((lag) =>
        does('Repair', 'There is not enough sound from the play position on.', (hand) =>
          repairAt(hand, piece, {
            laneId: laneId ?? laneAt(hand, piece),
            at: at + lag,
            cross: { frames: Math.round(FIRST_CROSS_SECONDS * rateHz), shape: 'equal-gain' },
          }),
        ),
      );
    },
    cross: (by = { frames: Math.round(FIRST_CROSS_SECONDS * rateHz), shape: 'equal-power' as FadeShape }) =>
      onPiece('Cross over in', 'There is no next piece, or no sound to cross over with.', (hand, at) =>
        crossAt(hand, at, by),
      ),
    slip: (seconds) =>
      onPiece('Slip a piece of', 'There is no sound so far away.', (hand, at) =>
        slipAt(hand, at, Math.round(seconds * rateHz)),
      ),
    fade: (fades) => onPiece('Fade a piece of', '', (hand, at) => fadeAt(hand, at, fades)),
    level: (gainDb) => onPiece('Set the level of a piece of', '', (hand, at) => levelAt(hand, at, gainDb)),
    toPlace: (edge, by) => {
      if (!row || !clip) return onPiece('', '', () => null);
      const to = places.next(row, edge === 'begin' ? clip.fromFrames : clip.toFrames, by);
      if (to === null) return setRefused('There is no hit and no silence farther on.');
      onPiece('Move an edge of', 'There is no sound so far away.', (hand, at) => edgeAt(hand, at, edge, to));
    },
  };
}

const clipIn = (hand: HandTrack, at: number): ToldClip | null =>
  toldClips(hand).findLast((c) => at >= c.fromFrames && at < c.toFrames) ?? null;

/** The lane that sounds in a place. */
const laneAt = (hand: HandTrack, { fromFrames, toFrames }: ShownPiece): string =>
  toldClips(hand).find((c) => c.fromFrames < toFrames && c.toFrames > fromFrames)?.laneId ??
  hand.track.laneId;

/** How far what stands in should be moved, so that it takes over like with like; 0 where that cannot be told. */
async function lagOf(
  track: Track,
  { fromFrames }: ShownPiece,
  {
    at,
    laneId,
    rateHz,
  }: { readonly at: number; readonly laneId: string | undefined; readonly rateHz: number },
): Promise<number> {
  const lanes = lanesOf(track);
  const [own] = lanes;
  const source = lanes.find((l) => l.id === laneId) ?? own;
  if (!own || !source) return 0;
  const [half, reach] = [LIKE_SECONDS, REACH_SECONDS].map((s) => Math.round(s * rateHz)) as [number, number];
  const [fixedFrom, otherFrom] = [
    fromFrames - own.startFrames - half,
    at - source.startFrames - half - reach,
  ];
  if (fixedFrom < 0 || otherFrom < 0) return 0;
  const [fixed, other] = await fetchSound([
    { sound: own.recordingId, from: fixedFrom, count: 2 * half },
    { sound: source.recordingId, from: otherFrom, count: 2 * (half + reach) },
  ]);
  return fixed?.[0] && other?.[0] ? repairLag(fixed[0], other[0], reach) : 0;
}
