export { SortStage } from './sort-stage';
