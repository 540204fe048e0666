import { colour, flag, nullable, number, oneOf, orderKey, reference, text } from './field';
import { kind } from './kind';
import { byHand } from './shared-fields';
import { NOWHERE } from './nowhere';

/** A sum, or a return. */
export const BUS = kind(
  'buses',
  {
    orderKey: orderKey(),
    name: text(120, { min: 1 }),
    /** `#rrggbb`; null = not coloured yet. */
    color: nullable(colour()),
    /** A sum takes what is routed to it, a return what is sent. */
    kind: oneOf(['sum', 'return'], { initial: 'sum' }),
    /** Where it goes; null = the mix bus; or {@link NOWHERE}. */
    outputBusId: nullable(reference({ kind: 'bus', none: NOWHERE })),
    /** dB. */
    gainDb: number(-120, 24, { initial: 0 }),
    /** Balance of its two sides: −1 left … 1 right. */
    pan: number(-1, 1, { initial: 0 }),
    muted: flag({ initial: false }),
    /** Fields set by a person; the house style leaves them alone. */
    byHand: byHand(),
  },
  ({ name }) => name,
);
