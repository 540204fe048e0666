import { channelFor, type ReadSound } from '../arrange';
import { type Clip, type Lane, lanesOf } from '../session';
import type { HandTrack } from '../tidy';
import { findJoin, type Join, MOST_SLIP_SECONDS, REST_FADE } from './joins';
import { clipsOf, isOneSound, meets, merged, reachOf, ribbonOf, type RibbonPiece, SHARP } from './ribbon';

/** A stretch of the song and the lane that is to sound there. */
export interface LaneChoice {
  readonly laneId: string;
  readonly fromFrames: number;
  readonly toFrames: number;
}

/** What putting together needs beside the track. */
export interface PutTogether {
  /** Samples of a lane's recording at the session's rate; none where it is not there. */
  readonly read: ReadSound<Lane>;
  readonly sampleRateHz: number;
  /** Frames at which all takes rest: there level and place go back to what they were recorded as. */
  readonly rests: readonly number[];
  /** Whether edges keep to where they were put. Default false. */
  readonly isByHand?: boolean;
}

/** What is looked at around an edge, and how far the edge may move within it, s. */
const [REACH_SECONDS, MOVE_SECONDS] = [0.16, 0.1];
/** Behind a join a level stays at least so long; where no rest comes within this it goes back over so long; s. */
const [LEAST_HELD, MOST_HELD, GLIDE] = [0.5, 6, 1];

/** The ribbon of a track in which lanes sound where they were chosen, as far as they reach; edges as they were told. */
export function withChoices(hand: HandTrack, choices: readonly LaneChoice[]): RibbonPiece[] {
  let pieces = ribbonOf(hand);
  for (const choice of choices)
    for (const part of missingParts(pieces, choice)) pieces = withPiece(hand, pieces, { ...choice, ...part });
  return merged(pieces);
}

type Part = Pick<LaneChoice, 'fromFrames' | 'toFrames'>;

/** What of a choice does not sound already. */
function missingParts(pieces: readonly RibbonPiece[], { laneId, fromFrames, toFrames }: LaneChoice): Part[] {
  const parts: Part[] = [];
  let from = fromFrames;
  for (const p of pieces) {
    if (p.laneId !== laneId || p.off || p.toFrames <= from || p.fromFrames >= toFrames) continue;
    if (p.fromFrames > from) parts.push({ fromFrames: from, toFrames: p.fromFrames });
    from = p.toFrames;
  }
  return from < toFrames ? [...parts, { fromFrames: from, toFrames }] : parts;
}

/** A ribbon with one more piece, as far as its lane reaches; what it goes on from, it goes on as. */
function withPiece(hand: HandTrack, pieces: readonly RibbonPiece[], choice: LaneChoice): RibbonPiece[] {
  const { laneId } = choice;
  const beside = pieces.find(
    (p) =>
      p.laneId === laneId && !p.off && (p.toFrames === choice.fromFrames || p.fromFrames === choice.toFrames),
  );
  const slipFrames = beside?.slipFrames ?? 0;
  const [begin, end] = reachOf(hand, { laneId, slipFrames });
  const [from, to] = [Math.max(begin, choice.fromFrames), Math.min(end, choice.toFrames)];
  if (to <= from) return [...pieces];
  const rest = pieces.flatMap((p) =>
    p.toFrames <= from || p.fromFrames >= to
      ? [p]
      : [
          { ...p, toFrames: Math.min(p.toFrames, from), fadeOut: SHARP },
          { ...p, fromFrames: Math.max(p.fromFrames, to), fadeIn: SHARP },
        ].filter((x) => x.toFrames > x.fromFrames),
  );
  const chosen: RibbonPiece = {
    laneId,
    fromFrames: from,
    toFrames: to,
    slipFrames,
    gainDb: beside?.gainDb ?? 0,
    off: false,
    fadeIn: SHARP,
    fadeOut: SHARP,
  };
  return [...rest, chosen].sort((a, b) => a.fromFrames - b.fromFrames);
}

/** Clips in which lanes sound where they were chosen, each going over to the next where and as it is least heard. Joins that were there stay as they are. */
export async function putTogether(
  hand: HandTrack,
  choices: readonly LaneChoice[],
  how: PutTogether,
): Promise<readonly Clip[]> {
  const before = ribbonOf(hand);
  const pieces = [...withChoices(hand, choices)];
  const out: RibbonPiece[] = [];
  for (let i = 0; i < pieces.length; i++) {
    const [one, next] = [out.at(-1), pieces[i] as RibbonPiece];
    if (!one || !meets(one, next) || isKnownJoin(before, one, next)) {
      out.push(next);
      continue;
    }
    const join = await joinOf(hand, one, next, how);
    const edge = next.fromFrames + join.moveFrames;
    out[out.length - 1] = { ...one, toFrames: edge, fadeOut: join.fade };
    const joined = {
      ...next,
      fromFrames: edge,
      slipFrames: next.slipFrames + join.slipFrames,
      gainDb: Math.min(24, next.gainDb + join.gainDb),
      fadeIn: join.fade,
    };
    out.push(...goingBack(joined, next, how));
  }
  return clipsOf(hand, out);
}

/** Whether two pieces met just so before. */
const isKnownJoin = (before: readonly RibbonPiece[], one: RibbonPiece, next: RibbonPiece): boolean =>
  before.some(
    (p, i) =>
      p.toFrames === one.toFrames &&
      isOneSound(p, one) &&
      meets(p, before[i + 1]) &&
      isOneSound(before[i + 1] as RibbonPiece, next),
  );

/** A piece whose level and place go back to what they were at the next rest; over a second where none comes soon. */
function goingBack(joined: RibbonPiece, own: RibbonPiece, how: PutTogether): RibbonPiece[] {
  const { rests, sampleRateHz } = how;
  if (isOneSound(joined, own)) return [joined];
  const frames = (s: number): number => Math.round(s * sampleRateHz);
  const { fromFrames, toFrames } = joined;
  const rest = rests.find((r) => r >= fromFrames + frames(LEAST_HELD) && r < toFrames - frames(LEAST_HELD));
  // A level waits only so long; some milliseconds of place are heard by nobody, and wait for any rest.
  const isSoon = rest !== undefined && rest <= fromFrames + frames(MOST_HELD);
  if (rest !== undefined && (isSoon || joined.gainDb === own.gainDb)) {
    const fade = { frames: frames(REST_FADE), shape: 'equal-power' as const };
    return [
      { ...joined, toFrames: rest, fadeOut: fade },
      { ...own, fromFrames: rest, fadeIn: fade },
    ];
  }
  const middle = fromFrames + frames(LEAST_HELD + GLIDE / 2);
  if (joined.gainDb === own.gainDb || middle + frames(GLIDE) > toFrames) return [joined];
  // One sound in one place: equal gain is a ramp between two levels.
  const fade = { frames: frames(GLIDE), shape: 'equal-gain' as const };
  const level = { ...joined, gainDb: own.gainDb, fromFrames: middle, fadeIn: fade };
  return [{ ...joined, toFrames: middle, fadeOut: fade }, ...goingBack(level, { ...own, fadeIn: fade }, how)];
}

/** How one piece goes over to the next; a plain short fade where the sound of one cannot be had. */
async function joinOf(
  hand: HandTrack,
  one: RibbonPiece,
  next: RibbonPiece,
  { read, sampleRateHz, isByHand = false }: PutTogether,
): Promise<Join> {
  const edge = one.toFrames;
  const room = Math.min(edge - one.fromFrames, next.toFrames - edge) / 2;
  const reach = Math.round(REACH_SECONDS * sampleRateHz);
  const slack = Math.round(MOST_SLIP_SECONDS * sampleRateHz);
  const [a, b] = await Promise.all([
    heard(hand, one, { from: edge - reach, to: edge + reach }, read),
    heard(hand, next, { from: edge - reach - slack, to: edge + reach + slack }, read),
  ]);
  // No edge goes where one of both has no sound any more.
  const sound = Math.min(reachOf(hand, one)[1] - edge, edge - reachOf(hand, next)[0]);
  const mayMove = isByHand
    ? 0
    : Math.floor(Math.max(0, Math.min(MOVE_SECONDS * sampleRateHz, room, Math.max(sound, 0))));
  return findJoin({ one: a, next: b, slack, sampleRateHz, mayMove });
}

/** What a piece would sound like over frames of the session, mono: its channels together. */
async function heard(
  hand: HandTrack,
  piece: RibbonPiece,
  { from, to }: { readonly from: number; readonly to: number },
  read: ReadSound<Lane>,
): Promise<Float32Array> {
  const out = new Float32Array(to - from);
  const lane = lanesOf(hand.track).find((l) => l.id === piece.laneId);
  if (!lane) return out;
  const [begin, end] = reachOf(hand, piece);
  const [first, last] = [Math.max(from, begin), Math.min(to, end)];
  if (last <= first) return out;
  const channels = await read(lane, first - begin, last - first);
  if (channels.length === 0) return out;
  const fromChannel = lane.monoFrom === null ? null : lane.monoFrom === 'left' ? 0 : 1;
  const used = fromChannel === null ? channels : [channelFor({ fromChannel }, channels, 0)];
  const gain = ((lane.inverted ? -1 : 1) * 10 ** (piece.gainDb / 20)) / used.length;
  for (const samples of used)
    samples.forEach((x, i) => {
      const at = first - from + i;
      out[at] = (out[at] as number) + x * gain;
    });
  return out;
}
