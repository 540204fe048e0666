import { colour, nullable, orderKey, reference, text } from './field';
import { kind } from './kind';

/** A row that holds others. */
export const FOLDER = kind(
  'folders',
  {
    /** The folder it stands in; null = the top level. */
    parentId: nullable(reference({ kind: 'folder' })),
    orderKey: orderKey(),
    name: text(120, { min: 1 }),
    /** `#rrggbb`; null = not coloured yet. */
    color: nullable(colour()),
    /** Its sum bus; null = none. */
    busId: nullable(reference({ kind: 'bus' })),
  },
  ({ name }) => name,
);
