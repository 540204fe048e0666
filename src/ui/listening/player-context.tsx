'use client';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { Player, type PlayerState } from './player';

const Context = createContext<Player | null>(null);

/** One player for everything below; it plays on while stages change. */
export function PlayerProvider({ children }: { readonly children: ReactNode }) {
  const [player] = useState(() => new Player());
  useEffect(() => () => void player.dispose(), [player]);
  return <Context.Provider value={player}>{children}</Context.Provider>;
}

/** The player. */
export function usePlayer(): Player {
  const player = useContext(Context);
  if (!player) throw new RangeError('usePlayer outside PlayerProvider');
  return player;
}

/** A part of the player's state. */
export const usePlayerState = <T,>(select: (s: PlayerState) => T): T => useStore(usePlayer().state, select);
