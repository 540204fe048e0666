export {
  findTakes,
  type FoundTakes,
  type TakeFile,
  type TakesOfDelivery,
  type TakeSounds,
} from './find-takes';
export { namesTellTakes } from './groups-by-name';
export { type MixWindows } from './in-mix';
export { type TurnPiece } from './in-turn';
export { type PitchLine, PitchLineBuilder } from './pitch-line';
export {
  takeQuestionText,
  type TakeQuestion,
  type TakeReason,
  takeReasonText,
  type TogetherReason,
  togetherReasonText,
} from './reasons';
export { takeName, type TakeName } from './take-name';
export { WAVE_WINDOW_SECONDS, type WaveRelation, waveRelation } from './wave-relation';
