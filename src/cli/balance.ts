import { mkdtemp, rm } from 'node:fs/promises';
import { statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { faultText } from '@/contracts';
import {
  type BalanceFit,
  mixEdgesHz,
  type MissingPart,
  type MixStrip,
  mixStrips,
  rangeOfMissing,
  roughBalance,
  type RoughStrip,
  withHeadroom,
} from '@/core/balance';
import { readNames } from '@/core/naming';
import { kindKnown } from '@/core/style';
import { gainToDb, roundTo } from '@/core/units';
import { type MixReading, type PlacedFile, runTask } from '@/engine';
import { type Arguments, CallFault, print } from './arguments';
import { type InspectedSound, soundFiles, threadPath, withSounds } from './sound-files';

type Inspected = Extract<InspectedSound['outcome'], { readonly ok: true }>['value'];
interface Usable {
  readonly file: string;
  /** At the rate of most files. */
  readonly path: string;
  readonly value: Inspected;
  readonly isLossy: boolean;
}

/** `balance`: levels and pans for a first listen, and those the sender's rough mix has. */
export async function commandBalance(args: Arguments): Promise<number> {
  const [folder] = args.words;
  if (folder === undefined || args.words.length > 1) throw new CallFault('balance needs one folder');
  const given = args.one('mix');
  if (given !== null) mustBeThere(given);
  const inFolder = soundFiles([folder]);
  const files =
    given !== null && !inFolder.some((f) => resolve(f) === resolve(given)) ? [...inFolder, given] : inFolder;
  const converted = await mkdtemp(join(tmpdir(), 'fernmoss-balance-'));
  try {
    return await withSounds(files, { truePeak: false, listen: true, split: true }, async (sounds) => {
      const { answer, status } = await balance(sounds, given, converted);
      print(args.json, answer, tableOf(answer));
      return status;
    });
  } finally {
    await rm(converted, { recursive: true, force: true });
  }
}

function mustBeThere(path: string): void {
  try {
    statSync(path);
  } catch {
    throw new CallFault(`cannot find ${path}`);
  }
}

type Answer = ReturnType<typeof answerOf>;

/** A file with what its name and its sound say it is. */
interface Known extends Usable {
  readonly reading: ReturnType<typeof readNames>[number] | null;
  readonly kind: ReturnType<typeof kindKnown>;
}

function knownOf(usable: readonly Usable[]): Known[] {
  const readings = readNames(usable.map((u) => basename(u.file)));
  return usable.map((u, i) => {
    const reading = readings[i] ?? null;
    return { ...u, reading, kind: kindKnown(null, reading, u.value.listening?.heard ?? null) };
  });
}

async function balance(sounds: readonly InspectedSound[], given: string | null, folder: string) {
  const usable = knownOf(await atOneRate(sounds, folder));
  const mix =
    (given === null
      ? usable[(await mixOf(usable)) ?? -1]
      : usable.find((u) => resolve(u.file) === resolve(given))) ?? null;
  const tracks = usable.filter((u) => u !== mix && !['reference', 'click'].includes(u.kind.family));
  const made = await rough(tracks);
  const read = mix && tracks.length > 0 ? await readMix(tracks, mix) : null;
  const refused = sounds.flatMap((s) =>
    s.outcome.ok ? [] : [{ file: s.file, reason: faultText(s.outcome.error) }],
  );
  const answer = answerOf({ tracks, mix, read, refused, isGiven: given !== null, ...made });
  const isWrong =
    (given !== null && mix === null) ||
    refused.length > 0 ||
    tracks.length === 0 ||
    (read !== null && !read.fit);
  return { answer, status: isWrong ? 1 : 0 };
}

/** All files of a folder begin together. */
const atStart = ({ path }: Usable): PlacedFile => ({ path, startFrames: 0 });

const readMix = (tracks: readonly Usable[], mix: Usable): Promise<MixReading> =>
  runTask('fitMix', { tracks: tracks.map(atStart), mix: atStart(mix) }, { threadPath: threadPath() });

interface Balanced {
  readonly tracks: readonly Known[];
  readonly mix: Known | null;
  readonly read: MixReading | null;
  /** The mix was named in the call. */
  readonly isGiven: boolean;
  readonly refused: readonly { readonly file: string; readonly reason: string }[];
  readonly strips: readonly RoughStrip[];
  /** Highest sample of the mix bus, linear. */
  readonly peak: number;
}

function answerOf({ tracks, mix, read, refused, isGiven, strips, peak }: Balanced) {
  const inMix =
    read?.fit &&
    mixStrips(read.fit, read.changes, {
      channels: tracks.map((t) => t.value.header.channels),
      isMono: read.isMono,
    });
  return {
    mix: mix?.file ?? null,
    tracks: tracks.map((t, i) => ({
      file: t.file,
      gainDb: roundTo((strips[i] as RoughStrip).gainDb, 2),
      pan: roundTo((strips[i] as RoughStrip).pan, 3),
      roughMix: printedStrip(inMix?.[i] ?? null),
    })),
    ...readingOf(mix, read),
    mixBusPeakDbfs: peak > 0 ? roundTo(gainToDb(peak), 2) : null,
    refused,
    reason:
      isGiven && mix === null && tracks.length > 0
        ? 'the mix that was named could not be used'
        : reasonOf(tracks.length, mix, read),
  };
}

/** What the mix says as a whole. */
function readingOf(mix: Usable | null, read: MixReading | null) {
  if (!mix || !read?.fit || !read.alignment)
    return { explained: null, alignment: null, isMonoMix: null, heldDownDb: null, missing: [] };
  const { offsetFrames, driftPpm, isInverted, agreement } = read.alignment;
  return {
    explained: explainedBy(read.fit, mix),
    alignment: {
      laterSamples: roundTo(offsetFrames, 2),
      driftPpm: roundTo(driftPpm, 2),
      isInverted,
      agreement: roundTo(agreement, 2),
    },
    isMonoMix: read.isMono,
    heldDownDb: roundTo(read.heldDownDb, 1),
    missing: read.missing.map((m) => missingPart(m, mix)),
  };
}

/** Why something is not there; null where all is. */
function reasonOf(tracks: number, mix: Usable | null, read: MixReading | null): string | null {
  if (tracks === 0) return 'no track could be used';
  if (mix === null) return 'no file is the mix of the others';
  return read?.fit ? null : 'the mix and the tracks have nothing in common at any delay';
}

/** Files at the rate of most of them; others are converted into the folder. */
async function atOneRate(sounds: readonly InspectedSound[], folder: string): Promise<Usable[]> {
  const ready = sounds.flatMap(({ file, path, about, outcome }): Usable[] =>
    outcome.ok ? [{ file, path, value: outcome.value, isLossy: about?.lossy === true }] : [],
  );
  const counts = new Map<number, number>();
  for (const { value } of ready)
    counts.set(value.header.sampleRateHz, (counts.get(value.header.sampleRateHz) ?? 0) + 1);
  const rate = [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
  const out: Usable[] = [];
  for (const [i, u] of ready.entries()) {
    if (rate === undefined || u.value.header.sampleRateHz === rate) {
      out.push(u);
      continue;
    }
    const outPath = join(folder, `${i}.wav`);
    const made = await runTask(
      'convert',
      { path: u.path, outPath, toHz: rate },
      { threadPath: threadPath() },
    );
    if (!made.ok) throw new Error(`${u.file}: ${faultText(made.error)}`);
    out.push({ ...u, path: outPath });
  }
  return out;
}

/** A file whose name calls it a mix is one from this share on: something is missing. */
const PROBABLY = 0.5;

/** The file that is the mix of the others; null where none is. */
async function mixOf(usable: readonly Known[]): Promise<number | null> {
  const families = usable.map((u) => u.kind.family);
  if (usable.length < 4) return null;
  const isReference = (k: number): boolean => families[k] === 'reference';
  const all = await runTask(
    'mixes',
    {
      paths: usable.map((u) => u.path),
      // A close microphone is mono, and lies where the others do.
      maybeLater: usable.flatMap((u, k) =>
        isReference(k) || u.isLossy || u.value.header.channels === 2 ? [k] : [],
      ),
    },
    { threadPath: threadPath() },
  );
  const found = all
    .map((likeness, k) => ({ ...likeness, k }))
    .filter(
      (l) => l.isMix || (isReference(l.k) && l.share > PROBABLY && l.carriers.length >= 3 && l.spread >= 1.5),
    )
    // A microphone over a kit is the sum of those in it, and no mix of the song.
    .filter((l) => !l.carriers.every((c) => families[c] === families[l.k]))
    .sort((a, b) => b.carriers.length - a.carriers.length || b.share - a.share);
  return found[0]?.k ?? null;
}

/** Levels and pans by role, turned down together until the mix bus has its headroom; and its peak. */
async function rough(tracks: readonly Known[]): Promise<Pick<Balanced, 'strips' | 'peak'>> {
  if (tracks.length === 0) return { strips: [], peak: 0 };
  const strips = roughBalance(
    tracks.map((t) => {
      const { reading, kind } = t;
      return {
        family: kind.family,
        part: kind.part,
        role: reading?.role ?? null,
        position: reading?.position ?? null,
        side: reading?.side ?? null,
        number: reading?.number ?? null,
        channels: Math.min(2, t.value.header.channels),
        integratedLufs: t.value.facts.integratedLufs,
      };
    }),
  );
  const [sum] = await runTask(
    'sums',
    { tracks: tracks.map((t) => ({ ...atStart(t), isInverted: false })), balances: [strips] },
    { threadPath: threadPath() },
  );
  return withHeadroom(strips, sum?.peak ?? 0);
}

const printedStrip = (strip: MixStrip | null) =>
  strip && {
    gainDb: roundTo(strip.gainDb, 2),
    pan: roundTo(strip.pan, 3),
    share: roundTo(strip.share, 4),
    changes: strip.changes.map((c) => ({ seconds: roundTo(c.seconds, 2), gainDb: roundTo(c.gainDb, 2) })),
  };

function explainedBy(fit: BalanceFit, mix: Usable) {
  const edges = mixEdgesHz(mix.value.header.sampleRateHz).map((hz) => Math.round(hz));
  return {
    share: roundTo(fit.share, 4),
    byBand: fit.byBand.flatMap((share, b) =>
      share === null
        ? []
        : [{ fromHz: edges[b] as number, toHz: edges[b + 1] as number, share: roundTo(share, 4) }],
    ),
  };
}

function missingPart(part: MissingPart, mix: Usable) {
  const { fromHz, toHz, range } = rangeOfMissing(part, mix.value.header.sampleRateHz);
  const { fromSeconds, toSeconds, left, confidence } = part;
  return {
    fromSeconds,
    toSeconds,
    fromHz: Math.round(fromHz),
    toHz: Math.round(toHz),
    what: `${range}: ${Math.round(100 * left)} % of the mix there is in no track`,
    confidence: roundTo(confidence, 2),
  };
}

function tableOf({
  mix,
  tracks,
  explained,
  missing,
  mixBusPeakDbfs,
  reason,
}: Answer): (readonly unknown[])[] {
  return [
    ['file', 'gain dB', 'pan', 'in the mix dB', 'pan', 'changes'],
    ...tracks.map((t) => [
      basename(t.file),
      t.gainDb,
      t.pan,
      t.roughMix?.gainDb ?? null,
      t.roughMix?.pan ?? null,
      t.roughMix?.changes.map((c) => `${c.seconds} s: ${c.gainDb}`).join(', ') ?? '',
    ]),
    [`mix bus peak ${mixBusPeakDbfs ?? '–'} dBFS`],
    [
      mix === null
        ? (reason ?? '')
        : `mix ${basename(mix)}: ${explained ? `${(100 * explained.share).toFixed(1)} % explained` : (reason ?? '')}`,
    ],
    ...missing.map((m) => [
      `${m.fromSeconds}–${m.toSeconds} s, ${m.fromHz}–${m.toHz} Hz: ${m.what} (${m.confidence})`,
    ]),
  ];
}
