import type { CutSettings } from './wanted';

/** How tracks are tidied as long as nobody says otherwise. */
export interface TidySettings extends CutSettings {
  /** Fade at every cut edge, s; shorter than the pads, so that nothing wanted lies in it. */
  readonly fadeSeconds: number;
}

/** Pads and shortest silence: measured on made sessions (`npm run bench -- tidy`). */
export const TIDY_DEFAULTS: TidySettings = {
  thresholdDb: null,
  shortestSeconds: 0.8,
  beforeSeconds: 0.06,
  afterSeconds: 0.08,
  fadeSeconds: 0.01,
};

/** Bounds of the settings, s and dBFS. */
export const TIDY_LIMITS = {
  thresholdDb: [-120, 0],
  shortestSeconds: [0.02, 60],
  beforeSeconds: [0, 10],
  afterSeconds: [0, 10],
  fadeSeconds: [0, 5],
} as const satisfies Readonly<Record<keyof TidySettings, readonly [least: number, most: number]>>;
