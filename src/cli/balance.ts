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
import { gainToDb, roundTo } from '@/core/units';
import { type MixReading, runTask } from '@/engine';
import { type Arguments, CallFault, print } from './arguments';
import { atOneRate, atStart, type KnownSound, knownSounds, mixAmong, type UsableSound } from './known-sounds';
import { type InspectedSound, soundFiles, threadPath, withSounds } from './sound-files';

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

async function balance(sounds: readonly InspectedSound[], given: string | null, folder: string) {
  const usable = knownSounds(await atOneRate(sounds, folder));
  const mix =
    (given === null
      ? usable[(await mixAmong(usable)) ?? -1]
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

const readMix = (tracks: readonly UsableSound[], mix: UsableSound): Promise<MixReading> =>
  runTask('fitMix', { tracks: tracks.map(atStart), mix: atStart(mix) }, { threadPath: threadPath() });

interface Balanced {
  readonly tracks: readonly KnownSound[];
  readonly mix: KnownSound | null;
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
function readingOf(mix: UsableSound | null, read: MixReading | null) {
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
function reasonOf(tracks: number, mix: UsableSound | null, read: MixReading | null): string | null {
  if (tracks === 0) return 'no track could be used';
  if (mix === null) return 'no file is the mix of the others';
  return read?.fit ? null : 'the mix and the tracks have nothing in common at any delay';
}

/** Levels and pans by role, turned down together until the mix bus has its headroom; and its peak. */
async function rough(tracks: readonly KnownSound[]): Promise<Pick<Balanced, 'strips' | 'peak'>> {
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

function explainedBy(fit: BalanceFit, mix: UsableSound) {
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

function missingPart(part: MissingPart, mix: UsableSound) {
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
