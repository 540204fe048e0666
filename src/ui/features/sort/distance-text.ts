import { type DistanceOrigin, distanceOf } from '@/core/time';

const rounded = (value: number, decimals: number): string =>
  Number(Math.abs(value).toFixed(decimals)).toLocaleString('en', { maximumFractionDigits: decimals });
const counted = (value: number, decimals: number, one: string, more: string): string => {
  const text = rounded(value, decimals);
  return `${text} ${text === '1' ? one : more}`;
};

/** A distance in all its units, with its sign once: `+2 bars · 8 pulses · 4 s · 192,000 samples`. */
export function distanceText(origin: DistanceOrigin, frames: number): string {
  const { bars, pulses, seconds } = distanceOf(origin, frames);
  const parts = [
    ...(bars === null || pulses === null
      ? []
      : [counted(bars, 2, 'bar', 'bars'), counted(pulses, 2, 'pulse', 'pulses')]),
    `${rounded(seconds, 6)} s`,
    counted(frames, 0, 'sample', 'samples'),
  ];
  return `${frames < 0 ? '−' : '+'}${parts.join(' · ')}`;
}
