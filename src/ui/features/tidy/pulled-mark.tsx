'use client';
import { type KeyboardEvent, type PointerEvent, useState } from 'react';
import type { Would } from './use-strip-edits';

/** Pulled less than this it was only pointed at, CSS px. */
const STILL_PX = 3;

/** A mark on a ladder. */
interface PulledMarkProps {
  readonly label: string;
  readonly value: number;
  readonly range: { readonly min: number; readonly max: number };
  readonly textOf: (value: number) => string;
  /** Share of the ladder a value is at. */
  readonly placeOf: (value: number) => number;
  /** What a pull over a share of the ladder would come to. */
  readonly pulled: (byShare: number) => Would;
  readonly onKeep: (value: number) => void;
  /** It was taken hold of. */
  readonly onHold: () => void;
  /** Whether Tab stops here; arrows are the view's own. */
  readonly isReachable: boolean;
}

interface Pull {
  readonly fromX: number;
  readonly width: number;
  readonly byPx: number;
}

/** A mark that is pulled along its ladder; what it would be stands beside it meanwhile, Escape lets go. */
export function PulledMark(props: PulledMarkProps) {
  const { label, value, range, textOf, placeOf, pulled, onKeep, onHold, isReachable } = props;
  const [pull, setPull] = useState<Pull | null>(null);
  const isPulled = pull !== null && Math.abs(pull.byPx) >= STILL_PX;
  const would = isPulled ? pulled(pull.byPx / pull.width) : null;
  const shown = would?.value ?? value;
  const onPointerDown = (event: PointerEvent<HTMLSpanElement>): void => {
    if (event.button !== 0) return;
    const width = event.currentTarget.parentElement?.getBoundingClientRect().width ?? 0;
    if (width <= 0) return;
    onHold();
    event.currentTarget.setPointerCapture(event.pointerId);
    setPull({ fromX: event.clientX, width, byPx: 0 });
  };
  const onPointerUp = (): void => {
    setPull(null);
    if (isPulled && shown !== value) onKeep(shown);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key !== 'Escape' || pull === null) return;
    event.stopPropagation();
    setPull(null);
  };
  return (
    <span
      role="slider"
      tabIndex={isReachable ? 0 : -1}
      aria-label={label}
      aria-valuemin={range.min}
      aria-valuemax={range.max}
      aria-valuenow={shown}
      aria-valuetext={textOf(shown)}
      title={`${label}: ${textOf(value)}`}
      className={`fm-ladder-now${isPulled ? ' is-pulled' : ''}`}
      style={{ left: `${placeOf(shown) * 100}%` }}
      // The row is chosen already: a click on it would leave one of several.
      onClick={(e) => e.stopPropagation()}
      onPointerDown={onPointerDown}
      onPointerMove={(e) => setPull((p) => p && { ...p, byPx: e.clientX - p.fromX })}
      onPointerUp={onPointerUp}
      onPointerCancel={() => setPull(null)}
      onKeyDown={onKeyDown}
    >
      {isPulled && (
        <span className="fm-ladder-tip">
          {textOf(shown)}
          {would?.heldBy != null && `: ${would.heldBy} is at its end`}
        </span>
      )}
    </span>
  );
}
