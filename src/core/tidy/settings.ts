import type { CutSettings } from './wanted';

/** How tracks are tidied as long as nobody says otherwise. */
export interface TidySettings extends CutSettings {
  /** Fade at every cut edge, s; shorter than the pads, so that nothing wanted lies in it. */
  readonly fadeSeconds: number;
  /** Highest sample of a matched track, dBFS; and the highest true peak, dBTP, whatever the target. */
  readonly peakDbfs: number;
  readonly ceilingDbtp: number;
}

/** Pads and shortest silence: measured on made sessions (`npm run bench -- tidy`); peaks: common practice, no source. */
export const TIDY_DEFAULTS: TidySettings = {
  thresholdDb: null,
  shortestSeconds: 0.4,
  beforeSeconds: 0.06,
  afterSeconds: 0.12,
  fadeSeconds: 0.01,
  peakDbfs: -12,
  ceilingDbtp: -1,
};
