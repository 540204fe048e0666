import { drawWaveform } from './draw-waveform';

it('draws each pixel from the stretch it stands for, nothing beyond the end', () => {
  const drawn: { x: number; y: number; height: number }[] = [];
  const context = { fillStyle: '', fillRect: (x: number, y: number, _w: number, height: number) => drawn.push({ x, y, height }) } as unknown as CanvasRenderingContext2D;
  const minMax = Int16Array.from([0, 0, -32768, 32767, 0, 0, 0, 0]);
  drawWaveform(context, { framesPerEntry: 100, minMax, sampleRateHz: 400 }, { x: 10, y: 0, width: 8, height: 20 }, { fromSeconds: 0, toSeconds: 2 }, '#000');
  // Four entries of a quarter second fill the first half of two seconds: four pixels, the second at full height.
  expect(drawn.map((d) => d.x)).toEqual([10, 11, 12, 13]);
  expect(drawn[1]?.height).toBeCloseTo(18, 0);
  expect(drawn[0]?.height).toBe(1);
});
