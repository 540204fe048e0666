export { IntakeStage } from './intake-stage';
