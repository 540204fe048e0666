import { plainTrack } from '../../../../tests/support/random-edits';
import type { RecordingView } from '@/contracts';
import { applyChanges, emptySession } from '@/core/session';
import { LADDERS, loudnessAtBuses, placeOfPan, placeOn, pulledLevel, pulledPan, soundingAt } from './ladder';

const { loudness, peak } = LADDERS;
const recordings = new Map([
  ['r', { id: 'r', facts: { integratedLufs: -23, peakDbfs: -9 } } as RecordingView],
  ['tick', { id: 'tick', facts: { integratedLufs: null, peakDbfs: -20 } } as RecordingView],
  ['silent', { id: 'silent', facts: { integratedLufs: null, peakDbfs: null } } as RecordingView],
]);

it('a track stands where it sounds, with what its pieces are turned up by', () => {
  const track = { ...plainTrack('a'), recordingId: 'r' };
  expect(soundingAt('loudness', track, recordings)).toBeCloseTo(-23);
  expect(soundingAt('peak', track, recordings)).toBeCloseTo(-9);
  const louder = { ...track, clips: track.clips.map((c) => ({ ...c, gainDb: 4 })) };
  expect(soundingAt('peak', louder, recordings)).toBeCloseTo(-5);
  const of = (recordingId: string, scale: 'loudness' | 'peak') =>
    soundingAt(scale, { ...track, recordingId }, recordings);
  expect(of('silent', 'loudness')).toBe('silent');
  expect(of('tick', 'loudness')).toBe('too short or too soft for a loudness');
  expect(of('tick', 'peak')).toBe(-20);
  expect(of('arriving', 'peak')).toBe('not listened to yet');
});

it('at a bus stands what comes to it, each with its own level and that of the buses before', () => {
  const bus = (id: string, outputBusId: string | null, more: object, index: number) => ({
    kind: 'bus.add' as const,
    ...{ bus: { id, name: id, color: null, outputBusId, ...more }, index },
  });
  const track = (id: string, busId: string | null, more: object, index: number) => ({
    kind: 'track.add' as const,
    ...{ track: { ...plainTrack(id), recordingId: 'r', busId, ...more }, parentId: 'root', index },
  });
  const made = applyChanges(emptySession('s'), [
    bus('band', null, {}, 0),
    bus('drums', 'band', { gainDb: -10 }, 1),
    bus('hushed', 'band', { muted: true }, 2),
    bus('empty', null, {}, 3),
    track('kick', 'drums', { gainDb: 3 }, 0),
    track('snare', 'drums', { gainDb: 3 }, 1),
    track('bass', 'band', {}, 2),
    track('muted', 'band', { muted: true }, 3),
    track('tambourine', 'hushed', {}, 4),
  ]);
  if (!made.ok) throw new Error(made.code);
  const at = loudnessAtBuses(made.session, recordings);
  // Two of −20 LUFS are −17; −27 and −23 are 10·lg(10^−2.7 + 10^−2.3) = −21.5.
  expect(at.get('drums')).toBeCloseTo(-17, 1);
  expect(at.get('band')).toBeCloseTo(-21.5, 1);
  expect(at.get('hushed')).toBeCloseTo(-23, 6);
  expect(at.has('empty')).toBe(false);
});

it('what is beyond an end of the ladder is put there', () => {
  expect([-72, -60, -30, 0, 3].map((v) => placeOn(loudness, v))).toEqual([0, 0, 0.5, 1, 1]);
  expect([0, 12].map((v) => placeOn(peak, v))).toEqual([0.8, 1]);
});

it('is pulled by what the pointer moves, in tenths, and no further than can be typed', () => {
  expect(pulledLevel(loudness, -3, 0.1)).toBe(3);
  expect(pulledLevel(loudness, -3.04, -0.0501)).toBe(-6);
  expect(pulledLevel(loudness, 20, 0.5)).toBe(24);
  expect(pulledLevel(loudness, -50, -1)).toBe(-60);
  // From beyond an end it comes back, and goes no further out.
  expect(pulledLevel(loudness, -90, -0.2)).toBe(-90);
  expect(pulledLevel(loudness, -90, 0.2)).toBe(-78);
});

it('pans from one side to the other', () => {
  expect([-1, 0, 1].map(placeOfPan)).toEqual([0, 0.5, 1]);
  expect(pulledPan(-0.5, 0.25)).toBe(0);
  expect(pulledPan(0.9, 0.5)).toBe(1);
});
