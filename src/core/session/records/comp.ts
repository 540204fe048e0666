import { FADE_SHAPES, WHOLE_CLIP } from './clip';
import { FARTHEST_FRAMES, type Field, reference, text, whole } from './field';
import { kind } from './kind';
import { isOwnId, plainList } from './plain-rows';

/** A clip as a comp keeps it: what {@link CLIP} says, with its id. */
export interface KeptClip {
  readonly id: string;
  readonly laneId: string;
  readonly fromFrames: number | null;
  readonly toFrames: number | null;
  readonly slipFrames: number;
  readonly gainDb: number;
  readonly fadeInFrames: number;
  readonly fadeInShape: (typeof FADE_SHAPES)[number];
  readonly fadeOutFrames: number;
  readonly fadeOutShape: (typeof FADE_SHAPES)[number];
  readonly off: boolean;
}

const isFrames = (x: unknown): boolean => Number.isInteger(x) && Math.abs(x as number) <= FARTHEST_FRAMES;
const isEdge = (x: unknown): boolean => x === null || isFrames(x);
const isFade = (x: unknown): boolean => isFrames(x) && (x as number) >= 0;
const isShape = (x: unknown): boolean => (FADE_SHAPES as readonly unknown[]).includes(x);
const isId = (x: unknown): boolean => typeof x === 'string' && isOwnId(x);

/** One plain test for each field: a comp may have thousands of clips. */
const FITS: Readonly<Record<keyof KeptClip, (x: unknown) => boolean>> = {
  id: isId,
  laneId: isId,
  fromFrames: isEdge,
  toFrames: isEdge,
  slipFrames: isFrames,
  gainDb: (x) => typeof x === 'number' && x >= -120 && x <= 24,
  fadeInFrames: isFade,
  fadeInShape: isShape,
  fadeOutFrames: isFade,
  fadeOutShape: isShape,
  off: (x) => typeof x === 'boolean',
};

function isKeptClip(item: unknown): boolean {
  if (typeof item !== 'object' || item === null) return false;
  const given = item as Readonly<Record<string, unknown>>;
  return (
    Object.keys(given).every((name) => Object.hasOwn(FITS, name)) &&
    Object.entries(FITS).every(([name, fits]) => fits(given[name]))
  );
}

const clips = (): Field<readonly KeptClip[]> =>
  whole<readonly KeptClip[]>(plainList<KeptClip>(5000, isKeptClip), (random) =>
    random() < 0.5
      ? []
      : [
          {
            id: 'kept',
            laneId: 'lane-kept',
            ...WHOLE_CLIP,
            toFrames: Math.floor(1000 * random()),
          },
        ],
  );

/** One way in which a track was put together from its lanes, kept under a name. What sounds now are the clips of the track; those of the comp in use are written back when another is taken. */
export const COMP = kind(
  'comps',
  {
    trackId: reference({ kind: 'track', isOwner: true }),
    name: text(120, { min: 1 }),
    clips: clips(),
  },
  ({ name }) => name,
  { most: 5000 },
);
