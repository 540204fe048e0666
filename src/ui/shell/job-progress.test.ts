import type { JobView } from '@/contracts';
import { inBatch, NO_BATCH, waitsFor } from './job-progress';

const job = (id: string, state: 'queued' | 'running', progress = 0, createdAt = `2026-01-01T00:00:0${id}`) =>
  ({ id, state, progress, createdAt, kind: 'recording.listen', subject: id }) as unknown as JobView;

it('counts all jobs since the last rest, and never goes back', () => {
  let batch = inBatch(NO_BATCH, [job('1', 'running', 0.5), job('2', 'queued')]);
  expect(batch.share).toBe(0.25);
  batch = inBatch(batch, [job('2', 'running', 0.5)]);
  expect(batch.share).toBe(0.75);
  // What is asked for meanwhile makes more to do: the share stands still until that is made up for.
  batch = inBatch(batch, [job('2', 'running', 0.5), job('3', 'queued'), job('4', 'queued')]);
  expect(batch.share).toBe(0.75);
  batch = inBatch(batch, [job('4', 'running', 0.5)]);
  expect(batch.share).toBe(0.875);
  expect(inBatch(batch, [])).toEqual(NO_BATCH);
});

it('says what a job waits for', () => {
  const open = [job('1', 'running'), job('2', 'queued'), job('3', 'queued'), job('4', 'queued')];
  const nameOf = (j: JobView): string => j.subject;
  expect(waitsFor(open[1] as JobView, open, [], nameOf)).toBe('waits for a free place, after 1');
  expect(waitsFor(open[2] as JobView, open, [], nameOf)).toBe('waits: 1 job was asked for before it');
  expect(waitsFor(open[3] as JobView, open, [], nameOf)).toBe('waits: 2 jobs were asked for before it');
  expect(waitsFor(open[1] as JobView, [open[1] as JobView], [], nameOf)).toBe('waits for its turn');
  const elsewhere = ['2025-12-31T23:00:00', '2026-01-01T00:00:02.5', '2027-01-01T00:00:00'];
  expect(waitsFor(open[2] as JobView, open, elsewhere, nameOf)).toBe(
    'waits behind 2 here and 2 jobs of other sessions',
  );
  expect(waitsFor(open[1] as JobView, [open[1] as JobView], elsewhere.slice(0, 1), nameOf)).toBe(
    'waits behind 1 job of other sessions',
  );
});
