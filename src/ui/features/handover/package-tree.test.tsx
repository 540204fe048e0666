import { render } from '@testing-library/react';
import type { PackagePlan } from '@/core/delivery';
import { PackageTree } from './package-tree';

const plan = (change: Partial<PackagePlan> = {}): PackagePlan => ({
  folderName: 'Slip_v1',
  base: 'data/',
  sampleRateHz: 48_000,
  bitDepth: 24,
  padFrames: 0,
  lengthFrames: 100,
  leadInBars: 2,
  firstBarNumber: 3,
  leadInQuarters: 8,
  notes: [],
  takes: [],
  meters: [],
  markers: [],
  beats: [],
  click: { strokes: [], sound: 'tone' },
  anchors: [
    { quarters: 0, seconds: 0 },
    { quarters: 4, seconds: 2 },
  ],
  files: [
    {
      path: 'data/audio/01_Drums_Kick.wav',
      trackId: 'k',
      name: 'Kick',
      channels: 1,
      startFrames: 0,
      pieces: [],
      isUncut: true,
    },
    {
      path: 'data/audio/02_Drums_OH.wav',
      trackId: 'o',
      name: 'Overhead',
      channels: 2,
      startFrames: 0,
      pieces: [],
      isUncut: true,
    },
    {
      path: 'data/reference/Click_with-count-in.wav',
      trackId: null,
      name: 'Click',
      channels: 1,
      startFrames: 0,
      pieces: [],
      isUncut: true,
    },
  ],
  ...change,
});
const shown = (p: PackagePlan): string =>
  render(<PackageTree plan={p} title={p.folderName} />).container.textContent ?? '';

it('shows every file of the plan in its folder, with its channels', () => {
  const text = shown(plan());
  expect(text).toContain('Slip_v1/');
  expect(text).toMatch(/01_Drums_Kick\.wav\s*mono/);
  expect(text).toMatch(/02_Drums_OH\.wav\s*stereo/);
  expect(text).toMatch(/Click_with-count-in\.wav\s*made here/);
  expect(text).toContain('tempo-and-markers.mid');
});

it('promises no tempo file without a map, and no reference folder without references', () => {
  const text = shown(plan({ anchors: [], files: plan().files.slice(0, 2) }));
  expect(text).not.toContain('tempo-and-markers.mid');
  expect(text).not.toContain('data/reference');
  expect(text).toContain('tracks.csv');
  expect(text).toContain('manifest-sha256.txt');
});

it('shows beside conformed recordings what was played', () => {
  const played = plan({ base: 'data/as-played/' });
  const text =
    render(<PackageTree plan={plan()} played={played} title="Slip_v1" />).container.textContent ?? '';
  expect(text).toContain('data/as-played/');
  expect(text).toContain('3 files as played');
  expect(shown(plan())).not.toContain('as-played');
});

it('shows takes beside the tracks, those as played in a line of their own', () => {
  const take = {
    ...(plan().files[0] as PackagePlan['files'][number]),
    path: 'data/takes/01_Drums_Kick_take-2.wav',
    trackId: 'k',
    laneId: 'l',
    takeNumber: 2,
  };
  expect(shown(plan())).not.toContain('takes');
  expect(shown(plan({ takes: [take] }))).toMatch(/data\/takes\/.*01_Drums_Kick_take-2\.wav\s*mono/);
  const both = render(<PackageTree plan={plan()} played={plan({ takes: [take, take] })} title="Slip_v1" />)
    .container.textContent;
  expect(both).toContain('2 takes as played');
});
