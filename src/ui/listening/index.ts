export { DIM_DB, Player, type PlayerState, type PlayerTrack, type Trial } from './player';
export { PlayerProvider, usePlayer, usePlayerState } from './player-context';
