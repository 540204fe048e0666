import type { CopySegment, EditList, ReadFrames } from './edit-list';
import type { Warp } from './warp';

const PRE_MS = 1; // a slice begins before its hit
const ATTACK_FADE_MS = 4;
const SPLICE_FADE_MS = 10;
const KEPT_MS = 60; // attack that is never cut into
const JUMP_MS = 14; // farthest jump of one splice
const SEARCH_STEP = 8; // frames

/** What a slicing needs to know. */
export interface SliceInput {
  /** Frames where hits begin, rising. */
  readonly attacks: readonly number[];
  readonly warp: Warp;
  readonly sampleRateHz: number;
  readonly sourceFrames: number;
  readonly outputFrames: number;
}

/**
 * Cuts before every hit and moves the hits to their places; what a slice gains or loses in length is taken from its tail by
 * short splices where they change least, the same in all channels. Nothing is stretched, so attacks and phases stay as played.
 */
export async function planSlices(input: SliceInput, read: ReadFrames): Promise<EditList> {
  const { warp, sampleRateHz } = input;
  const ms = (n: number): number => Math.round((n * sampleRateHz) / 1000);
  const pre = ms(PRE_MS);
  const segments: CopySegment[] = [];
  const begin = (at: number, source: number, fade: number): void => {
    const last = segments.at(-1);
    // The same shift as before is no cut at all: a ratio of 1 copies the samples.
    if (last && last.source !== null && at - last.at === source - last.source) return;
    segments.push({ at, source, fade: Math.min(fade, last ? Math.max(0, at - last.at) : 0, source) });
  };
  const cuts = placedCuts(input, pre, ms(ATTACK_FADE_MS) + pre);
  const head = cuts[0];
  const shift = head ? head.to - head.from : Math.round(warp.toConformed(0) * sampleRateHz);
  if (shift > 0) segments.push({ at: 0, source: null, fade: 0 });
  if (shift < input.outputFrames)
    segments.push({ at: Math.max(0, shift), source: Math.max(0, -shift), fade: 0 });
  for (const [i, cut] of cuts.entries()) {
    begin(cut.to, cut.from, ms(ATTACK_FADE_MS));
    const next = cuts[i + 1];
    if (!next) break;
    const [source, output] = [next.from - cut.from, next.to - cut.to];
    if (source !== output)
      for (const s of await splices(cut, source, output, ms, read)) begin(s.at, s.source, s.fade);
  }
  const end = segments.at(-1) as CopySegment;
  const sounds = end.source === null ? 0 : input.sourceFrames - end.source;
  if (end.at + sounds < input.outputFrames)
    segments.push({ at: end.at + Math.max(0, sounds), source: null, fade: 0 });
  return { segments, frames: input.outputFrames };
}

/** First frame of each slice, as played and conformed; hits that come too near to their predecessor to be cut apart are left inside its slice. */
function placedCuts(
  input: SliceInput,
  pre: number,
  least: number,
): { readonly from: number; readonly to: number }[] {
  const out: { from: number; to: number }[] = [];
  for (const attack of input.attacks) {
    const from = Math.max(0, attack - pre);
    const to =
      Math.round(input.warp.toConformed(attack / input.sampleRateHz) * input.sampleRateHz) - (attack - from);
    const before = out.at(-1);
    if (
      to < 0 ||
      to >= input.outputFrames ||
      (before && (from - before.from < least || to - before.to < least))
    )
      continue;
    out.push({ from, to });
  }
  return out;
}

/** Where in the tail of a slice to jump, so that its length becomes the wanted one. */
async function splices(
  cut: { readonly from: number; readonly to: number },
  source: number,
  output: number,
  ms: (n: number) => number,
  read: ReadFrames,
): Promise<{ readonly at: number; readonly source: number; readonly fade: number }[]> {
  const change = output - source;
  const count = Math.ceil(Math.abs(change) / ms(JUMP_MS));
  const shorter = Math.min(source, output);
  const zone = Math.min(Math.max(ms(KEPT_MS), 0.35 * shorter), 0.6 * shorter);
  const out: { at: number; source: number; fade: number }[] = [];
  const x = await read(cut.from, source);
  const scale = x.map((c) => 1 / (c.reduce((sum, v) => sum + v * v, 0) + 1e-12));
  let done = 0;
  for (let k = 0; k < count; k++) {
    const jump = Math.round((change * (k + 1)) / count) - done;
    // Positions are frames of the slice where the output goes over from x[p…] to x[p − jump…].
    const low = Math.ceil(zone + ((shorter - zone) * k) / count);
    const high = Math.floor(zone + ((shorter - zone) * (k + 1)) / count);
    const fade = Math.max(1, Math.min(ms(SPLICE_FADE_MS), high - low - 1, low));
    const heard = (p: number): number => p - done; // source frame that sounds at output frame p before this splice
    let best = high - 1;
    let least = Infinity;
    for (let p = low + fade; p < high; p += SEARCH_STEP) {
      const [a, b] = [heard(p) - fade, heard(p) - jump - fade];
      if (a < 0 || b < 0 || a + fade > source || b + fade > source) continue;
      let difference = 0;
      x.forEach((c, n) => {
        let sum = 0;
        for (let i = 0; i < fade; i++) {
          const d = (c[a + i] as number) - (c[b + i] as number);
          sum += d * d;
        }
        difference += sum * (scale[n] as number);
      });
      if (difference < least) {
        least = difference;
        best = p;
      }
    }
    out.push({ at: cut.to + best, source: cut.from + heard(best) - jump, fade });
    done += jump;
  }
  return out;
}
