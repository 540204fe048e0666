export { ArrivalAnalysis, type ArrivalFacts } from './arrival';
export { LoudnessMeter } from './loudness';
export { TruePeakMeter } from './true-peak';
export { encodePeaks, type PeakLevel, PeakPyramid, PEAK_BASE_FRAMES, readPeakLevel } from './peaks';
export { encodeOnsets, lastAttackSeconds, OnsetAnalysis, type OnsetCurves, ONSETS_PER_SECOND, readOnsets } from './onsets';
export { type MicExcerpt, type MicRelation, relateMics } from './mic-relation';
