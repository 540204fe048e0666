import { mkdir, rm } from 'node:fs/promises';
import { type Fault, faultText, VERSION } from '@/contracts';
import type { ArrivalFacts } from '@/core/analysis';
import { checkSession, planPackage, type PackageSource } from '@/core/delivery';
import { isTrack, tracksInOrder, type SessionState } from '@/core/session';
import { DEFAULT_STYLE } from '@/core/style';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { EditModel, HandoverModel, loadSession, RecordingModel } from '@/server/db';
import type { JobHandler } from '@/server/jobs';
import { packageDir } from '@/server/services';
import { blobStore } from '@/server/storage';

/** Writes a package, reads it back, compares it with its plan; only then it is called done. */
export const packageBuild: JobHandler = async ({ payload, progress, cancel }) => {
  const row = await HandoverModel.findByPk((payload as { handoverId: string }).handoverId);
  if (!row || row.state !== 'building') return {};
  const outDir = packageDir(row.sessionId, row.id);
  const fail = async (fault: Fault): Promise<{ fault: Fault }> => {
    await HandoverModel.update({ state: 'failed', fault }, { where: { id: row.id } });
    await rm(outDir, { recursive: true, force: true });
    return { fault };
  };
  const loaded = await loadSession(row.sessionId);
  if (!loaded) return fail({ code: 'session.not_found' });
  const { session } = loaded;
  const recordings = await RecordingModel.findAll({ where: { sessionId: row.sessionId } });
  const { sources, sourcePaths } = sourcesOf(session, recordings);
  const planned = planPackage(session, sources, DEFAULT_STYLE, row.folderName);
  if (!planned.ok) return fail({ ...planned.error });
  try {
    // A killed attempt may have left half a package: begin again, with the same bytes.
    await rm(outDir, { recursive: true, force: true });
    await mkdir(outDir, { recursive: true });
    const checks = checkSession(session, planned.value, checkFacts(session, recordings));
    const history = await EditModel.findAll({ where: { sessionId: row.sessionId, author: 'person', action: 'do' }, order: [['revision', 'ASC']], attributes: ['label'] });
    const { built, checks: verified } = await runTask(
      'package',
      {
        plan: planned.value, session, sourcePaths, outDir, version: VERSION,
        note: {
          day: row.createdAt.toISOString().slice(0, 10), number: row.number, checks,
          history: [...new Set(history.map((h) => h.label))].slice(0, 200),
          refused: recordings.filter((r) => r.state === 'failed').map((r) => ({ name: r.receivedName, reason: faultText((r.fault as Fault | null) ?? { code: 'file.unreadable' }) })),
          converted: tracksInOrder(session).flatMap((t) => { const r = recordings.find((x) => x.id === t.recordingId); return r && r.sampleRateHz !== null && r.sampleRateHz !== session.sampleRateHz ? [{ name: t.name, fromHz: r.sampleRateHz }] : []; }),
        },
      },
      { threadPath: readConfig().threadPath, progress, cancel },
    );
    const failed = verified.filter((c) => !c.pass);
    if (failed.length > 0) return await fail({ code: 'delivery.check_failed', failed: failed.map((c) => `${c.title}: ${c.figure}`) });
    const report = { checks: verified, files: built.files.map((f) => ({ path: f.path, sizeBytes: f.sizeBytes })), clippedSamples: built.clippedSamples };
    await HandoverModel.update({ state: 'done', report, sizeBytes: built.files.reduce((n, f) => n + f.sizeBytes, 0), revision: loaded.revision }, { where: { id: row.id } });
    return {};
  } catch (cause) {
    const { code } = await fail({ code: (cause as NodeJS.ErrnoException).code === 'ENOSPC' ? 'store.disk_full' : cancel.cancelled ? 'job.cancelled' : 'internal' }).then((f) => f.fault);
    if (code === 'store.disk_full') return { fault: { code } };
    throw cause;
  }
};

function sourcesOf(session: SessionState, recordings: readonly RecordingModel[]): { sources: PackageSource[]; sourcePaths: Record<string, string> } {
  const byId = new Map(recordings.map((r) => [r.id, r]));
  const store = blobStore();
  const sources: PackageSource[] = [];
  const sourcePaths: Record<string, string> = {};
  for (const track of tracksInOrder(session)) {
    const r = byId.get(track.recordingId);
    if (r?.state !== 'ready' || !r.sha256 || r.channels === null) continue;
    const same = r.sampleRateHz === session.sampleRateHz;
    const converted = (r.header as { converted?: { lengthFrames: number } } | null)?.converted;
    if (!same && (r.convertedRateHz !== session.sampleRateHz || !r.convertedSha256 || !converted)) continue;
    sources.push({ trackId: track.id, channels: r.channels, lengthFrames: same ? Number(r.lengthFrames) : (converted as { lengthFrames: number }).lengthFrames });
    sourcePaths[track.id] = store.pathOf(same ? r.sha256 : (r.convertedSha256 as string));
  }
  return { sources, sourcePaths };
}

function checkFacts(session: SessionState, recordings: readonly RecordingModel[]) {
  const nameOf = (r: RecordingModel): string => Object.values(session.nodes).filter(isTrack).find((t) => t.recordingId === r.id)?.name ?? r.receivedName;
  const seen = new Set<string>();
  return {
    failedRecordings: recordings.filter((r) => r.state === 'failed').length,
    arrivingRecordings: 0,
    clippedTracks: recordings.filter((r) => ((r.facts as ArrivalFacts | null)?.clippedRuns ?? 0) > 0).map(nameOf),
    duplicateTracks: recordings.filter((r) => { if (!r.sha256) return false; const again = seen.has(r.sha256); seen.add(r.sha256); return again; }).map(nameOf),
  };
}
