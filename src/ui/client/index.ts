export { api, ApiFault, faultOf } from './api';
export { SessionProvider, useSession, useSessionStore, type SessionStore } from './session-store';
export { setWalk, useWalk, WALK_STEPS, type WalkStep } from './first-walk';
export { nextDoubtHere, useOwnDoubts } from './next-doubt';
export { useLaterPatterns, usePatternsSoon, WithLibraries } from './libraries';
export { knownNames, useFirstNames, useNamesAnswer, useNamesRead } from './names';
export { namesStateOf, onceNamesAreRead, proposalOf, proposalWith, trackFacts } from './proposal';
export { loadHits, useHits } from './hits';
export { loadPeaks, usePeaks } from './peaks';
export { dismissalKeys, findingsOf } from './findings';
export { fetchSound } from './sound';
export { startUploads } from './start-uploads';
export { uploadsStore, type UploadItem } from './uploads-store';
export { chooseLens, selectOnly, useWorkbench, workbench, type Workbench } from './workbench';
export { useUploadWarning } from './leave-warning';
export { useKeptPlace, useKeptState, useKeptNumber } from './kept-place';
export { useGoOn } from './go-on';
export { laneSounds, loadTrackPeaks, type TrackPeaks, useTrackPeaks } from './track-peaks';
export { songSeconds } from './song-length';
export { useSongMap } from './song-map';
export { doubtsOf, tempoInHand } from './tempo-in-hand';
export {
  doubtfulTracks,
  type Lens,
  lensesOf,
  STAGES,
  SUMS_LENS,
  type StageState,
  stageStates,
} from './stages';
export { shared } from './shared';
export { besideMap, claimingTempo, saidOf, saidWhere, tempoClaimKeys, tempoSetAside } from './tempo-claims';
