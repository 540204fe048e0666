import { basename } from 'node:path';
import { findGaps, findMicGroups, findPairs, readNames } from '@/core/naming';
import { roundTo } from '@/core/units';
import { runTask } from '@/engine';
import { threadPath } from './sound-files';

/** What is known of one usable file of a delivery. */
export interface DeliveredFile {
  readonly file: string;
  readonly sha256: string;
  readonly sampleRateHz: number;
  readonly channels: number;
  readonly lengthFrames: number;
}

/** The delivery as a whole: stereo pairs, files with the same bytes, microphones of one source, and what seems to be missing. */
export async function describeDelivery(files: readonly DeliveredFile[]): Promise<Record<string, unknown>> {
  const readings = readNames(files.map((f) => basename(f.file)));
  const at = (i: number): DeliveredFile => files[i] as DeliveredFile;
  const pairs = findPairs(readings, files.map((f) => (f.channels === 1 ? f.lengthFrames : NaN)));
  const bySha = new Map<string, string[]>();
  for (const f of files) bySha.set(f.sha256, [...(bySha.get(f.sha256) ?? []), f.file]);
  const micRelations: Record<string, unknown>[] = [];
  for (const group of findMicGroups(readings)) {
    const [leader, ...others] = group.map(at).filter((f) => f.channels === 1);
    if (!leader) continue;
    const found = await runTask('relate', { paths: [leader, ...others].map((f) => f.file) }, { threadPath: threadPath() });
    others.forEach((other, i) => {
      const r = found[i];
      if (r) micRelations.push({ file: other.file, leader: leader.file, delaySamples: roundTo(r.delaySamples, 1), polarity: r.polarity, confidence: roundTo(r.confidence, 2), correlation: roundTo(r.correlation, 3) });
    });
  }
  const usual = mostFrequent(files.map((f) => f.lengthFrames / f.sampleRateHz));
  return {
    pairs: pairs.map((p) => ({ left: at(p.left).file, right: at(p.right).file })),
    duplicates: [...bySha.values()].filter((same) => same.length > 1),
    micRelations,
    completeness: {
      missing: findGaps(readings).map((g) => ({ kind: g.kind, near: at(g.near).file, missing: g.missing })),
      usualLengthSeconds: usual === null ? null : roundTo(usual, 4),
      otherLengths: files.flatMap((f) => (usual === null || Math.abs(f.lengthFrames / f.sampleRateHz - usual) < 0.001 ? [] : [{ file: f.file, lengthSeconds: roundTo(f.lengthFrames / f.sampleRateHz, 4) }])),
    },
  };
}

/** The value met most often; null when none is met twice. */
function mostFrequent(values: readonly number[]): number | null {
  const counts = new Map<number, number>();
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
  const [value, count] = [...counts].reduce((best, entry) => (entry[1] > best[1] ? entry : best), [0, 1] as [number, number]);
  return count > 1 ? value : null;
}
