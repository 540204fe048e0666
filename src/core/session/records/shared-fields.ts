import { type Field, whole } from './field';
import { plainList } from './plain-rows';

const NAMES = ['name', 'pan', 'place', 'busId', 'color'] as const;

/** Names of the fields that a person set. */
export const byHand = (): Field<readonly string[]> =>
  whole<readonly string[]>(
    plainList<string>(30, (name) => typeof name === 'string' && name !== '' && name.length <= 40),
    (random) => NAMES.filter(() => random() < 0.3),
    { initial: [], merge: 'set' },
  );
