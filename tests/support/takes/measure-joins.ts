import { arrangedBlocks, piecesOf } from '@/core/arrange';
import { ribbonOf, type RibbonPiece } from '@/core/comp';
import { Biquad, highPass } from '@/core/dsp';
import { type Clip, type Lane, lanesOf, type Track, wholeClip } from '@/core/session';
import type { HandTrack } from '@/core/tidy';
import { plainTrack } from '../random-edits';

/** Takes by the id of their recording, mono, at the session's rate. */
export type TakeSounds = ReadonlyMap<string, Float32Array>;

/** A track of takes that all begin at 0; the first sounds. */
export function trackOfTakes(takes: readonly Float32Array[]): {
  readonly hand: HandTrack;
  readonly sounds: TakeSounds;
} {
  const base = plainTrack('t');
  const lanes = takes.map((_, i): Lane => ({
    ...(lanesOf(base)[0] as Lane),
    id: `lane-${i + 1}`,
    recordingId: `r${i + 1}`,
    takeNumber: i + 1,
  }));
  const [first, ...otherLanes] = lanes as [Lane, ...Lane[]];
  const { id: laneId, ...own } = first;
  const track: Track = { ...base, ...own, laneId, otherLanes, clips: wholeClip(laneId) };
  const sounds = new Map(takes.map((t, i) => [`r${i + 1}`, t]));
  return { hand: { track, lengthOf: (l) => sounds.get(l.recordingId)?.length ?? 0 }, sounds };
}

/** What a track sounds like with these clips, through what player and package read. */
export async function rendered(hand: HandTrack, sounds: TakeSounds, clips: readonly Clip[], frames: number) {
  const pieces = piecesOf({ ...hand.track, clips }, (lane) => ({
    sound: sounds.get(lane.recordingId) as Float32Array,
    lengthFrames: hand.lengthOf(lane),
  }));
  const out = new Float32Array(frames);
  let at = 0;
  for await (const [mono] of arrangedBlocks(pieces, { channels: 1, from: 0, to: frames }, (s, from, count) =>
    Promise.resolve([s.subarray(from, from + count)]),
  )) {
    out.set(mono as Float32Array, at);
    at += (mono as Float32Array).length;
  }
  return out;
}

/** What is heard where two takes meet, dB. */
export interface MeasuredJoin {
  readonly seconds: number;
  /** Whether both sound there. */
  readonly isSounding: boolean;
  /** How much louder what comes is than what goes, where both meet. */
  readonly stepDb: number;
  /** How far the level leaves both of them while they cross, at most. */
  readonly bumpDb: number;
  /** Energy above 9 kHz that both together do not have, against the level there. */
  readonly clickDb: number;
}

const power = (x: Float32Array, from: number, to: number): number => {
  let sum = 0;
  for (let i = Math.max(0, from); i < Math.min(x.length, to); i++) sum += (x[i] as number) ** 2;
  return sum / Math.max(1, to - from);
};
const db = (p: number): number => 10 * Math.log10(Math.max(p, 1e-15));

function bright(x: Float32Array, rateHz: number): Float32Array {
  const stages = [0, 1, 2].map(() => new Biquad(highPass(9000, rateHz)));
  return x.map((v) => stages.reduce((y, s) => s.next(y), v));
}

/** All joins of a rendering, by another way than the code's: what each take alone is there, and what came of them. */
export function measureJoins(
  hand: HandTrack,
  sounds: TakeSounds,
  {
    clips,
    made,
    rateHz,
  }: { readonly clips: readonly Clip[]; readonly made: Float32Array; readonly rateHz: number },
): MeasuredJoin[] {
  const ribbon = ribbonOf({ ...hand, track: { ...hand.track, clips } });
  /** Two seconds around an edge. */
  const alone = (p: RibbonPiece, at: number): Float32Array => {
    const lane = lanesOf(hand.track).find((l) => l.id === p.laneId) as Lane;
    const sound = sounds.get(lane.recordingId) as Float32Array;
    const by = lane.startFrames + p.slipFrames;
    const gain = 10 ** (p.gainDb / 20);
    return Float32Array.from({ length: 2 * rateHz }, (_, i) => (sound[at - rateHz + i - by] ?? 0) * gain);
  };
  const ms = (n: number): number => Math.round((n / 1000) * rateHz);
  return ribbon.slice(1).flatMap((next, i): MeasuredJoin[] => {
    const one = ribbon[i] as RibbonPiece;
    // Within one take a level goes back over a second: no join.
    if (one.toFrames !== next.fromFrames || one.laneId === next.laneId) return [];
    const [a, b] = [alone(one, one.toFrames), alone(next, one.toFrames)];
    const heard = Float32Array.from({ length: 2 * rateHz }, (_, i) => made[one.toFrames - rateHz + i] ?? 0);
    const at = rateHz;
    const level = (x: Float32Array, from: number, to: number): number => db(power(x, from, to));
    const [levelA, levelB] = [level(a, at - ms(20), at + ms(20)), level(b, at - ms(20), at + ms(20))];
    const loud = Math.max(level(a, at - rateHz, at + rateHz), level(b, at - rateHz, at + rateHz));
    const isSounding = Math.min(levelA, levelB) > loud - 30;
    let bump = 0;
    for (let t = at - ms(40); t <= at + ms(40); t += ms(4)) {
      const [from, to] = [t - ms(15), t + ms(15)];
      const levels = [level(a, from, to), level(b, from, to)];
      const out = level(heard, from, to);
      bump = Math.max(bump, out - Math.max(...levels), Math.min(...levels) - out);
    }
    const [high, highA, highB] = [heard, a, b].map((x) => bright(x, rateHz)) as [
      Float32Array,
      Float32Array,
      Float32Array,
    ];
    let click = 0;
    for (let t = at - ms(60); t < at + ms(60); t += ms(5))
      click = Math.max(
        click,
        power(high, t, t + ms(5)) - power(highA, t, t + ms(5)) - power(highB, t, t + ms(5)),
      );
    return [
      {
        seconds: one.toFrames / rateHz,
        isSounding,
        stepDb: levelB - levelA,
        bumpDb: bump,
        clickDb: db(click) - loud,
      },
    ];
  });
}
