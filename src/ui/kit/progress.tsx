'use client';
import { useId } from 'react';
import { ProgressBar } from 'react-bootstrap';
import { Button } from './button';
import { formatPercent } from './numbers';
import { useTimeLeft } from './time-left';

/** A share of something as a bar. */
export function Bar({
  share,
  label,
  className,
}: {
  /** 0–1. */
  readonly share: number;
  readonly label: string;
  readonly className?: string;
}) {
  return <ProgressBar now={100 * share} aria-label={label} className={className} />;
}

/** How far a long piece of work is: what is done, how much of it, how long it may still take, and the way to stop it. */
export function Progress({
  label,
  share,
  amount,
  onCancel,
}: {
  /** What is being done. */
  readonly label: string;
  /** 0–1; null = not begun. */
  readonly share: number | null;
  /** In other words than percent: “3 of 12 files”. */
  readonly amount?: string | undefined;
  readonly onCancel?: (() => void) | undefined;
}) {
  const id = useId();
  const left = useTimeLeft(share === null ? [] : [{ id, progress: share }]).get(id);
  const words = [label, amount ?? (share === null ? 'waits' : formatPercent(share)), left].filter(Boolean);
  return (
    <div className="fm-progress">
      <span className="num fm-progress-words">{words.join(' · ')}</span>
      <Bar share={share ?? 0} label={label} />
      {onCancel && (
        <Button tone="quiet" onClick={onCancel}>
          Cancel
        </Button>
      )}
    </div>
  );
}
