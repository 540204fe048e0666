export { TidyStage } from './tidy-stage';
export { type TidyView } from './view-tabs';
