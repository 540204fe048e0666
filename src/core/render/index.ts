export { CLICK_SECONDS, clickSample, renderClick } from './click';
export { mixDown, type MixedTrack, stripGains, type Strip } from './mix';
export { type Shape, shapeBlocks } from './shape';
