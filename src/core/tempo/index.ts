export { detectTempo, type TempoFault } from './detect';
export { storedReading, type TempoReading, type TempoTrack, type TimekeeperChoice } from './reading';
export { acceptEdit, acceptedReading, mapEdit } from './accept';
export { leastCertain } from './doubts';
export { adjustReading, type Adjustment, barOfPulse, pulsePlaces, readingToMap } from './adjust';
export { describeReading } from './describe';
