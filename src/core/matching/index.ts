export { loudnessOf, type MatchedSound, type MatchedTrack, matchGains, type MatchTrack } from './match';
export { gainsAsLevels, pieceGainDb, sharedGainDb } from './as-levels';
export { measuredKey, withoutGains } from './measured-key';
export { recordedTogether } from './together';
export { loudnessAt, type SoundMeasure, SoundMeter } from './measure';
export {
  MATCH_DEFAULTS,
  MATCH_MEASURES,
  MATCH_UNITS,
  type MatchMeasure,
  type MatchRules,
  type MatchUnit,
} from './rules';
