import { percentile } from '../dsp';

/** A hit found in one channel, to a millisecond. */
export interface RoughAttack {
  readonly frame: number;
  /** Energy of its edge relative to the channel's strong hits; 1 = as strong as those. */
  readonly strength: number;
}

const RISE = 4; // +6 dB in energy over what came just before
const BEFORE_MS = 30;
const GATE = 1e-5; // −50 dB below the channel's strong hits
const SPREAD_MS = 20;

/** Finds hits in one channel from energy of the first difference in steps of a millisecond; own method, see `docs/architecture.md`. */
export class AttackFinder {
  private readonly step: number;
  private readonly energies: number[] = [];
  private last = 0;
  private sum = 0;
  private filled = 0;

  constructor(sampleRateHz: number) {
    this.step = Math.max(1, Math.round(sampleRateHz / 1000));
  }

  /** Takes the next samples. */
  push(samples: Float32Array): void {
    let { last, sum, filled } = this;
    const { step } = this;
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i] as number;
      const d = x - last;
      last = x;
      sum += d * d;
      if (++filled === step) {
        this.energies.push(sum);
        sum = 0;
        filled = 0;
      }
    }
    this.last = last;
    this.sum = sum;
    this.filled = filled;
  }

  /** All hits, in order. */
  finish(): RoughAttack[] {
    if (this.filled > 0) this.energies.push(this.sum);
    const e = this.energies;
    const loud = percentile(
      e.filter((x) => x > 0),
      0.995,
    );
    if (!(loud > 0)) return [];
    const rises: { k: number; rise: number; strength: number }[] = [];
    let before = 0;
    for (let k = 0; k < e.length; k++) {
      const now = Math.max(e[k] as number, e[k + 1] ?? 0);
      const quiet = before / BEFORE_MS;
      if (now > GATE * loud && now > RISE * quiet)
        rises.push({
          k,
          rise: now / (quiet + GATE * loud),
          strength: Math.min(1, Math.max(now, e[k + 2] ?? 0, e[k + 3] ?? 0) / loud),
        });
      before += (e[k] as number) - (e[k - BEFORE_MS] ?? 0);
      if (before < 0) before = 0;
    }
    // Of the millisecond steps that all see one edge, the steepest is it.
    const out: RoughAttack[] = [];
    for (let i = 0; i < rises.length;) {
      let best = rises[i] as (typeof rises)[number];
      let j = i + 1;
      for (
        ;
        j < rises.length && (rises[j] as { k: number }).k - (rises[i] as { k: number }).k <= SPREAD_MS;
        j++
      )
        if ((rises[j] as { rise: number }).rise > best.rise) best = rises[j] as (typeof rises)[number];
      out.push({ frame: best.k * this.step, strength: best.strength });
      i = j;
    }
    return out;
  }
}

/** Where in a few milliseconds round a rough attack the hit begins: the first sample whose step reaches a twentieth of the edge's greatest. */
export function refineAttack(samples: Float32Array, quietFrames: number): number {
  let noise = 0;
  let peak = 0;
  for (let i = 1; i < samples.length; i++) {
    const d = Math.abs((samples[i] as number) - (samples[i - 1] as number));
    if (i < quietFrames && d > noise) noise = d;
    if (d > peak) peak = d;
  }
  const limit = Math.max(0.05 * peak, Math.min(1.5 * noise, 0.5 * peak));
  for (let i = 1; i < samples.length; i++)
    if (Math.abs((samples[i] as number) - (samples[i - 1] as number)) >= limit) return i;
  return 0;
}

/** Hits of one channel and how much they count: a kit is led by kick and snare. */
export interface ChannelAttacks {
  readonly attacks: readonly RoughAttack[];
  /** Lower first. */
  readonly rank: number;
}

/** A hit of the whole group, with the channel that says best when it begins. */
export interface GroupAttack extends RoughAttack {
  readonly channel: number;
}

const LEAST_GAP_MS = 40;

/** One list of hits for a whole group: first those of the leading channels, strongest first, then what the others add; none nearer than 40 ms to another. */
export function mergeAttacks(channels: readonly ChannelAttacks[], sampleRateHz: number): GroupAttack[] {
  const gap = (LEAST_GAP_MS * sampleRateHz) / 1000;
  const all = channels.flatMap(({ attacks, rank }, channel) =>
    attacks.map((a) => ({ ...a, channel, rank: a.strength < 0.02 ? rank + 10 : rank })),
  );
  all.sort((a, b) => a.rank - b.rank || b.strength - a.strength || a.frame - b.frame);
  const taken: GroupAttack[] = [];
  for (const { frame, strength, channel } of all) {
    // Kept sorted, so that only the neighbours must be looked at.
    let low = 0;
    let high = taken.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if ((taken[mid] as GroupAttack).frame < frame) low = mid + 1;
      else high = mid;
    }
    const [before, after] = [taken[low - 1], taken[low]];
    if (before && frame - before.frame < gap) continue;
    if (after && after.frame - frame < gap) continue;
    taken.splice(low, 0, { frame, strength, channel });
  }
  return taken;
}
