export { detectTempo, type TempoFault } from './detect';
export { storedReading, type TempoReading, type TempoTrack, type TimekeeperChoice } from './reading';
export { acceptEdit, acceptedReading, mapEdit, writtenEdit } from './accept';
export { type Deviation, deviationsOf, type Timing, timingOf } from './deviations';
export { latencyOf, readTaps, tapLength, type Tapping } from './taps';
export { playedHits } from './streams';
export { leastCertain } from './doubts';
export { adjustReading, type Adjustment, barOfPulse, pulsePlaces, readingToMap } from './adjust';
export { describeReading } from './describe';
