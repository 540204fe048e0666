import { everySeconds, madeStreams } from '../../../tests/support/made-streams';
import { constantGrid } from './constant-grid';

it('goes through a long break at one tempo', () => {
  const bars = everySeconds(3.21, 2.04, 41);
  const streams = madeStreams(
    bars,
    (bar) => (bar >= 14 && bar < 24 ? { chords: 'X...' } : { kick: 'X.X.', snare: '.X.X', hat: 'xxxxxxxx' }),
    8,
    5,
  );
  const grid = constantGrid(streams, () => 1, 0.505, 3.1, 84.9);
  // Hats on eighths leave open which of them are the pulses: readings try both.
  for (const t of grid)
    expect(Math.abs((t - 3.21) / 0.255 - Math.round((t - 3.21) / 0.255)) * 0.255).toBeLessThan(0.012);
  expect(grid.slice(1).every((t, i) => Math.abs(t - (grid[i] as number) - 0.51) < 1e-4)).toBe(true);
});
