'use client';
import type { KeyboardEvent, PointerEvent } from 'react';
import { useHeld } from '@/ui/kit';
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
  const pull = useHeld<Pull>();
  const wouldBe = (held: Pull | null): Would | null =>
    held !== null && Math.abs(held.byPx) >= STILL_PX ? pulled(held.byPx / held.width) : null;
  const would = wouldBe(pull.shown);
  const isPulled = would !== null;
  const shown = would?.value ?? value;
  const onPointerDown = (event: PointerEvent<HTMLSpanElement>): void => {
    if (event.button !== 0) return;
    const width = event.currentTarget.parentElement?.getBoundingClientRect().width ?? 0;
    if (width <= 0) return;
    onHold();
    event.currentTarget.setPointerCapture(event.pointerId);
    pull.hold({ fromX: event.clientX, width, byPx: 0 });
  };
  const onPointerMove = ({ clientX }: PointerEvent): void => {
    const held = pull.latest();
    if (held) pull.hold({ ...held, byPx: clientX - held.fromX });
  };
  const onPointerUp = (): void => {
    const left = wouldBe(pull.letGo());
    if (left && left.value !== value) onKeep(left.value);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key !== 'Escape' || pull.latest() === null) return;
    event.stopPropagation();
    pull.letGo();
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
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={() => pull.letGo()}
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
