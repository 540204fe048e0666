import type { BalanceResult, Fault } from '@/contracts';
import {
  loudnessOfSum,
  mixStrips,
  rangeOfMissing,
  roughBalance,
  type RoughStrip,
  withHeadroom,
} from '@/core/balance';
import { levelDb, type SessionState } from '@/core/session';
import { type CancelSignal, gainToDb, type ProgressSink } from '@/core/units';
import { type MixReading, type PlacedFile, runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { loadSession } from '@/server/db';
import { RequestFault } from '@/server/http';
import type { JobHandler } from '@/server/jobs';
import { type SoundingTrack, soundingTracks } from '../sounding-tracks';
import { withSounds } from '../sound-paths';
import { relateFarMics } from './relate';

/** References that are tried as the mix of the tracks. */
const MOST_REFERENCES = 3;
/** A reference of which less is explained is no mix of these tracks (share of its energy). */
const LEAST_EXPLAINED = 0.3;

const fail = (fault: Fault): { fault: Fault } => ({ fault });

/** Levels and pans by role, and those of the sender's mix where one of the tracks is that; the job's result. */
export const findBalance: JobHandler<'balance.find'> = async ({ payload, progress, cancel }) => {
  const { sessionId } = payload;
  const loaded = await loadSession(sessionId);
  if (!loaded) return fail({ code: 'session.not_found' });
  const { session, revision } = loaded;
  const all = await soundingTracks(sessionId, session);
  const tracks = all.filter((t) => t.family !== 'reference' && t.family !== 'click' && !t.track.muted);
  const mixes = all.filter((t) => t.family === 'reference').slice(0, MOST_REFERENCES);
  if (all.length === 0) return fail({ code: 'delivery.no_tracks' });
  if (tracks.length === 0) return fail({ code: 'balance.all_muted' });
  try {
    const result = await withSounds(
      [...tracks, ...mixes].map((t) => t.sha256),
      cancel,
      async (pathOf): Promise<BalanceResult> => {
        const placed = (t: SoundingTrack): PlacedFile => ({
          path: pathOf(t.sha256),
          startFrames: t.startFrames,
        });
        const read = await readMixes(tracks, mixes, { placed, cancel, progress });
        const inMix = read && stripsInMix(tracks, read.reading);
        const measured = await measureBalances(session, tracks, { placed, cancel, inMix });
        return resultOf({
          tracks,
          revision,
          rateHz: session.sampleRateHz ?? 48_000,
          read,
          inMix,
          ...measured,
        });
      },
    );
    // Named or corrected since, more may be known as microphones over the kit.
    await relateFarMics(sessionId, { progress: () => undefined, cancel });
    return { result };
  } catch (cause) {
    if (cause instanceof RequestFault) return fail(cause.fault);
    throw cause;
  }
};

const roughStrips = (tracks: readonly SoundingTrack[]): RoughStrip[] =>
  roughBalance(
    tracks.map(({ track, family, part, channels, integratedLufs, ...t }) => {
      const { role, position, side, number } = track;
      const lufs = integratedLufs === null ? null : integratedLufs + t.pieceGainDb;
      return { family, part, role, position, side, number, channels, integratedLufs: lufs };
    }),
  );

/** Levels a mix has of the recordings as they lie there; null where none was read. */
const stripsInMix = (tracks: readonly SoundingTrack[], { fit, changes, isMono }: MixReading) =>
  fit && mixStrips(fit, changes, { channels: tracks.map((t) => t.channels), isMono });

type Strips = readonly ({ readonly gainDb: number; readonly pan: number } | null)[];

/** The balance by role with its headroom, and by how much it, neutral levels and those of the mix are louder than their tracks say. Files are read as they were recorded. */
async function measureBalances(
  session: SessionState,
  tracks: readonly SoundingTrack[],
  {
    placed,
    cancel,
    inMix,
  }: {
    readonly placed: (t: SoundingTrack) => PlacedFile;
    readonly cancel: CancelSignal;
    readonly inMix: Strips | null;
  },
): Promise<Pick<Found, 'rough' | 'louderThanSum'>> {
  const strips = roughStrips(tracks);
  const neutral = tracks.map(({ track, pieceGainDb: gainDb }) => ({
    gainDb: gainDb + levelDb(session, track) - track.gainDb,
    pan: 0,
  }));
  const asRecorded = strips.map((s, i) => ({
    ...s,
    gainDb: s.gainDb + (tracks[i] as SoundingTrack).pieceGainDb,
  }));
  const balances: readonly Strips[] = [asRecorded, neutral, ...(inMix ? [inMix] : [])];
  const sums = await runTask(
    'sums',
    { tracks: tracks.map((t) => ({ ...placed(t), isInverted: t.track.inverted })), balances },
    { threadPath: readConfig().threadPath, cancel },
  );
  const [rough, neutrally, mix] = sums.map(({ integratedLufs }, k) => {
    const told = loudnessOfSum(
      tracks.flatMap((t, i) => {
        const strip = balances[k]?.[i];
        return strip ? [{ integratedLufs: t.integratedLufs, gainDb: strip.gainDb }] : [];
      }),
    );
    return integratedLufs === null || told === null ? null : integratedLufs - told;
  });
  return {
    rough: withHeadroom(strips, sums[0]?.peak ?? 0),
    louderThanSum: { rough: rough ?? null, neutral: neutrally ?? null, mix: mix ?? null },
  };
}

/** What is read where there is no mix. */
const NOTHING_READ: MixReading = {
  alignment: null,
  fit: null,
  changes: [],
  missing: [],
  isMono: false,
  heldDownDb: 0,
};

interface ReadMix {
  readonly mix: SoundingTrack;
  readonly reading: MixReading;
}

/** The reference that is best explained by the tracks; null where none is by enough. */
async function readMixes(
  tracks: readonly SoundingTrack[],
  mixes: readonly SoundingTrack[],
  {
    placed,
    cancel,
    progress,
  }: {
    readonly placed: (t: SoundingTrack) => PlacedFile;
    readonly cancel: CancelSignal;
    readonly progress: ProgressSink;
  },
): Promise<ReadMix | null> {
  const read: ReadMix[] = [];
  for (const [k, mix] of mixes.entries())
    read.push({
      mix,
      reading: await runTask(
        'fitMix',
        { tracks: tracks.map(placed), mix: placed(mix) },
        {
          threadPath: readConfig().threadPath,
          cancel,
          progress: (share) => progress((k + share) / mixes.length),
        },
      ),
    });
  const explained = ({ reading }: ReadMix): number => reading.fit?.share ?? 0;
  const best = read.sort((a, b) => explained(b) - explained(a))[0];
  return best && explained(best) >= LEAST_EXPLAINED ? best : null;
}

/** All that was found for the tracks. */
interface Found {
  readonly tracks: readonly SoundingTrack[];
  readonly revision: number;
  readonly rateHz: number;
  readonly rough: ReturnType<typeof withHeadroom>;
  readonly louderThanSum: NonNullable<BalanceResult['louderThanSum']>;
  readonly read: ReadMix | null;
  readonly inMix: ReturnType<typeof mixStrips> | null;
}

function resultOf({ tracks, revision, rateHz, rough, louderThanSum, read, inMix }: Found): BalanceResult {
  const { alignment, fit, missing, isMono: isMonoMix, heldDownDb } = read?.reading ?? NOTHING_READ;
  return {
    revision,
    mixTrackId: read?.mix.track.id ?? null,
    explained: fit?.share ?? null,
    laterSeconds: alignment ? alignment.offsetFrames / rateHz : null,
    isInverted: alignment?.isInverted ?? false,
    isMonoMix,
    heldDownDb,
    louderThanSum,
    peakDbfs: rough.peak > 0 ? gainToDb(rough.peak) : null,
    tracks: tracks.map(({ track, ...t }, i) => {
      const strip = inMix?.[i];
      const { gainDb, pan } = rough.strips[i] as RoughStrip;
      return {
        trackId: track.id,
        pieceGainDb: t.pieceGainDb,
        rough: { gainDb, pan },
        mix: strip
          ? {
              gainDb: strip.gainDb - t.pieceGainDb,
              pan: strip.pan,
              changes: strip.changes.map((c) => ({
                seconds: c.seconds,
                gainDb: c.gainDb - t.pieceGainDb,
              })),
            }
          : null,
      };
    }),
    missing: missing.map((m) => ({
      fromSeconds: m.fromSeconds,
      toSeconds: m.toSeconds,
      left: m.left,
      confidence: m.confidence,
      ...rangeOfMissing(m, rateHz),
    })),
  };
}
