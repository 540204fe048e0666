export { TidyStage } from './tidy-stage';
