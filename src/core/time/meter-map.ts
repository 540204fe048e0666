/** A meter and the bar from which it holds. */
export interface Meter {
  /** First bar it holds for; the first downbeat of the song opens bar 1. */
  readonly bar: number;
  /** Beats a bar. */
  readonly numerator: number;
  /** Note value of a beat: 1, 2, 4, 8, 16. */
  readonly denominator: number;
}

/** Where bars lie, in quarter notes. */
export interface MeterMap {
  /** Sorted by bar; the first also holds for all bars before it. */
  readonly meters: readonly Meter[];
  /** Quarter at which a bar begins (bar 1 = 0; pickup bars are 0, −1 …). */
  barToQuarters(bar: number): number;
  /** The bar a place lies in and how far inside, in quarters. */
  toBar(quarters: number): { readonly bar: number; readonly quartersInBar: number };
  /** Meter of a bar. */
  meterAt(bar: number): Meter;
}

/** Quarters of one bar. */
const barQuarters = (m: Meter): number => (m.numerator * 4) / m.denominator;

/**
 * Length of one pulse (felt beat) in quarters: the dotted quarter in 6/8, 9/8, 12/8, otherwise the quarter
 * (the written quarter also in x/2; common practice, no source).
 */
export const pulseQuarters = (m: Meter): number => (m.denominator === 8 && m.numerator % 3 === 0 ? 1.5 : 1);

/** Builds a meter map. Throws RangeError for none, unsorted bars or impossible values. */
export function createMeterMap(meters: readonly Meter[]): MeterMap {
  if (meters.length === 0) throw new RangeError('a meter map needs at least one meter');
  const starts: number[] = [];
  meters.forEach((m, i) => {
    const before = meters[i - 1];
    if (!Number.isInteger(m.bar) || !Number.isInteger(m.numerator) || m.numerator < 1 || m.numerator > 64 || ![1, 2, 4, 8, 16, 32].includes(m.denominator))
      throw new RangeError(`meter ${i} is impossible: ${m.numerator}/${m.denominator} at bar ${m.bar}`);
    if (before && m.bar <= before.bar) throw new RangeError(`meter ${i} does not come after meter ${i - 1}`);
    starts.push(before ? (starts[i - 1] as number) + (m.bar - before.bar) * barQuarters(before) : (m.bar - 1) * barQuarters(m));
  });
  const indexFor = (test: (i: number) => boolean): number => {
    let i = 0;
    while (i + 1 < meters.length && test(i + 1)) i++;
    return i;
  };
  return {
    meters,
    barToQuarters(bar) {
      const i = indexFor((k) => (meters[k] as Meter).bar <= bar);
      const m = meters[i] as Meter;
      return (starts[i] as number) + (bar - m.bar) * barQuarters(m);
    },
    toBar(quarters) {
      // A place a rounding error before a bar line belongs to the bar it opens.
      const q = quarters + 1e-9;
      const i = indexFor((k) => (starts[k] as number) <= q);
      const m = meters[i] as Meter;
      const bars = Math.floor((q - (starts[i] as number)) / barQuarters(m));
      return { bar: m.bar + bars, quartersInBar: Math.max(0, quarters - (starts[i] as number) - bars * barQuarters(m)) };
    },
    meterAt: (bar) => meters[indexFor((k) => (meters[k] as Meter).bar <= bar)] as Meter,
  };
}
