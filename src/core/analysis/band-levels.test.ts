import { createRandom } from '../units';
import {
  BandLevelAnalysis,
  type BandLevels,
  encodeBandLevels,
  LEVEL_BANDS,
  LEVEL_POWERS,
  levelEdgesHz,
  readBandLevels,
  totalPower,
} from './band-levels';

function levelsOf(channels: readonly Float32Array[], rateHz: number, block = 1 << 16): BandLevels {
  const analysis = new BandLevelAnalysis(rateHz, channels.length);
  for (let at = 0; at < (channels[0]?.length ?? 0); at += block)
    analysis.push(channels.map((x) => x.subarray(at, at + block)));
  return analysis.finish();
}

function whiteNoise(seed: number, length: number, rms: number): Float32Array {
  const random = createRandom(seed);
  // Uniform noise of an RMS reaches √3 times as far.
  return Float32Array.from({ length }, () => rms * Math.sqrt(3) * (2 * random() - 1));
}
const db = (power: number): number => 10 * Math.log10(power);
const meanTotal = (l: BandLevels): number =>
  db(Array.from({ length: l.frames }, (_, n) => totalPower(l, n)).reduce((a, b) => a + b, 0) / l.frames);
const meanBands = (l: BandLevels): number =>
  db(l.bands.reduce((sum, step) => sum + (LEVEL_POWERS[step] as number), 0) / l.frames);

it.each([44_100, 48_000, 96_000])(
  'white noise of −40 dBFS RMS at %i Hz reads so, its bands by their widths',
  (rate) => {
    const l = levelsOf([whiteNoise(3, 8 * rate, 0.01)], rate);
    expect(l.frames).toBe(400);
    expect(meanTotal(l)).toBeCloseTo(-40, 0);
    const edges = levelEdgesHz(rate);
    const share = ((edges.at(-1) as number) - (edges[0] as number)) / (rate / 2);
    expect(Math.abs(meanBands(l) - (-40 + db(share)))).toBeLessThan(0.3);
  },
);

it('a tone stands in its band, and nothing cancels between channels', () => {
  const tone = Float32Array.from(
    { length: 48_000 },
    (_, i) => 0.5 * Math.sin((2 * Math.PI * 1000 * i) / 48_000),
  );
  const band = levelEdgesHz(48_000).findIndex((edge) => edge > 1000) - 1;
  for (const channels of [[tone], [tone, tone.map((v) => -v)], [tone, tone, tone.map((v) => -v)]]) {
    const l = levelsOf(channels, 48_000);
    const at = 25 * LEVEL_BANDS;
    // RMS of a sine of half of full scale: −9.03 dBFS.
    expect(Math.abs(db(LEVEL_POWERS[l.bands[at + band] as number] as number) + 9.03)).toBeLessThan(0.6);
    expect(db(totalPower(l, 25))).toBeCloseTo(-9, 0);
    expect(l.bands[at + band + 4]).toBeLessThan((l.bands[at + band] as number) - 80);
  }
});

it('zeros are told from what is almost silent, and what is off centre is no level', () => {
  const x = new Float32Array(48_000);
  x.fill(1e-9, 24_000);
  const l = levelsOf([x], 48_000);
  expect([...l.total.slice(0, 24)].every((step) => step === 0)).toBe(true);
  expect([...l.total.slice(26)].every((step) => step === 1)).toBe(true);
  const offCentre = levelsOf([new Float32Array(48_000).fill(0.3)], 48_000);
  expect(Math.max(...offCentre.total, ...offCentre.bands)).toBeLessThanOrEqual(1);
});

it('gives the same however the stream is cut into blocks', () => {
  const x = whiteNoise(8, 30_011, 0.1);
  const whole = levelsOf([x, x], 44_100);
  expect(levelsOf([x, x], 44_100, 97)).toEqual(whole);
  expect(levelsOf([x], 44_100, 5000)).toEqual(levelsOf([x], 44_100));
});

it('is kept as a blob; anything else is refused', () => {
  const l = levelsOf([whiteNoise(1, 9600, 0.1)], 48_000);
  expect(readBandLevels(encodeBandLevels(l))).toEqual(l);
  expect(() => readBandLevels(new Uint8Array(3))).toThrow(RangeError);
  expect(() => readBandLevels(encodeBandLevels(l).subarray(1))).toThrow(RangeError);
});
