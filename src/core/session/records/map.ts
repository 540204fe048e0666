import * as yup from 'yup';
import type { SongMapFile } from '../../time';
import { type Field, flag, nullable, orderKey, text, whole } from './field';
import { kind } from './kind';
import { mapFileSchema } from './map-file';
import { numbers, rows } from './plain-rows';

/** What was found with a map. */
export interface MapFacts {
  /** True only if one tempo holds throughout. */
  readonly steady: boolean;
  /** Pulses a minute; null unless steady. */
  readonly bpm: number | null;
  /** How far off one tempo may be at the song's end, s; missing = not measured. */
  readonly endErrorSeconds?: number | undefined;
  /** Job of the detection it came from; null = made otherwise. */
  readonly foundBy: string | null;
  /** As measured or set by hand, whatever points the map makes of them. */
  readonly pulses: readonly MapPulse[];
  /** Places somebody listened to, and whether the click was right there. */
  readonly checked?: readonly { readonly seconds: number; readonly right: boolean }[] | undefined;
}

/** A pulse of a map. */
export interface MapPulse {
  readonly seconds: number;
  /** 0–1. */
  readonly confidence: number;
  /** How sure a bar begins here, 0–1; missing = bars were set by hand. */
  readonly begins?: number | undefined;
  /** Set by hand: nothing moves it. */
  readonly pinned?: boolean | undefined;
}

/** A map's points and meters, and what was found with it: one without the other says nothing. */
export interface MapContent {
  readonly map: SongMapFile;
  readonly facts: MapFacts | null;
}

const DAY_SECONDS = 86_400;

const facts = yup
  .object({
    steady: yup.boolean().required(),
    bpm: yup.number().min(10).max(500).nullable().defined(),
    foundBy: yup.string().max(64).nullable().defined().default(null),
    pulses: rows<MapPulse>({
      seconds: numbers(-DAY_SECONDS, DAY_SECONDS),
      confidence: numbers(0, 1),
      begins: numbers(0, 1, { optional: true }),
      pinned: { type: 'boolean', optional: true },
    }).required(),
    endErrorSeconds: yup.number().min(0).max(60),
    checked: rows<{ seconds: number; right: boolean }>({
      seconds: numbers(-DAY_SECONDS, DAY_SECONDS),
      right: { type: 'boolean' },
    }).max(1000),
  })
  .noUnknown();

const content = (): Field<MapContent> =>
  whole<MapContent>(
    yup
      .object({ map: mapFileSchema.required(), facts: facts.nullable().defined().default(null) })
      .noUnknown(),
    (random) => ({
      map: {
        schemaVersion: 1,
        points: [
          { quarters: 0, seconds: Math.floor(10 * random()) },
          { quarters: 4, seconds: 12 + Math.floor(10 * random()) },
        ],
        meters: [{ bar: 1, numerator: 4, denominator: 4 }],
      },
      facts: null,
    }),
  );

/** A tempo map: the session's, or one that was saved to go back to. */
export const MAP = kind(
  'tempo_maps',
  {
    orderKey: orderKey(),
    /** Null = the session's own, which needs no name. */
    name: nullable(text(120, { min: 1 })),
    content: content(),
    /** The session's; one at most is. */
    inForce: flag({ initial: false }),
    /** How the song was played, as against what it might become; one at most is marked so. */
    played: flag({ initial: false }),
  },
  ({ name }) => name ?? '',
  { most: 13 },
);
