import type { Family } from '../naming';
import { LEAST_LEVEL_DB, LEVEL_POWERS, LEVEL_STEPS_PER_DB } from '../analysis';
import { framesOf } from './frame-math';
import type { HeardTrack } from './heard';
import { between, type Span } from './spans';

/** Why a piece stays or goes. */
export const TIDY_REASONS = [
  'sound',
  'silence',
  'hum',
  'noise',
  'breath',
  'talk',
  'count-in',
  'spill',
  'bleed',
  'head',
  'tail',
] as const;
export type TidyReason = (typeof TIDY_REASONS)[number];

/** A stretch of a track, in frames of 20 ms. */
export interface TidyPiece extends Span {
  readonly keeps: boolean;
  readonly reason: TidyReason;
  /** 0–1; below {@link DOUBTFUL} somebody should listen. */
  readonly confidence: number;
}

/** Pieces less sure than this are doubtful. */
export const DOUBTFUL = 0.7;

/** What is known around the pieces of a track. */
export interface ReasonContext {
  readonly family: Family;
  /** Whether something spills in, and is a kit's own bleed. */
  readonly spills: 'spill' | 'bleed' | null;
  /** First frame in which the song plays, by the other tracks; null = not known. */
  readonly songStart: number | null;
}

/** A piece may hold nothing wanted where it stays so far under what is loud in the track, dB; the first and the last one earlier, if they are short. */
const [QUIET_DB, OUTER_QUIET_DB] = [15, 6];
const SHORT_OUTER = framesOf(4);
const LOUD_SHARE = 0.9;
/** Longest breath, and how far it stays under the voice, dB. */
const [BREATH, BREATH_DB] = [framesOf(0.9), 18];
/** A stretch was spilt into where so much of it stands out of the floor. */
const SPILT_SHARE = 0.15;
/** Below this a floor is silence, dBFS. */
const SILENT_DB = -96;
const SURE = { zeros: 1, floor: 0.95, spill: 0.8, hardlyAlone: 0.6, sound: 0.95, doubtful: 0.5 } as const;
/** Windows in which the floor is heard alone, to be sure of it. */
const ALONE = 4;
const VOICES: readonly Family[] = ['lead-vocal', 'backing-vocal'];

/** Pieces of a track in order, each with its reason. */
export function reasonsOf(heard: HeardTrack, kept: readonly Span[], context: ReasonContext): TidyPiece[] {
  const { frames } = heard;
  const loudDb = levelOfStep(loudStep(heard, kept));
  return [
    ...kept.map((span, i): TidyPiece => {
      const reason = doubtOf(
        heard,
        span,
        { loudDb, isFirst: i === 0, isLast: i === kept.length - 1 },
        context,
      );
      return {
        ...span,
        keeps: true,
        reason: reason ?? 'sound',
        confidence: reason ? SURE.doubtful : SURE.sound,
      };
    }),
    ...between(kept, frames).map((span): TidyPiece => ({
      ...span,
      keeps: false,
      ...removal(heard, span, context),
    })),
  ].sort((a, b) => a.from - b.from);
}

const levelOfStep = (step: number): number => LEAST_LEVEL_DB + step / LEVEL_STEPS_PER_DB;

/** The step that most frames of what stays lie below. */
function loudStep({ total }: HeardTrack, kept: readonly Span[]): number {
  const counts = new Uint32Array(LEVEL_POWERS.length);
  let all = 0;
  for (const { from, to } of kept) {
    for (let n = from; n < to; n++) counts[total[n] as number] = (counts[total[n] as number] as number) + 1;
    all += to - from;
  }
  let [step, below] = [0, counts[0] as number];
  while (below < LOUD_SHARE * all) below += counts[++step] as number;
  return step;
}

/** Why a stretch goes, and how surely. */
function removal(
  heard: HeardTrack,
  { from, to }: Span,
  { spills }: ReasonContext,
): Pick<TidyPiece, 'reason' | 'confidence'> {
  let [zeros, standing, power] = [0, 0, 0];
  for (let n = from; n < to; n++) {
    if (heard.zero[n] === 1) zeros++;
    else if (heard.isFloor[n] === 0) standing++;
    power += LEVEL_POWERS[heard.total[n] as number] as number;
  }
  const length = to - from;
  const isZero = zeros > 0.9 * length;
  const spilt = spills !== null && standing > SPILT_SHARE * length;
  const confidence = isZero
    ? SURE.zeros
    : spilt
      ? SURE.spill
      : heard.aloneWindows < ALONE
        ? SURE.hardlyAlone
        : SURE.floor;
  if (from === 0 || to === heard.frames) return { reason: from === 0 ? 'head' : 'tail', confidence };
  if (isZero || 10 * Math.log10(power / length + 1e-14) < SILENT_DB) return { reason: 'silence', confidence };
  if (spilt) return { reason: spills, confidence };
  return { reason: heard.floorKind === 'hum' ? 'hum' : 'noise', confidence };
}

/** Where a piece stands in its track. */
interface PiecePlace {
  /** Level that is loud in the track, dBFS. */
  readonly loudDb: number;
  readonly isFirst: boolean;
  readonly isLast: boolean;
}

/** What a piece that stays may be instead of a wanted sound; null = nothing speaks against it. */
function doubtOf(
  heard: HeardTrack,
  span: Span,
  place: PiecePlace,
  context: ReasonContext,
): TidyReason | null {
  // Somebody cut it before, and meant what was left.
  if (heard.isGated) return null;
  const { family, spills, songStart } = context;
  const isLong = span.to - span.from;
  const under = place.loudDb - loudestDb(heard, span);
  if (place.isFirst && songStart !== null && span.to <= songStart) return beforeSong(family);
  if (VOICES.includes(family) && isLong <= BREATH && under > BREATH_DB) return 'breath';
  if (under > QUIET_DB) return spills ?? 'noise';
  if (isLong >= SHORT_OUTER || under <= OUTER_QUIET_DB) return null;
  return place.isFirst ? 'talk' : place.isLast ? 'noise' : null;
}

/** What is heard before the song plays. */
const beforeSong = (family: Family): TidyReason =>
  family === 'drums' || family === 'percussion' ? 'count-in' : 'talk';

function loudestDb(heard: HeardTrack, { from, to }: Span): number {
  let loudest = 0;
  for (let n = from; n < to; n++) loudest = Math.max(loudest, heard.total[n] as number);
  return levelOfStep(loudest);
}
