'use client';
import { type PointerEvent, useState } from 'react';
import { soundTracks } from '@/core/session';
import { useSessionStore } from '@/ui/client';
import { cutChanges } from './apply-cuts';
import { choiceOfEdge, type Edge, edgeNear, keptWithEdge, withEdge } from './move-edge';
import { decide, tidyHand } from './tidy-hand';
import { originOf, type ShownPiece, type TidyRow, togetherWith } from './tidy-rows';

/** How near an edge is taken hold of, px. */
const GRIP_PX = 6;
/** Edges of tracks that are cut together are one edge within so many seconds. */
const SAME_EDGE_SECONDS = 0.02;

/** Puts an edge of a row elsewhere, with those that are cut together with it: of a proposal, or of what is cut. */
export function useMoveEdge(rows: readonly TidyRow[]): (row: TidyRow, edge: Edge, to: number) => void {
  const store = useSessionStore();
  return (row, edge, to) => {
    const { view } = store.getState();
    const rateHz = view.session.sampleRateHz ?? 48_000;
    const ids = togetherWith(rows, [row.track.id]);
    if (row.pieces.some((p) => p.span !== null)) {
      const originFrames = originOf(soundTracks(view.session));
      const choice = choiceOfEdge(row.pieces, edge, { to, originFrames, rateHz });
      if (choice) decide(ids, choice);
      return;
    }
    const within = Math.round(SAME_EDGE_SECONDS * rateHz);
    const cuts = rows.flatMap((r) => {
      const kept = ids.includes(r.track.id) ? keptWithEdge(r.pieces, { edge, to, within }) : null;
      return kept && kept.length > 0 ? [{ row: r, kept }] : [];
    });
    if (cuts.length > 0)
      store.getState().commit(`Move an edge of ${row.track.name}`, cutChanges(cuts, tidyHand.getState()));
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
