export { HandoverStage } from './handover-stage';
