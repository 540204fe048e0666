import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { HandoverView } from '@/contracts';
import { type Change, isTrack, ROOT, tracksInOrder } from '@/core/session';
import type { PackageCheck } from '@/engine';
import { createRandom, type Random } from '@/core/units';
import { tone, wavBytes } from '../support/recordings';
import { edit, call, newSession, settled, upload, until, viewOf } from '../support/server';

/** How two people at work beside packages went. */
export interface TwoEditorsReport {
  readonly packages: number;
  readonly edits: number;
  /** Refused because the other was faster. */
  readonly stale: number;
  /** What did not hold; empty = every package held every track. */
  readonly failures: readonly string[];
}

const NAMES = ['Kick', 'Snare', 'Bass DI', 'Gtr L', 'Gtr R', 'Piano', 'Lead Vox', 'BV 1'];

/**
 * Two editors move, rename and sort the tracks of a session without a pause while package after package is built of it.
 * Whatever the moment, each package holds all tracks.
 */
export async function runTwoEditors({
  ms,
  leastPackages = 0,
  seed,
  say = () => undefined,
}: {
  readonly ms: number;
  /** It goes on beyond `ms` until so many are built: a slow machine builds few. */
  readonly leastPackages?: number;
  readonly seed: number;
  readonly say?: (line: string) => void;
}): Promise<TwoEditorsReport> {
  const id = await newSession('Two editors and packages');
  for (const [i, name] of NAMES.entries())
    await upload(id, `${name}.wav`, await wavBytes([tone(110 * (i + 1), 0.5)]));
  await settled(id);
  const counts = { packages: 0, edits: 0, stale: 0 };
  const failures: string[] = [];
  const end = Date.now() + ms;
  const isOver = (): boolean =>
    failures.length > 0 || (Date.now() >= end && counts.packages >= leastPackages);
  const editor = async (name: string, random: Random): Promise<void> => {
    for (let n = 0; !isOver(); n++) {
      const view = await viewOf(id);
      const { status, value } = await edit(id, `${name} ${n}`, someEdits(view, `${name}${n}`, random), view);
      if (status === 200) counts.edits++;
      else if (status === 409) counts.stale++;
      else failures.push(`an edit was answered ${status} ${value?.fault?.code ?? ''}`);
    }
  };
  const packer = async (): Promise<void> => {
    while (!isOver()) {
      const asked = await call<{ id?: string; fault?: { code: string } }>(
        `/api/sessions/${id}/handovers`,
        'POST',
        { contents: 'played', folder: null },
      );
      if (asked.status !== 200) {
        failures.push(`a package was refused: ${asked.value?.fault?.code ?? asked.status}`);
        return;
      }
      const find = async (): Promise<HandoverView | undefined> =>
        (await viewOf(id)).handovers.find((h) => h.id === asked.value.id && h.state !== 'building');
      await until(async () => (await find()) !== undefined, 'the package', 60_000);
      const made = (await find()) as HandoverView;
      counts.packages++;
      failures.push(...faultsOf(made));
      if (counts.packages % 20 === 0)
        say(`${counts.packages} packages, ${counts.edits} edits, ${counts.stale} refused as stale`);
      // The disk is not what is tried here.
      await call(`/api/sessions/${id}/clean`, 'POST', { packages: [made.id] });
    }
  };
  await Promise.all([editor('left', createRandom(seed)), editor('right', createRandom(seed + 1)), packer()]);
  return { ...counts, failures };
}

/** What is wrong with a package of all tracks. */
function faultsOf(made: HandoverView): string[] {
  const what = `v${made.number} of step ${made.revision}`;
  if (made.state !== 'done') return [`${what} is ${made.state}: ${JSON.stringify(made.fault)}`];
  const { checks } = made.report as { checks: readonly PackageCheck[] };
  const failed = checks.filter((c) => !c.pass).map((c) => `${what}: ${c.title}: ${c.figure}`);
  if (!checks.some((c) => c.code === 'all-tracks')) failed.push(`${what} was not counted`);
  const audio = join(made.folderPath ?? '', 'data', 'audio');
  const files = existsSync(audio) ? readdirSync(audio).length : 0;
  if (files !== NAMES.length) failed.push(`${what} holds ${files} of ${NAMES.length} tracks`);
  return failed;
}

/** A step of a person in a hurry: all into a new folder, all out again, or some renamed and moved about. */
function someEdits(view: Awaited<ReturnType<typeof viewOf>>, name: string, random: Random): Change[] {
  const { session } = view;
  const tracks = tracksInOrder(session);
  const folders = Object.values(session.nodes).filter((n) => !isTrack(n));
  if (folders.length > 2 || (folders.length > 0 && random() < 0.4))
    return [
      ...tracks.map((t): Change => ({ kind: 'node.place', id: t.id, parentId: ROOT, index: 0 })),
      ...folders.map((f): Change => ({ kind: 'folder.remove', id: f.id })),
    ];
  if (random() < 0.3)
    return tracks
      .filter(() => random() < 0.5)
      .flatMap((t): Change[] => [
        {
          kind: 'track.change',
          id: t.id,
          fields: { name: `${t.receivedName} ${Math.floor(random() * 100)}` },
        },
        { kind: 'node.place', id: t.id, parentId: ROOT, index: 0 },
      ])
      .concat({ kind: 'session.describe', notes: name });
  const folder = `folder-${name}`;
  return [
    {
      kind: 'folder.add',
      folder: { kind: 'folder', id: folder, name, color: null, busId: null },
      parentId: ROOT,
      index: 0,
    },
    ...tracks
      .filter(() => random() < 0.8)
      .map((t): Change => ({ kind: 'node.place', id: t.id, parentId: folder, index: 0 })),
  ];
}
