export { TidyStage } from './tidy-stage';
export { TIDY_VIEWS, type TidyView } from './tidy-views';
