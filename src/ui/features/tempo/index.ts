export { TempoStage } from './tempo-stage';
