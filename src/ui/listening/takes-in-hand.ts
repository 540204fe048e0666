import { useEffect } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { usePlayer } from './player-context';

const store = createStore<{ readonly trackId: string | null }>(() => ({ trackId: null }));

/** A track must be in hand for so long before its takes are made ready. */
const STAY_MS = 250;

/** Id of the track whose takes can be heard in its place; null = of none. */
export const useTakesInHand = (): string | null => useStore(store, (s) => s.trackId);

/** Makes the takes of a track ready to be heard in its place, as long as the page shows them; each by {@link Player.hearTake}. */
export function useTakesReady(trackId: string | null): void {
  const player = usePlayer();
  useEffect(() => {
    player.hearTake(null);
    // Who walks through the rows does not want the takes of each.
    const timer = setTimeout(() => store.setState({ trackId }), STAY_MS);
    return () => clearTimeout(timer);
  }, [player, trackId]);
  useEffect(
    () => () => {
      store.setState({ trackId: null });
      player.hearTake(null);
    },
    [player],
  );
}
