import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createWavWriter, readSoundBlocks, readSoundHeader } from '@/core/audio';
import { type RhythmCurves, moveOnsets } from '@/core/analysis';
import { describeReading, detectTempo, type TempoReading, type TempoTrack } from '@/core/tempo';
import { fileSink, fileSource } from '@/engine';
import { type BenchSession, folderSessions, ownSessions, TEMPO_CACHE } from './features';
import { continuities, type Estimate, fMeasure, NO_ESTIMATE, type Score, score, summary } from './metrics';

// Detection over sessions of our own making (FERNMOSS_TEMPO_ROUNDS=1,2 for others of the same genres, from 4 on of those the detection was not made with) and those in
// FERNMOSS_TEMPO_SESSIONS, beside two general-purpose trackers on the same sums; the figures checked against mir_eval.
const ROUNDS = (process.env.FERNMOSS_TEMPO_ROUNDS ?? '1').split(',').map(Number);
const FOLDER = process.env.FERNMOSS_TEMPO_SESSIONS ?? null;
const ONLY = process.env.FERNMOSS_TEMPO_ONLY?.split(',') ?? null;

interface Done {
  readonly session: BenchSession;
  readonly reading: TempoReading | null;
  readonly estimate: Estimate;
  readonly score: Score;
  readonly seconds: number;
}

function detect(session: BenchSession): Done {
  const begin = process.hrtime.bigint();
  const found = detectTempo(session.tracks);
  const seconds = Number(process.hrtime.bigint() - begin) / 1e9;
  const estimate = found.ok ? describeReading(found.value) : NO_ESTIMATE;
  return {
    session,
    reading: found.ok ? found.value : null,
    estimate,
    score: score(session.truth, estimate),
    seconds,
  };
}

function line({ session, estimate, score: s, seconds }: Done): string {
  const meters = estimate.meters
    .slice(0, 3)
    .map((m) => `${m.numerator}/${m.denominator}`)
    .join(' ');
  return `${session.name.padEnd(26)} F ${s.f.toFixed(3)} CMLt ${s.cmlt.toFixed(2)} downbeat ${s.downbeatF.toFixed(2)} bias ${s.biasMs.toFixed(1)} ms ${meters || '–'} ${s.steady}${s.bpmError === null ? '' : ` bpm ±${s.bpmError.toFixed(4)} offset ${(s.offsetMs ?? 0).toFixed(1)} ms`} sure ${((100 * s.sure) / Math.max(1, s.pulses)).toFixed(0)} % (${s.sureWrong} wrong) ${seconds.toFixed(2)} s`;
}

/** Sum of files of a session's folder as one WAV, mono; files of other rates are left out. */
async function writeSum(files: readonly string[], path: string): Promise<void> {
  const sum: number[] = [];
  let rate = 0;
  for (const name of files) {
    const file = await fileSource(name);
    const header = await readSoundHeader(file.bytes);
    if (header.ok && (rate === 0 || header.value.sampleRateHz === rate)) {
      rate = header.value.sampleRateHz;
      let at = 0;
      for await (const block of readSoundBlocks(file.bytes, header.value)) {
        const frames = block.channels[0]?.length ?? 0;
        for (let i = 0; i < frames; i++, at++)
          sum[at] =
            (sum[at] ?? 0) + block.channels.reduce((a, c) => a + (c[i] as number), 0) / block.channels.length;
      }
    }
    await file.close();
  }
  const top = sum.reduce((m, x) => Math.max(m, Math.abs(x)), 1e-9);
  const out = await fileSink(path);
  const writer = await createWavWriter(out.bytes, { sampleRateHz: rate, channels: 1, bitDepth: 24 });
  await writer.write([Float32Array.from(sum, (x) => (0.9 * x) / top)]);
  await writer.finish();
  await out.close();
}

/** Beats of a general-purpose tracker on a sum; null where it is not installed. */
function referenceBeats(path: string): number[] | null {
  const made = spawnSync('aubiotrack', ['-i', path], { encoding: 'utf8' });
  return made.status === 0
    ? made.stdout
        .split('\n')
        .map(Number)
        .filter((x) => x > 0)
    : null;
}

const SECOND = { name: 'essentia.js', version: '0.1.3' };

/** Beats of a second one, fetched for this benchmark alone; null where it cannot be had. */
function secondBeats(path: string): number[] | null {
  const folder = join(TEMPO_CACHE, 'second');
  if (!existsSync(join(folder, 'node_modules', SECOND.name)))
    spawnSync(
      'npm',
      [
        'install',
        '--prefix',
        folder,
        '--no-save',
        '--no-audit',
        '--no-fund',
        `${SECOND.name}@${SECOND.version}`,
      ],
      { stdio: 'ignore' },
    );
  const made = spawnSync(process.execPath, ['bench/tempo/second-tracker.mjs', folder, path], {
    encoding: 'utf8',
    maxBuffer: 1 << 24,
  });
  return made.status === 0
    ? made.stdout
        .split('\n')
        .map(Number)
        .filter((x) => x > 0)
    : null;
}

const MIR_EVAL = `
import json, sys, warnings
warnings.filterwarnings('ignore')
import numpy as np, mir_eval
print(json.dumps([[mir_eval.beat.f_measure(np.array(a), np.array(b)), *mir_eval.beat.continuity(np.array(a), np.array(b))] for a, b in json.load(sys.stdin)]))
`;

/** Largest difference of our F, CMLt and AMLt to mir_eval's on the same beats. */
function againstMirEval(done: readonly Done[]): string {
  const pairs = done
    .filter((d) => d.estimate.beats.length > 1)
    .map((d) => [d.session.truth.beats, d.estimate.beats] as const);
  const made = spawnSync('/usr/bin/python3', ['-c', MIR_EVAL], {
    input: JSON.stringify(pairs),
    encoding: 'utf8',
    env: { ...process.env, OPENBLAS_NUM_THREADS: '1' },
  });
  if (made.status !== 0) return 'python3-mir-eval is not there';
  const theirs = JSON.parse(made.stdout) as number[][];
  let worst = 0;
  pairs.forEach(([truth, beats], i) => {
    const [f = 0, , cmlt = 0, , amlt = 0] = theirs[i] as number[];
    const own = continuities(truth, beats);
    worst = Math.max(
      worst,
      Math.abs(f - fMeasure(truth, beats)),
      Math.abs(cmlt - own.cmlt),
      Math.abs(amlt - own.amlt),
    );
  });
  return `largest difference to mir_eval over ${pairs.length} sessions: ${worst.toExponential(1)}`;
}

/** 24 tracks of four minutes out of a shorter session: played again and again, each copy of a track a little later. */
function grown(session: BenchSession): TempoTrack[] {
  const length = session.truth.duration;
  const longer = (h: RhythmCurves): RhythmCurves => {
    const copies = Array.from({ length: Math.ceil(240 / length) }, (_, k) => moveOnsets(h, k * length));
    const last = copies.at(-1) as RhythmCurves;
    const over = (pick: (x: RhythmCurves) => Float32Array): Float32Array => {
      const out = new Float32Array(pick(last).length);
      for (const c of copies)
        pick(c).forEach((x, i) => {
          out[i] = Math.max(out[i] as number, x);
        });
      return out;
    };
    const joined = <T extends Float32Array | Float64Array>(
      make: (n: number[]) => T,
      pick: (x: RhythmCurves) => T,
    ): T => make(copies.flatMap((c) => [...pick(c)]));
    const f32 = (n: number[]): Float32Array => Float32Array.from(n);
    return {
      low: over((x) => x.low),
      mid: over((x) => x.mid),
      high: over((x) => x.high),
      chroma: over((x) => x.chroma),
      attacks: {
        seconds: joined(
          (n) => Float64Array.from(n),
          (x) => x.attacks.seconds as Float64Array,
        ),
        low: joined(f32, (x) => x.attacks.low),
        mid: joined(f32, (x) => x.attacks.mid),
        high: joined(f32, (x) => x.attacks.high),
      },
    };
  };
  return Array.from({ length: 24 }, (_, i) => {
    const t = session.tracks[i % session.tracks.length] as TempoTrack;
    return {
      ...t,
      id: `${t.id} ${i}`,
      curves: moveOnsets(longer(t.curves), 0.001 * Math.floor(i / session.tracks.length)),
    };
  });
}

async function benchSessions(folder: string): Promise<void> {
  const sets: (readonly [string, AsyncGenerator<BenchSession>])[] = ROUNDS.map((r) => [
    `own, round ${r}`,
    ownSessions(TEMPO_CACHE, r, ONLY),
  ]);
  if (FOLDER !== null && existsSync(FOLDER)) sets.push([FOLDER, folderSessions(FOLDER, TEMPO_CACHE, ONLY)]);
  const all: Done[] = [];
  for (const [name, sessions] of sets) {
    const done: Done[] = [];
    const reference = { whole: [[], []] as [number[], number[]], keepers: [[], []] as [number[], number[]] };
    for await (const session of sessions) {
      const d = detect(session);
      done.push(d);
      console.log(line(d));
      if (!existsSync(session.tracks[0]?.id ?? '')) continue;
      for (const [which, files] of [
        ['whole', session.tracks.map((t) => t.id)],
        ['keepers', (d.reading?.timekeepers ?? []).filter((t) => t.chosen).map((t) => t.id)],
      ] as const) {
        const path = join(folder, 'sum.wav');
        rmSync(path, { force: true });
        await writeSum(files, path);
        const from = (session.truth.beats[0] as number) - 0.3;
        [referenceBeats(path), secondBeats(path)].forEach((beats, i) => {
          if (beats)
            reference[which][i as 0 | 1].push(
              fMeasure(
                session.truth.beats,
                beats.filter((t) => t > from && t < (session.truth.beats.at(-1) as number) + 0.3),
              ),
            );
        });
      }
    }
    all.push(...done);
    console.log(`tempo · ${name}: ${summary(done.map((d) => d.score))}`);
    const mean = (x: readonly number[]): string =>
      (x.reduce((a, b) => a + b, 0) / Math.max(1, x.length)).toFixed(3);
    (['aubiotrack', SECOND.name] as const).forEach((tracker, i) => {
      const [whole, keepers] = [reference.whole[i as 0 | 1], reference.keepers[i as 0 | 1]];
      if (whole.length > 0)
        console.log(
          `tempo · ${name}: a general-purpose tracker (${tracker}) F ${mean(whole)} on the whole sum, ${mean(keepers)} on the chosen timekeepers`,
        );
    });
  }
  console.log(`tempo · ${againstMirEval(all)}`);
  // In a process of its own: this one holds what was heard of all sessions.
  spawnSync(process.execPath, [process.argv[1] as string, 'grown'], { stdio: 'inherit' });
}

/** Time and memory of the detection alone. */
async function benchSize(): Promise<void> {
  const first = await ownSessions(TEMPO_CACHE, ROUNDS[0] ?? 1, ['sixteenths']).next();
  if (first.done) return;
  const tracks = grown(first.value);
  const times = [0, 1, 2]
    .map(() => {
      const begin = process.hrtime.bigint();
      detectTempo(tracks);
      return Number(process.hrtime.bigint() - begin) / 1e9;
    })
    .sort((a, b) => a - b);
  console.log(
    `tempo · 24 tracks × 4 min from stored features: ${(times[1] as number).toFixed(2)} s (goal ≤ 3), this process at most ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB (goal ≤ 400)`,
  );
}

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-tempo-bench-'));
try {
  await (process.argv[2] === 'grown' ? benchSize() : benchSessions(folder));
} finally {
  rmSync(folder, { recursive: true, force: true });
  if (process.env.FERNMOSS_TEMPO_CACHE === undefined)
    writeFileSync(
      join(TEMPO_CACHE, 'README'),
      'What Fernmoss heard of the sessions of its tempo bench; may be removed.\n',
    );
}
