import { type BandLevels, LEVEL_BANDS, LEVEL_POWERS, levelEdgesHz } from '../analysis';
import { bandRow } from './frame-math';
import { SPREAD_DB } from './noise-figures';

/** What a floor is. */
export type FloorKind = 'noise' | 'hum' | 'tone';

/** How far below the loudest of a track a floor of each kind lies at least, dB: a steady tone may be a held note. */
const BELOW_DB: Readonly<Record<FloorKind, number>> = { noise: 15, hum: 22, tone: 32 };
/** Frequencies of the mains and their first multiples, Hz: hum is strongest there. */
const MAINS_HZ = [50, 60, 100, 120];
/** What is loudest is told over 60 ms. */
const LOUD_FRAMES = 3;
/** A band holds a tone where its level strays over time by less than this share of what noise does. */
const TONE_SPREAD = 0.55;
/** Frames near the floor, by power in the band, that say how it strays. */
const [NEAR_BELOW, NEAR_ABOVE] = [0.03, 4];
const LEAST_FRAMES = 25;

/** What the floor of a recording is; null where it does not lie far enough below what is loud to be one: it is the quiet part of what is played. */
export function floorKind(
  { frames, total }: BandLevels,
  powers: Float32Array,
  floor: Float32Array,
): FloorKind | null {
  let loudest = 0;
  for (let n = LOUD_FRAMES; n <= frames; n++) {
    let sum = 0;
    for (let k = n - LOUD_FRAMES; k < n; k++) sum += LEVEL_POWERS[total[k] as number] as number;
    loudest = Math.max(loudest, sum / LOUD_FRAMES);
  }
  if (loudest === 0) return null;
  const middle = Math.floor(frames / 2);
  const own = Array.from({ length: LEVEL_BANDS }, (_, b) => bandRow(floor, b)[middle] as number);
  const tones = own.map((p, b) => (isTone(bandRow(powers, b), bandRow(floor, b), b) ? p : 0));
  const [all, tonal] = [sumOf(own), sumOf(tones)];
  const kind = tonal <= all / 2 ? 'noise' : isMains(tones.indexOf(Math.max(...tones))) ? 'hum' : 'tone';
  return 10 * Math.log10(all / loudest) <= -BELOW_DB[kind] ? kind : null;
}

const sumOf = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);

/** Whether a band holds what the mains hum at. */
function isMains(band: number): boolean {
  const edges = levelEdgesHz(48_000);
  return MAINS_HZ.some((hz) => hz >= (edges[band] as number) && hz < (edges[band + 1] as number));
}

/** Whether a band stands still where it is at its floor. */
function isTone(powers: Float32Array, floor: Float32Array, band: number): boolean {
  let [sum, squares, count] = [0, 0, 0];
  for (let n = 0; n < powers.length; n++) {
    const share = (powers[n] as number) / (floor[n] as number);
    if (share < NEAR_BELOW || share > NEAR_ABOVE) continue;
    const db = 10 * Math.log10(share);
    sum += db;
    squares += db * db;
    count++;
  }
  if (count < LEAST_FRAMES) return false;
  const spread = Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
  return spread < TONE_SPREAD * (SPREAD_DB[1][band] as number);
}
