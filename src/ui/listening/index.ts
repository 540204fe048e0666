export {
  CLICK_BARS,
  CLICK_PART_NAMES,
  CLICK_SOUND_NAMES,
  clickBars,
  clickParts,
  clickSound,
} from './click-choice';
export { DIM_DB, type PlaybackTime, Player, type PlayerState, type PlayerTrack, type Trial } from './player';
export { latencyText, MeasureTapLatency, useTapLatency } from './tap-latency';
export { PlayerProvider, usePlayer, usePlayerState } from './player-context';
export { LISTEN_KEYS, type ListenFrom, playWhereItPlays, WhereItPlays } from './where-it-plays';
export { useTakesInHand, useTakesReady } from './takes-in-hand';
export { laneSound, type NamedSound, recordingSound, sessionTrack } from './session-strip';
