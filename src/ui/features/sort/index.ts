export { SortStage } from './sort-stage';
export { COLUMNS_COOKIE } from './columns-cookie';
export { SORT_VIEWS } from './sort-views';
