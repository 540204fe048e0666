export { placeBlocks } from './place';
export { renderClick, type ClickBeat } from './click';
