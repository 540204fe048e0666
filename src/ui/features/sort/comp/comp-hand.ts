import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';

/** What one has in hand while a track is put together. */
export interface CompHand {
  /** Tracks whose takes are shown under them. */
  readonly unfolded: ReadonlySet<string>;
  /** The take in hand of the current track; null = the track itself. */
  readonly laneId: string | null;
  /** A moment in the phrase in hand, s; null = none is. */
  readonly atSeconds: number | null;
  /** What is put together as one. */
  readonly by: 'phrase' | 'section';
  /** What could not be done; null = nothing. */
  readonly refused: string | null;
}

/** What one has in hand in the view Takes. */
export const compHand = createStore<CompHand>(() => ({
  unfolded: new Set(),
  laneId: null,
  atSeconds: null,
  by: 'phrase',
  refused: null,
}));

/** A part of it. */
export const useCompHand = <T>(select: (h: CompHand) => T): T => useStore(compHand, select);

/** Shows the takes of a track under it, or hides them. */
export function foldTakes(trackId: string, isFolded: boolean): void {
  const unfolded = new Set(compHand.getState().unfolded);
  if (isFolded) unfolded.delete(trackId);
  else unfolded.add(trackId);
  compHand.setState({ unfolded, ...(isFolded ? { laneId: null } : {}) });
}
