import { cssColor, figureFont } from '@/ui/kit';
import { nearestPulse, type TempoModel } from './tempo-model';

/** Up to so many seconds in view hits are marked, and up to so many their distances written. */
const MARKED_SECONDS = 30;
const WRITTEN_SECONDS = 5;

interface View {
  /** Pixels of a moment. */ readonly x: (seconds: number) => number;
  readonly from: number;
  readonly to: number;
}

/** Marks the hits of a lane at its foot, with how many milliseconds they are off where there is room; `late` s, null without a grid. */
export function drawHits(
  context: CanvasRenderingContext2D,
  deviations: readonly { readonly seconds: number; readonly late: number | null }[],
  { x, from, to, bottom, written }: View & { readonly bottom: number; readonly written: boolean },
): void {
  if (to - from > MARKED_SECONDS) return;
  context.font = figureFont(12);
  let free = -Infinity;
  for (const d of deviations) {
    if (d.seconds < from || d.seconds > to) continue;
    context.fillStyle = cssColor('--fm-clay');
    context.fillRect(Math.round(x(d.seconds)) - 0.5, bottom - 7, 1.5, 7);
    if (!written || d.late === null || to - from > WRITTEN_SECONDS || x(d.seconds) < free) continue;
    const ms = Math.round(1000 * d.late);
    const text = ms === 0 ? '0' : `${ms < 0 ? '−' : '+'}${Math.abs(ms)}`;
    context.fillStyle = cssColor('--fm-ink');
    context.fillText(text, x(d.seconds) + 4, bottom - 3);
    free = x(d.seconds) + 10 + context.measureText(text).width;
  }
}

/** The pulses to take hold of: pinned ones filled and on a foot, the one in hand larger and in the accent's colour. */
export function drawPulses(
  context: CanvasRenderingContext2D,
  pulses: TempoModel['pulses'],
  {
    x,
    from,
    to,
    middle,
    hand,
    drag,
    tall,
  }: View & {
    readonly middle: number;
    readonly hand: number;
    readonly drag: { readonly pulse: number; readonly seconds: number } | null;
    readonly tall: number;
  },
): void {
  for (let k = Math.max(0, nearestPulse(pulses, from) - 1); k < pulses.length; k++) {
    const pulse = pulses[k] as TempoModel['pulses'][number];
    const held = drag?.pulse === k;
    const at = held ? drag.seconds : pulse.seconds;
    if (at > to) break;
    if (at < from) continue;
    const color = cssColor(k === hand || held ? '--fm-moss' : '--fm-ink');
    context.beginPath();
    context.arc(x(at) + 0.5, middle, k === hand || held ? 6 : 4, 0, 2 * Math.PI);
    context.fillStyle = pulse.pinned || k === hand || held ? color : cssColor('--bs-body-bg');
    context.fill();
    context.lineWidth = 1.5;
    context.strokeStyle = color;
    context.stroke();
    context.fillStyle = color;
    if (pulse.pinned) context.fillRect(Math.round(x(at)) - 3, middle + 6, 7, 2);
    if (held) context.fillRect(Math.round(x(at)), middle + 8, 1, tall);
  }
}
