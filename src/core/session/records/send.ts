import { flag, nullable, number, orderKey, reference } from './field';
import { kind } from './kind';

/** What goes to a bus beside the way of the track, or of the sum, itself. One of the two sends. */
export const SEND = kind(
  'sends',
  {
    /** The track that sends. */
    trackId: nullable(reference({ kind: 'track', isOwner: true })),
    /** The bus that sends. */
    sourceBusId: nullable(reference({ kind: 'bus', isOwner: true })),
    /** Among what one track or bus sends. */
    orderKey: orderKey(),
    /** A return. */
    busId: reference({ kind: 'bus' }),
    /** dB. */
    gainDb: number(-120, 24),
    /** −1 left … 1 right; null = that of what sends. */
    pan: nullable(number(-1, 1)),
    /** Taken before the level of what sends, or after it. */
    before: flag(),
  },
  ({ busId }) => busId,
);
