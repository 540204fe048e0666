import { readNames } from '@/core/naming';
import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, readdir, rename, rm, stat } from 'node:fs/promises';
import { basename, dirname, join, relative, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { faultText, VERSION } from '@/contracts';
import {
  checkSession,
  type PackagePlan,
  type PackageSource,
  planPackage,
  type ReceivedFile,
  type SessionCheck,
} from '@/core/delivery';
import {
  applyChanges,
  emptySession,
  majorityRate,
  needless,
  noticed,
  remedyEdits,
  ROOT,
  soundTracks,
  takeOutEdits,
  type Change,
  type SessionState,
} from '@/core/session';
import { newTrack, packageFolderName, proposalEdits, proposeSort, type HouseStyle } from '@/core/style';
import {
  acceptEdit,
  detectTempo,
  gridAgreement,
  type GridStretch,
  playedHits,
  type TempoReading,
  type TempoTrack,
} from '@/core/tempo';
import { createSongMap, type SongMapFile } from '@/core/time';
import { codesByFile, type Finding, type FindingCode, type KnownFile } from '@/core/findings';
import { runTask, zipFolder } from '@/engine';
import { type Arguments, CallFault, print } from './arguments';
import { relationsAmong } from './delivery';
import { heardFiles } from './findings';
import { type DeliveredNotes, readNoteFiles } from './note-files';
import { type InspectedSound, type InspectOutcome, soundFiles, threadPath, withSounds } from './sound-files';

type Usable = Extract<InspectOutcome, { ok: true }>['value'];

/** A folder of recordings as a session: which file each track is. */
interface Delivery {
  readonly session: SessionState;
  /** Track id → file, as it lies in the folder, and what was found in it. */
  readonly files: ReadonlyMap<
    string,
    {
      readonly file: string;
      readonly path: string;
      readonly of: InspectedSound['of'];
      readonly value: Usable;
    }
  >;
  readonly notes: DeliveredNotes;
  readonly refused: readonly { readonly name: string; readonly reason: string }[];
  /** Recordings that nothing is lost without. */
  readonly leftOut: readonly { readonly name: string; readonly reason: string }[];
  /** The session before it was sorted. */
  readonly received: SessionState;
  /** What is noticed of the session as it is handed over, by track. */
  readonly findings: readonly Finding[];
  /** How the timekeepers lie to the map; null without one. */
  readonly grid: readonly GridStretch[] | null;
  /** Null when nothing was found; then why. */
  readonly reading: TempoReading | null;
  readonly tempoFault: string | null;
}

/** `package`: names, order, tempo map, click and package of a folder in one go, with the defaults. */
export async function commandPackage(args: Arguments): Promise<number> {
  const out = args.one('out');
  const [folder, more] = args.words;
  if (folder === undefined || more !== undefined || out === null)
    throw new CallFault('package needs one FOLDER and --out FOLDER or --out FILE.zip');
  const target = resolve(out);
  await mustBeFree(target);
  const files = soundFiles([folder]);
  return withSounds(files, { truePeak: false, listen: true, split: true }, async (sounds) =>
    packageSounds(args, target, await readDelivery(folder, sounds, args.style)),
  );
}

async function packageSounds(args: Arguments, target: string, delivery: Delivery): Promise<number> {
  if (delivery.files.size === 0) {
    print(args.json, { package: null, refused: delivery.refused, reason: 'no recording could be used' }, [
      ['no recording could be used'],
      ...delivery.refused.map((r) => [r.name, r.reason]),
    ]);
    return 1;
  }
  await mkdir(dirname(target), { recursive: true });
  // Made beside its place and moved there whole: a broken attempt leaves nothing that looks like a package.
  const work = await mkdtemp(join(dirname(target), '.fernmoss-'));
  try {
    const { plan, checks, verified, root } = await build(delivery, args.style, work);
    if (/\.zip$/i.test(target)) {
      const half = join(work, 'package.zip');
      await pipeline(
        await zipFolder(root, plan.folderName),
        createWriteStream(half, { flags: 'wx', flush: true }),
      );
      await rename(half, target);
    } else {
      await rm(target, { recursive: true, force: true }); // it is empty, or not there
      await rename(root, target);
    }
    const value = {
      package: target,
      files: plan.files.map((f) => ({ path: f.path, name: f.name, channels: f.channels })),
      notes: plan.notes.map((f) => ({ path: f.path, name: f.name })),
      refused: delivery.refused,
      leftOut: delivery.leftOut,
      sampleRateHz: plan.sampleRateHz,
      lengthFrames: plan.lengthFrames,
      padFrames: plan.padFrames,
      leadInBars: plan.leadInBars,
      tempo: {
        found: delivery.reading !== null,
        steady: delivery.reading?.steady ?? false,
        bpm: delivery.reading?.bpm ?? null,
        reason: delivery.tempoFault,
      },
      checks,
      verified,
    };
    print(args.json, value, [
      ['package', target],
      ['files', plan.files.length],
      ['tempo', delivery.reading ? (delivery.reading.bpm ?? 'not steady') : delivery.tempoFault],
      ...delivery.refused.map((r) => [`not taken: ${r.name}`, r.reason]),
      ...delivery.leftOut.map((r) => [`left out: ${r.name}`, r.reason]),
      ...checks
        .filter((c) => c.state === 'look' || c.state === 'stop')
        .map((c) => [`look: ${c.title}`, c.detail]),
      ...verified.map((c) => [c.pass ? 'holds' : 'FAILS', `${c.title}: ${c.figure}`]),
    ]);
    const isSound =
      verified.every((c) => c.pass) &&
      checks.every((c) => c.state !== 'stop') &&
      delivery.findings.every((f) => f.severity !== 'problem');
    return isSound && delivery.refused.length === 0 && delivery.reading !== null ? 0 : 1;
  } finally {
    await rm(work, { recursive: true, force: true });
  }
}

async function mustBeFree(target: string): Promise<void> {
  const there = await stat(target).catch(() => null);
  if (there === null) return;
  if (there.isDirectory() && !/\.zip$/i.test(target) && (await readdir(target)).length === 0) return;
  throw new CallFault(`${target} is there already; choose another place`);
}

/** What is left out needs no question: nothing is lost without it. */
const LEFT_OUT: Readonly<Partial<Record<FindingCode, (other: string) => string>>> = {
  silent: () => 'There is no sound in it.',
  'same-bytes': (other) => `The same file as ${other}.`,
  'same-audio': (other) => `The same sound as ${other}.`,
};

/** Everything up to the plan: looks at all files, notes too, leaves out what is silent or there twice, sorts the rest by the house style, finds the tempo. */
async function readDelivery(
  folder: string,
  sounds: readonly InspectedSound[],
  style: HouseStyle,
): Promise<Delivery> {
  const notes = readNoteFiles(folder, style);
  const files = new Map<string, { file: string; path: string; of: InspectedSound['of']; value: Usable }>();
  const refused: { name: string; reason: string }[] = [...notes.refused];
  sounds.forEach(({ file, path, of, outcome }, i) => {
    const name = relative(folder, file);
    if (outcome.ok)
      files.set(`t${i + 1}`, {
        file: name,
        path,
        of: { ...of, file: relative(folder, of.file) },
        value: outcome.value,
      });
    else refused.push({ name, reason: faultText(outcome.error) });
  });
  const usable = [...files];
  const received = apply(emptySession(basename(resolve(folder))), [
    {
      kind: 'session.rate',
      sampleRateHz: majorityRate(
        usable.map(([, h]) => h.value.header.sampleRateHz),
        null,
      ),
    },
    ...usable.map(([id, h], index): Change => ({
      kind: 'track.add',
      track: newTrack(id, h.file, h.value.facts, style),
      parentId: ROOT,
      index,
    })),
    ...notes.edits,
  ]);
  const recordings = knownSounds(folder, sounds);
  const relations = await relationsAmong(
    recordings,
    new Map(usable.map(([id, h]) => [id, h.path])),
    new Map(
      usable.flatMap(([id, h]) => (h.value.listening ? [[id, h.value.listening.sketch] as const] : [])),
    ),
  );
  const openIn = (of: SessionState): readonly Finding[] =>
    noticed(of, recordings, relations, new Set(), readNames, notes.cutOff).open;
  const first = openIn(received);
  const without = needless(first);
  const fileOf = (id: string): string => files.get(id)?.file ?? id;
  let session = apply(received, takeOutEdits(received, without));
  // What is a mix by its sound is none of the instruments, whatever its name.
  const mixes = first.filter((f) => f.remedy === 'as-mix');
  session = apply(
    session,
    mixes.flatMap((f) => f.files.flatMap((part) => remedyEdits(session, f, part))),
  );
  const codes = codesByFile(openIn(session));
  const proposal = proposeSort(session, style, {
    factsOf: ({ id }) => ({
      channels: files.get(id)?.value.header.channels ?? null,
      findings: codes.get(id) ?? [],
      heard: files.get(id)?.value.listening?.heard.as ?? null,
    }),
  });
  session = apply(
    session,
    proposalEdits(session, style, proposal, new Set(proposal.rows.map((r) => r.trackId))),
  );
  const tracks = tempoTracksOf(session, files);
  const found = detectTempo(tracks);
  if (found.ok) session = apply(session, [acceptEdit(found.value, null)]);
  return {
    files,
    notes,
    refused,
    leftOut: without.map(({ id, code, other }) => ({
      name: fileOf(id),
      reason: LEFT_OUT[code]?.(other === null ? '' : fileOf(other)) ?? '',
    })),
    received,
    findings: openIn(session),
    session,
    grid: found.ok && session.map ? gridOf(session.map, found.value, tracks) : null,
    reading: found.ok ? found.value : null,
    tempoFault: found.ok ? null : faultText({ ...found.error }),
  };
}

/** The usable sounds as the session knows them: by its track ids, names as in the folder. */
const knownSounds = (folder: string, sounds: readonly InspectedSound[]): KnownFile[] => {
  const named = sounds.map((s) => ({ ...s, file: relative(folder, s.file) }));
  const ids = new Map(named.map((s, i) => [s.file, `t${i + 1}`]));
  return heardFiles(named).map((f) => ({ ...f, receivedName: f.id, id: ids.get(f.id) as string }));
};

/** Tracks for the tempo detection as they were sorted. */
const tempoTracksOf = (session: SessionState, files: Delivery['files']): TempoTrack[] =>
  soundTracks(session).flatMap((t) => {
    const onsets = files.get(t.id)?.value.listening?.onsets;
    return onsets ? [{ id: t.id, family: t.family, part: t.part, curves: onsets }] : [];
  });

function apply(session: SessionState, edits: readonly Change[]): SessionState {
  const outcome = applyChanges(session, edits);
  if (!outcome.ok) throw new Error(`own edit refused: ${outcome.code} ${outcome.id}`);
  return outcome.session;
}

/** How the recording of each track came; channels of one file are called after it. */
const receivedOf = (files: Delivery['files']): Record<string, ReceivedFile> =>
  Object.fromEntries(
    [...files].map(([id, h]) => {
      const stamp = h.value.metadata.timeReferenceFrames;
      return [
        id,
        {
          file: h.of.file,
          channel: h.of.channel,
          stampSeconds: stamp === null ? null : stamp / h.value.header.sampleRateHz,
        },
      ];
    }),
  );

/** How the chosen timekeepers lie to the map that is handed over. */
function gridOf(map: SongMapFile, reading: TempoReading, tracks: readonly TempoTrack[]): GridStretch[] {
  const chosen = new Set(reading.timekeepers.filter((t) => t.chosen).map((t) => t.id));
  const seconds = tracks.filter((t) => chosen.has(t.id)).flatMap((t) => [...playedHits(t).seconds]);
  return gridAgreement(
    createSongMap(map.points, map.meters),
    seconds.sort((x, y) => x - y),
  );
}

async function build(
  delivery: Delivery,
  style: HouseStyle,
  work: string,
): Promise<{
  plan: PackagePlan;
  checks: SessionCheck[];
  verified: readonly {
    readonly code: string;
    readonly pass: boolean;
    readonly title: string;
    readonly figure: string;
  }[];
  root: string;
}> {
  const { session, files } = delivery;
  const rate = session.sampleRateHz as number;
  const sources: PackageSource[] = [];
  const sourcePaths: Record<string, string> = {};
  const converted: { name: string; fromHz: number }[] = [];
  for (const track of soundTracks(session)) {
    const { file, path, value } = files.get(track.id) as { file: string; path: string; value: Usable };
    const { header } = value;
    let lengthFrames = header.lengthFrames;
    sourcePaths[track.laneId] = resolve(path);
    if (header.sampleRateHz !== rate) {
      process.stderr.write(`converting ${file} to ${rate} Hz\n`);
      const outPath = join(work, `${track.id}.wav`);
      const made = await runTask('convert', { path, outPath, toHz: rate }, { threadPath: threadPath() });
      if (!made.ok) throw new Error(faultText(made.error));
      lengthFrames = made.value.lengthFrames;
      sourcePaths[track.laneId] = outPath;
      converted.push({ name: track.name, fromHz: header.sampleRateHz });
    }
    sources.push({ laneId: track.laneId, channels: header.channels, lengthFrames });
  }
  const planned = planPackage(session, sources, style, packageFolderName('', session.name, 1));
  if (!planned.ok) throw new Error(faultText({ ...planned.error }));
  const nameOf = (id: string): string => session.nodes[id]?.name ?? files.get(id)?.file ?? id;
  const checks = checkSession(session, planned.value, {
    failedRecordings: delivery.refused.length,
    arrivingRecordings: 0,
    uncompared: { count: 0, isUnderWay: false },
    grid: delivery.grid,
    findings: delivery.findings,
    nameOf,
  });
  process.stderr.write('writing the package and reading it back\n');
  const { built, checks: verified } = await runTask(
    'package',
    {
      plan: planned.value,
      session,
      sourcePaths,
      noteSources: delivery.notes.sources,
      received: receivedOf(files),
      playedMap: session.map,
      played: null,
      outDir: work,
      style,
      version: VERSION,
      note: {
        day: new Date().toISOString().slice(0, 10),
        number: 1,
        checks,
        received: delivery.received,
        worked: session,
        // Nothing is cut here.
        recordingFrames: {},
        absent: [...delivery.refused, ...delivery.leftOut],
        joined: [],
        converted,
        repitched: [],
        conformed: null,
        holdsPlayed: false,
      },
    },
    { threadPath: threadPath() },
  );
  return { plan: planned.value, checks, verified, root: built.root };
}
