'use client';
import { useState } from 'react';
import { type FadeShape, type Lane, lanesOf } from '@/core/session';
import {
  clipAt,
  type CrossOver,
  crossAt,
  duplicateAt,
  edgeAt,
  fadeAt,
  type HandFades,
  type HandResult,
  type HandTrack,
  heardAt,
  type HeardAt,
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
import { laneSound, usePlayer } from '@/ui/listening';
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

/** The piece in hand, and working on it: what did nothing says why, for as long as that is in hand. */
function useInHand(row: TidyRow | null, piece: ShownPiece | null, work: HandCuts['work']) {
  const middle = piece ? Math.floor((piece.fromFrames + piece.toFrames) / 2) : null;
  /** A refusal is about what was in hand. */
  const about = `${row?.track.id} ${middle}`;
  const [refusal, setRefusal] = useState({ about: '', why: '' });
  const refuse = (why: string | null): void => setRefusal({ about, why: why ?? '' });
  const clip = row && piece?.span === null && middle !== null ? clipAt(toldClips(row.hand), middle) : null;
  const does = (label: string, why: string, tool: (hand: HandTrack) => HandResult): void => {
    if (row) refuse(work(row, `${label} ${row.track.name}`, tool) ? null : why);
  };
  /** The piece in hand; says so where there is none. */
  const inHand = (): ToldClip | null => {
    if (!clip)
      refuse(
        middle === null
          ? 'Take a piece in hand first: click it, or ← →.'
          : piece?.span === null
            ? 'Nothing is here to work on: bring it back first.'
            : 'This piece is only proposed: cut first, or untick the row.',
      );
    return clip;
  };
  return {
    clip,
    refused: refusal.about === about && refusal.why !== '' ? refusal.why : null,
    refuse,
    does,
    inHand,
    /** Works on the piece in hand. */
    onPiece: (label: string, why: string, tool: (hand: HandTrack, at: number) => HandResult): void => {
      if (inHand() && middle !== null) does(label, why, (hand) => tool(hand, middle));
    },
  };
}

export function useHandTools(
  row: TidyRow | null,
  piece: ShownPiece | null,
  { work, places }: { readonly work: HandCuts['work']; readonly places: EdgePlaces },
): HandTools {
  const player = usePlayer();
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const { clip, refused, refuse, does, inHand, onPiece } = useInHand(row, piece, work);
  const here = (): number => Math.round(player.state.getState().positionSeconds * rateHz);
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
    silence: () => onPiece(clip?.off ? 'Let sound a piece of' : 'Silence a piece of', '', muteAt),
    copy: () =>
      onPiece(
        'Copy a piece of',
        'The play position lies within it: there it would cover itself.',
        (hand, at) => duplicateAt(hand, at, here()),
      ),
    repair: (laneId) => {
      if (!row || !piece) return refuse('Take the spoilt place in hand first: click it, or ← →.');
      const from = sourceAt(row.hand, here(), laneId);
      if (!from) return refuse('Nothing of this track sounds.');
      void lagOf(heardAt(row.hand, piece.fromFrames), from, rateHz).then((lag) =>
        does('Repair', 'There is not enough sound from the play position on.', (hand) => {
          // What is cut with it is repaired from the same place of its own.
          const source = sourceAt(hand, from.at, hand.track.id === row.track.id ? laneId : undefined);
          return (
            source &&
            repairAt(hand, piece, {
              laneId: source.lane.id,
              at: source.lane.startFrames + source.soundFrame + lag,
              cross: { frames: Math.round(FIRST_CROSS_SECONDS * rateHz), shape: 'equal-gain' },
            })
          );
        }),
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
      const held = inHand();
      if (!row || !held) return;
      void places
        .next(row, edge === 'begin' ? held.fromFrames : held.toFrames, by)
        .then((to) =>
          to === null
            ? refuse('There is no hit and no silence farther on.')
            : onPiece('Move an edge of', 'There is no sound so far away.', (hand, at) =>
                edgeAt(hand, at, edge, to),
              ),
        );
    },
  };
}

/** Sound that stands in for a spoilt place. */
interface Source {
  readonly lane: Lane;
  readonly soundFrame: number;
  /** Where it was asked for, frame of the session. */
  readonly at: number;
}

/** What is heard at a frame, or what another lane has there, unmoved. */
function sourceAt(hand: HandTrack, at: number, laneId: string | undefined): Source | null {
  const heard = heardAt(hand, at);
  const lane = lanesOf(hand.track).find((l) => l.id === laneId);
  if (lane && lane.id !== heard?.lane.id) return { lane, soundFrame: at - lane.startFrames, at };
  return heard && { lane: heard.lane, soundFrame: heard.soundFrame, at };
}

/** How far what stands in should be moved, so that it takes over like with like; 0 where that cannot be told. */
async function lagOf(spoilt: HeardAt | null, from: Source, rateHz: number): Promise<number> {
  const [half, reach] = [LIKE_SECONDS, REACH_SECONDS].map((s) => Math.round(s * rateHz)) as [number, number];
  const [fixedFrom, otherFrom] = [(spoilt?.soundFrame ?? 0) - half, from.soundFrame - half - reach];
  if (!spoilt || fixedFrom < 0 || otherFrom < 0) return 0;
  const [fixed, other] = await fetchSound([
    { sound: laneSound(spoilt.lane), from: fixedFrom, count: 2 * half },
    { sound: laneSound(from.lane), from: otherFrom, count: 2 * (half + reach) },
  ]);
  return fixed?.[0] && other?.[0] ? repairLag(fixed[0], other[0], reach) : 0;
}
