export { placeBlocks } from './place';
export { renderClick, type ClickBeat } from './click';
export { mixDown, type MixedTrack, stripGains, type Strip } from './mix';
export { type Shape, shapeBlocks } from './shape';
