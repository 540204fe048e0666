import { flag, number, orderKey, text, whole } from './field';
import { kind } from './kind';
import { ids } from './plain-rows';

/** Tracks that are edited as one. */
export const GROUP = kind(
  'track_groups',
  {
    orderKey: orderKey(),
    name: text(120, { min: 1 }),
    /** Those of tracks that went are kept and do nothing. */
    trackIds: whole<readonly string[]>(ids(2000), (random, known) => known.filter(() => random() < 0.3), {
      merge: 'set',
    }),
    /** Put aside, its tracks are edited one by one; its level holds. */
    on: flag(),
    /** Added to the level of each, without routing it anywhere, dB. */
    gainDb: number(-120, 24),
    /** Made or changed by a person: the house style leaves it alone. */
    byHand: flag({ merge: 'either' }),
  },
  ({ name }) => name,
  { most: 200 },
);
