import { drawWaveform, peakLevelFor, type WavePaint } from './draw-waveform';
import { levelHeight } from './level-scale';

interface Drawn {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly color: string;
}

function draw(minMax: readonly number[], paint: Partial<WavePaint> = {}, width = 8, seconds = 2): Drawn[] {
  const drawn: Drawn[] = [];
  const context = {
    fillStyle: '',
    fillRect(x: number, y: number, w: number, height: number) {
      drawn.push({ x, y, width: w, height, color: this.fillStyle });
    },
  };
  drawWaveform(
    context as unknown as CanvasRenderingContext2D,
    { framesPerEntry: 100, minMax: Int16Array.from(minMax), sampleRateHz: 400 },
    { x: 10, y: 0, width, height: 20 },
    { fromSeconds: 0, toSeconds: seconds },
    { color: 'wave', clip: 'clip', scale: 'linear', pixel: 1, ...paint },
  );
  return drawn;
}

it('draws each pixel from the stretch it stands for, nothing beyond the end', () => {
  // Four entries of a quarter second fill the first half of two seconds: four pixels, the second at half height.
  const drawn = draw([-300, 300, -16384, 16384, -300, 300, -300, 300]);
  expect(drawn.map((d) => d.x)).toEqual([10, 11, 12, 13]);
  expect(drawn[1]?.height).toBeCloseTo(9, 1);
  expect(drawn[0]?.height).toBe(1);
});

it('has a column for every pixel of a dense screen', () => {
  const drawn = draw([-3000, 3000, -16384, 16384, -3000, 3000, -3000, 3000], { pixel: 0.5 });
  expect(drawn.map((d) => d.x)).toEqual([10, 10.5, 11, 11.5, 12, 12.5, 13, 13.5]);
  expect(drawn.every((d) => d.width === 0.5)).toBe(true);
});

it('dots silence, and marks what reaches full scale on its side', () => {
  const silent = draw(
    Array.from({ length: 16 }, () => 0),
    {},
    8,
    2,
  );
  expect(silent.map((d) => [d.x, d.height])).toEqual([
    [10, 1],
    [14, 1],
  ]);
  // 32766 is what the highest sample of 16 bit becomes.
  expect(
    draw([-100, 32766, -100, 32765, -100, 100, -100, 100])
      .filter((d) => d.color === 'clip')
      .map((d) => d.x),
  ).toEqual([10]);
  const drawn = draw([-100, 32767, -32768, 100, -32768, 32767, -32000, 32000]);
  expect(drawn.filter((d) => d.color === 'clip').map((d) => [d.x, d.y])).toEqual([
    [10, 0],
    [11, 18],
    [12, 0],
    [12, 18],
  ]);
});

it('one level of the pyramid and the next show the same: the lowest and highest of what they stand for', () => {
  const fine = Array.from({ length: 64 }, (_, i) => [
    -(100 + 37 * ((i * 7) % 13)),
    100 + 53 * ((i * 5) % 11),
  ]).flat();
  const coarse = Array.from({ length: 16 }, (_, k) =>
    [0, 1].map((side) =>
      fine
        .filter((_, i) => Math.floor(i / 8) === k && i % 2 === side)
        .reduce((m, v) => (side === 0 ? Math.min(m, v) : Math.max(m, v)), 0),
    ),
  ).flat();
  const of = (minMax: number[], framesPerEntry: number): Drawn[] => {
    const drawn: Drawn[] = [];
    const context = {
      fillStyle: '',
      fillRect(x: number, y: number, w: number, height: number) {
        drawn.push({ x, y, width: w, height, color: this.fillStyle });
      },
    };
    drawWaveform(
      context as unknown as CanvasRenderingContext2D,
      { framesPerEntry, minMax: Int16Array.from(minMax), sampleRateHz: 400 },
      { x: 0, y: 0, width: 16, height: 20 },
      { fromSeconds: 0, toSeconds: 16 },
      { color: 'wave', clip: 'clip', scale: 'db', pixel: 1 },
    );
    return drawn;
  };
  expect(of(fine, 100)).toEqual(of(coarse, 400));
});

it('chooses the coarsest level that has an entry for every column', () =>
  expect([20_000, 16_384, 5000, 1500, 300, 10].map(peakLevelFor)).toEqual([
    16_384, 16_384, 4096, 1024, 256, 256,
  ]));

it('makes heights of levels lifted, in proportion, or in dB from −60 up', () => {
  expect([0, 0.5, 1, 2].map((v) => levelHeight(v, 'linear'))).toEqual([0, 0.5, 1, 1]);
  expect([0, 0.25, 1, 2].map((v) => levelHeight(v, 'lifted'))).toEqual([0, 0.5, 1, 1]);
  expect(levelHeight(0.001, 'db')).toBeCloseTo(0, 9);
  expect(levelHeight(10 ** (-30 / 20), 'db')).toBeCloseTo(0.5, 9);
  expect([0, 1e-9, 1, 4].map((v) => levelHeight(v, 'db'))).toEqual([0, 0, 1, 1]);
});
