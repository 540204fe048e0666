export { BestFit } from './best-fit';
export { ArrivalAnalysis, type ArrivalFacts, completeFacts } from './arrival';
export { type CeilingFacts } from './ceiling';
export { type FaultSpan } from './channel-scan';
export { gatedLoudness, LoudnessMeter } from './loudness';
export { TruePeakMeter } from './true-peak';
export { loudestStretch, phrases } from './phrases';
export {
  encodePeaks,
  type PeakLevel,
  PeakPyramid,
  PEAK_BASE_FRAMES,
  decodePeakParts,
  encodePeakPart,
  readPeakLevel,
} from './peaks';
export { type Attacks, attacksOf } from './attacks';
export { type RhythmPiece, rhythmOfPieces } from './rhythm-pieces';
export { CHROMA_PER_SECOND, PITCH_CLASSES } from './harmony';
export {
  encodeOnsets,
  type RhythmCurves,
  lastAttackSeconds,
  moveOnsets,
  OnsetAnalysis,
  type OnsetCurves,
  ONSETS_PER_SECOND,
  readOnsets,
} from './onsets';
export { type MicExcerpt, type MicRelation, relateFarMic, relateMics } from './mic-relation';
export {
  encodeSketch,
  readSketch,
  SKETCH_BANDS,
  SKETCH_PER_SECOND,
  SketchBuilder,
  sketchDb,
  sketchHz,
  sketchOf,
  sketchPercentile,
  sketchPower,
  sketchTotals,
  type SoundSketch,
} from './sketch';
export { type ClickLikeness, clickLikeness } from './click-like';
export { type ReverbTail, reverbTail } from './reverb-tail';
export { type Likeness, likeness, risesAlike } from './same-playing';
export { type MixFit, mixFit, type MixPart } from './mix-fit';
export { type HeardFacts, heardFacts } from './heard-facts';
export {
  SOUND_KINDS,
  SOUND_NAMES,
  SOUND_CLASSES,
  type SoundLikeness,
  soundLikeness,
  likenessFromOdds,
  type SoundKind,
  type SoundModel,
  type SoundName,
  soundOdds,
  type SoundClass,
  type SoundSource,
  kindOfSound,
} from './sound-likeness';
export { SOUND_MODEL } from './sound-model';
export { soundFeatures } from './sound-features';
export {
  BandLevelAnalysis,
  type BandLevels,
  encodeBandLevels,
  LEAST_LEVEL_DB,
  LEVEL_BANDS,
  LEVEL_POWERS,
  LEVEL_STEPS_PER_DB,
  levelEdgesHz,
  levelsPart,
  levelStep,
  LEVELS_PER_SECOND,
  readBandLevels,
  readLevelsParts,
  totalPower,
} from './band-levels';
