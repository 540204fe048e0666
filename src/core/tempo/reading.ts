import type { RhythmCurves } from '../analysis';
import type { Family } from '../naming';
import type { MapFacts } from '../session';
import type { Meter } from '../time';

/** A track as the detection sees it; all tracks share one zero. */
export interface TempoTrack {
  readonly id: string;
  readonly family: Family;
  readonly part: string | null;
  readonly curves: RhythmCurves;
}

/** Whether a track keeps the time, and why. */
export interface TimekeeperChoice {
  readonly id: string;
  readonly chosen: boolean;
  /** Share of what was heard at the pulses, 0–1; all sum to 1. */
  readonly weight: number;
  /** A reason code for people. */
  readonly reason:
    | 'click'
    | 'steady'
    | 'clear'
    | 'chosen'
    | 'unclear'
    | 'between'
    | 'sparse'
    | 'silent'
    | 'not-rhythmic'
    | 'duplicate';
}

/** Another way to read a song, as what is to be done to the one given; `between` = half a pulse later, `meter` = the same pulses in bars of another meter. */
export interface AlternativeReading {
  readonly reading:
    'as-found' | 'double' | 'half' | 'three-halves' | 'two-thirds' | 'between' | 'beat-later' | 'meter';
  readonly confidence: number;
  readonly meter?: Pick<Meter, 'numerator' | 'denominator'> | undefined;
}

/** A stretch of the song, s. */
export interface Passage {
  readonly from: number;
  readonly to: number;
}

/** One reading of the beat of a song. */
export interface TempoReading {
  /** Pulses, seconds from the common zero, rising. */
  readonly beats: readonly number[];
  /** 0–1, one a pulse. */
  readonly confidence: readonly number[];
  /** How sure a bar begins at each pulse, 0–1; missing = bars were set by hand. */
  readonly begins?: readonly number[] | undefined;
  /** Set by hand, one a pulse; missing = none. */
  readonly pinned?: readonly boolean[] | undefined;
  /** Where hardly anything keeps to the pulses, so that they are guesses; missing = nowhere, or corrected since. */
  readonly loose?: readonly Passage[] | undefined;
  /** Places somebody listened to. */
  readonly checked?: MapFacts['checked'];
  /** Index of the pulse that opens bar 1; past the last one for a song that ends before. */
  readonly firstDownbeat: number;
  /** From bar 1 on. */
  readonly meters: readonly Meter[];
  /** True only if one tempo holds throughout. */
  readonly steady: boolean;
  /** Pulses a minute; null unless steady. */
  readonly bpm: number | null;
  /** Moment of any pulse of the fitted grid; null unless steady. */
  readonly gridOffsetSeconds: number | null;
  /** How far off the grid may be at the last pulse (one standard error), s; missing = not measured. */
  readonly endErrorSeconds?: number | undefined;
  readonly timekeepers: readonly TimekeeperChoice[];
  /** Other ways to read it, most likely first; the given one is the first. */
  readonly alternatives: readonly AlternativeReading[];
}

/** A stored reading as readings are now: the first versions said how many quarters a bar has instead of its meter. */
export function storedReading(stored: unknown): TempoReading {
  const reading = stored as TempoReading & {
    readonly barLengths?: readonly { readonly bar: number; readonly pulses: number }[];
  };
  if (!reading.barLengths) return reading;
  const { barLengths, ...rest } = reading;
  return {
    ...rest,
    meters: barLengths.map(({ bar, pulses }) => ({ bar, numerator: pulses, denominator: 4 })),
  };
}
