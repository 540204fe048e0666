import { spawnSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createWavWriter, readSoundBlocks, readSoundHeader } from '@/core/audio';
import { proposeSort, DEFAULT_STYLE, newTrack, proposalEdits } from '@/core/style';
import { applyChanges, emptySession, ROOT, type SessionState } from '@/core/session';
import { createRandom } from '@/core/units';
import { fileSink, fileSource, inspectFile, listenToFile } from '@/engine';
import { scoreLabelled } from '../tests/support/labelled';
import { scoreDeliveries } from '../tests/support/labelled-deliveries';

const MB = 1e6;
const peakMb = (): number => process.resourceUsage().maxRSS / 1024;

/** CPU and wall seconds of some work in this process. */
async function timed(work: () => Promise<unknown>): Promise<{ cpu: number; wall: number }> {
  const cpu = process.cpuUsage();
  const clock = process.hrtime.bigint();
  await work();
  const used = process.cpuUsage(cpu);
  return { cpu: (used.user + used.system) / 1e6, wall: Number(process.hrtime.bigint() - clock) / 1e9 };
}
/** Middle of three, each measured in turn with the others, so that a drifting machine hits all alike. */
const middle = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] as number;

async function makeFiles(folder: string): Promise<{ paths: string[]; bytes: number }> {
  const random = createRandom(1);
  const block = Float32Array.from({ length: 48_000 }, () => (random() - 0.5) * 0.4);
  const paths: string[] = [];
  let bytes = 0;
  for (let n = 0; n < 6; n++) {
    const path = join(folder, `t${n}.wav`);
    const file = await fileSink(path);
    const writer = await createWavWriter(file.bytes, {
      sampleRateHz: 48_000,
      channels: n % 3 === 0 ? 2 : 1,
      bitDepth: 24,
    });
    for (let s = 0; s < 180; s++) await writer.write(n % 3 === 0 ? [block, block] : [block]);
    bytes += (await writer.finish()).lengthFrames * 3 * (n % 3 === 0 ? 2 : 1);
    await file.close();
    paths.push(path);
  }
  return { paths, bytes };
}

/** The arrival pass beside a plain loop that only decodes and sums the same files, and beside sha256sum. */
async function benchArrival(folder: string): Promise<void> {
  const { paths, bytes } = await makeFiles(folder);
  const plain = async (): Promise<void> => {
    for (const path of paths) {
      const file = await fileSource(path);
      const header = await readSoundHeader(file.bytes);
      if (!header.ok) throw new Error(header.error.code);
      let sum = 0;
      for await (const b of readSoundBlocks(file.bytes, header.value))
        for (const c of b.channels) for (let i = 0; i < c.length; i++) sum += c[i] as number;
      if (Number.isNaN(sum)) throw new Error('not a sum');
      await file.close();
    }
  };
  const arrival = async (): Promise<void> => {
    for (const path of paths) await inspectFile(path);
  };
  const listening = async (): Promise<void> => {
    for (const path of paths) await listenToFile(path, { truePeak: false });
  };
  const withPeak = async (): Promise<void> => {
    for (const path of paths) await listenToFile(path, { truePeak: true });
  };
  await plain();
  const rows = {
    plain: [] as number[],
    sha: [] as number[],
    arrival: [] as number[],
    listening: [] as number[],
    withPeak: [] as number[],
  };
  for (let round = 0; round < 3; round++) {
    rows.plain.push((await timed(plain)).cpu);
    const sha = process.hrtime.bigint();
    spawnSync('sha256sum', paths);
    rows.sha.push(Number(process.hrtime.bigint() - sha) / 1e9);
    rows.arrival.push((await timed(arrival)).cpu);
  }
  rows.listening.push((await timed(listening)).cpu);
  rows.withPeak.push((await timed(withPeak)).cpu);
  const speed = (seconds: number): string => `${(bytes / MB / seconds).toFixed(0)} MB/s`;
  console.log(
    `arrival · ${(bytes / MB).toFixed(0)} MB of 24-bit: ${speed(middle(rows.arrival))} (CPU) beside decode-and-sum ${speed(middle(rows.plain))} and sha256sum ${speed(middle(rows.sha))} (wall): ${(middle(rows.arrival) / middle(rows.plain)).toFixed(2)} × and ${(middle(rows.arrival) / middle(rows.sha)).toFixed(2)} ×`,
  );
  // 24 mono files of 4 minutes at 48 kHz on two cores, out of what these took.
  const samples = bytes / 3;
  const goal = (seconds: number): string => `${(((seconds / samples) * 24 * 240 * 48_000) / 2).toFixed(1)} s`;
  console.log(
    `listening · onset curves ${speed(rows.listening[0] as number)}, with true peak ${speed(rows.withPeak[0] as number)}, ${((rows.listening[0] as number) / middle(rows.plain)).toFixed(1)} × and ${((rows.withPeak[0] as number) / middle(rows.plain)).toFixed(1)} × decode-and-sum; 24 × 4 min on two cores: ${goal(rows.listening[0] as number)} and ${goal(rows.withPeak[0] as number)} (goal ≤ 25) · peak ${peakMb().toFixed(0)} MB resident`,
  );
}

/** The arrival pass over a whole delivery of mono files of five minutes; 4.3 GB with 100 of them (FERNMOSS_BENCH_FILES). */
async function benchDelivery(folder: string): Promise<void> {
  const count = Number(process.env.FERNMOSS_BENCH_FILES ?? 10);
  const path = join(folder, 'five minutes.wav');
  const random = createRandom(2);
  const second = Float32Array.from(
    { length: 48_000 },
    (_, i) => 0.4 * Math.sin(i / 20) * Math.exp(-(i % 12_000) / 3000) + (random() - 0.5) * 0.02,
  );
  const file = await fileSink(path);
  const writer = await createWavWriter(file.bytes, { sampleRateHz: 48_000, channels: 1, bitDepth: 24 });
  for (let s = 0; s < 300; s++) await writer.write([second]);
  await writer.finish();
  await file.close();
  // Files of their own, so that no read is answered from the one before.
  const paths = Array.from({ length: count }, (_, i) => join(folder, `delivery ${i}.wav`));
  for (const p of paths) copyFileSync(path, p);
  const bytes = statSync(path).size * count;
  const sha = process.hrtime.bigint();
  spawnSync('sha256sum', paths);
  const reference = Number(process.hrtime.bigint() - sha) / 1e9;
  const { cpu, wall } = await timed(async () => {
    for (const p of paths) await inspectFile(p);
  });
  console.log(
    `delivery · ${count} mono files of 5 min, ${(bytes / 1e9).toFixed(1)} GB: arrival pass ${(bytes / MB / cpu).toFixed(0)} MB per CPU second (goal ≥ 100), ${wall.toFixed(1)} s; sha256sum of the same ${(bytes / MB / reference).toFixed(0)} MB/s · peak ${peakMb().toFixed(0)} MB resident`,
  );
}

/** The labelled sets: what is found of what is there, and what is found that is not. */
function benchFindings(): void {
  const { files, ...inFiles } = scoreLabelled();
  const { deliveries, ...between } = scoreDeliveries();
  printScore(`${files} made files`, inFiles);
  printScore(`${deliveries} made deliveries`, between);
}

function printScore(
  of: string,
  { rows, recall, falseAlarms }: Pick<ReturnType<typeof scoreLabelled>, 'rows' | 'recall' | 'falseAlarms'>,
): void {
  console.log(
    `findings · ${of}: recall ${recall.toFixed(3)} (goal ≥ 0.98), false alarms in ${(100 * falseAlarms).toFixed(1)} % of them (goal ≤ 2)`,
  );
  for (const r of rows)
    console.log(
      `findings · ${r.code}: ${r.wanted - r.missed.length} of ${r.wanted}${r.missed.length > 0 ? `, missed ${r.missed.join('; ')}` : ''}${r.falseIn.length > 0 ? `, false in ${r.falseIn.join('; ')}` : ''}`,
    );
}

/** Proposing and applying the house style to 300 tracks, beside copying the same session as JSON. */
async function benchSort(): Promise<void> {
  // Fresh names each time: what was read before is remembered.
  const words = ['Kick', 'Sn top', 'Gtr L', 'LV', 'BV', 'Vln', 'Pno', 'Bass DI', 'Tamb', 'Sax', 'rec'];
  let take = 0;
  const sessionOf = (): SessionState => {
    take++;
    const made = applyChanges(
      emptySession('300'),
      Array.from(
        { length: 300 },
        (_, i) =>
          ({
            kind: 'track.add',
            track: newTrack(
              `t${i}`,
              `${words[i % words.length]} ${i}_${take}x.wav`,
              { dualMono: false },
              DEFAULT_STYLE,
            ),
            parentId: ROOT,
            index: i,
          }) as const,
      ),
    );
    if (!made.ok) throw new Error(made.code);
    return made.session;
  };
  let session = sessionOf();
  const run = async (): Promise<void> => {
    const proposal = proposeSort(session, DEFAULT_STYLE);
    if (
      !applyChanges(
        session,
        proposalEdits(session, DEFAULT_STYLE, proposal, new Set(proposal.rows.map((r) => r.trackId))),
      ).ok
    )
      throw new Error('refused');
  };
  const copy = async (): Promise<void> => {
    JSON.parse(JSON.stringify(session));
  };
  const fresh = async (): Promise<number> => {
    session = sessionOf();
    return (await timed(run)).wall;
  };
  await fresh();
  const [own, reference] = [
    middle([await fresh(), await fresh(), await fresh()]),
    middle([(await timed(copy)).wall, (await timed(copy)).wall, (await timed(copy)).wall]),
  ];
  console.log(
    `sort · 300 tracks proposed and applied in ${(own * 1000).toFixed(0)} ms beside ${(reference * 1000).toFixed(1)} ms to copy the session as JSON`,
  );
}

/** Tempo over the bench sessions, if they are there, scored by the scorer that came with them; time beside decoding the same files. */
async function benchTempo(folder: string): Promise<void> {
  const bench = process.env.FERNMOSS_TEMPO_BENCH ?? join(process.cwd(), '../shared/tempo-bench');
  const sessions = process.env.FERNMOSS_TEMPO_SESSIONS;
  if (sessions === undefined || !existsSync(sessions)) {
    console.log(
      `tempo · left out: render the sessions with ${join(bench, 'make_sessions.py')} and name their folder in FERNMOSS_TEMPO_SESSIONS`,
    );
    return;
  }
  const out = join(folder, 'estimates');
  mkdirSync(out, { recursive: true });
  let [found, decoded] = [0, 0];
  for (const name of readdirSync(sessions)
    .filter((n) => /^d\d/.test(n))
    .sort()) {
    const begin = process.hrtime.bigint();
    const done = spawnSync(
      'node',
      [join(process.cwd(), 'dist/fernmoss.mjs'), 'tempo', join(sessions, name), '--json'],
      { encoding: 'utf8', maxBuffer: 1 << 28 },
    );
    found += Number(process.hrtime.bigint() - begin) / 1e9;
    writeFileSync(join(out, `${name.split('_')[0]}.json`), done.stdout);
    const plain = process.hrtime.bigint();
    for (const file of readdirSync(join(sessions, name)).filter((f) => /\.wav$/i.test(f)))
      spawnSync('ffmpeg', ['-v', 'error', '-i', join(sessions, name, file), '-f', 'null', '-']);
    decoded += Number(process.hrtime.bigint() - plain) / 1e9;
  }
  console.log(
    `tempo · ${found.toFixed(0)} s for all sessions beside ${decoded.toFixed(0)} s for ffmpeg to decode them`,
  );
  console.log(
    spawnSync('/usr/bin/python3', [join(bench, 'score.py'), sessions, out, '--brief'], {
      encoding: 'utf8',
      env: { ...process.env, OPENBLAS_NUM_THREADS: '1' },
    }).stdout,
  );
}

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-bench-'));
try {
  await benchSort();
  benchFindings();
  await benchDelivery(folder);
  await benchArrival(folder);
  await benchTempo(folder);
} finally {
  rmSync(folder, { recursive: true, force: true });
}
