export { Player, type PlayerState, type PlayerTrack } from './player';
export { PlayerProvider, usePlayer, usePlayerState } from './player-context';
