export { busEdit, type BusFields, busStripText, steppedBusFields, typedBusFields } from './bus-edits';
export { GroupLine, groupKeys } from './group-line';
export {
  countedLabel,
  editsForEach,
  holderOf,
  LEVEL_RANGE,
  levelText,
  PAN_RANGE,
  readPan,
  stepEdits,
  stripEdits,
  type TrackEdits,
  withHand,
} from './track-edits';
