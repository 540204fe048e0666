import { basename } from 'node:path';
import type { MicRelation, SoundSketch } from '@/core/analysis';
import {
  type FarMicFact,
  farMicPairs,
  type KnownFile,
  isTurnedOver,
  mayBeMix,
  mixGroup,
  type MicFact,
  type PairFact,
  pairFact,
  type Relations,
} from '@/core/findings';
import { findGaps, findMicGroups, findPairs, readNames } from '@/core/naming';
import { roundTo } from '@/core/units';
import { type AcrossFacts, factsAcross, runTask } from '@/engine';
import { printDeliveryFindings } from './findings';
import { threadPath } from './sound-files';

/** How the files of a delivery relate, by name and by sound. `paths`: where each file's samples lie as WAV or AIFF; `sketches`: what was heard of it. */
export async function relationsAmong(
  files: readonly KnownFile[],
  paths: ReadonlyMap<string, string>,
  sketches: ReadonlyMap<string, SoundSketch>,
): Promise<Relations> {
  const readings = readNames(files.map((f) => basename(f.receivedName)));
  const at = (i: number): KnownFile => files[i] as KnownFile;
  const relate = (ids: readonly string[]) =>
    runTask('relate', { paths: ids.map((id) => paths.get(id) ?? id) }, { threadPath: threadPath() });
  const pairs: PairFact[] = [];
  for (const p of findPairs(
    readings,
    files.map((f) => (f.channels === 1 ? f.lengthFrames : NaN)),
  )) {
    const [left, right] = [at(p.left).id, at(p.right).id];
    const [found = null] = await relate([left, right]);
    pairs.push({ left, right, ...pairFact(found) });
  }
  const mics: MicFact[] = [];
  for (const group of findMicGroups(readings)) {
    const [leader, ...others] = group.map(at).filter((f) => f.channels === 1);
    if (!leader) continue;
    const found = await relate([leader, ...others].map((f) => f.id));
    others.forEach((other, i) => {
      const r = found[i];
      if (r) mics.push(micFact(leader.id, other.id, r));
    });
  }
  const twins = await runTask(
    'twins',
    { files: files.map((f) => ({ id: f.id, path: paths.get(f.id) ?? f.id, peaksPath: null })), skip: [] },
    { threadPath: threadPath() },
  );
  const { mixes, together } = acrossAll(files, sketches);
  for (const [leader, other] of together) {
    const isKnown = [
      ...mics,
      ...pairs.map((p) => ({ leader: p.left, other: p.right })),
      // One take in two files is no second microphone.
      ...twins.map((t) => ({ leader: t.a, other: t.b })),
    ].some((m) => (m.leader === leader && m.other === other) || (m.leader === other && m.other === leader));
    const [found = null] = isKnown ? [] : await relate([leader, other]);
    if (found && isTurnedOver(found)) mics.push(micFact(leader, other, found));
  }
  return { twins, mics, pairs, mixes, alikes: [], farMics: await farMicsAmong(files, paths) };
}

async function farMicsAmong(
  files: readonly KnownFile[],
  paths: ReadonlyMap<string, string>,
): Promise<FarMicFact[]> {
  const asked = farMicPairs(files);
  const [first] = asked;
  if (!first) return [];
  const ids = [first.leader, ...asked.map((p) => p.other)].map((f) => f.id);
  const found = await runTask(
    'relate',
    { paths: ids.map((id) => paths.get(id) ?? id), farChannels: asked.map((p) => p.channel) },
    { threadPath: threadPath() },
  );
  return asked.flatMap(({ leader, other, channel }, i) => {
    const r = found[i];
    return r ? [{ ...micFact(leader.id, other.id, r), channel }] : [];
  });
}

const micFact = (leader: string, other: string, r: MicRelation): MicFact => ({
  other,
  leader,
  delaySamples: roundTo(r.delaySamples, 1),
  polarity: r.polarity,
  confidence: roundTo(r.confidence, 2),
  correlation: roundTo(r.correlation, 3),
});

/** The delivery as a whole: stereo pairs, files with the same bytes, microphones of one source, takes that come twice, what seems to be missing, and all that is noticed. */
export async function describeDelivery(
  files: readonly KnownFile[],
  paths: ReadonlyMap<string, string>,
  sketches: ReadonlyMap<string, SoundSketch>,
): Promise<Record<string, unknown>> {
  const readings = readNames(files.map((f) => basename(f.id)));
  const relations = await relationsAmong(files, paths, sketches);
  const bySha = new Map<string, string[]>();
  for (const f of files) bySha.set(f.sha256, [...(bySha.get(f.sha256) ?? []), f.id]);
  const usual = mostFrequent(files.map((f) => f.lengthFrames / f.sampleRateHz));
  return {
    pairs: relations.pairs,
    duplicates: [...bySha.values()].filter((same) => same.length > 1),
    micRelations: relations.mics.map(({ other, ...m }) => ({ file: other, ...m })),
    twins: relations.twins,
    completeness: {
      missing: findGaps(readings).map((g) => ({
        kind: g.kind,
        near: (files[g.near] as KnownFile).id,
        missing: g.missing,
      })),
      usualLengthSeconds: usual === null ? null : roundTo(usual, 4),
      otherLengths: files.flatMap((f) =>
        usual === null || Math.abs(f.lengthFrames / f.sampleRateHz - usual) < 0.001
          ? []
          : [{ file: f.id, lengthSeconds: roundTo(f.lengthFrames / f.sampleRateHz, 4) }],
      ),
    },
    findings: printDeliveryFindings(files, relations),
  };
}

/** What the sketches say: files that may be it, each as a mix of the others, and those of one channel that rise together. */
function acrossAll(
  files: readonly KnownFile[],
  sketches: ReadonlyMap<string, SoundSketch>,
): Pick<AcrossFacts, 'mixes' | 'together'> {
  const parts = files.flatMap((file) => {
    const sketch = sketches.get(file.id);
    const { family } = file.source;
    return sketch && family !== 'reference' && family !== 'click'
      ? [{ id: file.id, sketch, startSeconds: 0, group: mixGroup(file) }]
      : [];
  });
  return factsAcross(parts, {
    candidates: files.filter(mayBeMix).map((f) => f.id),
    pairs: [],
    singles: files.filter((f) => f.channels === 1).map((f) => f.id),
  });
}

/** The value met most often; null when none is met twice. */
function mostFrequent(values: readonly number[]): number | null {
  const counts = new Map<number, number>();
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
  const [value, count] = [...counts].reduce((best, entry) => (entry[1] > best[1] ? entry : best), [0, 1] as [
    number,
    number,
  ]);
  return count > 1 ? value : null;
}
