import { existsSync } from 'node:fs';
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { faultText } from '@/contracts';
import { lastAttackSeconds } from '@/core/analysis';
import {
  attackRank,
  type ConformGroup,
  planGroups,
  sourceKeys,
  steadyMap,
  type Warp,
  warpBetween,
  type WarpRange,
} from '@/core/conform';
import { readNames, stripExtension } from '@/core/naming';
import { type SongMap, songMapToFile } from '@/core/time';
import { roundTo } from '@/core/units';
import { type ConformedFile, runTask } from '@/engine';
import { type Arguments, CallFault, print } from './arguments';
import { detectedMap, readMap } from './maps';
import { type InspectedSound, type InspectOutcome, soundFiles, threadPath, withSounds } from './sound-files';

const LEAST_BPM = 20;
const MOST_BPM = 400;

interface Usable {
  readonly file: string;
  readonly path: string;
  readonly value: Extract<InspectOutcome, { ok: true }>['value'];
}

/** A row of the report. */
interface ReportFile extends ConformedFile {
  readonly file: string;
  readonly group: ConformGroup;
}

/** `conform`: recordings from the tempo they were played in to another one, with a report of what was done to each. */
export async function commandConform(args: Arguments): Promise<number> {
  const [fromWord, toWord, out] = [args.one('from'), args.one('to'), args.one('out')];
  if (fromWord === null || toWord === null || out === null)
    throw new CallFault('conform needs --from MAP|auto, --to BPM|MAP and --out FOLDER');
  const files = soundFiles(args.words);
  const names = files.map(outName);
  mustNotMeet(names);
  mustBeFree(out, [...names, 'report.json']);
  const givenFrom = fromWord === 'auto' ? null : await readMap(fromWord);
  const givenTo = Number.isFinite(Number(toWord)) ? null : await readMap(toWord);
  if (givenTo === null && !(Number(toWord) >= LEAST_BPM && Number(toWord) <= MOST_BPM))
    throw new CallFault(`${toWord} is no tempo between ${LEAST_BPM} and ${MOST_BPM}`);

  return withSounds(files, { truePeak: false, listen: true, split: true }, async (sounds) => {
    const names = sounds.map((s) => outName(s.file));
    mustNotMeet(names);
    mustBeFree(out, names);
    return conformSounds(sounds, { givenFrom, givenTo, toBpm: Number(toWord), out, json: args.json });
  });
}

interface Wish {
  readonly givenFrom: SongMap | null;
  readonly givenTo: SongMap | null;
  readonly toBpm: number;
  readonly out: string;
  readonly json: boolean;
}

async function conformSounds(
  sounds: readonly InspectedSound[],
  { givenFrom, givenTo, toBpm, out, json }: Wish,
): Promise<number> {
  const usable = sounds.flatMap(({ file, path, outcome }): Usable[] =>
    outcome.ok ? [{ file, path, value: outcome.value }] : [],
  );
  const refused = sounds.flatMap(({ file, outcome }) =>
    outcome.ok ? [] : [{ file, reason: faultText(outcome.error) }],
  );
  const from = givenFrom ?? detectedMap(sounds);
  if (usable.length === 0 || from === null) {
    const reason =
      usable.length === 0 ? 'no recording could be used' : 'no tempo was found: give the map with --from';
    print(json, { files: [], refused, reason }, [[reason], ...refused.map((r) => [r.file, r.reason])]);
    return 1;
  }
  const range = rangeOf(from, usable);
  const to = givenTo ?? steadyMap(from, toBpm, range.startSeconds);
  let warp: Warp;
  try {
    warp = warpBetween(from, to, range);
  } catch (cause) {
    throw new CallFault(`these maps do not fit together: ${(cause as Error).message}`);
  }
  await mkdir(out, { recursive: true });
  const rows = await conformAll(usable, warp, resolve(out));
  const report = {
    schemaVersion: 1,
    from: songMapToFile(from),
    to: songMapToFile(to),
    range,
    cutSeconds: roundTo(Math.max(0, -warp.toConformed(0)), 6),
    files: rows.map((r) => ({
      file: r.file,
      out: basename(r.outPath),
      group: r.group.trackIds.length > 1 ? r.group.name.replace(/ #\d+$/, '') : basename(r.file),
      method: r.group.method,
      block: r.group.method === 'held' ? r.group.block : null,
      ratioMin: roundTo(r.ratioMin, 8),
      ratioMax: roundTo(r.ratioMax, 8),
      plannedFrames: r.plannedFrames,
      writtenFrames: r.writtenFrames,
    })),
    refused,
  };
  await writeFile(join(out, 'report.json'), `${JSON.stringify(report, null, 1)}\n`, { flag: 'wx' });
  print(json, report, [
    ['file', 'method', 'group', 'ratio', 'frames'],
    ...report.files.map((r) => [
      basename(r.file),
      r.block ? `${r.method}, ${r.block}` : r.method,
      r.group,
      `${r.ratioMin.toFixed(4)}–${r.ratioMax.toFixed(4)}`,
      r.writtenFrames,
    ]),
    ...refused.map((r) => [basename(r.file), r.reason]),
  ]);
  return refused.length > 0 ? 1 : 0;
}

/** Results are WAV, whatever came. */
const outName = (file: string): string =>
  /\.wave?$/i.test(file) ? basename(file) : `${stripExtension(basename(file))}.wav`;

function mustNotMeet(names: readonly string[]): void {
  const twice = names.find((n, i) => names.indexOf(n) !== i);
  if (twice !== undefined)
    throw new CallFault(`two recordings are called ${twice}: their results would lie in one place`);
}

function mustBeFree(out: string, names: readonly string[]): void {
  const taken = names.find((n) => existsSync(join(out, n)));
  if (taken !== undefined) throw new CallFault(`${join(out, taken)} is there already`);
}

/** From the map's first point (at the earliest the files' start) to its last or the last hit anywhere: what rings on after that is left as it is. */
function rangeOf(from: SongMap, usable: readonly Usable[]): WarpRange {
  const { points } = from.tempo;
  const end = Math.max(...usable.map((u) => u.value.header.lengthFrames / u.value.header.sampleRateHz));
  const attacks = usable.flatMap((u) =>
    u.value.listening ? (lastAttackSeconds(u.value.listening.onsets) ?? []) : [],
  );
  const startSeconds = Math.max(0, (points[0] as { seconds: number }).seconds);
  return {
    startSeconds,
    endSeconds: Math.max(
      startSeconds + 1e-3,
      Math.min(end, Math.max((points.at(-1) as { seconds: number }).seconds, ...attacks)),
    ),
  };
}

/** All groups, as many at a time as there are processors; long ones first, so that none is left alone at the end. */
async function conformAll(usable: readonly Usable[], warp: Warp, out: string): Promise<ReportFile[]> {
  const readings = readNames(usable.map((u) => basename(u.file)));
  const keys = sourceKeys(readings);
  const at = (id: string): number => usable.findIndex((u) => u.file === id);
  const groups = planGroups(
    usable.map((u, i) => ({
      id: u.file,
      family: readings[i]?.family ?? 'unknown',
      part: readings[i]?.part ?? null,
      sourceKey: keys[i] ?? null,
      sampleRateHz: u.value.header.sampleRateHz,
      treatment: null,
    })),
  );
  const queue = [...groups].sort((a, b) => b.trackIds.length - a.trackIds.length);
  const done = new Map<string, ReportFile>();
  const work = async (): Promise<void> => {
    for (let group = queue.shift(); group; group = queue.shift()) {
      process.stderr.write(`conforming ${group.trackIds.map((f) => basename(f)).join(', ')}\n`);
      const sources = group.trackIds.map((file) => ({
        path: (usable[at(file)] as Usable).path,
        outPath: join(out, outName(file)),
        startFrames: 0,
        rank: attackRank(readings[at(file)]?.part ?? null),
      }));
      try {
        const { files } = await runTask(
          'conform',
          { method: group.method, block: group.block, pegs: warp.pegs, excerpt: null, sources },
          { threadPath: threadPath() },
        );
        for (const [i, f] of files.entries())
          done.set(group.trackIds[i] as string, { ...f, file: group.trackIds[i] as string, group });
      } catch (cause) {
        // Nothing half-written stays behind.
        await Promise.all(sources.map((s) => rm(s.outPath, { force: true })));
        throw cause;
      }
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, work));
  return usable.flatMap((u) => done.get(u.file) ?? []);
}
