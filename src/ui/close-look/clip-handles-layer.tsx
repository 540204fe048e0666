'use client';
import { type KeyboardEvent, type PointerEvent, useMemo } from 'react';
import { fadeGain } from '@/core/arrange';
import type { FadeShape, Lane, Track } from '@/core/session';
import { toldClips } from '@/core/tidy';
import { useSession, useSessionStore, workbench } from '@/ui/client';
import { useClock, useHeld, type WaveWindow } from '@/ui/kit';
import { type ClipHandle, handleChanges, handlesOf, heldTo } from './clip-handles';

/** Of more handles in sight none is drawn: they could not be told apart. */
const MOST_HANDLES = 60;
/** A narrower fade is not drawn; steps of its line, px. */
const [LEAST_FADE_PX, FADE_STEPS] = [4, 24];

const HANDLE_WORDS: Readonly<Record<ClipHandle['kind'], string>> = {
  edge: 'Edge of a piece',
  'fade-in': 'End of a fade in',
  'fade-out': 'Beginning of a fade out',
};

interface Pull {
  readonly handle: ClipHandle;
  readonly fromX: number;
  readonly to: number;
}

/** Edges and fades of the pieces of a track: pulled by pointer or finger, or moved by ← → when in focus, to the sample where the picture is near enough. */
export function ClipHandles({
  track,
  songRate,
  window,
  width,
  top,
  height,
}: {
  readonly track: Track;
  readonly songRate: number;
  readonly window: WaveWindow;
  readonly width: number;
  /** Of the picture below its ruler, px. */
  readonly top: number;
  readonly height: number;
}) {
  const store = useSessionStore();
  const clock = useClock();
  const recordings = useSession((s) => s.view.recordings);
  const pull = useHeld<Pull>();
  const held = pull.shown;
  const hand = useMemo(() => {
    const lengths = new Map(recordings.map((r) => [r.id, r.sessionFrames ?? 0]));
    return { track, lengthOf: ({ recordingId }: Lane): number => lengths.get(recordingId) ?? 0 };
  }, [track, recordings]);
  const [from, to] = [window.from * songRate, window.to * songRate];
  const framesPerPx = (to - from) / Math.max(1, width);
  const x = (frame: number): number => (frame - from) / framesPerPx;
  const handles = useMemo(() => handlesOf(hand, from, to), [hand, from, to]);
  const move = (handle: ClipHandle, frame: number): void => {
    const request = { trackId: track.id, handle, to: Math.round(frame), alone: workbench.getState().alone };
    const label = `${handle.kind === 'edge' ? 'Move an edge' : 'Fade'} of ${track.name}`;
    if (handleChanges(store.getState().view, request).length > 0)
      store.getState().commit(label, (now) => handleChanges(now, request));
  };
  const onKeyDown = (event: KeyboardEvent, handle: ClipHandle): void => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    const step = Math.max(1, Math.round(framesPerPx)) * (event.shiftKey ? 10 : 1);
    move(handle, heldTo(hand, handle, handle.at + by * step));
  };
  if (width <= 0) return null;
  const shown = handles.length <= MOST_HANDLES ? handles : [];
  return (
    <>
      <svg className="fm-clip-fades" style={{ top, height }} width={width} height={height} aria-hidden="true">
        {toldClips(hand).flatMap((c) =>
          [
            [c.fromFrames, c.fromFrames + c.fadeInFrames, true, c.fadeInShape] as const,
            [c.toFrames - c.fadeOutFrames, c.toFrames, false, c.fadeOutShape] as const,
          ]
            .filter(([a, b]) => b >= from && a <= to && (b - a) / framesPerPx >= LEAST_FADE_PX)
            .map(([a, b, isIn, shape]) => (
              <polyline key={`${c.id} ${isIn}`} points={fadeLine([x(a), x(b)], isIn, shape, height)} />
            )),
        )}
      </svg>
      {shown.map((handle, i) => {
        const isHeld = held?.handle.kind === handle.kind && held.handle.at === handle.at;
        const at = isHeld ? held.to : handle.at;
        const isRow = handle.kind === 'edge';
        return (
          <span
            // Handles keep their places in the row while they move, and so the focus.
            key={`${handle.kind} ${i}`}
            role="slider"
            tabIndex={0}
            aria-label={`${HANDLE_WORDS[handle.kind]} of ${track.name}`}
            aria-valuenow={Math.round((1000 * at) / songRate) / 1000}
            aria-valuemin={0}
            aria-valuemax={Math.round(to / songRate)}
            aria-valuetext={clock(at / songRate, 4)}
            title={`${HANDLE_WORDS[handle.kind]}, ${clock(at / songRate, 4)}: pull it, or ← →`}
            className={`fm-clip-handle is-${handle.kind}${isHeld ? ' is-held' : ''}`}
            style={{ left: x(at), top: isRow ? top : top + 2, ...(isRow ? { height } : {}) }}
            onKeyDown={(event) => onKeyDown(event, handle)}
            onPointerDown={(event) => {
              if (event.button !== 0) return;
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              pull.hold({ handle, fromX: event.clientX, to: handle.at });
            }}
            onPointerMove={(event: PointerEvent) => {
              const now = pull.latest();
              if (!now) return;
              event.stopPropagation();
              const wished = now.handle.at + (event.clientX - now.fromX) * framesPerPx;
              pull.hold({ ...now, to: heldTo(hand, now.handle, wished) });
            }}
            onPointerUp={(event) => {
              event.stopPropagation();
              const left = pull.letGo();
              if (left && left.to !== left.handle.at) move(left.handle, left.to);
            }}
            onPointerCancel={() => pull.letGo()}
          >
            {isHeld && held.to !== handle.at && (
              <span className="fm-ladder-tip fm-clip-tip">
                {clock(held.to / songRate, 3)}, by {byText((held.to - handle.at) / songRate)}
              </span>
            )}
          </span>
        );
      })}
    </>
  );
}

const byText = (seconds: number): string =>
  `${seconds < 0 ? '−' : '+'}${(1000 * Math.abs(seconds)).toFixed(1)} ms`;

function fadeLine(
  [from, to]: readonly [number, number],
  isIn: boolean,
  shape: FadeShape,
  height: number,
): string {
  return Array.from({ length: FADE_STEPS + 1 }, (_, k) => {
    const share = k / FADE_STEPS;
    const gain = fadeGain(shape, isIn ? share : 1 - share);
    return `${(from + share * (to - from)).toFixed(1)},${(height - gain * height).toFixed(1)}`;
  }).join(' ');
}
