/** Thrown when a caller withdrew the work; carries no blame. */
export class Cancelled extends Error {
  constructor() {
    super('cancelled');
    this.name = 'Cancelled';
  }
}

/** Asked between blocks; true once the caller no longer wants the result. */
export interface CancelSignal {
  readonly cancelled: boolean;
}

/** Receives the share of the work done, 0–1. */
export type ProgressSink = (share: number) => void;

/** Throws {@link Cancelled} if the signal says so. */
export function throwIfCancelled(signal: CancelSignal | undefined): void {
  if (signal?.cancelled) throw new Cancelled();
}
