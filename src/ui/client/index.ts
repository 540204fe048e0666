export { api, ApiFault, faultOf } from './api';
export { SessionProvider, useSession, useSessionStore, type SessionStore } from './session-store';
export { knownNames, useNamesAnswer, useNamesRead } from './names';
export { namesStateOf, onceNamesAreRead, proposalOf, proposalWith, trackFacts } from './proposal';
export { useHits } from './hits';
export { loadPeaks, usePeaks } from './peaks';
export { dismissalKeys, findingsOf } from './findings';
export { fetchSound } from './sound';
export { startUploads, uploadsStore, type UploadItem } from './uploads';
export { chooseLens, selectOnly, useWorkbench, workbench, type Workbench } from './workbench';
export { useGoOn } from './go-on';
export { laneSounds, loadTrackPeaks, type TrackPeaks, useTrackPeaks } from './track-peaks';
export { songSeconds } from './song-length';
export { useSongMap } from './song-map';
export { doubtsOf, tempoInHand } from './tempo-in-hand';
export {
  doubtfulTracks,
  type Lens,
  lensesOf,
  SUMS_LENS,
  STAGE_NAMES,
  type StageState,
  stageStates,
} from './stages';
export { shared } from './shared';
export { besideMap, claimingTempo, saidOf, saidWhere, tempoClaimKeys, tempoSetAside } from './tempo-claims';
