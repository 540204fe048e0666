export { detectTempo, type TempoFault } from './detect';
export { detectBetween } from './detect-between';
export {
  type AlternativeReading,
  type Passage,
  storedReading,
  type TempoReading,
  type TempoTrack,
  type TimekeeperChoice,
} from './reading';
export { acceptEdit, acceptedReading, mapEdit, mapPulses, writtenEdit } from './accept';
export { gridAgreement, type GridStretch, timekeepersOf } from './agreement';
export { type Deviation, deviationsOf, type Timing, timingOf } from './deviations';
export { type Swing, swingOf } from './swing';
export { latencyOf, readTaps, tapLength, type Tapping } from './taps';
export { playedHits } from './streams';
export { barOpenings, leastCertain, type RatedPlace, ratedPlaces } from './doubts';
export { adjustReading, type Adjustment, barOfPulse, pulsePositions, readingToMap } from './adjust';
export { describeReading } from './describe';
