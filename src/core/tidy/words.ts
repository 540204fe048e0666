import type { NothingBecause } from './propose';
import type { TidyReason } from './reasons';

/** Why a track is left whole, for people. */
export const NOTHING_WORDS: Readonly<Record<NothingBecause, string>> = {
  reference: 'a mix, guide or click: left as it is',
  silent: 'it holds no sound',
  'no-floor': 'no noise floor can be told from what is played',
  even: 'it is even throughout: nothing stands out of the rest',
  'always-sounding': 'it sounds all the time',
  'below-threshold': 'nothing reaches the threshold',
};

/** What a piece is, for people. */
export const REASON_WORDS: Readonly<Record<TidyReason, string>> = {
  sound: 'what is played',
  silence: 'silence',
  hum: 'hum',
  noise: 'noise',
  breath: 'a breath',
  talk: 'talk, or a noise before the song',
  'count-in': 'a count-in',
  spill: 'spill',
  bleed: 'bleed of the kit',
  head: 'before the first sound',
  tail: 'after the last sound',
};
