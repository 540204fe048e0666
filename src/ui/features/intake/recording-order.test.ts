import type { RecordingView } from '@/contracts';
import { foundRecordings, orderedRecordings, type RecordingColumn } from './recording-order';

const recording = (receivedName: string, more: Partial<RecordingView> = {}): RecordingView =>
  ({
    ...{ id: receivedName, receivedName, state: 'ready', sampleRateHz: 48000, bitDepth: 24, channels: 1 },
    ...{ lengthFrames: 48000, sizeBytes: 10, facts: { peakDbfs: -6, integratedLufs: -20 } },
    ...more,
  }) as RecordingView;
const names = (by: RecordingColumn, down: boolean, list: readonly RecordingView[]): string[] =>
  orderedRecordings(list, { by, down }).map((r) => r.receivedName);

it('finds by all words, whatever their case and marks', () => {
  const list = ['Übung Gtr 2.wav', 'gtr 10.wav', 'KICK.wav'].map((n) => recording(n));
  expect(foundRecordings(list, 'UBUNG gtr').map((r) => r.id)).toEqual(['Übung Gtr 2.wav']);
  expect(foundRecordings(list, '  ')).toBe(list);
  expect(foundRecordings(list, 'oboe')).toEqual([]);
});
it('orders by every column, numbers in names as numbers, what says nothing last either way', () => {
  const list = [
    recording('gtr 10', { lengthFrames: 96000, sizeBytes: 30 }),
    recording('gtr 2', { lengthFrames: 96000, sampleRateHz: 96000, sizeBytes: 20 }),
    recording('notes', { facts: null, lengthFrames: null, bitDepth: null, state: 'failed', sizeBytes: 1 }),
  ];
  expect(orderedRecordings(list, null)).toBe(list);
  expect(names('name', false, list)).toEqual(['gtr 2', 'gtr 10', 'notes']);
  expect(names('name', true, list)).toEqual(['notes', 'gtr 10', 'gtr 2']);
  expect(names('length', true, list)).toEqual(['gtr 10', 'gtr 2', 'notes']);
  expect(names('length', false, list)).toEqual(['gtr 2', 'gtr 10', 'notes']);
  expect(names('peak', true, list)).toEqual(['gtr 2', 'gtr 10', 'notes']);
  expect(names('state', false, list)).toEqual(['notes', 'gtr 2', 'gtr 10']);
  expect(names('size', true, list)).toEqual(['gtr 10', 'gtr 2', 'notes']);
});
