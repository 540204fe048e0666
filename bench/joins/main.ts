import { type LaneChoice, putTogether } from '@/core/comp';
import type { Lane } from '@/core/session';
import { createRandom, type Random } from '@/core/units';
import {
  measureJoins,
  type MeasuredJoin,
  rendered,
  trackOfTakes,
} from '../../tests/support/takes/measure-joins';
import { sungLine, sungTake } from '../../tests/support/takes/sung-takes';

/** How takes of one line sound that are joined. */
type Voice = (random: Random, seconds: number, count: number) => Float32Array[];

const RATE = 48_000;
const SECONDS = 20;

const sung: Voice = (random, seconds, count) => {
  const line = sungLine(random, seconds);
  return Array.from({ length: count }, () => sungTake(random, line, { seconds, sampleRateHz: RATE }));
};

/** A plucked string: a short noise that goes round in a delay and loses its brightness (Karplus & Strong 1983, from memory). */
function pluck(random: Random, hz: number, frames: number): Float32Array {
  const loop = Float32Array.from({ length: Math.round(RATE / hz) }, () => 2 * random() - 1);
  return Float32Array.from({ length: frames }, (_, k) => {
    const at = k % loop.length;
    const value = loop[at] as number;
    loop[at] = 0.498 * (value + (loop[(at + 1) % loop.length] as number));
    return value;
  });
}

const plucked: Voice = (random, seconds, count) => {
  const steps = Array.from({ length: Math.floor((seconds - 2) / 0.48) }, () => Math.floor(16 * random()));
  return Array.from({ length: count }, () => {
    const out = new Float32Array(seconds * RATE);
    steps.forEach((step, n) => {
      const from = Math.round((0.5 + 0.48 * n + 0.02 * (random() - 0.5)) * RATE);
      const gain = 0.25 + 0.1 * random();
      pluck(random, 110 * 2 ** (step / 12), Math.round(0.6 * RATE)).forEach((x, i) => {
        if (from + i < out.length) out[from + i] = (out[from + i] as number) + gain * x;
      });
    });
    return out;
  });
};

const shaken: Voice = (random, seconds, count) =>
  Array.from({ length: count }, () => {
    const out = new Float32Array(seconds * RATE);
    for (let n = 0; n < (seconds - 1) / 0.125; n++) {
      const from = Math.round((0.3 + 0.125 * n + 0.012 * (random() - 0.5)) * RATE);
      const gain = 0.15 + 0.1 * random();
      for (let i = 0; i < 0.09 * RATE; i++)
        if (from + i < out.length) out[from + i] = gain * (2 * random() - 1) * Math.exp((-60 * i) / RATE);
    }
    return out;
  });

const VOICES: Readonly<Record<string, Voice>> = { sung, plucked, shaken };

/** Joins of random stretches, chosen as somebody draws them. */
async function joinsOf(voice: Voice, seed: number, isByHand: boolean): Promise<MeasuredJoin[]> {
  const random = createRandom(seed);
  const { hand, sounds } = trackOfTakes(voice(random, SECONDS, 4));
  const choices: LaneChoice[] = Array.from({ length: 13 }, (_, i) => ({
    laneId: `lane-${1 + ((i + 1) % 4)}`,
    fromFrames: Math.round((1 + 1.3 * i + 0.5 * random()) * RATE),
    toFrames: Math.round((2.3 + 1.3 * i) * RATE),
  }));
  const read = ({ recordingId }: Lane, from: number, count: number) =>
    Promise.resolve([(sounds.get(recordingId) as Float32Array).subarray(from, from + count)]);
  const clips = await putTogether(hand, choices, { read, sampleRateHz: RATE, rests: [], isByHand });
  const made = await rendered(hand, sounds, clips, SECONDS * RATE);
  return measureJoins(hand, sounds, { clips, made, rateHz: RATE });
}

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor(share * (values.length - 1))] ?? 0;

const [first, last] = (process.argv[2] ?? '1-5').split('-').map(Number) as [number, number];
console.log('joins between takes (goal: level within 0.5 dB, clicks below −60 dB against what sounds)');
for (const [name, voice] of Object.entries(VOICES))
  for (const isByHand of [false, true]) {
    const joins: MeasuredJoin[] = [];
    for (let seed = first; seed <= (last || first); seed++)
      joins.push(...(await joinsOf(voice, seed, isByHand)));
    const sounding = joins.filter((j) => j.isSounding);
    const strays = sounding.map((j) => Math.max(Math.abs(j.stepDb), j.bumpDb));
    const within = strays.filter((x) => x <= 0.5).length;
    console.log(
      `${name.padEnd(8)} · edges ${isByHand ? 'kept where they were drawn' : 'free to move 0.1 s   '} · ${joins.length} joins, ${sounding.length} where both sound · level within 0.5 dB ${((100 * within) / Math.max(1, sounding.length)).toFixed(1)} %, 95 % within ${quantile(strays, 0.95).toFixed(2)} dB · clicks 99 % below ${quantile(
        joins.map((j) => j.clickDb),
        0.99,
      ).toFixed(0)} dB`,
    );
  }
