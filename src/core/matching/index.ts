export { loudnessOf, type MatchedSound, type MatchedTrack, matchGains, type MatchTrack } from './match';
export { gainsAsLevels, pieceGainDb, sharedGainDb } from './as-levels';
export { measuredKey, withoutGains } from './measured-key';
export { recordedTogether } from './together';
export { loudnessAt, type SoundMeasure, SoundMeter } from './measure';
export {
  isByPeak,
  MATCH_DEFAULTS,
  MATCH_LIMITS,
  MATCH_MEASURES,
  MATCH_UNITS,
  MATCH_WORDS,
  type MatchMeasure,
  type MatchRules,
  type MatchUnit,
} from './rules';
