export { SortStage } from './sort-stage';
export { COLUMNS_COOKIE } from './columns-cookie';
