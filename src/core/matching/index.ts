export { loudnessBy, type MatchedSound, type MatchedTrack, matchGains, type MatchTrack } from './match';
export { type SoundMeasure, SoundMeter } from './measure';
export {
  MATCH_DEFAULTS,
  MATCH_MEASURES,
  MATCH_UNITS,
  type MatchMeasure,
  type MatchRules,
  type MatchUnit,
} from './rules';
