'use client';
import type { PointerEvent as Pointing } from 'react';
import { formatBarPulse, snapQuarters } from '@/core/time';
import { useHeld } from '@/ui/kit';
import { PAD, type PlotData, type PlotScales, PLOT_SPAN } from './plot-scales';
import { useSnap } from './snap-choice';
import type { TempoModel } from './tempo-model';

/** How near a point is taken hold of, px. */
const GRIP = 9;
/** With Shift a point moves by so much of the way of the hand. */
const FINE = 0.1;
/** The hand has to go so far before it is known where to, px. */
const DECIDED = 5;

/** A point in hand: up and down is its tempo, sideways its place; which of them, the first few pixels tell. */
interface PointDrag {
  readonly point: number;
  readonly way: 'tempo' | 'place' | null;
  readonly bpm: number;
  readonly quarters: number;
  readonly from: readonly [number, number];
  readonly fromBpm: number;
}

/** What becomes of a point that is let go. */
export interface PointChanges {
  readonly onTempo: (point: number, bpm: number) => void;
  /** To a place in quarters. */
  readonly onPlace: (point: number, quarters: number) => void;
}

/** A point of the map in hand. */
export interface PointInHand {
  /** Takes hold of the point under the pointer; false where none is. */
  readonly grip: (e: Pointing<HTMLElement>) => boolean;
  readonly pull: (e: Pointing<HTMLElement>) => void;
  readonly release: () => void;
  readonly letGo: () => void;
  readonly isHeld: () => boolean;
  /** Tempo of a point as it is drawn. */
  readonly bpmOf: (point: number) => number;
  /** Where the point would come, s. */
  readonly goesTo: number | null;
  /** What the hand does, in words. */
  readonly words: string;
}

export function usePointDrag(
  model: TempoModel,
  { written, tempi }: PlotData,
  { x, y }: PlotScales,
  { onTempo, onPlace }: PointChanges,
): PointInHand {
  const inHand = useHeld<PointDrag>();
  const drag = inHand.shown;
  const snap = useSnap();
  const { tempo } = model.map;
  const bpmOf = (i: number): number =>
    drag?.point === i && drag.way === 'tempo' ? drag.bpm : (written?.[i]?.bpm ?? 0);
  const placeOf = (e: Pointing<HTMLElement>): readonly [number, number] => {
    const r = e.currentTarget.getBoundingClientRect();
    return [e.clientX - r.left + PAD.left, e.clientY - r.top];
  };
  const secondsAt = (px: number): number => Math.max(0, x.invert(px));
  /** Quarters a hand means, between the point's neighbours. */
  const quartersAt = (held: PointDrag, px: number, isFine: boolean): number => {
    const own = tempo.points[held.point]?.seconds ?? 0;
    const seconds = isFine ? own + FINE * (secondsAt(px) - own) : secondsAt(px);
    const quarters = snapQuarters(model.map.meters, tempo.toQuarters(seconds), snap);
    const isFree =
      quarters > (tempo.points[held.point - 1]?.quarters ?? -Infinity) &&
      quarters < (tempo.points[held.point + 1]?.quarters ?? Infinity);
    return isFree ? quarters : held.quarters;
  };
  const goesTo = drag?.way === 'place' ? tempo.toSeconds(drag.quarters) : null;
  return {
    isHeld: () => inHand.latest() !== null,
    bpmOf,
    goesTo,
    words: wordsOf(drag, goesTo === null ? '' : formatBarPulse(model.map, goesTo + 0.0005)),
    grip: (e) => {
      const [px, py] = placeOf(e);
      const point = (written ?? []).findIndex((s) => Math.hypot(x(s.from) - px, y(s.bpm) - py) <= GRIP);
      if (point < 0) return false;
      e.currentTarget.setPointerCapture(e.pointerId);
      const quarters = tempo.points[point]?.quarters ?? 0;
      inHand.hold({ point, way: null, bpm: bpmOf(point), quarters, from: [px, py], fromBpm: bpmOf(point) });
      return true;
    },
    pull: (e) => {
      const held = inHand.latest();
      if (!held) return;
      const [px, py] = placeOf(e);
      const way = held.way ?? wayOf(px - held.from[0], py - held.from[1], held.point);
      const by = (-(py - held.from[1]) / PLOT_SPAN) * (tempi[1] - tempi[0]) * (e.shiftKey ? FINE : 1);
      inHand.hold({
        ...held,
        way,
        bpm: way === 'tempo' ? Math.max(10, held.fromBpm + by) : held.bpm,
        quarters: way === 'place' ? quartersAt(held, px, e.shiftKey) : held.quarters,
      });
    },
    release: () => {
      const left = inHand.letGo();
      if (left?.way === 'tempo' && Math.abs(left.bpm - left.fromBpm) > 0.01) onTempo(left.point, left.bpm);
      if (left?.way === 'place' && Math.abs(left.quarters - (tempo.points[left.point]?.quarters ?? 0)) > 1e-6)
        onPlace(left.point, left.quarters);
    },
    letGo: () => void inHand.letGo(),
  };
}

/** Which way a hand goes; null until it is decided. The first point holds the map where it is. */
const wayOf = (dx: number, dy: number, point: number): PointDrag['way'] =>
  Math.hypot(dx, dy) < DECIDED ? null : Math.abs(dx) > Math.abs(dy) && point > 0 ? 'place' : 'tempo';

const wordsOf = (drag: PointDrag | null, comesAt: string): string =>
  drag?.way === 'tempo'
    ? `: ${drag.bpm.toFixed(2)} (Shift: finer)`
    : drag?.way === 'place'
      ? `: the change comes at ${comesAt} (Shift: finer)`
      : '';
