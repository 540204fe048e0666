import { useEffect } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { usePlayer } from './player-context';

const store = createStore<{ readonly trackId: string | null }>(() => ({ trackId: null }));

/** Id of the track whose takes can be heard in its place; null = of none. */
export const useTakesInHand = (): string | null => useStore(store, (s) => s.trackId);

/** Makes the takes of a track ready to be heard in its place, as long as the page shows them; each by {@link Player.hearTake}. */
export function useTakesReady(trackId: string | null): void {
  const player = usePlayer();
  useEffect(() => {
    store.setState({ trackId });
    player.hearTake(null);
  }, [player, trackId]);
  useEffect(
    () => () => {
      store.setState({ trackId: null });
      player.hearTake(null);
    },
    [player],
  );
}
