'use client';
import type { PointerEvent } from 'react';
import { type Change, isTrack, type Lane, soundTracks } from '@/core/session';
import {
  originOf,
  bringBackAt,
  type HandResult,
  type HandTrack,
  muteAt,
  pullEdge,
  removeAt,
  SAME_EDGE_SECONDS,
} from '@/core/tidy';
import { useSession, useSessionStore } from '@/ui/client';
import { useHeld } from '@/ui/kit';
import { choiceOfEdge, type Edge, edgeNear, withEdge } from './move-edge';
import { decide, setTicks } from './tidy-hand';
import { type ShownPiece, type TidyRow, togetherWith } from './tidy-rows';
import type { EdgePlaces } from './use-edge-snap';

/** How near an edge is taken hold of, by pointer and by finger, px. */
const [GRIP_PX, FINGER_PX] = [6, 18];

/** What is decided by hand of a row, with what is cut together with it: laid over a proposal, or done at once to what is cut. */
export interface HandCuts {
  readonly moveEdge: (row: TidyRow, edge: Edge, to: number) => void;
  /** The same, to what edges are set to. */
  readonly pullEdge: (row: TidyRow, edge: Edge, to: number) => void;
  /** A piece stays, or goes. */
  readonly decide: (row: TidyRow, piece: ShownPiece, keeps: boolean) => void;
  /** Works on the pieces of a row and of what is cut with it, as one step; false = there was nothing to do. */
  readonly work: (row: TidyRow, label: string, tool: (hand: HandTrack) => HandResult) => boolean;
}

export function useHandCuts(rows: readonly TidyRow[], places: EdgePlaces): HandCuts {
  const store = useSessionStore();
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const idsOf = (row: TidyRow): string[] => togetherWith(rows, [row.track.id]);
  const work: HandCuts['work'] = (row, label, tool) => {
    const ids = idsOf(row);
    const changes = (view: ReturnType<typeof store.getState>['view']): Change[] => {
      const lengths = new Map(view.recordings.map((r) => [r.id, r.sessionFrames ?? 0]));
      const lengthOf = ({ recordingId }: Lane): number => lengths.get(recordingId) ?? 0;
      return ids.flatMap((id): Change[] => {
        const track = view.session.nodes[id];
        const clips = isTrack(track) ? tool({ track, lengthOf }) : null;
        return clips ? [{ kind: 'track.cut', id, clips }] : [];
      });
    };
    if (changes(store.getState().view).length === 0) return false;
    store.getState().commit(label, changes);
    // What was worked on is shown, not what was proposed instead.
    setTicks(ids, false);
    return true;
  };
  const moveEdge: HandCuts['moveEdge'] = (row, edge, to) => {
    if (row.pieces.some((p) => p.span !== null)) {
      const originFrames = originOf(soundTracks(store.getState().view.session));
      const choice = choiceOfEdge(row.pieces, edge, { to, originFrames, rateHz });
      if (choice) decide(idsOf(row), choice);
      return;
    }
    const within = Math.round(SAME_EDGE_SECONDS * rateHz);
    work(row, `Move an edge of ${row.track.name}`, (hand) => pullEdge(hand, edge, { to, within }));
  };
  return {
    work,
    moveEdge,
    pullEdge: (row, edge, wished) => void places.snapped(row, wished).then((to) => moveEdge(row, edge, to)),
    decide: (row, piece, keeps) => {
      if (piece.span !== null) return decide(idsOf(row), { ...piece.span, keeps });
      const middle = Math.floor((piece.fromFrames + piece.toFrames) / 2);
      work(row, `${keeps ? 'Bring back' : 'Take out'} a piece of ${row.track.name}`, (hand) =>
        piece.isSilenced && keeps
          ? muteAt(hand, middle)
          : keeps
            ? bringBackAt(hand, middle)
            : removeAt(hand, middle),
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
  const held = useHeld<{ readonly edge: Edge; readonly to: number }>();
  const pull = held.shown;
  const grip = (event: PointerEvent<HTMLElement>): Edge | null =>
    edgeNear(row.pieces, frameAt(event), (event.pointerType === 'touch' ? FINGER_PX : GRIP_PX) * framesPerPx);
  const pieces: readonly ShownPiece[] = pull ? withEdge(row.pieces, pull.edge, pull.to) : row.pieces;
  return {
    pieces,
    isPulling: pull !== null,
    handlers: {
      onPointerDown: (event: PointerEvent<HTMLElement>): void => {
        const edge = event.button === 0 ? grip(event) : null;
        if (edge === null) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        held.hold({ edge, to: edge });
      },
      onPointerMove: (event: PointerEvent<HTMLElement>): void => {
        const now = held.latest();
        if (now) held.hold({ ...now, to: frameAt(event) });
        else event.currentTarget.style.cursor = grip(event) === null ? '' : 'ew-resize';
      },
      onPointerUp: (): void => {
        const left = held.letGo();
        if (left && left.to !== left.edge) onMove(row, left.edge, left.to);
      },
      onPointerCancel: (): void => void held.letGo(),
    },
  };
}
