export { placeBlocks } from './place';
export { CLICK_SECONDS, CLICK_SOUNDS, clickSample, type ClickSound, type ClickStroke, renderClick, type ClickBeat } from './click';
export { mixDown, type MixedTrack, stripGains, type Strip } from './mix';
export { type Shape, shapeBlocks } from './shape';
