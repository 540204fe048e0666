import { number, text } from './field';
import { kind } from './kind';

/** A day: no song is longer. */
const LONGEST_SECONDS = 86_400;

/** A named place of the song. */
export const MARKER = kind(
  'markers',
  {
    name: text(120, { min: 1 }),
    /** In the time as played. */
    seconds: number(-LONGEST_SECONDS, LONGEST_SECONDS),
  },
  ({ name }) => name,
  { most: 2000 },
);
