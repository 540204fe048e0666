export { collectFindings, type FindingsView } from './collect';
export { deliveryFindings, ruleOf } from './delivery-findings';
export { mayBeMix, mixGroup } from './may-be-mix';
export { type FarMicFile, farMicPairs, sureFarMics } from './far-mics';
export { fileFindings } from './file-findings';
export {
  codesByFile,
  FINDING_CODES,
  type Finding,
  type FindingCode,
  type FindingFile,
  findingKey,
  isTurnedOver,
  type AlikeFact,
  type FarMicFact,
  type KnownFile,
  type MicFact,
  type MixFact,
  NO_RELATIONS,
  type PairFact,
  pairFact,
  type Relations,
  type RemedyKind,
  SEVERITIES,
  type Severity,
  type Twin,
} from './finding';
export {
  askMissing,
  findingDetail,
  findingMeans,
  findingTitle,
  questionsToSender,
  remedyLabel,
} from './words';
export { type SaidFact, saidFacts } from './said';
