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
