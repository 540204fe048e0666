import type { StretchOutlook } from '@/core/conform';
import type { ConformMethod } from '@/core/session';

/** What each method does, for people. */
export const METHOD_WORDS: Readonly<Record<ConformMethod, string>> = {
  slices: 'Cut just before every hit; the pieces move, nothing is stretched. All microphones share the cuts.',
  held: 'Stretched with its pitch held. Longer blocks keep low tones clean, shorter ones keep attacks sharp.',
  none: 'Each stretch of sound moves to where its beginning goes; its length stays.',
  still: 'Tied to time: stays where it was recorded, whatever the bars do.',
};

/** What to expect of a stretch, for people. */
export const OUTLOOK_WORDS: Readonly<Record<StretchOutlook, string>> = {
  none: 'nothing changes in the sound',
  inaudible: 'not heard',
  careful: 'may be heard: listen',
  audible: 'will be heard',
};

/** A change of length in percent, with its sign. */
export const changeText = (change: number): string =>
  `${change < 0 ? '−' : '+'}${Math.abs(100 * change).toFixed(Math.abs(change) < 0.0995 ? 1 : 0)} %`;

/** The changes of a group from the most shortened to the most lengthened place. */
export const rangeText = ({ low, high }: { readonly low: number; readonly high: number }): string =>
  Math.abs(high - low) < 0.0005
    ? changeText(high)
    : `${changeText(low).replace(' %', '')} … ${changeText(high)}`;
