export { SectionsStage } from './sections-stage';
