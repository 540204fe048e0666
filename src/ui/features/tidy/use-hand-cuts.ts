'use client';
import { type PointerEvent, useState } from 'react';
import { soundTracks } from '@/core/session';
import type { Stretch } from '@/core/tidy';
import { useSession, useSessionStore } from '@/ui/client';
import { cutChanges } from './apply-cuts';
import { choiceOfEdge, type Edge, edgeNear, keptWithEdge, keptWithPiece, withEdge } from './move-edge';
import { decide, tidyHand } from './tidy-hand';
import { originOf, type ShownPiece, type TidyRow, togetherWith } from './tidy-rows';

/** How near an edge is taken hold of, px. */
const GRIP_PX = 6;
/** Edges of tracks that are cut together are one edge within so many seconds. */
const SAME_EDGE_SECONDS = 0.02;

/** What is decided by hand of a row, with what is cut together with it: laid over a proposal, or done at once to what is cut. */
export interface HandCuts {
  readonly moveEdge: (row: TidyRow, edge: Edge, to: number) => void;
  /** A piece stays, or goes. */
  readonly decide: (row: TidyRow, piece: ShownPiece, keeps: boolean) => void;
}

export function useHandCuts(rows: readonly TidyRow[]): HandCuts {
  const store = useSessionStore();
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const idsOf = (row: TidyRow): string[] => togetherWith(rows, [row.track.id]);
  /** Cuts anew what is cut with a row. */
  const cut = (
    row: TidyRow,
    label: string,
    keptOf: (pieces: readonly ShownPiece[]) => readonly Stretch[] | null,
  ): void => {
    const ids = idsOf(row);
    const cuts = rows.flatMap((r) => {
      const kept = ids.includes(r.track.id) ? keptOf(r.pieces) : null;
      // A track of which nothing is left would be one that is muted: that is another key.
      return kept && kept.length > 0 ? [{ row: r, kept }] : [];
    });
    if (cuts.length > 0) store.getState().commit(label, cutChanges(cuts, tidyHand.getState()));
  };
  return {
    moveEdge: (row, edge, to) => {
      if (row.pieces.some((p) => p.span !== null)) {
        const originFrames = originOf(soundTracks(store.getState().view.session));
        const choice = choiceOfEdge(row.pieces, edge, { to, originFrames, rateHz });
        if (choice) decide(idsOf(row), choice);
        return;
      }
      const within = Math.round(SAME_EDGE_SECONDS * rateHz);
      cut(row, `Move an edge of ${row.track.name}`, (pieces) => keptWithEdge(pieces, { edge, to, within }));
    },
    decide: (row, piece, keeps) => {
      if (piece.span !== null) return decide(idsOf(row), { ...piece.span, keeps });
      const middle = Math.floor((piece.fromFrames + piece.toFrames) / 2);
      cut(row, `${keeps ? 'Bring back' : 'Take out'} a piece of ${row.track.name}`, (pieces) =>
        keptWithPiece(pieces, middle, keeps),
      );
    },
  };
}

/** Pulling edges in a picture by pointer: what is drawn meanwhile, and the handlers. Something other than an edge is left to the click. */
export function useEdgePull(
  row: TidyRow,
  {
    frameAt,
    framesPerPx,
    onMove,
  }: {
    readonly frameAt: (event: PointerEvent<HTMLElement>) => number;
    readonly framesPerPx: number;
    readonly onMove: (row: TidyRow, edge: Edge, to: number) => void;
  },
) {
  const [pull, setPull] = useState<{ readonly edge: Edge; readonly to: number } | null>(null);
  const grip = (event: PointerEvent<HTMLElement>): Edge | null =>
    edgeNear(row.pieces, frameAt(event), GRIP_PX * framesPerPx);
  const pieces: readonly ShownPiece[] = pull ? withEdge(row.pieces, pull.edge, pull.to) : row.pieces;
  return {
    pieces,
    isPulling: pull !== null,
    handlers: {
      onPointerDown: (event: PointerEvent<HTMLElement>): void => {
        const edge = event.button === 0 ? grip(event) : null;
        if (edge === null) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        setPull({ edge, to: edge });
      },
      onPointerMove: (event: PointerEvent<HTMLElement>): void => {
        if (pull) setPull({ ...pull, to: frameAt(event) });
        else event.currentTarget.style.cursor = grip(event) === null ? '' : 'ew-resize';
      },
      onPointerUp: (): void => {
        if (pull && pull.to !== pull.edge) onMove(row, pull.edge, pull.to);
        setPull(null);
      },
      onPointerCancel: (): void => setPull(null),
    },
  };
}
