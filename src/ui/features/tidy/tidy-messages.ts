import type { CutSettings, HeardTrack, LevelsPlace, TidyProposal, TidyTrack } from '@/core/tidy';

/** A track that the worker is to hear. */
export interface TrackToHear extends Omit<TidyTrack, 'levels'>, LevelsPlace {
  readonly recordingId: string;
}

/** What the worker is asked. `run` counts: answers to older ones do not matter. */
export type ToTidyWorker =
  | { readonly kind: 'hear'; readonly run: number; readonly tracks: readonly TrackToHear[] }
  | {
      readonly kind: 'propose';
      readonly run: number;
      /** For all tracks that have none of their own. */
      readonly settings: CutSettings;
      readonly own: Readonly<Record<string, CutSettings>>;
      /** Tracks that are cut by themselves. */
      readonly apart: readonly string[];
    }
  | HearShare;

/** One worker asks another to hear some of its tracks; all of them are needed for what spills from one into the other. */
export interface HearShare {
  readonly kind: 'hear-share';
  readonly tracks: readonly TidyTrack[];
  /** Places of those that are to be heard. */
  readonly which: readonly number[];
}

/** What the other tells: each that is heard, then all of them in order. */
export type FromShare =
  { readonly kind: 'share-on' } | { readonly kind: 'share-heard'; readonly heard: readonly HeardTrack[] };

/** What it tells. */
export type FromTidyWorker =
  | { readonly kind: 'heard'; readonly run: number; readonly done: number; readonly of: number }
  | { readonly kind: 'failed'; readonly run: number }
  | {
      readonly kind: 'proposals';
      readonly run: number;
      /** Of all tracks. */
      readonly ids: readonly string[];
      /** Those that are otherwise than when they were told last. */
      readonly changed: readonly TidyProposal[];
      /** Time it took to make them, ms. */
      readonly tookMs: number;
    };
