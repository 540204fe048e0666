/** A meter and the bar from which it holds. */
export interface Meter {
  /** First bar it holds for; the first downbeat of the song opens bar 1. */
  readonly bar: number;
  /** Beats a bar. */
  readonly numerator: number;
  /** Note value of a beat: 1, 2, 4, 8, 16. */
  readonly denominator: number;
  /** How the beats of a bar group to pulses, where that is not the usual way (7/8 as 3 + 2 + 2); sums to the numerator. */
  readonly groups?: readonly number[] | undefined;
  /** What people call this bar, where that is another number; only the first meter has one, and all bars count on from it. */
  readonly number?: number | undefined;
}

/** Where bars lie, in quarter notes. */
export interface MeterMap {
  /** Sorted by bar; the first also holds for all bars before it. */
  readonly meters: readonly Meter[];
  /** Quarter at which a bar begins (bar 1 = 0; pickup bars are 0, −1 …). */
  barToQuarters(bar: number): number;
  /** The bar a place lies in and how far inside, in quarters. */
  toBar(quarters: number): { readonly bar: number; readonly quartersInBar: number };
  /** What people call a bar. */
  numberOf(bar: number): number;
  /** Meter of a bar. */
  meterAt(bar: number): Meter;
  /** Quarters at which the pulses of a bar begin. */
  pulsesIn(bar: number): number[];
}

/** Quarters of one bar. */
const barQuarters = (m: Meter): number => (m.numerator * 4) / m.denominator;

/** Beats of each pulse of an uneven bar: twos, with a three at the end (5/8: 3 + 2; common practice, no source). */
const unevenGroups = (beats: number): number[] =>
  beats === 5 ? [3, 2] : [...new Array<number>((beats - 3) / 2).fill(2), 3];

/**
 * Quarters of each pulse (felt beat) of a bar: dotted quarters in 6/8, 9/8, 12/8, twos and threes in 5/8 and 7/8, otherwise the
 * quarter (the written quarter also in x/2; common practice, no source) with what is left of a bar at its end.
 */
export function pulseLengths(m: Meter): number[] {
  const unit = 4 / m.denominator;
  if (m.groups) return m.groups.map((g) => g * unit);
  if (m.denominator === 8 && m.numerator % 3 === 0) return new Array<number>(m.numerator / 3).fill(1.5);
  if (m.denominator === 8 && m.numerator % 2 === 1 && m.numerator > 3)
    return unevenGroups(m.numerator).map((g) => g * unit);
  const quarters = barQuarters(m);
  const whole = Math.floor(quarters + 1e-9);
  return [...new Array<number>(whole).fill(1), ...(quarters - whole > 1e-9 ? [quarters - whole] : [])];
}

/** Length of one pulse in quarters; the mean where they differ. */
export const pulseQuarters = (m: Meter): number => barQuarters(m) / pulseLengths(m).length;

/** What a tempo in BPM counts under a meter; where pulses are not of one length, their mean. */
export function pulseName(m: Meter): string {
  const lengths = pulseLengths(m);
  if (lengths.every((l) => l === 1)) return 'quarters';
  if (lengths.every((l) => l === 1.5)) return 'dotted quarters';
  return 'pulses of unequal length, their mean';
}

/** Builds a meter map. Throws RangeError for none, unsorted bars or impossible values. */
export function createMeterMap(meters: readonly Meter[]): MeterMap {
  if (meters.length === 0) throw new RangeError('a meter map needs at least one meter');
  const starts: number[] = [];
  meters.forEach((m, i) => {
    const before = meters[i - 1];
    if (
      !Number.isInteger(m.bar) ||
      !Number.isInteger(m.numerator) ||
      m.numerator < 1 ||
      m.numerator > 64 ||
      ![1, 2, 4, 8, 16, 32].includes(m.denominator)
    )
      throw new RangeError(`meter ${i} is impossible: ${m.numerator}/${m.denominator} at bar ${m.bar}`);
    if (
      m.groups &&
      (m.groups.some((g) => !Number.isInteger(g) || g < 1) ||
        m.groups.reduce((a, g) => a + g, 0) !== m.numerator)
    )
      throw new RangeError(
        `meter ${i} is impossible: groups ${m.groups.join(' + ')} in ${m.numerator}/${m.denominator}`,
      );
    if (m.number !== undefined && (!Number.isInteger(m.number) || before))
      throw new RangeError(`meter ${i} cannot be called bar ${m.number}`);
    if (before && m.bar <= before.bar) throw new RangeError(`meter ${i} does not come after meter ${i - 1}`);
    starts.push(
      before
        ? (starts[i - 1] as number) + (m.bar - before.bar) * barQuarters(before)
        : (m.bar - 1) * barQuarters(m),
    );
  });
  const called = meters[0]?.number === undefined ? 0 : meters[0].number - meters[0].bar;
  const indexFor = (test: (i: number) => boolean): number => {
    let i = 0;
    while (i + 1 < meters.length && test(i + 1)) i++;
    return i;
  };
  const barToQuarters = (bar: number): number => {
    const i = indexFor((k) => (meters[k] as Meter).bar <= bar);
    const m = meters[i] as Meter;
    return (starts[i] as number) + (bar - m.bar) * barQuarters(m);
  };
  const meterAt = (bar: number): Meter => meters[indexFor((k) => (meters[k] as Meter).bar <= bar)] as Meter;
  return {
    meters,
    barToQuarters,
    numberOf: (bar) => bar + called,
    toBar(quarters) {
      // A place a rounding error before a bar line belongs to the bar it opens.
      const q = quarters + 1e-9;
      const i = indexFor((k) => (starts[k] as number) <= q);
      const m = meters[i] as Meter;
      const bars = Math.floor((q - (starts[i] as number)) / barQuarters(m));
      return {
        bar: m.bar + bars,
        quartersInBar: Math.max(0, quarters - (starts[i] as number) - bars * barQuarters(m)),
      };
    },
    meterAt,
    pulsesIn(bar) {
      let q = barToQuarters(bar);
      return pulseLengths(meterAt(bar)).map((length) => (q += length) - length);
    },
  };
}
